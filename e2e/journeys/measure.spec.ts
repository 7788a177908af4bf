import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { expect, go, pick, test } from '../test.js';
import { typeOn } from '../test.js';

test('a port is typed station by station by keyboard alone, drawn as a river, and reads its own choke', async ({
  page,
}) => {
  await go(page, '/measure/ottermoor-230');
  await expect(page.getByText('This port is not surveyed yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Type its sections' }).press('Enter');
  const cell = (row: number, name: string) => page.getByLabel(`Row ${row}, ${name}`, { exact: true });
  await cell(1, 'station').focus();
  await page.keyboard.type('0 mm');
  await cell(1, 'width').focus();
  await typeOn(page, '38 mm', '52 mm', '9 mm', '6 mm', '6 mm', '6 mm', '6 mm');
  await cell(2, 'station').focus();
  await page.keyboard.type('10 mm');
  await cell(2, 'width').focus();
  await typeOn(page, '36 mm', '50 mm', '9 mm', '5 mm', '5 mm', '5 mm', '3.1 mm pushrod');
  // From here the station is offered by the last step; Enter goes down the column.
  await cell(3, 'width').focus();
  await page.keyboard.type('35 mm');
  await expect(cell(3, 'station')).toHaveValue('20 mm');
  await page.keyboard.press('Enter');
  await expect(cell(4, 'width')).toBeFocused();
  await page.keyboard.type('wide');
  await expect(page.getByText('“wide” is not a length.')).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('37 mm');
  for (const [row, height] of [
    [3, '49 mm'],
    [4, '50 mm'],
  ] as const) {
    await cell(row, 'height').focus();
    await page.keyboard.type(height);
  }
  // Esc would bring back the old value: the cell is left by Tab.
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Save', exact: true }).press('Enter');
  await expect(page.getByText('Port 1: 4 sections saved.')).toBeVisible();
  await page.getByRole('tab', { name: 'river' }).press('Enter');
  const river = page.getByRole('img', { name: /The port as a river/ });
  await expect(river.getByText(/^choke/)).toBeVisible();
  await expect(river.getByText('20.0 mm in')).toBeVisible();
  await river.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText(/10\.0 mm in · .*rear 3\.1 to pushrod/)).toBeVisible();
  await page.reload();
  await expect(river.getByText(/^choke/)).toBeVisible();
});

test('the river of the demo closes, says what the metal allows, and shows its working', async ({ page }) => {
  await go(page, '/measure/corrow-417?stage=417-received');
  await expect(page.getByText('agree within')).toBeVisible();
  await expect(page.getByText(/Opened as far as the walls go, the choke grows to 1\.8/)).toBeVisible();
  await page.getByRole('button', { name: /speed the port area carries/ }).click();
  await expect(page.getByText('choke, as large as the walls allow')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByText('Add another pour').click();
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText('Type the volume poured.')).toBeVisible();
  await page.getByLabel('Volume poured').fill('140 cc');
  await page.getByLabel('Plug and its reach').fill('in, 19 mm');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText('liquid volume, 4 pours')).toBeVisible();
  await expect(page.getByText(/The sections make .* less than the liquid/)).toBeVisible();
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('liquid volume, 3 pours')).toBeVisible();
  await page.getByRole('button', { name: 'width', exact: true }).click();
  await expect(page.getByText('pushrod', { exact: true })).toBeVisible();
});

test('outlines come in from CSV, SVG and DXF and go out again; what is broken says so', async ({ page }) => {
  await go(page, '/measure/ottermoor-230?pane=sections');
  const file = page.locator('input[type=file]');
  const give = (name: string, text: string) =>
    file.setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  await give('broken.dxf', '0\nSECTION\n2\nENTITIES\nnot a dxf at all');
  await expect(page.getByText(/broken\.dxf/).first()).toBeVisible();
  await give('points.csv', 'x,y\n0,0\n30,0\nthirty,10\n');
  await expect(page.getByText(/points\.csv: Line 4: “thirty, 10” is no point/)).toBeVisible();
  await give(
    'slices.svg',
    '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60"><script>window.hacked = 1</script><g transform="translate(5 5) scale(2)"><circle id="station-0" cx="10" cy="10" r="10"/></g><path id="station-10" d="M50 0h30v40h-30z"/><path d="M0 0L9 9"/></svg>',
  );
  await expect(page.getByText(/slices\.svg: path 3 is not closed\./)).toBeVisible();
  await expect(page.getByLabel('Row 1, station', { exact: true })).toHaveValue('0 mm');
  await expect(page.getByLabel('Row 1, shape', { exact: true })).toHaveValue('outline');
  expect(await page.evaluate(() => (window as unknown as { hacked?: number }).hacked)).toBeUndefined();
  // A circle of 20 mm radius: 1257 mm², 1.95 in².
  await page.getByLabel('Row 1, station', { exact: true }).focus();
  await expect(page.getByRole('button', { name: /area across the cut: 1\.9[45] in²/ })).toBeVisible();
  const dxf = [
    '0',
    'SECTION',
    '2',
    'ENTITIES',
    '0',
    'CIRCLE',
    '8',
    'station 20',
    '10',
    '5.0',
    '20',
    '5.0',
    '40',
    '18.0',
    '0',
    'ENDSEC',
    '0',
    'EOF',
    '',
  ].join('\n');
  await give('third.dxf', dxf);
  await expect(page.getByLabel('Row 3, station', { exact: true })).toHaveValue('20 mm');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('3 sections saved.')).toBeVisible();
  for (const [word, ending, sign] of [
    ['CSV', 'csv', 'station (mm),x (mm),y (mm)'],
    ['SVG', 'svg', 'id="station-20"'],
    ['DXF', 'dxf', 'station 20'],
  ] as const) {
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: word, exact: true }).click(),
    ]);
    expect(saved.suggestedFilename()).toMatch(new RegExp(`\\.${ending}$`));
    expect(await readFile(await saved.path(), 'utf8')).toContain(sign);
  }
});

test('a slice is traced from its photo; an outline that crosses itself is told and refused', async ({ page }) => {
  const photo = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#999' } })
    .png()
    .toBuffer();
  await go(page, '/measure/ottermoor-230?pane=sections');
  await page.getByRole('button', { name: 'trace a photo' }).click();
  const dialog = page.getByRole('dialog', { name: 'Trace a section' });
  await dialog
    .locator('input[type=file]')
    .setInputFiles({ name: 'slice.txt', mimeType: 'text/plain', buffer: Buffer.from('x') });
  await expect(dialog.getByText('“slice.txt” is no picture this program takes')).toBeVisible();
  await dialog.locator('input[type=file]').setInputFiles({ name: 'slice.png', mimeType: 'image/png', buffer: photo });
  const drawing = dialog.getByLabel('Photo to trace');
  await expect(dialog.getByText('Click two points whose distance you know')).toBeVisible();
  const box = (await drawing.boundingBox())!;
  const scale = Math.min(box.width / 400, box.height / 300);
  const [left, top] = [box.x + (box.width - 400 * scale) / 2, box.y + (box.height - 300 * scale) / 2];
  const click = (x: number, y: number) => page.mouse.click(left + x * scale, top + y * scale);
  await click(50, 280);
  await click(150, 280);
  await dialog.getByLabel('Distance between the two points').fill('25 mm');
  // A square of 200 pixels is 50 mm; its corners first in an order that crosses.
  for (const [x, y] of [
    [100, 20],
    [300, 220],
    [300, 20],
    [100, 220],
  ] as const)
    await click(x, y);
  await expect(dialog.getByText(/The outline crosses itself between points/)).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Use this outline' })).toBeDisabled();
  for (let i = 0; i < 3; i++) await dialog.getByRole('button', { name: 'Undo' }).click();
  await click(300, 20);
  await click(300, 220);
  await click(100, 220);
  await expect(dialog.getByText(/4 points/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Use this outline' }).click();
  await expect(dialog).toBeHidden();
  await page.getByLabel('Row 1, station', { exact: true }).focus();
  // The points were put in by hand: 2,500 mm² within a pixel or two.
  const area = page.getByRole('button', { name: /^area: 3\.\d\d in²|area across the cut: 3\.\d+ in²/ }).first();
  await expect(area).toBeVisible();
});

test('a slice is traced by keyboard alone', async ({ page }) => {
  const photo = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#999' } })
    .png()
    .toBuffer();
  await go(page, '/measure/ottermoor-230?pane=sections');
  await page.getByRole('button', { name: 'trace a photo' }).press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Trace a section' });
  await dialog.locator('input[type=file]').setInputFiles({ name: 'slice.png', mimeType: 'image/png', buffer: photo });
  await dialog.getByLabel('Distance between the two points').fill('20 mm');
  const drawing = dialog.getByLabel('Photo to trace');
  await drawing.focus();
  const move = async (key: string, times: number) => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key);
  };
  // Each arrow is four pixels. The first two points are 80 pixels apart, 20 mm; the square is 120 pixels, 30 mm.
  await move('ArrowLeft', 1);
  await page.keyboard.press('Space');
  await move('ArrowLeft', 20);
  await page.keyboard.press('Space');
  await page.keyboard.press('Space');
  for (const key of ['ArrowRight', 'ArrowDown', 'ArrowLeft']) {
    await move(key, 30);
    await page.keyboard.press('Space');
  }
  await expect(dialog.getByText('4 points, 1.40 in²')).toBeVisible();
  await dialog.getByRole('button', { name: 'Use this outline' }).press('Enter');
  await expect(page.getByLabel('Row 1, shape', { exact: true })).toHaveValue('outline');
});

test('the lofted port is drawn, turned, coloured, set beside another, and saved as STL', async ({ page }) => {
  await go(page, '/measure/corrow-417?stage=417-received&pane=solid');
  const canvas = page.getByRole('img', { name: 'The lofted port of 417 early intake' });
  await expect(canvas).toBeVisible();
  const ink = () =>
    canvas.evaluate((c: HTMLCanvasElement) => {
      const copy = document.createElement('canvas');
      copy.width = 200;
      copy.height = 100;
      const context = copy.getContext('2d')!;
      context.drawImage(c, 0, 0, 200, 100);
      return [...context.getImageData(0, 0, 200, 100).data].filter((v, i) => i % 4 === 3 && v > 0).length;
    });
  await expect.poll(ink, { timeout: 20_000 }).toBeGreaterThan(300);
  const before = await canvas.screenshot();
  await canvas.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowLeft');
  expect((await canvas.screenshot()).equals(before)).toBe(false);
  await pick(page.getByLabel('Coloured by'), 'metal left, red where thin');
  await pick(page.getByLabel('Beside it'), 'D Longreach 212');
  const alone = 300;
  await expect.poll(ink).toBeGreaterThan(alone);
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export STL, millimetres' }).click(),
  ]);
  const stl = await readFile(await saved.path());
  expect(stl.length).toBe(84 + 50 * stl.readUInt32LE(80));
});

test('without WebGL a sentence stands in its place, and the STL is still to be had', async ({ page }) => {
  await page.addInitScript(() => {
    const real = HTMLCanvasElement.prototype.getContext;
    HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, kind: string, ...rest: unknown[]) {
      return kind.startsWith('webgl') ? null : (real as (...a: unknown[]) => unknown).call(this, kind, ...rest);
    } as never;
  });
  // The library says so on the console as well; the page must not.
  page.removeAllListeners('console');
  await go(page, '/measure/corrow-417?stage=417-received&pane=solid');
  await expect(page.getByText('This browser shows no 3-D')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Export STL, millimetres' })).toBeEnabled();
});

test('ring, chamber, shrouding and pour follow what is typed', async ({ page }) => {
  await go(page, '/measure/corrow-417?stage=417-received&pane=ring');
  const valve = page.getByLabel('valve diameter, intake');
  await valve.fill('1.900 in');
  await valve.press('Tab');
  await expect(page.getByRole('button', { name: /throat of valve: 85\.7 %/ })).toBeVisible();
  await valve.fill('huge');
  await expect(page.getByText('“huge” is not a length.', { exact: false })).toBeVisible();
  await expect(page.getByRole('button', { name: /metal left in the ring: 0\.165 in/ })).toBeVisible();

  await go(page, '/measure/pellam-p6?stage=p6-received&pane=chamber');
  await page.getByLabel('compression wanted').fill('10:1');
  await page.getByLabel('or measured: chamber before').fill('67.5 cc');
  await page.getByLabel('chamber after').fill('68 cc');
  await page.getByLabel('milled off between').fill('.5 mm');
  await expect(page.getByText('A chamber gets smaller when its face is milled.')).toBeVisible();
  await page.getByLabel('chamber after').fill('65 cc');
  // 701.5 / 9 − 16 = 61.95 cc; 5.55 cc over 5000 mm² is 1.11 mm, .044 in.
  await expect(page.getByRole('button', { name: /to mill off: 0\.044 in/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /compression ratio: 10\.0\d?:1/ })).toBeVisible();

  await go(page, '/measure/corrow-417?stage=417-received&pane=shrouding');
  await expect(page.getByText('Measured on “Bench 1, 96.5 mm fixture”')).toBeVisible();
  const gap = page.getByRole('row', { name: /^\.400/ }).first();
  const before = await gap.textContent();
  await page.getByLabel(/bore larger or smaller/).focus();
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowLeft');
  expect(await gap.textContent()).not.toBe(before);

  await go(page, '/measure/corrow-417?stage=417-received&pane=pour');
  await page
    .locator('label')
    .filter({ hasText: /intake 3/ })
    .click();
  await page.getByLabel('One pack yields').fill('0 cc');
  await expect(page.getByText('A pack yields more than nothing.')).toBeVisible();
  await page.getByLabel('One pack yields').fill('100 cc');
  await expect(page.getByRole('button', { name: /packs: 2/ })).toBeVisible();
});

import { readdir } from 'node:fs/promises';
import { connect } from 'node:net';
import { join } from 'node:path';
import sharp from 'sharp';
import { startCopy, startServer } from '../server.js';
import { expect, go, pick, test } from '../test.js';

/** Upright when turned as its camera says: 40 wide, 60 high; with a place in it. */
const phonePhoto = () =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: '#b4532a' } })
    .withExif({ IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1' } })
    .withMetadata({ orientation: 6 })
    .jpeg()
    .toBuffer();

test('a head is checked and refused by keyboard alone, and every verdict says so', async ({ page }) => {
  await go(page, '/arrival/ottermoor-230');
  await expect(page.getByText('Not checked. No checklist yet.')).toBeVisible();
  await page.getByLabel('What came in').focus();
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('Cylinders it covers')).toHaveValue('6');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('lots');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toHaveText(/a whole number from 1 to 24/);
  await page.keyboard.press('Control+a');
  await page.keyboard.type('6');
  await page.keyboard.press('Enter');
  const list = page.getByRole('listbox', { name: 'Checklist' });
  await expect(list).toBeVisible();
  await list.focus();
  const lines = list.getByRole('option');
  const count = await lines.count();
  await page.keyboard.press('Home');
  await page.keyboard.press('f');
  await page.keyboard.press('f');
  await expect(lines.nth(0)).toHaveAccessibleName(/Casting marks, fine/);
  await expect(page.getByText(`${count - 2} of ${count} still to be looked at.`)).toBeVisible();
  // Unsure stays on its line; then a skip asks for its reason, Enter gives it and comes back to the list.
  await page.keyboard.press('u');
  await expect(page.getByText('Unsure: Box against order.')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('s');
  await expect(page.getByLabel('Why is this skipped?')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Say why this is skipped.')).toBeVisible();
  await page.keyboard.type('Came bare, without valves.');
  await page.keyboard.press('Enter');
  await expect(list).toBeFocused();
  await expect(lines.nth(3)).toHaveAccessibleName(/Valves out, kept in order, skipped/);
  // Something found, bad enough to refuse it.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('x');
  await expect(page.getByLabel('What is wrong')).toBeFocused();
  await page.keyboard.type('Cracked from seat to water');
  await page.keyboard.press('Tab');
  await page.keyboard.type('reason');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await page.keyboard.type('2');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add it' }).press('Enter');
  await expect(page.getByText('Rejected on arrival: cylinder 2, casting: Cracked from seat to water.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^E OM-230, as received, rejected/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(lines.nth(4)).toHaveAccessibleName(/something found/);

  await go(page, '/compare?build=slate-six');
  await expect(page.locator('.arrival-note', { hasText: 'Rejected on arrival' })).toContainText('E');
  await go(page, '/match?build=slate-six');
  const verdict = page.locator('article', { hasText: 'OM-230' });
  await expect(verdict.getByText('Rejected on arrival: cylinder 2')).toBeVisible();
  await expect(page.getByText('E OM-230 is left out: rejected on arrival.')).toBeVisible();
});

test('seats are tested by key; a leak stands in every verdict until it seals', async ({ page }) => {
  await go(page, '/arrival/longreach-212');
  await expect(page.getByText(/Leaks: exhaust seat of cylinder 4/)).toBeVisible();
  await page.getByRole('button', { name: 'exhaust seat, cylinder 4: leaks, held 6 inHg' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Copper-beryllium seats: the dust can cause lung disease/)).toBeVisible();
  // More held than drawn cannot be; nothing typed is lost over it.
  await pick(page.getByLabel('Seal test'), 'seals');
  await page.getByLabel('Left after the time').fill('25 inHg');
  await page.getByRole('button', { name: 'Note this look' }).click();
  await expect(page.getByText('What was held cannot exceed what was drawn.').first()).toBeVisible();
  await expect(page.getByLabel('Left after the time')).toHaveValue('25 inHg');
  await page.getByLabel('Left after the time').fill('19 inHg');
  await expect(page.getByRole('button', { name: /held: 95 %/ })).toBeVisible();
  await page.getByRole('button', { name: 'Note this look' }).click();
  await expect(page.getByText(/Leaks: exhaust seat/)).toBeHidden();
  await expect(page.getByRole('button', { name: /exhaust seat, cylinder 4: seals/ })).toBeVisible();
  // Both looks stay.
  await expect(page.locator('.looks li')).toHaveCount(2);
  await page.getByRole('button', { name: /intake seat, cylinder 1:/ }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('l');
  await expect(page.getByText(/Leaks: exhaust seat of cylinder 1/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^D Longreach 212, as received, a seat leaks/ })).toBeVisible();
  await go(page, '/match?build=slate-six');
  await expect(
    page.locator('article', { hasText: 'Longreach' }).getByText(/Leaks: exhaust seat of cylinder 1/),
  ).toBeVisible();
  await expect(page.getByText(/But D is not ready. Leaks:/)).toBeVisible();
});

test('a checklist is added to, kept as the shop’s own, and used on the next head', async ({ page }) => {
  await go(page, '/arrival/corrow-522');
  await page.getByRole('button', { name: 'Add a line, save as our own' }).click();
  await page.getByLabel('New line').fill('Smell of coolant');
  await pick(page.getByLabel('Under', { exact: true }), 'crack check');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('option', { name: /Smell of coolant/ })).toBeVisible();
  await page.getByLabel('Save this checklist as').fill('Sixes');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/Kept as our own checklist “Sixes”/)).toBeVisible();
  await go(page, '/arrival/ottermoor-230');
  await pick(page.getByLabel('What came in'), 'our own: Sixes');
  await page.getByRole('button', { name: 'Make the checklist' }).click();
  const line = page.getByRole('option', { name: /Smell of coolant, open/ });
  await expect(line).toBeVisible();
  await line.click();
  await page.getByRole('button', { name: 'Remove this line' }).click();
  await expect(line).toBeHidden();
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(line).toBeVisible();
});

test('a photo is kept upright and without its place; what is none, or too large, is said so', async ({
  page,
  server,
}) => {
  await go(page, '/arrival/corrow-522');
  await page.getByRole('option', { name: /Casting marks/ }).click();
  const file = page.locator('input[type=file]').first();
  const give = (name: string, mimeType: string, buffer: Buffer) => file.setInputFiles({ name, mimeType, buffer });
  await give('notes.txt', 'text/plain', Buffer.from('no photo'));
  await expect(page.getByRole('alert')).toHaveText(/“notes.txt” is no picture this program takes/);
  await give('fake.jpg', 'image/jpeg', Buffer.from('no photo either'));
  await expect(page.getByRole('alert')).toHaveText(/fake.jpg: This is no picture this program can read/);
  await give('huge.jpg', 'image/jpeg', Buffer.alloc(40 * 1024 * 1024));
  await expect(page.getByRole('alert')).toHaveText('“huge.jpg” has 40 MB; 12 MB at most. Send it at a smaller size.');
  await give('mark.jpg', 'image/jpeg', await phonePhoto());
  const thumbnail = page.getByRole('img', { name: 'mark.jpg' });
  await expect(thumbnail).toBeVisible();
  await expect(page.getByRole('alert')).toBeHidden();
  expect(await thumbnail.evaluate((i: HTMLImageElement) => [i.naturalWidth, i.naturalHeight])).toEqual([40, 60]);
  await page.getByRole('button', { name: 'Open photo mark.jpg' }).click();
  const large = page.getByRole('dialog').getByRole('img', { name: 'mark.jpg' });
  await expect(large).toBeVisible();
  const stored = await (await fetch(`${server.url}${await large.getAttribute('src')}`)).arrayBuffer();
  expect(Buffer.from(stored).includes('Exif')).toBe(false);
  // The place that shows it is marked on the photo, by mouse and by keys, and stays.
  await page.getByRole('button', { name: 'Mark the place' }).click();
  const area = (await large.boundingBox())!;
  await page.mouse.move(area.x + area.width * 0.2, area.y + area.height * 0.2);
  await page.mouse.down();
  await page.mouse.move(area.x + area.width * 0.6, area.y + area.height * 0.5, { steps: 4 });
  await page.mouse.up();
  const frame = page.getByRole('dialog').locator('.frame');
  const across = () => frame.evaluate((e) => Math.round(Number.parseFloat(e.style.width)));
  expect(Math.abs((await across()) - 40)).toBeLessThan(4);
  await frame.focus();
  const before = await across();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
  expect(await across()).toBe(before + 5);
  await page.getByRole('button', { name: 'Save mark' }).click();
  await expect(page.getByRole('button', { name: 'Move the mark', exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('img', { name: 'mark.jpg, the place marked' })).toBeVisible();
  await page.getByRole('button', { name: 'Open photo mark.jpg' }).click();
  await page.getByRole('button', { name: 'Remove the mark' }).click();
  await expect(page.getByRole('button', { name: 'Mark the place' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Remove photo mark.jpg' }).click();
  await expect(thumbnail).toBeHidden();
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(thumbnail).toBeVisible();
});

test('sizes are typed down the column; bad ones say so where they stand', async ({ page }) => {
  await go(page, '/arrival/corrow-522');
  await page.getByRole('option', { name: /Clearance of each guide/ }).click();
  await page.getByRole('listbox').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('guide clearance, intake, cylinder 1')).toBeFocused();
  for (const text of ['.0018 in', '.0021 in', 'wobbly']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  }
  await expect(page.getByText('“wobbly” is not a length.', { exact: false })).toBeVisible();
  await expect(page.getByLabel('guide clearance, intake, cylinder 4')).toBeFocused();
  await page.getByLabel('guide clearance, intake, cylinder 3').fill('3 mm');
  await page.getByLabel('guide clearance, intake, cylinder 4').focus();
  await expect(page.getByText('The guide clearance must lie between 0 and 2 mm.')).toBeVisible();
  await page.getByLabel('guide clearance, intake, cylinder 3').fill('');
  await page.getByLabel('guide clearance, intake, cylinder 4').focus();
  await page.reload();
  await page.getByRole('option', { name: /Clearance of each guide/ }).click();
  await expect(page.getByLabel('guide clearance, intake, cylinder 2')).toHaveValue('.0021 in');
  await expect(page.getByLabel('guide clearance, intake, cylinder 3')).toHaveValue('');
  // Steps to the gasket make a core shift.
  await go(page, '/arrival/corrow-417-b');
  await page.getByRole('option', { name: /Port against gasket/ }).click();
  await page.getByRole('button', { name: /centre of port off centre of gasket: 0\.100 in/ }).click();
  await expect(page.getByText('sonic-test it before any metal is taken')).toBeVisible();
});

test('stated against found: the shop sets what matters, and the seller gets a list', async ({ page }) => {
  await go(page, '/arrival/pellam-p6?stage=p6-received&pane=stated');
  const chamber = page.getByRole('row', { name: /chamber volume/ });
  await expect(chamber).toContainText('it matters');
  const from = chamber.getByLabel('chamber volume: a difference matters from');
  await from.fill('much');
  await expect(chamber.getByText('“much” is not a volume.', { exact: false })).toBeVisible();
  await from.fill('5 cc');
  await from.press('Enter');
  await expect(chamber).toContainText('agrees');
  await page.reload();
  await expect(chamber).toContainText('agrees');
  await expect(page.getByRole('row', { name: /force, valve open/ }).first()).toContainText('265.8 lb');

  await page.getByRole('tab', { name: /findings/ }).click();
  await pick(page.getByLabel('Port', { exact: true }), 'exhaust 2');
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByText('Say what was done to it.')).toBeVisible();
  await page.getByLabel('What was done to it').fill('sleeved guide');
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByText('exhaust port 2: sleeved guide')).toBeVisible();
  await page.getByRole('link', { name: 'List for the seller' }).click();
  await expect(page.getByRole('heading', { name: 'P6-205: what was found' })).toBeVisible();
  await expect(page.getByText('Springs stand at 1.760')).toBeVisible();
  await expect(page.getByRole('row', { name: /spring installed height, intake/ })).toContainText('−0.040 in');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Steps of the work' })).toBeHidden();
  await page.emulateMedia({ media: 'screen' });
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export CSV' }).click(),
  ]);
  expect(saved.suggestedFilename()).toBe('P6-205 defects.csv');
});

test('a server killed in the middle of an upload keeps nothing of it', async () => {
  const server = await startCopy('demo');
  const { port } = new URL(server.url);
  const photo = await sharp({ create: { width: 900, height: 900, channels: 3, background: '#456' } })
    .png({ compressionLevel: 0 })
    .toBuffer();
  const socket = connect(Number(port), '127.0.0.1');
  socket.on('error', () => {});
  socket.write(
    `POST /api/attachment?head=corrow-522 HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: image/png\r\nContent-Length: ${photo.length}\r\n\r\n`,
  );
  socket.write(photo.subarray(0, photo.length >> 1));
  await new Promise((done) => setTimeout(done, 300));
  server.child.kill('SIGKILL');
  await new Promise((done) => server.child.once('exit', done));
  socket.destroy();
  // The lock of a killed server is given up after ten seconds.
  let again;
  for (let i = 0; i < 15 && !again; i++) {
    again = await startServer(server.folder).catch(() => undefined);
    if (!again) await new Promise((done) => setTimeout(done, 1000));
  }
  expect(await (await fetch(`${again!.url}/api/attachment`)).json()).toEqual([]);
  expect(await readdir(join(server.folder, 'pictures'))).toEqual([]);
  await again!.stop();
  await server.stop();
});

import { choose, chosen, expect, go, paste, pick, step, test } from '../test.js';

/** Two ports in two bores of one head, as they stand on one page: check values of the trade, no source. */
const PAGE = {
  'port 1, 4.000': '.300 240\n.400 287',
  'port 2, 4.000': '.300 233\n.400 276',
  'port 2, 4.155': '.300 238\n.400 295',
  'port 1, 4.155': '.300 241\n.400 297',
} as const;

test('a two-port, two-bore test of one head is typed from paper in one go, and read as two bore families', async ({
  page,
}) => {
  await go(page, '/heads/vennick-v5?stage=vennick-v5-received&sheet=new');
  const rows = async (text: string) => {
    await page.getByLabel('Row 1, lift').focus();
    await paste(page, text);
  };
  await pick(page.getByLabel('The bench reads'), 'flow');
  await pick(page.getByLabel('Source', { exact: true }), 'a new source …');
  await page.getByLabel('Name of the new source').fill('Creekside bench');
  await page.getByLabel('Intake port').fill('1');
  await page.getByLabel('Exhaust port').fill('');
  await page.getByLabel('Bore fixture').fill('4.000 in');
  await rows(PAGE['port 1, 4.000']);
  // The next port keeps the set-up and the lifts, and has nothing read.
  await page.getByRole('button', { name: 'Save, then the next port' }).click();
  await expect(page.getByLabel('Intake port')).toHaveValue('2');
  await expect(page.getByLabel('Bore fixture')).toHaveValue('4.000 in');
  await expect(page.getByLabel('Row 2, lift')).toHaveValue(/\.400/);
  await expect(page.getByLabel('Row 2, intake', { exact: true })).toHaveValue('');
  await rows(PAGE['port 2, 4.000']);
  await page.getByRole('button', { name: 'Save, then another bore' }).click();
  await expect(page.getByLabel('Bore fixture')).toHaveValue('');
  await page.getByLabel('Bore fixture').fill('4.155 in');
  await rows(PAGE['port 2, 4.155']);
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText(/saved\./)).toBeVisible();
  // One that is left: begun anew, it takes over the last set-up.
  await expect(page.getByRole('link', { name: 'Creekside bench, port 2' })).toHaveCount(2);
  await page.getByRole('link', { name: '+ new sheet' }).click();
  await expect(page.getByLabel('Row 1, intake', { exact: true })).toHaveValue('');
  await expect(page.getByLabel('Bore fixture')).toHaveValue('4.155 in');
  await page.getByLabel('Intake port').fill('1');
  await rows(PAGE['port 1, 4.155']);
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByRole('link', { name: 'Creekside bench, port 1' })).toHaveCount(2);

  await go(page, '/compare?build=vennick-five');
  const families = page.getByRole('region', { name: 'Bores, valves, notches and pipes' });
  await expect(families.getByText('port 2 is crowded most by the wall')).toBeVisible();
  await expect(families.getByRole('row', { name: /^\.400 287 297 difference in flow: \+10/ })).toBeVisible();
  await expect(families.getByRole('row', { name: /^\.400 276 295 difference in flow: \+19/ })).toBeVisible();
});

test('two heads of a vee are a pair: the worst port of either decides, and both are shown', async ({ page }) => {
  const add = async (name: string, flows: string) => {
    await go(page, '/heads');
    await page.getByRole('button', { name: 'New head' }).click();
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.getByRole('button', { name: 'Add it and type its sheet' }).click();
    await expect(page.getByRole('heading', { name })).toBeVisible();
    await page.getByLabel('Intake port').fill('1');
    await page.getByLabel('Row 1, lift').focus();
    await paste(page, flows);
    await page.getByRole('button', { name: 'Save the sheet' }).click();
    await expect(page.getByText(/saved\./)).toBeVisible();
  };
  await add('Vee left', '.300 200\n.400 235\n.500 250');
  await add('Vee right', '.300 190\n.400 222\n.500 231');
  await page.getByRole('button', { name: 'Edit' }).click();
  await choose(page, 'Other head of its engine, of a vee or a flat one', 'Vee left');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('link', { name: 'Vee left' }).click();
  await expect(page.getByRole('link', { name: 'Vee right' })).toBeVisible();
  await page.getByRole('button', { name: 'Add to the lineup' }).click();
  await expect(page.getByText('Vee left is in the lineup.')).toBeVisible();
  await step(page, 'Compare').click();
  await expect(page.locator('svg text', { hasText: 'Vee right' })).toBeVisible();
  await step(page, 'Match').click();
  await expect(page.getByRole('article', { name: /Vee left/ })).toContainText('Vee right: port 1');
});

test('a sheet of differences is drawn about its own baseline, asked nothing of flows, and stands beside none', async ({
  page,
}) => {
  await go(page, '/heads/corrow-417?stage=417-bowl&sheet=new');
  await pick(page.getByLabel('The bench reads'), 'differences only');
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '.200 19 30\n.300 10 25\n.400 0 12\n.500 -3 4');
  await expect(page.getByText('The intake gains most at .200, +19')).toBeVisible();
  await expect(page.getByText('crosses its baseline at .400')).toBeVisible();
  await expect(page.getByText('each other’s place')).toBeHidden();
  await expect(
    page.getByRole('button', { name: 'Against what these differences were taken is not said.', exact: true }),
  ).toBeVisible();
  await pick(page.getByLabel('Differences from'), { index: 1 });
  await expect(page.getByRole('button', { name: /^Against what these differences/ })).toBeHidden();
  await page.getByRole('button', { name: 'Comment on rows' }).click();
  await page.getByLabel('Row 1, comment').fill('back-cut');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText(/saved\./)).toBeVisible();
  // No flow of it stands in the comparison; it has a drawing of its own.
  await go(page, '/heads/corrow-417?stage=417-bowl');
  await page.getByRole('button', { name: 'Add to the lineup' }).click();
  await expect(page.getByText('417 early is in the lineup.')).toBeVisible();
  await step(page, 'Compare').click();
  const own = page.getByRole('region', { name: 'Differences only' });
  await expect(own.getByText('The intake gains most at .200')).toBeVisible();
});

test('a bench moved to a new full scale: new sheets read by it, old ones keep theirs, a slip is put right in all', async ({
  page,
}) => {
  await go(page, '/bench/corrow-417?pane=checks');
  await page.getByLabel('They hold from').fill('2026-11-01');
  await page.keyboard.press('Tab');
  await page.getByLabel('Range 4, intake full scale').fill('301.0 cfm');
  await page.getByRole('button', { name: 'Save these full scales' }).click();
  await expect(page.getByText(/Sheets of before keep theirs/)).toBeVisible();

  // 42.5 % of 295.6 is 125.6: the old sheet, as before.
  await go(page, '/heads/corrow-417?stage=417-received&sheet=417-received-p3');
  await expect(chosen(page.getByLabel('Full scales', { exact: true }))).toHaveText(/the bench’s, from \d/);
  await expect(page.getByRole('row', { name: /^4\s295\.6/ })).toBeVisible();

  await go(page, '/heads/vennick-v5?stage=vennick-v5-received&sheet=new');
  await pick(page.getByLabel('Source', { exact: true }), 'Bench 1');
  await pick(page.getByLabel('The bench reads'), 'percent of a range');
  await expect(page.getByRole('row', { name: /^4\s301\.0/ })).toBeVisible();
  await page.getByLabel('Depression', { exact: true }).fill('28 inH2O');
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '.200\t4\t42.5\t4\t40');
  await expect(page.getByRole('cell', { name: /common depression: 127\.9/ })).toBeVisible();
  await expect(page.getByRole('cell', { name: /common depression: 127\.0/ })).toBeVisible();
  // Range 3 would have read it finer.
  await expect(page.getByText(/uses less than half of range 4/).first()).toBeVisible();
});

test('what a sheet, a head and an engine owe leads to its field, and goes away when it is filled or excused', async ({
  page,
}) => {
  await go(page, '/heads/corrow-417?stage=417-valve-job&sheet=417-old-card');
  const owed = page.getByRole('region', { name: 'Still owed' });
  await owed.getByRole('button', { name: 'Bore fixture: not known.', exact: true }).click();
  await expect(page.getByLabel('Bore fixture')).toBeFocused();
  await page.keyboard.insertText('98 mm');
  await expect(owed.getByText('Bore fixture: not known.')).toBeHidden();
  await owed
    .locator('li', { hasText: 'No exhaust flow.' })
    .getByRole('button', { name: 'Excuse', exact: true })
    .click();
  await page.getByLabel('Why it will not be done').fill('intake only');
  await page.keyboard.press('Enter');
  await expect(owed.getByText('Excused: intake only.')).toBeVisible();

  await go(page, '/target?build=slate-six');
  await owed.getByRole('button', { name: /^What the manifold/ }).click();
  await expect(page.getByLabel('Manifold flow at 28 in')).toBeFocused();
  await page.getByLabel('or lost in the manifold').fill('25 cfm');
  await expect(owed.getByText(/manifold/)).toBeHidden();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/saved\./)).toBeVisible();
  await expect(page.getByLabel('or lost in the manifold')).toHaveValue('25 cfm');
  await step(page, 'Match').click();
  await expect(page.getByRole('row', { name: /^best flow of head and manifold/ })).toBeVisible();
});

test('a control head validates the bench on the spot; a wall down to its limit stops the work', async ({ page }) => {
  await go(page, '/bench/corrow-417?pane=checks');
  await pick(page.getByLabel('Against', { exact: true }), 'a control head');
  const pairs = [
    [137, 135],
    [195, 194],
    [249, 258],
    [290, 295],
    [310, 315],
  ];
  for (const [i, [read, agreed]] of pairs.entries()) {
    await page.getByLabel(`Line ${i + 1}, lift`).fill(`.${i + 2}00`);
    await page.getByLabel(`Line ${i + 1}, agreed`).fill(String(agreed));
    await page.getByLabel(`Line ${i + 1}, read here`).fill(String(read));
  }
  await expect(page.getByText('This bench agrees with the control head within 3.5 %')).toBeVisible();
  await page.getByLabel('Line 3, read here').fill('240');
  await expect(page.getByText(/does not agree with the control head: 7\.0.% under at \.400/)).toBeVisible();

  await go(page, '/measure/corrow-417?pane=walls&stage=417-received');
  await page.getByLabel('Point', { exact: true }).fill('exhaust 5, roof');
  await page.getByLabel('Thickness').fill('4.4 mm');
  await page.getByLabel('Work stops at').fill('4.5 mm');
  await page.getByRole('button', { name: 'Add the wall' }).click();
  await expect(page.getByText('Work stops here: exhaust 5, roof is down to the limit.')).toBeVisible();
});

test('one port tested twice: the mean, until one of the two is believed; said where the sheet stands', async ({
  page,
}) => {
  await go(page, '/heads/corrow-417?stage=417-valve-job&sheet=417-valve-job-p3');
  await page.getByRole('link', { name: '+ new sheet' }).click();
  await page.getByLabel('Title of the sheet').fill('Again, after tea');
  await pick(page.getByLabel('Source', { exact: true }), 'Bench 1');
  await page.getByLabel('Intake port').fill('3');
  await pick(page.getByLabel('The bench reads'), 'flow');
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '.200 112\n.300 155\n.400 178\n.500 184');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText(/saved\./)).toBeVisible();
  await page.getByRole('link', { name: 'sizes' }).click();
  const twice = page.getByRole('region', { name: 'Tested more than once' });
  await expect(twice.getByText('port 3 was tested 2 times in the same way; the mean of them is read.')).toBeVisible();
  await twice.getByLabel('Why the others are set aside').fill('the plate leaked');
  await twice.getByRole('button', { name: /^Believe Again, after tea/ }).click();
  await expect(twice.getByText('set aside: the plate leaked')).toBeVisible();
  await page.getByRole('link', { name: 'Bench 1, port 3' }).first().click();
  await expect(page.getByText('Set aside: the plate leaked.')).toBeVisible();
  await page.getByRole('button', { name: 'Count it again' }).click();
  await expect(page.getByText('Set aside: the plate leaked.')).toBeHidden();
});

import { readFile } from 'node:fs/promises';
import { chosen, dropFile, expect, go, paste, pick, test } from '../test.js';

const SHEET = '/heads/corrow-417?stage=417-received&sheet=417-quayside';

test('a slip of the pen is asked about, mended with one key, and the correction keeps its history', async ({
  page,
}) => {
  await go(page, '/heads/vennick-v5?stage=vennick-v5-received&sheet=new');
  await page.getByLabel('Row 1, lift').focus();
  await paste(
    page,
    '100 63 50\n200 120 95\n300 175 130\n400 225 165\n500 270 195\n600 330 210\n700 322 218\n800 330 220',
  );
  await expect(page.getByText(/At \.600 the intake reads 330.cfm, which breaks its curve/)).toBeVisible();
  await page.getByRole('button', { name: 'Use 303' }).click();
  await expect(page.getByLabel('Row 6, intake', { exact: true })).toHaveValue('303');
  await expect(page.getByText('which breaks its curve')).toBeHidden();
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText(/saved\./)).toBeVisible();
  await page.getByLabel('Row 5, intake', { exact: true }).fill('271');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await page.getByRole('button', { name: 'history' }).click();
  await expect(page.getByText('.500 in intake: 270 cfm → 271 cfm')).toBeVisible();
});

test('keys move as in a spreadsheet and a paste is undone', async ({ page }) => {
  await go(page, SHEET);
  const cell = (row: number, name: string) => page.getByLabel(`Row ${row}, ${name}`, { exact: true });
  await cell(2, 'intake').focus();
  await page.keyboard.press('ArrowDown');
  await expect(cell(3, 'intake')).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(cell(2, 'intake')).toBeFocused();
  await page.keyboard.press('End');
  await page.keyboard.press('ArrowRight');
  await expect(cell(2, 'exhaust')).toBeFocused();
  const before = await cell(3, 'intake').inputValue();
  await cell(3, 'intake').focus();
  await page.waitForTimeout(400);
  await paste(page, '1\t2\n3\t4');
  await expect(cell(4, 'exhaust')).toHaveValue('4');
  await page.waitForTimeout(400);
  await page.keyboard.press('Control+z');
  await expect(cell(3, 'intake')).toHaveValue(before);
});

test('bad cells get their sentence, are kept over a reload, and are not saved', async ({ page }) => {
  await go(page, SHEET);
  await page.getByLabel('Row 2, intake', { exact: true }).fill('lots');
  await expect(page.getByText('“lots” is not a flow. Type it like 188.9, or 89 L/s.').first()).toBeVisible();
  await page.getByLabel('Row 4, lift', { exact: true }).fill('.300');
  await expect(page.getByText(/Lift \.300 in stands in row/)).toBeVisible();
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText('saved.')).toBeHidden();
  await page.reload();
  await expect(page.getByLabel('Row 2, intake', { exact: true })).toHaveValue('lots');
  await page.getByRole('button', { name: 'Discard changes' }).click();
  await page.getByRole('button', { name: 'Discard', exact: true }).click();
  await expect(page.getByLabel('Row 2, intake', { exact: true })).toHaveValue('109.2');
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Row 2, intake', { exact: true })).toHaveValue('lots');
});

test('swapped columns are noticed', async ({ page }) => {
  await go(page, '/heads/vennick-v5?stage=vennick-v5-received&sheet=new');
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '100 44 58\n200 83 109\n300 110 149\n400 126 172');
  await page.getByRole('button', { name: 'Swap them' }).click();
  await expect(page.getByLabel('Row 4, intake', { exact: true })).toHaveValue('172');
});

test('lifts of which some have a unit are asked about; a claim begins with nothing known', async ({ page }) => {
  await go(page, '/heads/vennick-v5?stage=vennick-v5-received&sheet=new&kind=claim');
  await expect(chosen(page.getByLabel('What it is'))).toHaveText('a claim');
  await expect(page.getByLabel('Depression', { exact: true })).toHaveValue('');
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '2 mm\t63\n4\t120\n6\t172');
  await expect(page.getByText('Some lifts are in mm; those without a unit are read as in.')).toBeVisible();
  await page.getByRole('button', { name: 'They are all mm' }).click();
  await expect(page.getByLabel('Row 3, lift')).toHaveValue('6 mm');
  await expect(page.getByText('Some lifts are in mm')).toBeHidden();
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText(/saved\./)).toBeVisible();
  await go(page, '/claims/vennick-v5');
  await expect(page.getByText(/source not said/)).toBeVisible();
});

test('percent readings ask for the full scale in their own direction', async ({ page }) => {
  await go(page, '/heads/corrow-417?stage=417-received&sheet=417-received-p3');
  await expect(page.getByLabel('Row 4, intake', { exact: true })).toHaveValue('58.2');
  await page.getByLabel('Row 4, intake range').fill('9');
  await expect(page.getByText('Name the range, and give its full scale in the intake direction.')).toBeVisible();
});

test('two tabs do not overwrite each other: both versions side by side', async ({ page, context }) => {
  await go(page, SHEET);
  const other = await context.newPage();
  await go(other, SHEET);
  // Typed before the other saves: a page with nothing typed in it would be brought up to date, and there is no conflict.
  await page.getByLabel('Title of the sheet').fill('Mine');
  await other.getByLabel('Title of the sheet').fill('Theirs');
  await other.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(other.getByText('Theirs saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  const dialog = page.getByRole('dialog', { name: /Someone saved this/ });
  const line = dialog.getByRole('row', { name: /^title/ });
  await expect(line).toContainText('changed by both');
  await expect(line.getByRole('radio', { name: 'title: yours, Mine' })).toBeChecked();
  await expect(line.getByRole('radio', { name: 'title: saved meanwhile, Theirs' })).not.toBeChecked();
  await dialog.getByRole('button', { name: 'Save what is chosen' }).click();
  await expect(page.getByText('Mine saved.')).toBeVisible();
  await other.close();
});

test('a sheet goes out as CSV and XLSX and comes back the same', async ({ page }) => {
  await go(page, SHEET);
  const save = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name, exact: true }).click(),
    ]);
    return readFile((await download.path())!);
  };
  const csv = await save('CSV');
  const xlsx = await save('XLSX');
  for (const [name, bytes] of [
    ['out.csv', csv],
    ['out.xlsx', xlsx],
  ] as const) {
    await dropFile(page, name, bytes);
    const dialog = page.getByRole('dialog', { name: `Import ${name}` });
    await expect(dialog.getByRole('row', { name: /^\.400 177\.2 129\.8/ })).toBeVisible();
    await dialog.getByLabel('Title of the sheet').fill(`Back from ${name}`);
    await dialog.getByRole('button', { name: 'Import' }).click();
    await expect(page.getByText(`Back from ${name} imported.`)).toBeVisible();
    await expect(page.locator('#page').getByLabel('Title of the sheet')).toHaveValue(`Back from ${name}`);
    await expect(page.locator('#page').getByLabel('Bore fixture')).toHaveValue('98.0 mm');
  }
});

test('sizes are noted, what follows is worked out, and a size out of reason is refused', async ({ page }) => {
  await go(page, '/heads/corrow-417?stage=417-received');
  await expect(page.getByRole('row', { name: /intake throat of valve: 88\.0.%/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /compression on Corrow Slate Six: 9\.47:1 ± 0\.07\./ })).toBeVisible();
  await pick(page.getByLabel('Item'), 'throat');
  await page.getByLabel('Size').fill('4 m');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText('The throat must lie between 8 and 240 mm.')).toBeVisible();
  await page.getByLabel('Size').fill('1.640');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText('throat 1.640 in noted.')).toBeVisible();
  // Measured twice, both stay; the mean speaks: (1.628 + 1.640) / 2 / 1.85 = 88.3 %.
  await expect(page.getByRole('row', { name: /intake throat of valve: 88\.3.%/ })).toBeVisible();
});

test('a change of units while typing changes no figure', async ({ page }) => {
  await go(page, '/heads/vennick-v5?stage=vennick-v5-received&sheet=new');
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '100 44 38\n200 83 70\nfour x 1');
  await page.keyboard.press('Escape');
  await pick(page.getByRole('combobox', { name: 'Units' }), 'metric');
  await expect(page.getByLabel('Row 2, lift')).toHaveValue('.200 in');
  await expect(page.getByLabel('Row 2, intake', { exact: true })).toHaveValue('83 cfm');
  await expect(page.getByLabel('Row 3, lift')).toHaveValue('four');
  await pick(page.getByRole('combobox', { name: 'Units' }), 'inches');
  await expect(page.getByLabel('Row 2, intake', { exact: true })).toHaveValue('83');
});

test('typing goes on while the sheet is being saved', async ({ page }) => {
  await page.route('**/api/sheet', async (route) => {
    await new Promise((done) => setTimeout(done, 700));
    await route.continue();
  });
  await go(page, '/heads/vennick-v5?stage=vennick-v5-received&sheet=new');
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '100 44 38\n200 83 70');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await page.getByLabel('Row 3, lift').fill('300');
  await page.getByLabel('Row 3, intake', { exact: true }).fill('110');
  await expect(page).toHaveURL(/sheet=[0-9a-f-]{36}/);
  await expect(page.getByLabel('Row 3, intake', { exact: true })).toHaveValue('110');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByRole('button', { name: 'Save the sheet' })).toBeDisabled();
  await page.reload();
  await expect(page.getByLabel('Row 3, intake', { exact: true })).toHaveValue('110');
});

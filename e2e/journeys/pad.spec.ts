/** What was written on a pad at somebody's bench comes in without a session: swirl, a velocity map, a bench nobody named before. */
import { expect, go, pick, test } from '../test.js';

test('swirl, signed, is typed on a sheet and stays', async ({ page }) => {
  await go(page, '/heads/corrow-417?stage=417-received&sheet=417-received-p3');
  await page.getByText('Swirl', { exact: true }).click();
  await page.getByLabel('Row 2, swirl speed').fill('fast');
  await page.getByLabel('Row 3, swirl speed').focus();
  await expect(page.getByText(/“fast” is not a/)).toBeVisible();
  await page.getByLabel('Row 2, swirl speed').fill('-300 / -320');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText(/saved\./).first()).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Row 1, swirl speed')).toHaveValue('-300 rpm / -320 rpm');
});

test('a velocity map is begun at a stage; a speed is kept as the pressure it shows; a slip is told', async ({
  page,
}) => {
  await go(page, '/heads/corrow-417?stage=417-received');
  await page.getByRole('link', { name: 'velocity maps' }).click();
  await page.getByRole('button', { name: 'Start a map' }).click();
  const cell = page.getByRole('textbox', { name: /^Row 1, / }).first();
  await cell.fill('swift');
  await cell.press('Tab');
  await expect(page.getByText(/“swift” is not/).first()).toBeVisible();
  await cell.fill('200 ft/s');
  await cell.press('Tab');
  // ½ρv² of 61 m/s in air of 1.225 kg/m³: 2276 Pa.
  await expect(cell).toHaveValue('9.138 inH2O');
  await page.getByRole('button', { name: 'Save the map' }).click();
  await expect(page.getByText('The map of the pinch is kept.')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('textbox', { name: /^Row 1, / }).first()).toHaveValue('9.138 inH2O');
});

test('a name that no source has is made one with the sheet', async ({ page }) => {
  await go(page, '/heads/corrow-417?stage=417-received&sheet=new&kind=claim');
  const source = page.getByRole('combobox', { name: 'Source' });
  await source.click();
  await source.fill('Backwater Flow');
  await page.getByRole('option', { name: 'make “Backwater Flow” a new source' }).click();
  await page.getByLabel('Row 1, lift').fill('.300');
  await page.getByLabel('Row 1, intake', { exact: true }).fill('150');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText(/saved\./).first()).toBeVisible();
  await go(page, '/heads/corrow-522?stage=522-received&sheet=new&kind=claim');
  await pick(page.getByRole('combobox', { name: 'Source' }), 'Backwater Flow');
});

import { choose, expect, test } from '../test.js';

test('ways stand side by side with price, power, odds and fit; weights turn the choice; it is decided with reasons', async ({
  page,
}) => {
  await page.goto('/decide?build=vennick-five');
  await expect(page.getByRole('heading', { name: 'Decide' })).toBeVisible();
  const first = page.getByRole('row', { name: /^comes first/ });
  await expect(
    page.getByText(/With these weights OM-4V as it comes comes first in \d+\s% of the draws\./),
  ).toBeVisible();
  // By keyboard: power counts for nothing, price for all.
  const power = page.getByRole('slider', { name: 'Weight of power' });
  await power.focus();
  await page.keyboard.press('Home');
  await expect(page.getByText('power weighs 0 now.')).toBeVisible();
  await expect(page.getByText(/With these weights Keep the standard head comes first/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/With these weights OM-4V/)).toBeVisible();
  await page.getByRole('button', { name: 'Decide', exact: true }).click();
  await expect(page.getByText('Say which way is chosen.')).toBeVisible();
  await page.getByLabel('The way chosen').selectOption('OM-4V as it comes');
  await page.getByLabel('Why', { exact: true }).fill('It carries 400 hp.');
  await page.getByRole('button', { name: 'Decide', exact: true }).click();
  await expect(page.getByRole('heading', { name: /^OM-4V as it comes \d{4}/ })).toBeVisible();
  await expect(first).toContainText('%');
});

test('a way is priced line by line; an adapter makes a line; what is open is said; bad input stays', async ({
  page,
}) => {
  await page.goto('/decide?build=slate-six');
  await expect(page.getByText(/Longreach 212 cannot go as it is: exhaust flange/)).toBeVisible();
  await expect(page.getByRole('row', { name: /^for each gained over Keep the 417/ })).toContainText(/\d/);
  await page.getByRole('button', { name: 'Add a way' }).click();
  await page.getByRole('button', { name: 'Save this way' }).click({ force: true });
  await page.getByLabel('Name of this way').fill('Another 417');
  await choose(page, 'Head of this way', /^522 late$/);
  await page.getByLabel('At the stage').selectOption('as received');
  await page.getByRole('button', { name: 'From “core rework”' }).click();
  await expect(page.getByText('head or core: no price yet.')).toBeVisible();
  const price = page.getByLabel('Price of one').first();
  await price.fill('lots');
  await price.blur();
  await page.getByRole('button', { name: 'Save this way' }).click();
  await expect(page.getByRole('alert').first()).toBeVisible();
  await expect(price).toHaveValue('lots');
  await price.fill('310');
  await price.blur();
  await page.getByLabel('exhaust flange', { exact: true }).selectOption('needs an adapter');
  await expect(page.getByLabel('What', { exact: true }).last()).toHaveValue('exhaust flange');
  await page.getByLabel('Planned work adds').fill('8 cfm');
  await page.getByRole('button', { name: 'Save this way' }).click();
  await expect(page.getByText('This is needed.').first()).toBeVisible();
  await page.getByLabel('Give or take').fill('4 cfm');
  await page.getByRole('button', { name: 'Save this way' }).click();
  await expect(page.getByText('Another 417 saved.')).toBeVisible();
  await expect(page.getByRole('columnheader', { name: /^Another 417/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^head/ }).first()).toContainText('planned 8 cfm ± 4 cfm');
  await expect(page.getByText(/Another 417 is not priced whole/)).toBeVisible();
  await page.getByRole('button', { name: 'Take this way out' }).click();
  await expect(page.getByText('Another 417 taken out.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('columnheader', { name: /^Another 417/ })).toBeVisible();
});

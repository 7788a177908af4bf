import { readFileSync } from 'node:fs';
import { choose, chosen, expect, go, pick, test } from '../test.js';

test('ways stand side by side with price, power, odds and fit; weights turn the choice; it is decided with reasons', async ({
  page,
}) => {
  await go(page, '/decide?build=vennick-five');
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
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/With these weights OM-4V/)).toBeVisible();
  await page.getByRole('button', { name: 'Decide', exact: true }).click();
  await expect(page.getByText('Say which way is chosen.')).toBeVisible();
  await pick(page.getByLabel('The way chosen'), 'OM-4V as it comes');
  await page.getByLabel('Why', { exact: true }).fill('It carries 400 hp.');
  await page.getByRole('button', { name: 'Decide', exact: true }).click();
  await expect(page.getByRole('heading', { name: /^OM-4V as it comes \d{4}/ })).toBeVisible();
  await expect(first).toContainText('%');
});

test('a way is priced line by line; an adapter makes a line; what is open is said; bad input stays', async ({
  page,
}) => {
  await go(page, '/decide?build=slate-six');
  await expect(page.getByText(/Longreach 212 cannot go as it is: exhaust flange/)).toBeVisible();
  await expect(page.getByRole('row', { name: /^for each gained over Keep the 417/ })).toContainText(/\d/);
  await page.getByRole('button', { name: 'Add a way' }).click();
  await page.getByRole('button', { name: 'Save this way' }).click({ force: true });
  await page.getByLabel('Name of this way').fill('Another 417');
  await choose(page, 'Head of this way', /^522 late$/);
  await pick(page.getByLabel('At the stage'), 'as received');
  await page.getByRole('button', { name: 'From “head from a maker”' }).click();
  await expect(page.getByText('head or core: no price yet.')).toBeVisible();
  const price = page.getByLabel('Price of one').first();
  await price.fill('lots');
  await price.blur();
  await page.getByRole('button', { name: 'Save this way' }).click();
  await expect(page.getByRole('alert').first()).toBeVisible();
  await expect(price).toHaveValue('lots');
  await price.fill('310');
  await price.blur();
  await pick(page.getByLabel('exhaust flange', { exact: true }), 'needs an adapter');
  await expect(page.getByLabel('What', { exact: true }).last()).toHaveValue('exhaust flange');
  await page.getByLabel('Planned work adds').fill('8 cfm');
  await page.getByRole('button', { name: 'Save this way' }).click();
  await expect(page.getByText('This is needed.').first()).toBeVisible();
  await page.getByLabel('Uncertainty (±)').fill('4 cfm');
  await page.getByRole('button', { name: 'Save this way' }).click();
  await expect(page.getByText('Another 417 saved.')).toBeVisible();
  await expect(page.getByRole('columnheader', { name: /^Another 417/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^head/ }).first()).toContainText('planned 8 cfm ± 4 cfm');
  await expect(page.getByText(/Another 417 is not priced whole/)).toBeVisible();
  await page.getByRole('button', { name: 'Remove this way' }).click();
  await expect(page.getByText('Another 417 removed.')).toBeVisible();
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('columnheader', { name: /^Another 417/ })).toBeVisible();
});

test('the report is read on the page, saved as PDF, and says when it cannot be made; shape and differences can be shared alone', async ({
  page,
}) => {
  await go(page, '/decide?build=slate-six');
  // By keyboard from Decide to the report and its options.
  await page.getByRole('button', { name: 'Report' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Cylinder head for Corrow Slate Six' })).toBeVisible();
  await expect(page.getByText(/Rework the 417 \(417 early, pinch opened\): 2812 sov/)).toBeVisible();
  await expect(page.getByText('Does it fit')).toBeHidden();
  await page.getByText('with the workshop’s pages').click();
  await expect(page.getByRole('heading', { name: 'Does it fit' })).toBeVisible();
  await expect(page).toHaveURL(/pages=workshop/);
  await page.getByRole('checkbox', { name: 'hide the figures of flow' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/Shape and differences only/)).toBeVisible();
  await expect(page.getByRole('heading', { name: /^Flow sheet/ })).toBeHidden();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export PDF' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('Cylinder head for Corrow Slate Six.pdf');
  expect(readFileSync(await file.path(), 'latin1').slice(0, 5)).toBe('%PDF-');
  // It cannot be made just now: said, and nothing is lost.
  await page.route('**/report', (route) =>
    route.fulfill({ status: 429, json: { detail: 'Other reports are being made. Try again in a moment.' } }),
  );
  await page.getByRole('button', { name: 'Export PDF' }).click();
  await expect(page.getByText('The report was not made: Other reports are being made.')).toBeVisible();
  await page.unroute('**/report');
  await page.getByLabel('Name of the shop').fill('');
  await page.getByRole('button', { name: 'Save the letterhead' }).click();
  await expect(page.getByText('Give it a name.').first()).toBeVisible();
  await page.getByLabel('Name of the shop').fill('Netherholm Heads');
  await page.getByRole('button', { name: 'Save the letterhead' }).click();
  await expect(page.locator('.letterhead')).toContainText('Netherholm Heads');
});

test('ways are run in the engine; torque counts once it is there; costs and matrix are saved; more lift is tried', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await go(page, '/decide?build=slate-six');
  await page.getByRole('button', { name: 'Add torque' }).click();
  await expect(page.getByText('Keep the 417: –, not run yet')).toBeVisible();
  await page.getByRole('button', { name: 'Simulate each way' }).click();
  const torque = page.getByRole('row', { name: /^torque over the working speeds/ });
  await expect(torque).toContainText(/\d+\.\d\slb\sft ± \d/, { timeout: 120_000 });
  await expect(page.getByText(/Keep the 417: \d+\.\d\slb\sft ± .*, simulated over the working speeds/)).toBeVisible();
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  const [matrix] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Matrix as CSV' }).click(),
  ]);
  expect(readFileSync(await matrix.path(), 'utf8')).toContain('simulated over the working speeds');
  // Once every way was run: an answer of before would be out of date.
  await expect(page.getByRole('button', { name: 'Simulate each way' })).toBeEnabled({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Would more lift turn it?' }).click();
  await expect(page.getByRole('status').filter({ hasText: /cam/ })).toBeVisible({ timeout: 30_000 });
});

test('what was measured answers the fit; a set of the price list fills a way; a cut of Change becomes a way', async ({
  page,
}) => {
  await go(page, '/decide?build=slate-six&way=slate-p6');
  const block = page.locator('.fit').filter({ hasText: 'what the block allows' });
  await expect(block).toContainText('measured: needs an adapter, only');
  await block.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByLabel('What', { exact: true }).last()).toHaveValue('what the block allows');
  await expect(chosen(page.getByLabel('For', { exact: true }).last())).toHaveText('machining');
  await page.getByRole('button', { name: 'Set “core rework”' }).click();
  await expect(chosen(page.getByLabel('For', { exact: true }).last())).toHaveText('gaskets');
  await page.getByRole('button', { name: 'Discard changes' }).click();
  await page.getByRole('button', { name: 'Discard', exact: true }).click();

  await go(page, '/change/corrow-417?build=slate-six&stage=417-received&pane=next');
  await page.getByRole('button', { name: 'Add as a way to go' }).first().click();
  await expect(page).toHaveURL(/\/decide\?.*way=/);
  await expect(page.getByRole('columnheader', { name: /^417 early: / })).toBeVisible();
  await expect(page.getByRole('row', { name: /^head/ }).first()).toContainText(/planned \S+ cfm ± /);
});

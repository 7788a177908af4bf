import { expect, go, oneOf, step, test } from '../test.js';

test('heads are run in the engine: the speed wanted first, differences with their range, nothing assumed in silence', async ({
  page,
}) => {
  test.setTimeout(300_000);
  // What the pipes are is typed on the target, refused where it cannot be, kept, and taken by the simulation.
  await go(page, '/target?build=tarrow-three');
  const runner = page.getByLabel('Runner length');
  await runner.fill('9 km');
  await page.keyboard.press('Tab');
  await expect(runner).toHaveAttribute('aria-invalid', 'true');
  await runner.fill('310 mm');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/saved\./)).toBeVisible();
  await page.reload();
  await expect(runner).toHaveValue('310 mm');
  await step(page, 'Match').click();
  await page.getByRole('link', { name: 'Simulate each head' }).click();
  await expect(page.getByRole('heading', { name: 'Simulate' })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Power over engine speed/ })).toBeVisible({ timeout: 60_000 });
  // Stopped, what was run stands; it goes on where it was.
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('Stopped: what was run stands.')).toBeVisible();
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.locator('.progress').getByRole('button')).toHaveCount(0, { timeout: 180_000 });

  await expect(page.getByText(/^B against A: [+−]?\d+\slb\sft at/)).toContainText(/over the working speeds/);
  await expect(page.getByRole('row', { name: /^A / })).toContainText(/\d+\shp/);
  await expect(page.getByText('Combustion is the same for every head', { exact: false })).toBeVisible();
  await expect(page.getByRole('row', { name: /^runner length/ })).toContainText('stated for this build');
  await expect(page.getByRole('row', { name: /^plenum volume/ })).toContainText('common practice, no source');

  // The verdict takes what was run, says so, and keeps what the rules said.
  await page.getByRole('link', { name: 'The verdict', exact: true }).click();
  await expect(page.getByRole('row', { name: /^the simulation, at the speed wanted/ })).toContainText(/\d+\shp\s*±/);
  await expect(
    page.getByText(/By the simulation of this engine: \d+\shp ± \d+\shp.*The rules of thumb alone say/).first(),
  ).toBeVisible();
  await page.goBack();
  await expect(page.getByRole('heading', { name: 'Simulate' })).toBeVisible();
  await expect(page.locator('.progress').getByRole('button')).toHaveCount(0, { timeout: 180_000 });

  // Read by keyboard: the arrows step through the speeds, with the range.
  const chart = page.getByRole('img', { name: /^Power over engine speed/ });
  await chart.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText(/rpm: A \d+\shp \(\d+ to \d+\)/)).toBeVisible();
  await oneOf(page, 'VE').click();
  await expect(page.getByRole('img', { name: /^VE over engine speed/ })).toBeVisible();

  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export CSV' }).click();
  const file = await saved;
  expect(file.suggestedFilename()).toMatch(/simulated\.csv$/);

  // What if, by keyboard: a wrong figure is told at its field, a right one is drawn beside the engine as it is.
  const field = page.getByLabel('Compression', { exact: true });
  await field.fill('40');
  await page.keyboard.press('Tab');
  await expect(page.getByText('Compression must lie between 5:1 and 25:1.')).toBeVisible();
  await field.fill('20');
  await page.keyboard.press('Tab');
  await expect(page.getByText(/^At \d+\srpm: [+−]?\d+\shp/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Clear changes' }).click();
  await expect(field).toHaveValue('');

  await page.getByRole('button', { name: 'Make each part ideal in turn' }).click();
  await expect(page.getByText(/^A: (Held back most|Nothing of the breathing)/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Run the cycle' }).click();
  await expect(page.getByRole('img', { name: /^Pressure along the intake of A/ })).toBeVisible({ timeout: 60_000 });
});

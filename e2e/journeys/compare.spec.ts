import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { choose, expect, go, pick, step, test } from '../test.js';

/** A row of the difference table, the first of the page. */
const row = (page: Page, name: string | RegExp) => page.getByRole('row', { name }).first();

test('the comparison reads itself, and every figure opens its working', async ({ page }) => {
  await go(page, '/compare?build=slate-six');
  await expect(page.getByText(/^D leads from \.\d{3} up/)).toBeVisible();
  await expect(page.getByText('Equal 28 in · 98.0 mm bore · radius entry')).toBeVisible();
  await expect(page.getByText(/Not equal stage: A B D E as received, C valve job and back-cut/)).toBeVisible();
  await expect(row(page, /^\.400/)).toContainText('172');
  // The cam's own lift lies between two rows: it is read there and marked.
  const cam = row(page, /^\.480 cam/)
    .getByRole('cell')
    .nth(1);
  await expect(cam.getByRole('button', { name: /^flow between rows: 1\d\d\.\d ± \d/ })).toBeVisible();
  await row(page, /^\.400/)
    .getByRole('button', { name: /: 172\.0 ±/ })
    .click();
  const working = page.getByRole('dialog', { name: 'The working' });
  // 58.2 % of a 295.6 cfm range.
  await expect(working).toContainText('Flow from a percent reading');
  await expect(working).toContainText('58.2 %');
  await expect(working).toContainText('295.6 cfm');
  await expect(working.locator('math').first()).toBeVisible();
  // How sure it is, and of what: the bench, the set-up, the zero of the lift, the reading.
  await expect(working).toContainText(/Uncertainty\s*±\s\d(\.\d)?\scfm/);
  await expect(working).toContainText('set-up of port 3');
  await page.keyboard.press('Escape');
  // A gain opens its working too; what both heads share has cancelled in it.
  await row(page, /^\.400/)
    .getByRole('button', { name: /^difference in flow: \+5\.0 ±/ })
    .first()
    .click();
  await expect(working).toContainText('Difference in flow');
  await expect(working).not.toContainText('what the bench reads off');
});

test('bare and piped exhausts are never compared silently', async ({ page }) => {
  await go(page, '/compare?build=slate-six&side=exhaust');
  await expect(page.getByText(/exhaust: A B C E exhaust bare, D exhaust piped, not compared/)).toBeVisible();
  await expect(row(page, /^\.400/)).toContainText('piped');
  await page.getByRole('button', { name: 'E/I' }).click();
  await expect(
    page.getByText('D had a pipe on the exhaust, others not: those ratios are different quantities.'),
  ).toBeVisible();
});

test('hiding, reordering and the baseline work from the keyboard, and an address brings it all back', async ({
  page,
  context,
}) => {
  await go(page, '/compare?build=slate-six');
  await expect(page.getByRole('columnheader', { name: 'E', exact: true })).toBeVisible();
  await page.keyboard.press('5');
  await page.keyboard.press('2');
  await expect(page.getByRole('columnheader', { name: 'E', exact: true })).toBeHidden();
  await page.keyboard.press('e');
  await expect(page).toHaveURL(/side=exhaust/);
  await expect(page).toHaveURL(/hide=B(,|%2C)E/);
  const other = await context.newPage();
  await go(other, page.url());
  await expect(other.getByRole('button', { name: 'Exhaust', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(other.getByRole('columnheader', { name: 'B', exact: true })).toBeHidden();
  await expect(other.getByRole('columnheader', { name: 'C', exact: true })).toBeVisible();
  await other.close();

  await page.getByRole('button', { name: /^C P6-205/ }).focus();
  await page.keyboard.press('b');
  await expect(page.getByText('P6-205 is the baseline now.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^A P6-205.*baseline/ })).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^A 417 early.*baseline/ })).toBeVisible();
  await page.getByRole('button', { name: /^A 417 early/ }).focus();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(page.getByRole('button', { name: /^B 417 early/ })).toBeFocused();
  await page.keyboard.press('Delete');
  await expect(page.getByText('417 early removed from the lineup.')).toBeVisible();
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: /^B 417 early/ })).toBeVisible();
});

test('tokens are dragged into another order', async ({ page }) => {
  await go(page, '/compare?build=slate-six');
  const token = (name: string) => page.locator('.token').filter({ hasText: name });
  await expect(token('OM-230')).toBeVisible();
  // What drags is fetched once the frame stands.
  await page.waitForLoadState('networkidle');
  const from = (await token('522 late').boundingBox())!;
  const to = (await token('Longreach 212').boundingBox())!;
  await page.mouse.move(from.x + from.width - 6, from.y + from.height / 2);
  await page.mouse.down();
  for (let i = 1; i <= 12; i++)
    await page.mouse.move(from.x + ((to.x + to.width - 8 - from.x) * i) / 12, to.y + 20, { steps: 2 });
  await page.mouse.up();
  await expect(page.getByText('Lineup reordered.')).toBeVisible();
  await expect(page.locator('.token a')).toContainText(['417 early', 'P6-205', 'Longreach 212', '522 late', 'OM-230']);
});

test('another sheet of a head is chosen, and the claim says its conditions are unknown', async ({ page }) => {
  await go(page, '/compare?build=slate-six');
  await choose(page, 'Sheet read for E OM-230', /^Flyer · .*claim/);
  await expect(page.getByText(/E is read from Flyer · .* now\./)).toBeVisible();
  await expect(page.getByText(/Unknown for some.*depression/)).toBeVisible();
  await expect(row(page, /^\.400/)).toContainText('262');
});

test('two sheets of one head stand side by side, named by what tells them apart, and are subtracted', async ({
  page,
}) => {
  await go(page, '/heads/corrow-417?stage=417-received');
  await page.getByRole('link', { name: 'Bench 1, port 1', exact: true }).click();
  await page.getByRole('button', { name: 'Add to the lineup' }).click();
  await expect(page.getByText('417 early is in the lineup.')).toBeVisible();
  await page.getByRole('link', { name: 'Bench 1, 96.5 mm fixture' }).click();
  await page.getByRole('button', { name: 'Add to the lineup' }).click();
  await step(page, 'Compare').click();
  await expect(page.getByRole('columnheader', { name: 'G', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: /^F 417 early, Bench 1, port 1/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^G 417 early, Bench 1, 96\.5 mm fixture/ })).toBeVisible();
  // The smaller bore against the same port on the larger one: less at every lift that counts.
  await expect(row(page, /^\.500/)).toContainText('−');
});

test('pictures and tables are saved', async ({ page }) => {
  await go(page, '/compare?build=slate-six');
  const save = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name, exact: true }).click(),
    ]);
    return { name: download.suggestedFilename(), bytes: await readFile((await download.path())!) };
  };
  const svg = await save('SVG');
  expect(svg.name).toBe('Corrow-Slate-Six-intake.svg');
  expect(svg.bytes.toString()).toMatch(/^<svg[^]*D Longreach 212[^]*<\/svg>$/);
  const png = await save('PNG');
  expect(png.bytes.subarray(1, 4).toString()).toBe('PNG');
  const csv = await save('CSV');
  expect(csv.bytes.toString()).toContain('lift (in),"A 417 early, as received, Bench 1, port 3 (cfm)"');
  expect(csv.bytes.toString()).toMatch(/0\.4,172(\.\d)?,177/);
  const xlsx = await save('XLSX');
  expect(xlsx.bytes.subarray(0, 2).toString()).toBe('PK');
});

test('units switch everywhere at once', async ({ page }) => {
  await go(page, '/compare?build=slate-six');
  await expect(page.locator('header').getByText('188 cfm')).toBeVisible();
  await page.keyboard.press('u');
  // 188.07 cfm × 0.4719 = 88.8 L/s; .480 in = 12.19 mm.
  await expect(page.locator('header').getByText('89 L/s')).toBeVisible();
  await expect(page.locator('header').getByText('12.19 mm', { exact: true })).toBeVisible();
  await expect(row(page, /^10\.16/)).toContainText('81');
  await pick(page.getByRole('combobox', { name: 'Units' }), 'inches');
  await expect(page.locator('header').getByText('188 cfm')).toBeVisible();
});

test('fills the screen in high contrast and comes back', async ({ page }) => {
  await go(page, '/compare?build=slate-six');
  await expect(page.getByText(/^D leads/)).toBeVisible();
  await page.keyboard.press('f');
  await expect(page.getByText(/^D leads/)).toBeHidden();
  await page.keyboard.press('Escape');
  await expect(page.getByText(/^D leads/)).toBeVisible();
});

test('the match names the worse runner, the limit, and says ceilings', async ({ page }) => {
  await go(page, '/match?build=slate-six');
  await expect(
    page.getByText(/^D Longreach 212 carries the target, with the most to spare\..* D and E can’t be told apart\./),
  ).toBeVisible();
  const a = page.getByRole('article').filter({ hasText: '417 early' });
  await expect(a).toContainText('The worse runner decides: port 1, against port 3 with 179 cfm.');
  await expect(a).toContainText('Its flow runs out at 5170 rpm, below the target’s 5600 rpm: that holds it back.');
  await expect(page.getByText('Ceilings for the breathing, not forecasts.')).toBeVisible();
  await page.getByRole('button', { name: /A 417 early: flow 5170 rpm/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'The working' })).toContainText('Speed the flow can carry');
});

test('a verdict says how sure it is, what would settle and flip it, follows the shop’s assumptions, and can be kept', async ({
  page,
}) => {
  await go(page, '/match?build=slate-six');
  const c = page.getByRole('article', { name: 'Verdict on C P6-205' });
  await expect(c).toContainText(/probably carries, \d\d in 100/);
  // What would flip it, by keyboard.
  await c.getByRole('button', { name: 'What would flip it' }).focus();
  await page.keyboard.press('Enter');
  await expect(c).toContainText(/power per flow −0\.0\d+\shp\/cfm/);
  // The list for the bench is ticked off, and the tick is still there after a reload.
  const list = page.getByRole('region', { name: 'What would settle it' });
  await list.getByText('learn the factor from a dyno pull of an engine like this one').nth(1).click();
  await page.reload();
  await expect(list.getByRole('checkbox', { checked: true })).toHaveCount(1);
  // The verdict as it stands is kept.
  await page.getByRole('button', { name: 'Save this verdict' }).click();
  const kept = page.getByRole('region', { name: 'Verdicts kept' });
  await expect(kept).toContainText('rests on what stands now');
  // The shop knows its factor: everything follows, the kept verdict does not.
  await page.getByRole('button', { name: 'Assumptions' }).click();
  const dialog = page.getByRole('dialog', { name: 'Assumptions' });
  await dialog.getByLabel('power per flow, least').fill('0.256');
  await dialog.getByLabel('power per flow, most').fill('0.2');
  await expect(dialog.getByLabel('power per flow, most')).toHaveValue('0.2');
  await dialog.getByLabel('power per flow, most').fill('0.259');
  await dialog.getByLabel('one set-up against the next').fill('90 %');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog.getByRole('alert')).toContainText('no believable figure');
  await dialog.getByLabel('one set-up against the next').fill('');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('The shop’s own assumptions are saved')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(c).toContainText(/(?<!probably )carries, (9\d|over 99) in 100/);
  await kept.getByRole('button', { name: /^2\d{3}-/ }).click();
  const old = page.getByRole('dialog', { name: /^Verdict of/ });
  await expect(old).toContainText(/Probably carries the target \(\d\d in 100\): 197\scfm/);
  await page.keyboard.press('Escape');
  await kept.getByRole('button', { name: /^Remove the verdict of/ }).click();
  await expect(kept).toContainText('None yet.');
});

test('the other builds of the shop: four valves under boost, and a diesel', async ({ page }) => {
  await go(page, '/match?build=vennick-five');
  await expect(page.getByRole('article')).toHaveCount(2);
  await expect(page.getByText(/^B OM-4V carries the target/)).toBeVisible();
  await pick(page.getByRole('combobox', { name: 'Build at hand' }), 'Tarrow Three');
  await expect(page.getByRole('article').filter({ hasText: 'T3 helical' })).toBeVisible();
});

test('six heads are compared, and the bookmark brings the same six back', async ({ page, context }) => {
  await go(page, '/heads/corrow-417?stage=417-pinch');
  await page.getByRole('button', { name: 'add to the lineup' }).click();
  await expect(page.getByText('417 early is in the lineup.')).toBeVisible();
  await step(page, 'Compare').click();
  for (const letter of 'ABCDEF')
    await expect(page.getByRole('columnheader', { name: letter, exact: true })).toBeVisible();
  await page.keyboard.press('1');
  await page.getByRole('button', { name: 'coefficients' }).click();
  await expect(page).toHaveURL(/show=coefficients/);
  await expect(page).toHaveURL(/hide=A/);
  const bookmark = page.url();
  const later = await context.newPage();
  await go(later, bookmark);
  await expect(later.getByRole('columnheader', { name: 'F', exact: true })).toBeVisible();
  await expect(later.getByRole('columnheader', { name: 'A', exact: true })).toBeHidden();
  await expect(later.getByRole('img', { name: /discharge coefficient over L\/D/ })).toBeVisible();
  await later.close();
});

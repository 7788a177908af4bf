/** What people expect of any program: a real clipboard, keys that save, words that explain themselves, pages to take away. */
import { readFile } from 'node:fs/promises';
import { chosen, expect, go, oneOf, paste, pick, printed, test } from '../test.js';

const SHEET = '/heads/corrow-417?stage=417-received&sheet=417-received-p1';

test('cells are chosen, copied and pasted over a real clipboard, filled down, undone and saved by key', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await go(page, SHEET);
  const cell = (row: number, name: string) => page.getByLabel(`Row ${row}, ${name}`, { exact: true });
  await cell(1, 'lift').click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.locator('td.picked')).toHaveCount(4);
  await page.keyboard.press('Control+c');
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split('\n').map((line) => line.split('\t').length)).toEqual([2, 2]);
  const before = await cell(1, 'intake').inputValue();

  // Drawn by the mouse as well; dragging moves no figure.
  await cell(1, 'intake').hover();
  await page.mouse.down();
  await cell(3, 'intake').hover();
  await page.mouse.up();
  await expect(page.locator('td.picked')).toHaveCount(3);
  await expect(cell(1, 'intake')).toHaveValue(before);
  await page.keyboard.press('Control+d');
  await expect(cell(3, 'intake')).toHaveValue(before);
  await page.keyboard.press('Control+z');
  await expect(cell(3, 'intake')).not.toHaveValue(before);
  await page.keyboard.press('Control+y');
  await expect(cell(3, 'intake')).toHaveValue(before);
  await page.keyboard.press('Control+s');
  await expect(page.getByText(/saved\./)).toBeVisible();
  await page.reload();
  await expect(cell(3, 'intake')).toHaveValue(before);
});

test('what is still needed is said beside Save, and marked', async ({ page }) => {
  await go(page, '/target?new=1');
  await expect(page.getByText('Needed: name, cylinders, speed.')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('Test engine');
  await expect(page.getByText('Needed: cylinders, speed.')).toBeVisible();
  await expect(page.getByLabel('Name', { exact: true })).toHaveAttribute('aria-required', 'true');
});

test('a new head begins from a template, the program’s or the shop’s own', async ({ page }) => {
  await go(page, '/heads?new=1');
  const template = page.getByLabel('Start from a template');
  await pick(template, 'production, aluminium, four valves a cylinder');
  await expect(chosen(page.getByLabel('Intake valves a cylinder'))).toHaveText('2');
  await page.getByLabel('Intake valve', { exact: true }).fill('34 mm');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Save these as a template' }).click();
  await page.getByRole('button', { name: 'Save template' }).click();
  await expect(page.getByText('Give it a name.')).toBeVisible();
  await page.getByLabel('Name of the template').fill('our sixteen-valve');
  await page.getByRole('button', { name: 'Save template' }).click();
  await expect(page.getByText('Template “our sixteen-valve” saved.')).toBeVisible();
  await pick(template, 'reworked, iron, two valves a cylinder');
  await expect(page.getByLabel('Intake valve', { exact: true })).toHaveValue('');
  await pick(template, 'ours: our sixteen-valve');
  await expect(page.getByLabel('Intake valve', { exact: true })).toHaveValue('34 mm');
  await expect(chosen(page.getByLabel('Exhaust valves a cylinder'))).toHaveText('2');
  await page.getByRole('button', { name: 'Remove this template' }).click();
  await expect(page.getByText('Template “our sixteen-valve” removed.')).toBeVisible();
});

test('the target saves itself as it is typed, says when, and goes back to what it was', async ({ page }) => {
  await go(page, '/target?build=slate-six');
  const name = page.getByLabel('Name', { exact: true });
  const before = await name.inputValue();
  await name.fill('Slate Six, second');
  await expect(page.getByText(/^Saved by itself at \d\d:\d\d\.$/)).toBeVisible();
  await page.reload();
  await expect(name).toHaveValue('Slate Six, second');
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByText(`name: ${before} → Slate Six, second`)).toBeVisible();
  await page
    .getByRole('button', { name: /^Go back to before/ })
    .first()
    .click();
  await expect(name).toHaveValue(before);
  await expect(page.getByText(/^Saved by itself at/)).toBeVisible();
  await page.reload();
  await expect(name).toHaveValue(before);
});

test('a word opens the glossary at itself; a tour is walked and left; a pinned head is on the shop’s page', async ({
  page,
}) => {
  await go(page, '/measure/corrow-417?stage=417-received&pane=shrouding');
  await page.getByRole('columnheader', { name: 'least gap' }).hover();
  await page.keyboard.press('g');
  await expect(page.getByRole('dialog', { name: 'Glossary' })).toBeVisible();
  await page.keyboard.press('Escape');
  await go(page, SHEET);
  await page.getByRole('columnheader', { name: 'C min' }).first().click();
  const glossary = page.getByRole('dialog', { name: 'Glossary' });
  await expect(glossary.getByLabel('Find a word')).toHaveValue('C min');
  await expect(glossary.getByText('Flow coefficient on the least area')).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Pin', exact: true }).click();
  await go(page, '/');
  await expect(page.getByRole('heading', { name: 'Pinned and recent heads' })).toBeVisible();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByText('Tour of this page').click();
  await expect(page.getByText('The course of the work')).toBeVisible();
  await page.getByRole('button', { name: 'Next' }).click();
  await expect(page.getByText('The engine at hand')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('The engine at hand')).toBeHidden();
});

test('the tables and drawings of a page are taken away as they are shown', async ({ page }) => {
  await go(page, '/compare');
  await expect(page.getByRole('table').first()).toBeVisible();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByText('Export this page').click();
  const dialog = page.getByRole('dialog', { name: 'Export this page' });
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    dialog
      .getByRole('button', { name: /^CSV of/ })
      .first()
      .click(),
  ]);
  const text = await readFile(await csv.path(), 'utf8');
  expect(text).toMatch(/^\uFEFFlift,A,B,C/);
  expect(text).toContain('.300');
  const [svg] = await Promise.all([
    page.waitForEvent('download'),
    dialog
      .getByRole('button', { name: /^SVG of/ })
      .first()
      .click(),
  ]);
  expect(await readFile(await svg.path(), 'utf8')).toContain('<svg');
});

test('a printed page says whose it is, of which engine and head, and when; and loses nothing of its table', async ({
  page,
}) => {
  await go(page, '/arrival/corrow-417-b?pane=findings');
  await expect(page.getByRole('heading').first()).toBeVisible();
  for (const format of ['A4', 'Letter'] as const) {
    const sheets = await printed(page, format);
    expect(sheets[0]).toMatch(/Arrival\s+Corrow Slate Six\s+417 early, second casting\s+\d{4}-\d\d-\d\d/);
  }
  await go(page, '/compare');
  await expect(page.getByRole('table').first()).toBeVisible();
  const rows = await page.getByRole('table').first().getByRole('row').count();
  const text = (await printed(page, 'A4')).join('\n');
  for (let i = 1; i < rows; i++) {
    const name = await page.getByRole('table').first().getByRole('row').nth(i).locator('th, td').first().innerText();
    expect(text).toContain(name.trim().split(/\s+/)[0]!);
  }
});

test('figures in a message are read, shown before they go in, and asked about where they can be meant twice', async ({
  page,
}) => {
  await go(page, '/heads/vennick-v5?stage=vennick-v5-received&sheet=new');
  const cell = (row: number, name: string) => page.getByLabel(`Row ${row}, ${name}`, { exact: true });
  await cell(1, 'lift').focus();
  await paste(page, 'He says 200/115 320/180.');
  const dialog = page.getByRole('dialog', { name: 'Figures in this message' });
  await expect(dialog.getByRole('row', { name: '200 115 –' })).toBeVisible();
  await oneOf(dialog, 'intake / exhaust').click();
  await expect(dialog.getByRole('row', { name: 'next 200 115' })).toBeVisible();
  await oneOf(dialog, 'lift / flow').click();
  await dialog.getByRole('button', { name: 'Put them in the sheet' }).click();
  await expect(cell(2, 'lift')).toHaveValue('320');
  await expect(cell(2, 'intake')).toHaveValue('180');
  await cell(2, 'intake').press('Control+z');
  await expect(cell(1, 'lift')).toHaveValue('');
});

test('Back returns to the place on the page, its sort and its filter; a page newly opened begins at its top', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 480 });
  await go(page, '/heads?sort=maker');
  const frame = page.locator('main');
  const top = () => frame.evaluate((e) => Math.round(e.scrollTop));
  const last = page.locator('main table tbody tr').last().getByRole('link').first();
  await last.scrollIntoViewIfNeeded();
  const was = await top();
  expect(was).toBeGreaterThan(100);
  await last.click();
  await expect(page).toHaveURL(/\/heads\/[^?]+/);
  await expect(page.getByRole('button', { name: 'Edit', exact: true })).toBeVisible();
  expect(await top()).toBe(0);
  await page.goBack();
  await expect(page).toHaveURL(/sort=maker/);
  await expect.poll(top).toBe(was);
});

import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { root } from '../server.js';
import { dropFile, expect, go, pick, test } from '../test.js';

test('heads are found, filtered and opened', async ({ page }) => {
  await go(page, '/heads');
  await expect(page.getByText('12 in the library')).toBeVisible();
  await page.getByLabel('Search').fill('corrow');
  await expect(page.getByText('3 found')).toBeVisible();
  await pick(page.getByLabel('Material'), 'aluminium');
  await expect(page.getByText('No matches.')).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('link', { name: 'Longreach 212' }).first().click();
  await expect(page.getByRole('heading', { name: 'Longreach 212' })).toBeVisible();
});

test('a head is deleted with all it has, and comes back whole', async ({ page }) => {
  await go(page, '/heads/ottermoor-230');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText('OM-230 removed, with its sheets.')).toBeVisible();
  await expect(page.getByText('11 in the library')).toBeVisible();
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('12 in the library')).toBeVisible();
  await expect(page.getByRole('button', { name: /^E OM-230/ })).toBeVisible();
});

test.describe('from empty', () => {
  test.use({ data: 'empty' });

  test('a bundle is previewed, brought in, and the same one again makes no doubles', async ({ page }) => {
    const bundle = await readFile(join(root, 'demo', 'bundle.json'));
    await go(page, '/heads');
    await dropFile(page, 'shop.json', bundle);
    const dialog = page.getByRole('dialog', { name: 'Import shop.json' });
    await expect(dialog.getByRole('row', { name: 'heads 12' })).toBeVisible();
    await dialog.getByRole('button', { name: 'Import' }).click();
    await expect(page.getByText('12 in the library')).toBeVisible();
    await dropFile(page, 'shop.json', bundle);
    await expect(dialog.getByText('All of it is here already.')).toBeVisible();
  });

  test('files in bad shape are said so and write nothing', async ({ page }) => {
    await go(page, '/heads');
    await expect(page.getByText('The library is empty')).toBeVisible();
    await dropFile(page, 'torn.json', '{"format": "alluv');
    await expect(page.getByText('torn.json is not well-formed JSON.')).toBeVisible();
    await dropFile(page, 'newer.json', '{"format":"alluvium-bundle","version":7}');
    const dialog = page.getByRole('dialog');
    await expect(
      dialog.getByText('This bundle is of version 7; this program reads version 1. Update the program.'),
    ).toBeVisible();
    await expect(dialog.getByRole('button', { name: 'Import' })).toBeDisabled();
    await page.keyboard.press('Escape');
    await dropFile(page, 'letter.csv', 'Dear customer,\nyour heads are done.\n');
    await expect(dialog.getByText('No row could be read.')).toBeVisible();
    await expect(
      dialog.getByText(/Line 1: “Dear customer” is neither a set-up line nor a column heading/),
    ).toBeVisible();
    await page.keyboard.press('Escape');
    await dropFile(page, 'photo.xlsx', 'not a workbook');
    await expect(page.getByText(/photo.xlsx cannot be read/)).toBeVisible();
    await page.reload();
    await expect(page.getByText('The library is empty')).toBeVisible();
  });

  test('a name full of HTML stays text', async ({ page }) => {
    await go(page, '/heads?new=1');
    await page.getByLabel('Name').fill('<b onclick=alert(1)>Bold</b>');
    await page.getByRole('button', { name: 'Add it and type its sheet' }).click();
    await expect(page.getByRole('heading', { name: '<b onclick=alert(1)>Bold</b>' })).toBeVisible();
  });

  test('empty screens say what to do first', async ({ page }) => {
    await go(page, '/compare');
    await expect(page.getByText('Say first which engine it is for')).toBeVisible();
    await go(page, '/match');
    await expect(page.getByText('Say first which engine it is for')).toBeVisible();
    await go(page, '/nowhere/at/all');
    await expect(page.getByText('There is nothing at this address')).toBeVisible();
    await go(page, '/heads/unknown');
    await expect(page.getByText('There is no such head.')).toBeVisible();
  });
});

test('everything is saved as one file; where its photos are too many, the way without them is offered', async ({
  page,
}) => {
  await go(page, '/heads');
  const save = () =>
    Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export everything' }).click()]);
  const [saved] = await save();
  const bundle = JSON.parse(await readFile(await saved.path(), 'utf8')) as { heads: unknown[]; surveys: unknown[] };
  expect([bundle.heads.length, bundle.surveys.length]).toEqual([12, 5]);
  const detail = 'The photos take 90 MB, more than one file carries (40 MB).';
  await page.route('**/api/bundle?photos=yes', (route) => route.fulfill({ status: 413, json: { detail } }));
  await page.getByRole('button', { name: 'Export everything' }).click();
  await expect(page.getByText(detail)).toBeVisible();
  const [without] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Without photos' }).click(),
  ]);
  expect(without.suggestedFilename()).toBe('alluvium.json');
});

test('keys, glossary and night theme are one key or press away', async ({ page }) => {
  await go(page, '/heads');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('g');
  await page.getByLabel('Find a word').fill('pinch');
  await expect(page.getByText('The narrow place of a port beside the pushrod.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Night theme' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
});

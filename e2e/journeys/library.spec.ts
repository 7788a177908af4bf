import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import axe from 'axe-core';
import { root } from '../server.js';
import { dropFile, expect, pick, test } from '../test.js';

test('heads are found, filtered and opened', async ({ page }) => {
  await page.goto('/heads');
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
  await page.goto('/heads/ottermoor-230');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText('OM-230 removed, with its sheets.')).toBeVisible();
  await expect(page.getByText('11 in the library')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('12 in the library')).toBeVisible();
  await expect(page.getByRole('button', { name: /^E OM-230/ })).toBeVisible();
});

test.describe('from empty', () => {
  test.use({ data: 'empty' });

  test('a bundle is previewed, brought in, and the same one again makes no doubles', async ({ page }) => {
    const bundle = await readFile(join(root, 'demo', 'bundle.json'));
    await page.goto('/heads');
    await dropFile(page, 'shop.json', bundle);
    const dialog = page.getByRole('dialog', { name: 'Import shop.json' });
    await expect(dialog.getByRole('row', { name: 'heads 12' })).toBeVisible();
    await dialog.getByRole('button', { name: 'Import' }).click();
    await expect(page.getByText('12 in the library')).toBeVisible();
    await dropFile(page, 'shop.json', bundle);
    await expect(dialog.getByText('All of it is here already.')).toBeVisible();
  });

  test('files in bad shape are said so and write nothing', async ({ page }) => {
    await page.goto('/heads');
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
    await page.goto('/heads?new=1');
    await page.getByLabel('Name').fill('<b onclick=alert(1)>Bold</b>');
    await page.getByRole('button', { name: 'Add it and type its sheet' }).click();
    await expect(page.getByRole('heading', { name: '<b onclick=alert(1)>Bold</b>' })).toBeVisible();
  });

  test('empty screens say what to do first', async ({ page }) => {
    await page.goto('/compare');
    await expect(page.getByText('Say first which engine it is for')).toBeVisible();
    await page.goto('/match');
    await expect(page.getByText('Say first which engine it is for')).toBeVisible();
    await page.goto('/nowhere/at/all');
    await expect(page.getByText('There is nothing at this address')).toBeVisible();
    await page.goto('/heads/unknown');
    await expect(page.getByText('There is no such head.')).toBeVisible();
  });
});

test('everything is saved as one file; where its photos are too many, the way without them is offered', async ({
  page,
}) => {
  await page.goto('/heads');
  const save = () =>
    Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save everything' }).click()]);
  const [saved] = await save();
  const bundle = JSON.parse(await readFile(await saved.path(), 'utf8')) as { heads: unknown[]; surveys: unknown[] };
  expect([bundle.heads.length, bundle.surveys.length]).toEqual([12, 5]);
  const detail = 'The photos take 90 MB, more than one file carries (40 MB).';
  await page.route('**/api/bundle?photos=yes', (route) => route.fulfill({ status: 413, json: { detail } }));
  await page.getByRole('button', { name: 'Save everything' }).click();
  await expect(page.getByText(detail)).toBeVisible();
  const [without] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Without photos' }).click(),
  ]);
  expect(without.suggestedFilename()).toBe('alluvium.json');
});

test('keys, glossary and night theme are one key or press away', async ({ page }) => {
  await page.goto('/heads');
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

/** Every view, looked at in one go for each theme. */
const VIEWS = [
  '/',
  '/target?build=slate-six',
  '/target?new=1',
  '/heads',
  '/heads?new=1',
  '/heads/corrow-417?stage=417-received',
  '/heads/corrow-417?stage=417-received&sheet=417-received-p3',
  '/arrival/longreach-212?stage=longreach-received',
  '/arrival/corrow-417-b?pane=findings',
  '/arrival/ottermoor-230',
  '/arrival/pellam-p6/defects',
  '/measure/corrow-417?stage=417-received',
  '/measure/corrow-417?stage=417-received&pane=sections',
  '/measure/corrow-417?stage=417-received&pane=shrouding',
  '/measure/pellam-p6?pane=chamber',
  '/bench/pellam-p6',
  '/bench/pellam-p6?pane=checks',
  '/bench/pellam-p6?pane=eye',
  '/bench/pellam-p6?pane=instruments',
  '/bench/session/session-p6-open?pane=plan',
  '/bench/session/session-p6-open?pane=set-up',
  '/bench/session/session-p6-open?pane=run',
  '/bench/session/session-417-pinch?pane=velocity',
  '/bench/session/session-417-received?pane=sheet',
  '/compare',
  '/compare?side=exhaust&show=ratio',
  '/claims/ottermoor-230',
  '/claims/pellam-p6?pane=sources&side=exhaust',
  '/claims/pellam-p6?pane=library',
  '/claims/pellam-p6?stage=p6-received',
  '/claims/corrow-522?pane=same&other=corrow-417',
  '/claims/corrow-522?pane=questions',
  '/match',
  '/simulate?build=tarrow-three',
  '/change/corrow-417?pane=history',
  '/change/corrow-417?pane=ledger',
  '/change/corrow-417?pane=loss',
  '/change/corrow-417?pane=next',
  '/change/corrow-417?pane=work',
  '/change/corrow-417?pane=machining',
  '/change/corrow-417?pane=specimens',
  '/dyno?build=slate-six',
  '/dyno?build=slate-six&pane=order&pull=slate-swap-4',
  '/dyno?build=slate-six&pane=forecasts',
  '/practice',
  '/decide?build=slate-six',
  '/decide?build=slate-six&way=slate-rework',
  '/decide/report?build=slate-six&pages=workshop',
  '/guide?chapter=bench',
  '/settings',
];

test('no view has a serious accessibility fault, by day or by night', async ({ page }) => {
  test.setTimeout(240_000);
  await page.addInitScript(() => localStorage.setItem('alluvium.theme', 'light'));
  const faults: Record<string, string[]> = {};
  /** Serious faults of the page as it stands; at night only the colours differ. */
  const look = (night: boolean) =>
    page.evaluate(async (colours) => {
      if (colours) {
        // No colour is caught on its way to the next.
        const still = new CSSStyleSheet();
        still.replaceSync('* { transition: none !important; }');
        document.adoptedStyleSheets = [...document.adoptedStyleSheets, still];
        document.documentElement.dataset.theme = 'night';
      }
      const run = (window as unknown as { axe: typeof axe }).axe.run;
      const { violations } = await run(document, {
        runOnly: colours ? { type: 'rule', values: ['color-contrast'] } : ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'],
        resultTypes: ['violations'],
      });
      return violations
        .filter((v) => v.impact === 'serious' || v.impact === 'critical')
        .map(
          (v) =>
            `${v.id}: ${v.nodes
              .slice(0, 3)
              .map((n) => n.html.slice(0, 160))
              .join(' | ')}`,
        );
    }, night);
  for (const path of VIEWS) {
    await page.goto(path);
    await page.waitForLoadState('networkidle');
    await page.locator('main :is(section, article)').first().waitFor();
    // Evaluated through the debugger, which the page's policy does not bind.
    await page.evaluate(axe.source);
    // At night only the colours differ, and they come from one palette: a third of the views, all of them in the proof.
    const day = await look(false);
    const night = process.env.EVERY_NIGHT || VIEWS.indexOf(path) % 3 === 0 ? await look(true) : [];
    const found = [...day, ...night.map((f) => `night, ${f}`)];
    if (found.length > 0) faults[path] = found;
  }
  expect(faults).toEqual({});
});

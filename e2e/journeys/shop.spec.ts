import { readFileSync } from 'node:fs';
import type { Locator } from '@playwright/test';
import { chosen, expect, go, paste, pick, test } from '../test.js';

test('the shop at a glance: every engine with its heads in words, what waits, what is not saved; each leads to its place', async ({
  page,
}) => {
  await go(page, '/');
  await expect(page.getByRole('heading', { name: 'The shop' })).toBeVisible();
  const slate = page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: 'Corrow Slate Six' }) });
  await expect(slate.getByText(/290\shp at 5600\srpm/)).toBeVisible();
  await expect(slate.getByText(/^carries/).first()).toBeVisible();
  await expect(slate.getByText(/^falls short/)).toBeVisible();

  // What is typed and not saved is listed, and leads back to where it was typed.
  await go(page, '/heads/corrow-417?stage=417-received&sheet=new');
  await page.getByLabel('Title of the sheet').fill('Half typed');
  await page.getByRole('link', { name: /^Alluvium/ }).click();
  const drafts = page.getByRole('region', { name: 'Not saved' });
  await drafts.getByRole('link', { name: 'Half typed' }).click();
  await expect(page.getByLabel('Title of the sheet')).toHaveValue('Half typed');
  await page.getByRole('link', { name: /^Alluvium/ }).click();
  await drafts.getByRole('button', { name: 'Discard Half typed' }).click();
  await page.locator('.el-popconfirm').getByRole('button', { name: 'Throw it away' }).click();
  await expect(drafts).toBeHidden();

  // The head looked at a moment ago has not changed since.
  const changed = page.getByRole('region', { name: 'Changed last' });
  await expect(
    changed.getByRole('listitem').filter({ has: page.getByRole('link', { name: '417 early', exact: true }) }),
  ).not.toContainText('since you looked');
  await page.getByRole('region', { name: 'Heads that wait' }).getByRole('link', { name: '522 late' }).click();
  await expect(page).toHaveURL(/\/arrival\/corrow-522/);
});

test('an engine is copied with its heads, put into the archive, and both are undone', async ({ page }) => {
  await go(page, '/');
  await page.getByRole('button', { name: 'More for Tarrow Three' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  const copy = page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: 'Tarrow Three 2' }) });
  await expect(copy.getByRole('link', { name: 'T3 helical' })).toBeVisible();
  await page.getByRole('button', { name: 'More for Tarrow Three', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Archive' }).click();
  await expect(page.getByRole('heading', { name: 'Tarrow Three', exact: true })).toBeHidden();
  await page.getByText('archive (1)').click();
  await expect(page.getByRole('heading', { name: 'Tarrow Three', exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('archive (1)')).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(copy).toBeHidden();
});

test('heads are tagged, found by their tag, archived and brought back', async ({ page }) => {
  await go(page, '/heads/longreach-212');
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await page.getByLabel('Tags').fill('in stock, street');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/in stock · street/)).toBeVisible();
  await go(page, '/heads?tag=in+stock');
  await expect(page.getByText('1 found')).toBeVisible();
  await page.getByRole('link', { name: 'Longreach 212' }).first().click();
  await page.getByRole('button', { name: 'Archive' }).click();
  await go(page, '/heads');
  await expect(page.getByText('11 in the library')).toBeVisible();
  await go(page, '/heads?archived=only');
  await page.getByRole('link', { name: 'Longreach 212' }).first().click();
  await page.getByRole('button', { name: 'Restore from the archive' }).click();
  await expect(page.getByText('Longreach 212 is back in the library.')).toBeVisible();
});

test.describe('an empty shop', () => {
  test.use({ data: 'empty' });
  test('offers an engine, a head, a file, and files to try it with', async ({ page }) => {
    await go(page, '/');
    await expect(page.getByText('Nothing is here yet. Begin with what you have.')).toBeVisible();
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'a whole shop: engines, heads, sheets' }).click(),
    ]);
    await page
      .getByRole('button', { name: 'A file', exact: true })
      .locator('input')
      .setInputFiles(
        await saved.path().then((path) => ({
          name: 'shop.json',
          mimeType: 'application/json',
          buffer: readFileSync(path),
        })),
      );
    await page
      .getByRole('button', { name: /^Import/ })
      .last()
      .click();
    await expect(page.getByRole('heading', { name: 'Tarrow Three' })).toBeVisible();
  });
});

test('one field finds heads, engines, pages, words and acts, by keyboard', async ({ page }) => {
  await go(page, '/heads');
  const find = async (text: string) => {
    await page.keyboard.press('Control+k');
    await expect(page.getByLabel('Find anything')).toBeFocused();
    await page.keyboard.type(text);
  };
  await find('longreach');
  await expect(page.getByRole('option', { name: /^Longreach 212 head/ })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/heads\/longreach-212/);
  await find('vennick five');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/target\?build=vennick-five/);
  await find('short turn');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Glossary' }).getByText('Short turn', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await find('night');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
  await find('no such thing at all');
  await expect(page.getByText('No matches')).toBeVisible();
});

test('the guide opens at the page one is on, and is searched; settings stay', async ({ page }) => {
  await go(page, '/match?build=slate-six');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.keyboard.press('h');
  await expect(page.getByRole('heading', { name: 'Match', level: 2 })).toBeVisible();
  await page.getByLabel('Find in the guide').fill('pitot');
  await expect(page.getByRole('navigation', { name: 'Chapters of the guide' }).getByRole('link')).not.toHaveCount(0);
  await expect(page.getByRole('heading', { name: 'Match', level: 2 })).toBeHidden();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Settings' }).click();
  await pick(page.getByLabel('Text size'), 'larger');
  await pick(page.getByLabel('Units of figures'), 'millimetres, L/s, kilowatts');
  await pick(page.getByLabel('Numbers'), '12.000,5');
  await pick(page.getByLabel('Dates'), '31 May 2026');
  await page.getByLabel('Currency of a new engine').fill('EUR');
  await page.reload();
  await expect(chosen(page.getByLabel('Text size'))).toHaveText('larger');
  await expect(page.locator('html')).toHaveCSS('zoom', '1.12');
  await expect(page.getByText(/^Alluvium 0\./)).toBeVisible();
  // Figures and days are written so everywhere; what was typed is left as it was typed, and both signs are read.
  await go(page, '/target');
  await expect(page.getByLabel('Due', { exact: true })).toHaveValue(/^\d+ [A-Z][a-z]{2} 20\d\d$/);
  await go(page, '/compare?build=slate-six');
  await expect(page.getByRole('table').first()).toContainText(/\d,\d/);
  await expect(page.getByRole('table').first()).not.toContainText(/\d\.\d/);
  await go(page, '/target?new=1');
  await page.getByLabel('Bore').fill('98,5 mm');
  await expect(page.getByLabel('Bore')).toHaveValue('98,5 mm');
});

test.describe('a newcomer', () => {
  test.use({ data: 'empty' });
  test('reaches the first verdict in fewer than eight clicks', async ({ page }) => {
    let clicks = 0;
    const click = async (what: Locator) => {
      clicks++;
      await what.click();
    };
    await go(page, '/');
    await click(page.getByRole('link', { name: 'An engine' }));
    const type = async (label: string, text: string) => {
      const field = page.getByLabel(label, { exact: true });
      await field.focus();
      await field.fill(text);
    };
    await type('Name', 'Kestrel Four');
    await type('Bore', '3.5');
    await type('Stroke', '3.25');
    await type('Cylinders', '4');
    await type('Power', '160');
    await type('at', '6000');
    await click(page.getByRole('button', { name: 'Save this build' }));
    await click(page.getByRole('link', { name: 'Add the first head' }));
    await expect(page.getByRole('heading', { name: 'Heads', exact: true })).toBeVisible();
    await type('Name', 'Iron one');
    await type('Intake valve', '1.72');
    await click(page.getByRole('button', { name: 'Add it and type its sheet' }));
    await page.getByLabel('Row 1, lift').focus();
    await paste(page, '.100 48 38\n.200 92 72\n.300 124 95\n.400 149 108\n.500 156 113');
    await click(page.getByRole('button', { name: 'Save the sheet' }));
    await click(page.getByRole('button', { name: 'Add to the lineup' }));
    await click(page.getByRole('link', { name: 'Match' }).first());
    await expect(page.getByText(/carries|falls short|can’t be told|can't be told|probably/).first()).toBeVisible();
    expect(clicks).toBeLessThan(8);
  });
});

test('several heads are chosen, tagged and archived at once, and undone as one', async ({ page }) => {
  await go(page, '/heads');
  for (const name of ['OM-230', 'OM-4V']) await page.locator(`label[aria-label="Choose ${name}"]`).click();
  const several = page.getByRole('group', { name: 'With the heads chosen' });
  await expect(several).toContainText('2 heads');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    several.getByRole('button', { name: 'Export' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('2 heads.json');
  const bundle = JSON.parse(readFileSync(await file.path(), 'utf8')) as { heads: { name: string }[] };
  expect(bundle.heads.map((h) => h.name).sort()).toEqual(['OM-230', 'OM-4V']);
  await several.getByLabel('Tag').fill('Ottermoor shelf');
  await several.getByRole('button', { name: 'Add the tag' }).click();
  await expect(several).toBeHidden();
  await pick(page.getByLabel('Tag'), 'Ottermoor shelf (2)');
  await expect(page.getByText('2 found')).toBeVisible();
  await page.locator('label[aria-label="Choose all on this page"]').click();
  await several.getByRole('button', { name: 'Archive' }).click();
  await expect(page.getByText('0 found')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('2 found')).toBeVisible();
});

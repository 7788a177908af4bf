import { readFileSync } from 'node:fs';
import { expect, test } from '../test.js';

test('the shop at a glance: every engine with its heads in words, what waits, what is not saved; each leads to its place', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'The shop' })).toBeVisible();
  const slate = page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: 'Corrow Slate Six' }) });
  await expect(slate.getByText(/290\shp at 5600\srpm/)).toBeVisible();
  await expect(slate.getByText(/^carries/).first()).toBeVisible();
  await expect(slate.getByText(/^falls short/)).toBeVisible();

  // What is typed and not saved is listed, and leads back to where it was typed.
  await page.goto('/heads/corrow-417?stage=417-received&sheet=new');
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
  await expect(changed.getByRole('listitem').filter({ hasText: '417 early 20' })).not.toContainText('since you looked');
  await page.getByRole('region', { name: 'Heads that wait' }).getByRole('link', { name: '522 late' }).click();
  await expect(page).toHaveURL(/\/arrival\/corrow-522/);
});

test('an engine is copied with its heads, put into the archive, and both are undone', async ({ page }) => {
  await page.goto('/');
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
  await page.goto('/heads/longreach-212');
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await page.getByLabel('Tags').fill('in stock, street');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/in stock · street/)).toBeVisible();
  await page.goto('/heads?tag=in+stock');
  await expect(page.getByText('1 found')).toBeVisible();
  await page.getByRole('link', { name: 'Longreach 212' }).first().click();
  await page.getByRole('button', { name: 'Archive' }).click();
  await page.goto('/heads');
  await expect(page.getByText('11 in the library')).toBeVisible();
  await page.goto('/heads?archived=only');
  await page.getByRole('link', { name: 'Longreach 212' }).first().click();
  await page.getByRole('button', { name: 'Take from the archive' }).click();
  await expect(page.getByText('Longreach 212 is back in the library.')).toBeVisible();
});

test.describe('an empty shop', () => {
  test.use({ data: 'empty' });
  test('offers an engine, a head, a file, and files to try it with', async ({ page }) => {
    await page.goto('/');
    await expect(page.getByText('Nothing is here yet. Begin with what you have.')).toBeVisible();
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'a whole shop: engines, heads, sheets' }).click(),
    ]);
    await page.getByLabel('A file', { exact: true }).setInputFiles(
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

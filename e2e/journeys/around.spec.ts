/** Looking around in the demo from an empty shop, with nothing of either getting into the other. */
import { test as base, expect } from '@playwright/test';
import { startCopy } from '../server.js';

const test = base.extend<{ server: { url: string } }>({
  server: async ({}, use) => {
    const server = await startCopy('empty');
    await use(server);
    await server.stop();
  },
});

test('the demo is looked around in from an empty shop, kept apart, and left again', async ({
  page,
  server,
  context,
}) => {
  test.setTimeout(180_000);
  await page.goto(`${server.url}/heads?new=1`);
  await page.getByLabel('Name').fill('My own head');
  await page.goto(server.url);
  await page.getByRole('button', { name: 'Look around' }).click();
  await expect(page.getByText('This is the demo')).toBeVisible({ timeout: 90_000 });
  await expect(page.getByRole('link', { name: 'Slate Six' }).first()).toBeVisible();
  // What was being typed in the own shop is not offered in the demo.
  await page.goto(`${server.url}/heads?new=1`);
  await expect(page.getByLabel('Name')).toHaveValue('');
  await page.getByLabel('Name').fill('Head of the demo');
  await page.getByRole('button', { name: 'Add it and type its sheet' }).click();
  await expect(page.getByText('Head of the demo').first()).toBeVisible();

  // Another browser, that does not look around, sees the shop's own library.
  const other = await (await context.browser()!.newContext()).request.get(`${server.url}/api/head`);
  expect(await other.text()).not.toContain('Head of the demo');

  await page.getByRole('button', { name: 'Leave the demo' }).click();
  await expect(page.getByText('Nothing is here yet')).toBeVisible();
  await expect(page.getByText('This is the demo')).toBeHidden();
  await page.goto(`${server.url}/heads?new=1`);
  await expect(page.getByLabel('Name')).toHaveValue('My own head');
});

test('a page opened while the machine does not answer says so, and what is kept', async ({ page }) => {
  const server = await startCopy('empty');
  await page.goto(server.url);
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await server.stop();
  await page.goto(`${server.url}/heads`);
  await expect(page.getByRole('heading', { name: 'The shop’s machine does not answer' })).toBeVisible();
  await expect(page.getByText('is kept in this browser')).toBeVisible();
});

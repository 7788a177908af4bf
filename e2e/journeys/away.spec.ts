import { cpSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, type Page } from '@playwright/test';
import { choose, expect, paste, step } from '../test.js';
import { startServer, templateFolder, type RunningServer } from '../server.js';

/** A server that a journey stops and starts again on the same folder and port. */
interface Shop {
  readonly url: string;
  readonly stop: () => Promise<void>;
  readonly start: () => Promise<void>;
}
const test = base.extend<{ shop: Shop }>({
  shop: async ({}, use) => {
    const folder = await mkdtemp(join(tmpdir(), 'alluvium-away-'));
    cpSync(templateFolder('demo'), folder, { recursive: true });
    let server: RunningServer | undefined = await startServer(folder);
    const { url } = server;
    const port = new URL(url).port;
    await use({
      url,
      stop: async () => {
        await server?.stop('SIGKILL');
        server = undefined;
      },
      start: async () => {
        server = await startServer(folder, { port: Number(port) });
      },
    });
    await server?.stop('SIGKILL');
    await rm(folder, { recursive: true, force: true });
  },
});

const AWAY = 'The server does not answer';
const back = async (page: Page, shop: Shop) => {
  await shop.start();
  await expect(page.getByText(AWAY)).toHaveCount(0, { timeout: 20_000 });
};

test.describe.configure({ timeout: 150_000 });

test('the server stops at each step of the job and starts again: nothing is lost, nothing silent, nothing called empty', async ({
  page,
  shop,
}) => {
  // A sheet is typed, and saved while the server is away.
  await page.goto(`${shop.url}/heads/vennick-v5?stage=vennick-v5-received&sheet=new`);
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '100\t58\t44\n200\t109\t83\n300\t149\t110');
  await page.getByLabel('Intake port', { exact: true }).fill('7');
  await page.getByLabel('Title of the sheet').fill('Kept through the outage');
  await shop.stop();
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByRole('alert').filter({ hasText: AWAY }).first()).toBeVisible();
  await expect(page.getByLabel('Row 3, intake', { exact: true })).toHaveValue('149');
  // A page not visited yet says why it does not open, and opens by itself.
  await step(page, 'Match').click();
  await expect(page.getByText('“Match” cannot be opened while the server does not answer')).toBeVisible();
  await back(page, shop);
  await expect(page.getByRole('heading', { name: 'Match' })).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText('No build yet')).toHaveCount(0);
  // What was typed is there, and saving it goes through once.
  await page.goto(`${shop.url}/heads/vennick-v5?stage=vennick-v5-received&sheet=new`);
  await expect(page.getByText('Kept from your last visit')).toBeVisible();
  await expect(page.getByLabel('Intake port', { exact: true })).toHaveValue('7');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText('Kept through the outage saved.')).toBeVisible();

  // A removal that fails says so, and what was to go is still there.
  await page.goto(`${shop.url}/heads/corrow-417?stage=417-received`);
  const out = page.getByRole('button', { name: /^Remove throat/ }).first();
  await out.waitFor();
  await shop.stop();
  await out.click();
  await expect(page.getByRole('alert').filter({ hasText: AWAY }).first()).toBeVisible();
  await expect(out).toBeVisible();
  await page.getByRole('button', { name: 'Dismiss' }).click();
  await back(page, shop);

  // A page opened while the server is away fills when it is back, without a press.
  await page.goto(`${shop.url}/compare?build=slate-six`);
  await expect(page.getByRole('heading', { name: /.+/ }).first()).toBeVisible();
  await shop.stop();
  await step(page, 'Heads').click();
  await expect(page.getByText(AWAY).first()).toBeVisible();
  await expect(page.getByText(/No matches|The library is empty/)).toHaveCount(0);
  await back(page, shop);
  await expect(page.getByText(/\d+ in the library/)).toBeVisible({ timeout: 20_000 });
});

test('at every step of the job a page opened while the server is away says so, and fills when it is back', async ({
  page,
  shop,
}) => {
  const steps: readonly [from: string, to: string, there: RegExp][] = [
    ['Match', 'Target', /Corrow Slate Six/],
    ['Target', 'Arrival', /checklist|look/],
    ['Arrival', 'Measure', /choke|river/i],
    ['Measure', 'Bench', /Start a session/],
    ['Bench', 'Claims', /Note a claim/],
    ['Claims', 'Compare', /leads|told apart/],
    ['Compare', 'Dyno', /Save the pull/],
  ];
  // Every second one here, each of them in the proof: a start takes its time.
  const walked = process.env.EVERY_VIEW ? steps : steps.filter((_, i) => i % 2 === 0);
  await page.goto(`${shop.url}/match?build=slate-six`);
  await page.locator('article').first().waitFor();
  for (const [, to, there] of walked) {
    await shop.stop();
    await step(page, to).click();
    await expect(page.getByText(AWAY).first(), to).toBeVisible();
    await expect(
      page.getByText(/No build yet|No head is in hand|Nothing to compare yet|No pull of this engine|library is empty/),
      to,
    ).toHaveCount(0);
    await back(page, shop);
    await expect(page.locator('#page').getByText(there).first(), to).toBeVisible({ timeout: 20_000 });
  }
});

test('a second tab shows what the first one saved, and what is being typed there is left alone', async ({
  page,
  shop,
  context,
}) => {
  const sheet = `${shop.url}/heads/corrow-522?stage=522-received&sheet=522-received-p3`;
  const other = await context.newPage();
  await page.goto(`${shop.url}/heads/corrow-522`);
  await other.goto(sheet);
  await other.getByLabel('Title of the sheet').waitFor();
  await page
    .getByRole('link', { name: /port 3/ })
    .first()
    .waitFor();
  // Somebody types in one tab while the other saves something else of the same head.
  await other.getByLabel('Note', { exact: true }).first().fill('half a thought');
  await page.getByLabel('Name of the next stage').fill('third cut');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('Stage “third cut” added.')).toBeVisible();
  await expect(other.getByRole('link', { name: 'third cut' })).toBeVisible();
  await expect(other.getByLabel('Note', { exact: true }).first()).toHaveValue('half a thought');
  // An undo in one tab goes through to the other.
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(other.getByRole('link', { name: 'third cut' })).toHaveCount(0);
});

test('a new sheet after a saved one begins empty, and a reload keeps it so', async ({ page, shop }) => {
  await page.goto(`${shop.url}/heads/vennick-v5?stage=vennick-v5-received&sheet=new`);
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '100\t58\t44\n200\t109\t83\n300\t149\t110');
  await page.getByLabel('Title of the sheet').fill('Port 1');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText('Port 1 saved.')).toBeVisible();
  await page.getByRole('link', { name: '+ new sheet' }).click();
  await expect(page.getByLabel('Row 1, lift')).toHaveValue('');
  await expect(page.getByLabel('Title of the sheet')).toHaveValue('');
  await page.reload();
  await expect(page.getByLabel('Row 1, lift')).toHaveValue('');
  // A shorter table pasted over a longer one replaces it.
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '100\t61\t45\n200\t112\t84\n300\t151\t111\n400\t170\t120');
  await page.getByLabel('Row 1, lift').focus();
  await paste(page, '100\t63\t46\n200\t114\t85');
  await expect(page.getByText('2 further rows are gone')).toBeVisible();
  await expect(page.getByLabel('Row 2, intake', { exact: true })).toHaveValue('114');
  await expect(page.getByLabel('Row 3, intake', { exact: true })).toHaveValue('');
});

test('the frame stays where it is, and paper is light', async ({ page, shop }) => {
  for (const path of [
    '/heads/corrow-417?stage=417-received&sheet=417-received-p3',
    '/measure/corrow-417?pane=sections',
    '/arrival/corrow-417',
  ]) {
    await page.goto(shop.url + path);
    await page.locator('#page h1, #page h2, #page form').first().waitFor();
    const scroll = await page.evaluate(
      () => document.scrollingElement!.scrollHeight - document.scrollingElement!.clientHeight,
    );
    expect(scroll, path).toBeLessThanOrEqual(0);
  }
  await page.evaluate(() => localStorage.setItem('alluvium.theme', 'night'));
  await page.goto(`${shop.url}/match?build=slate-six`);
  await page.locator('article').first().waitFor();
  const ink = () => page.evaluate(() => getComputedStyle(document.querySelector('article')!).color);
  const night = await ink();
  await page.emulateMedia({ media: 'print' });
  const printed = await ink();
  expect(night).not.toBe(printed);
  const [r, g, b] = printed.match(/\d+/g)!.map(Number);
  expect(Math.max(r!, g!, b!)).toBeLessThan(80);
});

test('opening a head puts it in hand: the bench begins its session on that one', async ({ page, shop }) => {
  await page.goto(`${shop.url}/heads/pellam-p6`);
  await expect(page.getByRole('heading', { name: 'P6-205' })).toBeVisible();
  await step(page, 'Bench').click();
  await expect(page.locator('.hand .head')).toContainText('P6-205');
  await page.goto(`${shop.url}/heads/ottermoor-230`);
  await page.locator('#page').getByRole('link', { name: 'Bench', exact: true }).click();
  await expect(page.locator('.hand .head')).toContainText('OM-230');
  await page.goto(`${shop.url}/heads/no-such-head`);
  await expect(page.getByText('There is no such head.')).toBeVisible({ timeout: 2_000 });
});

test('a wrong full scale is corrected across the bench, listed first, undone as one', async ({ page, shop }) => {
  await page.goto(`${shop.url}/bench?pane=checks`);
  const form = page.getByRole('heading', { name: 'Correct a range' }).locator('xpath=..');
  await choose(page, 'Range as noted', /^Range 4, intake/);
  await form.getByLabel('Right full scale').fill('301.5 cfm');
  await expect(form.getByRole('table')).toContainText('417 early');
  await form.getByRole('button', { name: /^Correct \d+/ }).click();
  await expect(page.getByText(/^Corrected in \d+ sheets/)).toBeVisible();
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undone: Corrected in/)).toBeVisible();
});

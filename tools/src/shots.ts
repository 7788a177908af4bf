/** `npm run shots`: one current picture of each main view, from the demo data, in docs/screenshots. */
import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, type Page } from '@playwright/test';

const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
const out = join(root, 'docs', 'screenshots');

const VIEWS: readonly [name: string, path: string, prepare?: (page: Page) => Promise<void>][] = [
  ['shop', '/', async (page) => page.getByText(/^falls short/).waitFor()],
  ['target', '/target?build=slate-six'],
  ['heads', '/heads'],
  ['sheet', '/heads/corrow-417?stage=417-received&sheet=417-received-p3'],
  [
    'arrival',
    '/arrival/longreach-212',
    async (page) => page.getByRole('button', { name: /exhaust seat, cylinder 4/ }).click(),
  ],
  ['measure', '/measure/corrow-417?stage=417-received'],
  ['change', '/change/corrow-417?build=slate-six'],
  ['compare', '/compare?build=slate-six'],
  ['claims', '/claims/ottermoor-230'],
  [
    'claims-sources',
    '/claims/ottermoor-230?pane=sources',
    async (page) => page.getByText('What to test next').waitFor(),
  ],
  ['match', '/match?build=slate-six'],
  [
    'working',
    '/match?build=slate-six',
    async (page) => page.getByRole('button', { name: /^A 417 early: flow/ }).click(),
  ],
  [
    'simulate',
    '/simulate?build=slate-six',
    async (page) => {
      await page.getByRole('img', { name: /^Power over engine speed/ }).waitFor({ timeout: 120_000 });
      await page.locator('.progress').getByRole('button').waitFor({ state: 'detached', timeout: 300_000 });
    },
  ],
  ['decide', '/decide?build=slate-six'],
  ['report', '/decide/report?build=slate-six', async (page) => page.getByText('What we propose').waitFor()],
  ['dyno', '/dyno?build=slate-six', async (page) => page.getByRole('button', { name: /^417, first pull/ }).click()],
  [
    'import',
    '/heads',
    async (page) => {
      // Run as text: the page does not know this runner's helpers.
      await page.evaluate(`(() => {
        const data = new DataTransfer();
        data.items.add(new File(['source;Quayside Flow Room\\nintakePort;3\\ndepression;28 inH2O\\nlift;intake;exhaust\\n2,5;58,2;44,1\\n5;112,4;85,3\\n7,5;151,9;112,6\\n10;174,3;128,2\\n'], 'port 3.csv'));
        document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
      })()`);
      await page.getByRole('dialog').waitFor();
    },
  ],
  ['bench-setup', '/bench/session/session-p6-open?pane=set-up'],
  [
    'bench-run',
    '/bench/session/session-p6-open?pane=run',
    async (page) => {
      await page.getByText('Put port 1 intake on the bench.').waitFor();
      await page.keyboard.press('Space');
      await page.getByTestId('state').getByText('steady').waitFor({ timeout: 20_000 });
    },
  ],
];

await mkdir(out, { recursive: true });
const folder = await mkdtemp(join(tmpdir(), 'alluvium-shots-'));
const server = spawn(process.execPath, [join(root, 'server', 'dist', 'main.js'), '--demo'], {
  env: { ...process.env, PORT: '0', ALLUVIUM_DATA: folder },
  stdio: ['ignore', 'pipe', 'inherit'],
});
process.on('exit', () => server.kill('SIGKILL'));
const url = await new Promise<string>((done) =>
  server.stdout.on('data', (c: Buffer) => {
    const match = /http:\S+/.exec(c.toString());
    if (match) done(match[0]);
  }),
);
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM_PATH!,
  args: ['--no-sandbox', '--disable-gpu'],
});
const wanted = process.argv.slice(2);
for (const [name, path, prepare] of VIEWS) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(url + path);
  await page.waitForLoadState('networkidle');
  await prepare?.(page);
  await page.waitForTimeout(500);
  await page.screenshot({ path: join(out, `${name}.png`) });
  await page.close();
}
if (wanted.length === 0 || wanted.includes('report')) {
  const asked = { pages: 'workshop', workings: true, system: 'inch', date: '2026-05-31' };
  const answer = await fetch(`${url}/api/build/slate-six/report`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(asked),
  });
  await writeFile(join(root, 'docs', 'sample-report.pdf'), new Uint8Array(await answer.arrayBuffer()));
}
await browser.close();
// It may be writing a backup: the folder goes when it has ended.
if (server.exitCode === null && server.signalCode === null) {
  server.kill('SIGINT');
  await new Promise((done) => server.once('exit', done));
}
await rm(folder, { recursive: true, force: true });

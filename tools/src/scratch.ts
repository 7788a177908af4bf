import { spawn } from 'node:child_process';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
const folder = await mkdtemp(join(tmpdir(), 'alluvium-shots-'));
const server = spawn(process.execPath, ['server/dist/main.js', '--demo'], {
  env: { ...process.env, PORT: '0', ALLUVIUM_DATA: folder, ALLUVIUM_BACKUPS: 'none' },
  stdio: ['ignore', 'pipe', 'inherit'],
});
const url = await new Promise<string>((done) =>
  server.stdout.on('data', (c: Buffer) => {
    const m = /http:\S+/.exec(c.toString());
    if (m) done(m[0]);
  }),
);
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text()));
page.on('pageerror', (e) => console.log('PAGEERROR', e.message));
const shot = async (n: string, full = false) => {
  await page.waitForTimeout(500);
  await page.screenshot({ path: `/tmp/s-${n}.png`, fullPage: full });
};
await page.goto(url + '/match?build=slate-six');
await page.waitForLoadState('networkidle');
await shot('match');
await page.evaluate(() => document.querySelector('main')?.scrollTo(0, 900));
await page.mouse.move(400, 600);
await page.mouse.wheel(0, 900);
await shot('match2');
await page
  .getByRole('button', { name: /power the intake flow could carry/ })
  .nth(2)
  .click();
await shot('working');
await page.keyboard.press('Escape');
await page.getByRole('button', { name: 'Keep this verdict' }).click();
await page.waitForTimeout(1500);
await page
  .getByRole('button', { name: /^2026-/ })
  .first()
  .click();
await shot('kept');
await page.keyboard.press('Escape');
await page.getByRole('button', { name: 'Assumptions' }).click();
await shot('assume');
await browser.close();
server.kill();
process.exit(0);

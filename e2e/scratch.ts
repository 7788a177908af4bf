import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS, copyOf, startServer } from './server.js';
import templates from './templates.js';
await templates();
const paths = process.argv.slice(2);
const folder = await copyOf('demo');
const server = await startServer(folder);
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: CHROMIUM_ARGS });
const page = await (await browser.newContext({ viewport: { width: Number(process.env.W ?? 1280), height: Number(process.env.H ?? 800) } })).newPage();
page.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
page.on('pageerror', (e) => console.log('pageerror', e.message));
for (const [i, p] of paths.entries()) {
  await page.goto(server.url + p);
  await page.waitForLoadState('networkidle');
  await page.waitForTimeout(2500);
  await page.screenshot({ path: `/tmp/shot${i}.png` });
}
await browser.close();
await server.stop();

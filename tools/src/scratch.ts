import { chromium } from '@playwright/test';
const [, , base, ...jobs] = process.argv;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
for (const job of jobs) {
  const [path, out, w = '1280'] = job.split('@');
  const p = await b.newPage({ viewport: { width: Number(w), height: 800 } });
  p.on('pageerror', (e) => console.log('ERR', e.message));
  await p.goto(base + path!);
  await p.waitForTimeout(2500);
  await p.screenshot({ path: out });
  await p.close();
}
await b.close();

import { chromium } from 'playwright';
const [, , base, ...steps] = process.argv;
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell' });
const page = await browser.newPage({
  viewport: { width: Number(process.env.W ?? 1280), height: Number(process.env.H ?? 800) },
});
page.on('pageerror', (e) => console.log('PAGE ERROR', e.message));
page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text()));
for (const s of steps) {
  const [act, ...rest] = s.split('=');
  const arg = rest.join('=');
  if (act === 'go') await page.goto(base + arg);
  if (act === 'wait') await page.waitForTimeout(Number(arg));
  if (act === 'click')
    await page
      .getByRole('button', { name: new RegExp(arg) })
      .first()
      .click();
  if (act === 'text') await page.getByText(new RegExp(arg)).first().click();
  if (act === 'see') await page.getByText(new RegExp(arg)).first().waitFor({ timeout: 60000 });
  if (act === 'scroll') await page.getByText(new RegExp(arg)).first().scrollIntoViewIfNeeded();
  if (act === 'shot') await page.screenshot({ path: arg });
  if (act === 'full') await page.screenshot({ path: arg, fullPage: true });
}
await browser.close();

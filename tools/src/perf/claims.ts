import type { Page } from '@playwright/test';

const LIFTS = Array.from({ length: 12 }, (_, i) => `${((i + 1) * 0.05).toFixed(3).replace(/^0/, '')} in`);

/** A made-up library for measuring only: each head measured once on our bench and claimed by two of twenty makers. */
export function claimedBundle(from: number, heads: number) {
  const flow = (i: number, k: number, times: number) =>
    `${(times * 230 * (1 - Math.exp(-(k + 1) / 4)) * (1 + (i % 17) / 100)).toFixed(1)} cfm`;
  const rows = (i: number, times: number) =>
    LIFTS.map((lift, k) => ({
      lift,
      intake: { pulls: [flow(i, k, times)] },
      exhaust: { pulls: [flow(i, k, times * 0.74)] },
    }));
  const ids = Array.from({ length: heads }, (_, i) => from + i);
  const size = (i: number, side: string, value: string) => ({
    id: `c${i}-${side}`,
    stageId: `c${i}-s`,
    item: 'valve diameter',
    side,
    value,
  });
  return {
    format: 'alluvium-bundle',
    version: 1,
    sources: [
      { id: 'bench', name: 'Bench 1', kind: 'own bench' },
      ...Array.from({ length: 20 }, (_, m) => ({ id: `maker-${m}`, name: `Maker ${m}`, kind: 'maker' })),
    ],
    heads: ids.map((i) => ({ id: `c${i}`, name: `Head ${i}`, maker: `Maker ${i % 20}`, kind: 'aftermarket' })),
    stages: ids.map((i) => ({ id: `c${i}-s`, headId: `c${i}`, name: 'as received' })),
    measures: ids.flatMap((i) => [size(i, 'intake', '2.02 in'), size(i, 'exhaust', '1.60 in')]),
    sheets: ids.flatMap((i) =>
      [
        ['measured', 'bench', 1],
        ['claim', `maker-${i % 20}`, 1 + (i % 9) / 100],
        ['claim', `maker-${(i * 7 + 3) % 20}`, 1 + (i % 13) / 100],
      ].map(([kind, sourceId, times], n) => ({
        id: `c${i}-${n}`,
        stageId: `c${i}-s`,
        title: `${String(kind)} ${n}`,
        kind,
        sourceId,
        date: '2026-01-01',
        setup: { depression: '28 inH2O', bore: '4.030 in', exhaustPipe: 'bare' },
        rows: rows(i, times as number),
      })),
    ),
  };
}

type Report = (what: string, value: number, unit: string, limit?: number) => void;

/** Every page of claims over a library of 10,000 heads and 20,000 claims: when it is usable, its longest task, its memory. */
export async function claimPages(page: Page, url: string, report: Report): Promise<void> {
  await page.addInitScript(`
    window.__tasks = [];
    new PerformanceObserver((list) => { for (const e of list.getEntries()) window.__tasks.push(e.duration); }).observe({ type: 'longtask', buffered: true });
  `);
  const session = await page.context().newCDPSession(page);
  const longest = async () => Math.max(0, ...(await page.evaluate<number[]>('window.__tasks')));
  const visit = async (name: string, path: string, usable: () => Promise<void>) => {
    const began = performance.now();
    await page.goto(url + path);
    await usable();
    report(`claims, ${name}: usable`, (performance.now() - began) / 1000, 's', 2);
    await page.waitForTimeout(3_000);
    // The start of any page is beside them; what a pane itself does is seen by going there from an empty page.
    report('  longest task of the start', await longest(), 'ms');
    await session.send('HeapProfiler.collectGarbage');
    const { usedSize } = await session.send('Runtime.getHeapUsage');
    report('  memory of the page', usedSize / 1e6, 'MB', 120);
    if (path === '/none') return;
    await page.goto(`${url}/none`);
    await page.getByRole('heading', { level: 1 }).waitFor();
    await page.waitForTimeout(1_500);
    await page.evaluate('window.__tasks.length = 0');
    await page.evaluate(
      `history.pushState(null, '', ${JSON.stringify(path)}); dispatchEvent(new PopStateEvent('popstate'))`,
    );
    await usable();
    await page.waitForTimeout(3_000);
    report('  longest task of the pane', await longest(), 'ms', 100);
  };
  // What the emptiest page costs in this run: that much of the figures below is the start of any page, not claims.
  await visit('beside them, a page without any', '/none', () => page.getByRole('heading', { level: 1 }).waitFor());
  await visit('this head', '/claims/c4242', () => page.locator('article h2').first().waitFor());
  await visit('same or different', '/claims/c4242?pane=same', () => page.getByLabel('the other').first().waitFor());
  await visit('questions', '/claims/c4242?pane=questions', () =>
    page.getByRole('button', { name: 'Ask a question' }).waitFor(),
  );
  await visit('sources', '/claims/c4242?pane=sources', () =>
    page.getByRole('button', { name: 'A new source' }).waitFor(),
  );
  await visit('all claims', '/claims/c4242?pane=library', () =>
    page
      .getByText(/Judged so far|claims, /)
      .first()
      .waitFor(),
  );
  const began = performance.now();
  await page.goto(`${url}/claims/c4242?pane=library`);
  await page.getByText('Judged so far').waitFor({ state: 'hidden', timeout: 180_000 });
  report('  every claim judged, in the background', (performance.now() - began) / 1000, 's');
}

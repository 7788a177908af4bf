/**
 * Every view at four sizes, by day and by night, and on paper: no serious accessibility fault, nothing cut off, nothing too
 * small to read or to press. Here each view is looked at once, at a size and a theme that go round; `npm run proof -- views`
 * looks at each in all of them (EVERY_VIEW).
 */
import axe from 'axe-core';
import { expect, go, test } from '../test.js';
import { measured, onPaper } from '../layout.js';
import { printedFaults } from '../paper.js';

/** Every view. */
const VIEWS = [
  '/',
  '/target?build=slate-six',
  '/target?new=1',
  '/heads',
  '/heads?new=1',
  '/heads/corrow-417?stage=417-received',
  '/heads/corrow-417?stage=417-received&sheet=417-received-p3',
  '/heads/corrow-417?stage=417-pinch&show=maps',
  '/arrival/longreach-212?stage=longreach-received',
  '/arrival/corrow-417-b?pane=findings',
  '/arrival/ottermoor-230',
  '/arrival/pellam-p6/defects',
  '/measure/corrow-417?stage=417-received',
  '/measure/corrow-417?stage=417-received&pane=sections',
  '/measure/corrow-417?stage=417-received&pane=shrouding',
  '/measure/pellam-p6?pane=chamber',
  '/bench/pellam-p6',
  '/bench/pellam-p6?pane=checks',
  '/bench/pellam-p6?pane=eye',
  '/bench/pellam-p6?pane=instruments',
  '/bench/session/session-p6-open?pane=plan',
  '/bench/session/session-p6-open?pane=set-up',
  '/bench/session/session-p6-open?pane=run',
  '/bench/session/session-417-pinch?pane=velocity',
  '/bench/session/session-417-received?pane=sheet',
  '/compare',
  '/compare?side=exhaust&show=ratio',
  '/claims/ottermoor-230',
  '/claims/pellam-p6?pane=sources&side=exhaust',
  '/claims/pellam-p6?pane=library',
  '/claims/pellam-p6?stage=p6-received',
  '/claims/corrow-522?pane=same&other=corrow-417',
  '/claims/corrow-522?pane=questions',
  '/match',
  '/simulate?build=tarrow-three',
  '/change/corrow-417?pane=history',
  '/change/corrow-417?pane=ledger',
  '/change/corrow-417?pane=loss',
  '/change/corrow-417?pane=next',
  '/change/corrow-417?pane=work',
  '/change/corrow-417?pane=machining',
  '/change/corrow-417?pane=specimens',
  '/dyno?build=slate-six',
  '/dyno?build=slate-six&pane=order&pull=slate-swap-4',
  '/dyno?build=slate-six&pane=forecasts',
  '/practice',
  '/decide?build=slate-six',
  '/decide?build=slate-six&way=slate-rework',
  '/decide/report?build=slate-six&pages=workshop',
  '/guide?chapter=bench',
  '/settings',
];

const SIZES = [
  [1280, 800],
  [1024, 768],
  [640, 400],
  [390, 844],
] as const;
/** Width of the text on a sheet of A4 between the margins, at 96 to the inch. */
const PAPER = 718;
const EVERY = Boolean(process.env.EVERY_VIEW);

/** Serious faults of the page as it stands. */
const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
async function faultsOf(tags: readonly string[]): Promise<string[]> {
  const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(document, {
    runOnly: [...tags],
    resultTypes: ['violations'],
    // Everything is of this page: nothing to fetch beforehand.
    preload: false,
  });
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .map((v) => {
      const where = v.nodes.slice(0, 3).map((n) => n.html.slice(0, 160));
      return `${v.id}: ${where.join(' | ')}`;
    });
}

/** Each size in parts: one long test at the end would leave the other workers idle. */
const PARTS = 2;
/** Every view at every size is the proof's; here each size has a part of them, and no two sizes the same. */
const RUNS = SIZES.flatMap(([width, height], at) =>
  (EVERY ? Array.from({ length: PARTS }, (_, part) => part) : [at % PARTS]).map((part) => ({
    width,
    height,
    at,
    part,
  })),
);

for (const { width, height, at, part } of RUNS) {
  test(`views at ${width} × ${height}, part ${part + 1} of ${PARTS}`, async ({ page }) => {
    test.setTimeout(EVERY ? 900_000 : 240_000);
    await page.setViewportSize({ width, height });
    const faults: Record<string, string[]> = {};
    const views = VIEWS.filter((_, i) => i % PARTS === part && (EVERY || Math.floor(i / PARTS) % SIZES.length === at));
    for (const [i, path] of views.entries()) {
      const themes = EVERY ? ['light', 'night'] : [i % 2 === 0 ? 'light' : 'night'];
      await go(page, path);
      await page.waitForLoadState('networkidle');
      await page.locator('main :is(section, article)').first().waitFor();
      // Evaluated through the debugger, which the page's policy does not bind.
      await page.evaluate(axe.source);
      for (const theme of themes) {
        await page.evaluate((name) => {
          // No colour is caught on its way to the next.
          const still = new CSSStyleSheet();
          still.replaceSync('* { transition: none !important; }');
          document.adoptedStyleSheets = [...document.adoptedStyleSheets, still];
          document.documentElement.dataset.theme = name;
        }, theme);
        const found = await page.evaluate(faultsOf, RULES);
        if (found.length > 0) faults[`${path} ${theme}`] = found;
      }
      const cut = await page.evaluate(measured);
      if (cut.length > 0) faults[`${path} layout`] = cut;
      if (EVERY ? at === 0 : i % 5 === 0) {
        await page.emulateMedia({ media: 'print' });
        await page.setViewportSize({ width: PAPER, height: 1000 });
        const lost = await page.evaluate(onPaper);
        if (lost.length > 0) faults[`${path} on paper`] = lost;
        await page.emulateMedia({ media: null });
        await page.setViewportSize({ width, height });
        for (const format of EVERY ? (['A4', 'Letter'] as const) : ([i % 2 === 0 ? 'A4' : 'Letter'] as const)) {
          const faulty = await printedFaults(page, format);
          if (faulty.length > 0) faults[`${path} printed`] = [...(faults[`${path} printed`] ?? []), ...faulty];
        }
      }
    }
    expect(faults).toEqual({});
  });
}

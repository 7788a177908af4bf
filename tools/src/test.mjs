/**
 * Sets up, then runs every test: `npm run check`, Vitest, Playwright. Writes the runners' JSON reports to reports/
 * (checks.json, vitest.json, playwright.json), sums them up, and exits non-zero on any failure.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { build, checkNode, chromium, ensureFolder, main, packages, root } from './setup.mjs';

const node = (args, env = {}) =>
  spawnSync(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  }).status ?? 1;
const read = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : undefined);

/** Sums the reports of the runners; a runner that left no report counts as one failure. */
export function tally(folder) {
  const checks = read(join(folder, 'checks.json'));
  const vitest = read(join(folder, 'vitest.json'));
  const playwright = read(join(folder, 'playwright.json'));
  const parts = [
    checks ? { passed: checks.passed, failed: checks.failed } : { passed: 0, failed: 1 },
    vitest
      ? {
          passed: vitest.numPassedTests,
          failed: vitest.numFailedTests + (vitest.numFailedTestSuites > 0 && vitest.numFailedTests === 0 ? 1 : 0),
        }
      : { passed: 0, failed: 1 },
    playwright
      ? { passed: playwright.stats.expected + playwright.stats.flaky, failed: playwright.stats.unexpected }
      : { passed: 0, failed: 1 },
  ];
  return parts.reduce((sum, p) => ({ passed: sum.passed + p.passed, failed: sum.failed + p.failed }));
}

await main(async () => {
  checkNode();
  packages();
  const reports = ensureFolder('reports');
  for (const name of ['checks', 'vitest', 'playwright']) rmSync(join(reports, `${name}.json`), { force: true });

  const checked = node([join(root, 'tools/src/check.mjs')]) === 0;
  writeFileSync(join(reports, 'checks.json'), JSON.stringify({ passed: checked ? 1 : 0, failed: checked ? 0 : 1 }));

  node([
    join(root, 'node_modules/vitest/vitest.mjs'),
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${join(reports, 'vitest.json')}`,
  ]);

  build();
  node([join(root, 'node_modules/@playwright/test/cli.js'), 'test', '--config', 'e2e/playwright.config.ts'], {
    CHROMIUM_PATH: chromium(),
    PLAYWRIGHT_JSON_OUTPUT_NAME: join(reports, 'playwright.json'),
  });

  const { passed, failed } = tally(reports);
  console.log(`${passed} passed, ${failed} failed`);
  if (failed > 0 || passed === 0) process.exitCode = 1;
});

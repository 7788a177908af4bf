import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

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

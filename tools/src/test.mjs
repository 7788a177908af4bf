/**
 * Sets up, then runs every test: `npm run check`, Vitest, Playwright. Writes the runners' JSON reports to reports/
 * (checks.json, vitest.json, playwright.json), sums them up, and exits non-zero on any failure.
 */
import { spawn } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { join } from 'node:path';
import { build, checkNode, chromium, ensureFolder, main, packages, pdfReader, root } from './setup.mjs';
import { tally } from './tally.mjs';

/** A program that runs beside others: its exit code in the end. A patient one takes only what the others leave. */
const beside = (args, { env = {}, patient = false } = {}) =>
  new Promise((done) => {
    const child = spawn(process.execPath, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    child.on('error', () => done(1));
    child.on('exit', (code) => done(code ?? 1));
    if (patient && child.pid !== undefined) setPriority(child.pid, constants.priority.PRIORITY_LOW);
  });

await main(async () => {
  checkNode();
  packages();
  pdfReader();
  const reports = ensureFolder('reports');
  for (const name of ['checks', 'vitest', 'playwright']) rmSync(join(reports, `${name}.json`), { force: true });

  build();
  const env = { CHROMIUM_PATH: chromium(), PLAYWRIGHT_JSON_OUTPUT_NAME: join(reports, 'playwright.json') };
  // Side by side: a journey mostly waits, as its user does; the others work meanwhile and give way when it moves on.
  const [checked] = await Promise.all([
    beside([join(root, 'tools/src/check.mjs')], { patient: true }),
    beside(
      [
        join(root, 'node_modules/vitest/vitest.mjs'),
        'run',
        '--reporter=default',
        '--reporter=json',
        `--outputFile.json=${join(reports, 'vitest.json')}`,
      ],
      { patient: true },
    ),
    beside([join(root, 'node_modules/@playwright/test/cli.js'), 'test', '--config', 'e2e/playwright.config.ts'], {
      env,
    }),
  ]);
  writeFileSync(
    join(reports, 'checks.json'),
    JSON.stringify({ passed: checked === 0 ? 1 : 0, failed: checked === 0 ? 0 : 1 }),
  );

  const { passed, failed } = tally(reports);
  console.log(`${passed} passed, ${failed} failed`);
  if (failed > 0 || passed === 0) process.exitCode = 1;
});

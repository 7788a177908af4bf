/**
 * Sets up, then runs every test: `npm run check`, Vitest, Playwright. Writes the runners' JSON reports to reports/
 * (checks.json, vitest.json, playwright.json), sums them up, and exits non-zero on any failure.
 */
import { spawn, spawnSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { NURSERY, build, checkNode, chromium, ensureFolder, main, packages, pdfReader, root } from './setup.mjs';
import { tally } from './tally.mjs';

const node = (args, env = {}) =>
  spawnSync(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  }).status ?? 1;
/** The same, not waited for: the exit code in the end. */
const beside = (args) =>
  new Promise((done) => {
    const child = spawn(process.execPath, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
    child.on('error', () => done(1));
    child.on('exit', (code) => done(code ?? 1));
  });

await main(async () => {
  checkNode();
  packages();
  pdfReader();
  const reports = ensureFolder('reports');
  for (const name of ['checks', 'vitest', 'playwright']) rmSync(join(reports, `${name}.json`), { force: true });

  // Side by side: neither waits for the other.
  const [checked] = await Promise.all([
    beside([join(root, 'tools/src/check.mjs')]),
    beside([
      NURSERY,
      join(root, 'node_modules/vitest/vitest.mjs'),
      'run',
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${join(reports, 'vitest.json')}`,
    ]),
  ]);
  writeFileSync(
    join(reports, 'checks.json'),
    JSON.stringify({ passed: checked === 0 ? 1 : 0, failed: checked === 0 ? 0 : 1 }),
  );

  build();
  node([join(root, 'node_modules/@playwright/test/cli.js'), 'test', '--config', 'e2e/playwright.config.ts'], {
    CHROMIUM_PATH: chromium(),
    PLAYWRIGHT_JSON_OUTPUT_NAME: join(reports, 'playwright.json'),
  });

  const { passed, failed } = tally(reports);
  console.log(`${passed} passed, ${failed} failed`);
  if (failed > 0 || passed === 0) process.exitCode = 1;
});

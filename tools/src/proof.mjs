/**
 * `npm run proof`: what takes long and proves much; a seeded part of each is in `npm test`. About an hour on two cores.
 * `npm run proof -- odds | cuts | readers | engines | server | views` runs one of them.
 */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build, checkNode, chromium, main, packages, root } from './setup.mjs';

const run = (args, env) =>
  spawnSync(process.execPath, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).status === 0;
const vitest = (files, env) =>
  run([join(root, 'node_modules/vitest/vitest.mjs'), 'run', '--testTimeout', '7200000', ...files], env);

const journeys = (args, env) =>
  run(
    [
      join(root, 'node_modules/@playwright/test/cli.js'),
      'test',
      '--config',
      'e2e/playwright.config.ts',
      '--reporter',
      'list',
      ...args,
    ],
    { ...env, CHROMIUM_PATH: chromium() },
  );

/** What this machine is slower now; the same measure as in the perf run. */
function machineFactor() {
  const code = "import('./tools/src/perf/machine.ts').then((m) => console.log(m.machineFactor()))";
  const { stdout } = spawnSync(process.execPath, ['--import', 'tsx', '-e', code], { cwd: root, encoding: 'utf8' });
  return String(Number(stdout) || 1);
}

const PARTS = {
  odds: () => vitest(['records/src/odds.test.ts'], { ODDS_HEADS: '10000' }),
  cuts: () => vitest(['server/src/test/durable.test.ts'], { POWER_CUTS: '200' }),
  readers: () => vitest(['records/src/files/fuzz.test.ts', 'web/src/exchange/workbook.test.ts'], { FUZZ: '10000' }),
  engines: () => vitest(['core/src/simulation/simulation.test.ts'], { ENGINES: '60' }),
  server: () =>
    journeys(['--workers', '1', 'hard.spec'], {
      KILLS: '200',
      LOAD_SECONDS: '60',
      SHOP_SECONDS: '600',
      MACHINE_FACTOR: machineFactor(),
    }),
  views: () => journeys(['views.spec', 'away.spec'], { EVERY_VIEW: '1' }),
};

await main(async () => {
  checkNode();
  packages();
  build();
  const asked = process.argv[2];
  const failed = Object.entries(PARTS)
    .filter(([name]) => asked === undefined || asked === name)
    .filter(([, part]) => !part())
    .map(([name]) => name);
  console.log(failed.length === 0 ? 'proof: all of it holds' : `proof: failed: ${failed.join(', ')}`);
  if (failed.length > 0) process.exitCode = 1;
});

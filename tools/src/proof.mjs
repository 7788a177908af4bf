/**
 * `npm run proof`: what takes long and proves much; a seeded part of each is in `npm test`. What passed for these sources
 * is not run again: a proof that was broken off goes on where it was. `npm run proof -- cuts load` runs those parts, passed
 * or not. Figures, date and factor are written into docs/operations.md.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  build,
  checkNode,
  chromium,
  ensureFolder,
  main,
  packages,
  root,
  run,
  SetupProblem,
  sourceHash,
} from './setup.mjs';

/** A proof of all parts takes no longer than this times the machine's factor, minutes. */
const LIMIT = 30;

/** What this machine is slower now; the same measure as in the perf run. */
function machineFactor() {
  const code = "import('./tools/src/perf/machine.ts').then((m) => console.log(m.machineFactor()))";
  const { stdout } = spawnSync(process.execPath, ['--import', 'tsx', '-e', code], { cwd: root, encoding: 'utf8' });
  return Number(stdout) || 1;
}

const PLAIN = new RegExp(`${String.fromCharCode(27)}\\[[0-9;]*m`, 'g');

/** Runs a part beside others; whether it passed, and the figures it said. */
function begin(args, env) {
  const child = spawn(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, ...(trials ? { TMPDIR: trials } : {}), ...env },
  });
  let out = '';
  child.stdout.on('data', (chunk) => {
    process.stdout.write(chunk);
    out += String(chunk);
  });
  return new Promise((done) => {
    child.on('error', () => done({ passed: false, figures: [] }));
    child.on('exit', (code) => {
      const figures = out.replace(PLAIN, '').match(/(?<=figure: ).*/g) ?? [];
      done({ passed: code === 0, figures: figures.map((f) => f.trim()) });
    });
  });
}
/** Folders of trials lie in memory where there is room: what is cut and killed there is simulated, or a process. */
const SHARED_MEMORY = '/dev/shm';
const ROOM = 6e9;
function trialsFolder() {
  try {
    const { bavail, bsize } = statfsSync(SHARED_MEMORY);
    if (bavail * bsize > ROOM) return mkdtempSync(join(SHARED_MEMORY, 'alluvium-proof-'));
  } catch {
    // Not every system has it.
  }
  return undefined;
}
let trials;

const vitest = (files, env, ...more) =>
  begin([join(root, 'node_modules/vitest/vitest.mjs'), 'run', '--testTimeout', '7200000', ...more, ...files], {
    ...env,
    PROOF: '1',
  });
/** Each with a folder of its own for what failed: two of them run beside each other. */
const journeys = (name, args, env) =>
  begin(
    [
      join(root, 'node_modules/@playwright/test/cli.js'),
      'test',
      '--config',
      'e2e/playwright.config.ts',
      '--reporter',
      'list',
      '--output',
      join('test-results', name),
      ...args,
    ],
    { ...env, CHROMIUM_PATH: chromium(), TEMPLATES_KEPT: '1' },
  );

const server = (name, grep, factor) =>
  journeys(name, ['--workers', '1', 'hard.spec', '--grep', grep], {
    KILLS: '200',
    LOAD_SECONDS: '60',
    SHOP_SECONDS: '600',
    MACHINE_FACTOR: String(factor),
  });

/** The longest first. `alone`: waits are judged in it. */
const PARTS = {
  kills: { run: (f) => server('kills', 'half 1|two servers', f), is: 'kills, two servers' },
  moreKills: {
    run: (f) => server('moreKills', 'half 2|put back|full disk', f),
    is: 'kills, backups put back under kills, a full disk',
  },
  shop: { run: (f) => server('shop', 'ten minutes', f), is: 'ten minutes of a shop' },
  flips: { run: () => vitest(['server/src/test/flips.test.ts'], { FLIPS: '500' }), is: 'bytes turned' },
  steps: {
    run: () => vitest(['server/src/test/copy.test.ts'], { STEP_CUTS: '30' }),
    is: 'power cuts while the schema moves',
  },
  cuts: { run: () => vitest(['server/src/test/durable.test.ts'], { POWER_CUTS: '200' }), is: 'power cuts' },
  arrivals: {
    run: () => vitest(['server/src/test/arrive.test.ts'], { ARRIVALS: '100' }, '-t', 'random moments'),
    is: 'imports that end beside a second writer',
  },
  readers: {
    run: () => vitest(['records/src/files/fuzz.test.ts', 'web/src/exchange/workbook.test.ts'], { FUZZ: '10000' }),
    is: '10,000 spoilt inputs for every reader',
  },
  odds: {
    run: () =>
      vitest(
        [
          'records/src/odds.test.ts',
          'records/src/worlds.test.ts',
          'records/src/knowing.test.ts',
          'core/src/claim/whole.test.ts',
        ],
        { ODDS_HEADS: '10000', CLAIMS: '10000', WORLDS: '1000', KNOWING_HEADS: '2000' },
      ),
    is: 'odds of 10,000 heads, 10,000 claims, 1,000 worlds of 20 heads',
  },
  engines: {
    run: () => vitest(['core/src/simulation/simulation.test.ts'], { ENGINES: '60' }),
    is: 'simulated engines',
  },
  load: { alone: true, run: (f) => server('load', 'floods|two hundred|thousand heads', f), is: 'floods and crowds' },
  views: {
    run: () => journeys('views', ['views.spec', 'away.spec'], { EVERY_VIEW: '1' }),
    is: 'every view at every size',
  },
};

const reports = () => join(ensureFolder('reports'), 'proof.json');
const readReport = () => (existsSync(reports()) ? JSON.parse(readFileSync(reports(), 'utf8')) : {});

/** Parts at one time: one more than the cores, since they wait for the disk and for each other's clocks. */
const LANES = 3;

/** Runs parts beside each other, those that must be alone after them; hands each result on as it comes. */
async function runAll(names, factor, onDone) {
  const waiting = names.filter((n) => !PARTS[n].alone);
  const one = async (name) => {
    const began = Date.now();
    const { passed, figures } = await PARTS[name].run(factor);
    onDone(name, { passed, figures, seconds: Math.round((Date.now() - began) / 1000) });
  };
  const lane = async () => {
    for (let name = waiting.shift(); name !== undefined; name = waiting.shift()) await one(name);
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  for (const name of names.filter((n) => PARTS[n].alone)) await one(name);
}

const MARKS = ['<!-- proof: written by npm run proof -->', '<!-- /proof -->'];

/** Writes what the parts said last into docs/operations.md, between its marks; `sources` are those of now. */
function writeDown(parts, sources) {
  const path = join(root, 'docs', 'operations.md');
  const text = readFileSync(path, 'utf8');
  const [from, to] = [text.indexOf(MARKS[0]), text.indexOf(MARKS[1])];
  const rows = Object.keys(PARTS)
    .filter((name) => parts[name])
    .map((name) => {
      const { passed, seconds, figures, date, factor, sources: of } = parts[name];
      const said = figures.join('; ').replaceAll('|', '/') || PARTS[name].is;
      const state = `${passed ? 'holds' : '**failed**'}${of === sources ? '' : ', of earlier sources'}`;
      return `| ${name} | ${state} | ${date} | ${seconds} s × ${factor.toFixed(2)} | ${said} |`;
    });
  const table = `Each part's last run, with the seconds it took beside others and the machine's factor:\n\n| part | | on | took | figures |\n| --- | --- | --- | --- | --- |\n${rows.join('\n')}\n`;
  writeFileSync(path, `${text.slice(0, from)}${MARKS[0]}\n\n${table}\n${text.slice(to)}`);
  spawnSync(process.execPath, [join(root, 'node_modules/prettier/bin/prettier.cjs'), '--write', path], { cwd: root });
}

await main(async () => {
  checkNode();
  packages();
  build();
  const asked = process.argv.slice(2);
  const unknown = asked.filter((name) => !PARTS[name]);
  if (unknown.length > 0)
    throw new SetupProblem(`There is no part “${unknown.join(' ')}”: choose among ${Object.keys(PARTS).join(', ')}.`);
  const sources = sourceHash(['core', 'records', 'server', 'web', 'tools/src'].map((f) => join(root, f)));
  const parts = readReport();
  const now = { sources, factor: machineFactor(), date: new Date().toISOString().slice(0, 10) };
  // What the journeys copy from, made once for all of them.
  run(
    process.execPath,
    ['--import', 'tsx', '-e', "import('./e2e/templates.ts').then((m) => m.default())"],
    'The folders the journeys copy were not made: see above.',
  );
  const due =
    asked.length > 0
      ? asked
      : Object.keys(PARTS).filter((name) => !(parts[name]?.passed && parts[name].sources === sources));
  trials = trialsFolder();
  const began = Date.now();
  await runAll(due, now.factor, (name, result) => {
    parts[name] = { ...result, ...now };
    writeFileSync(reports(), JSON.stringify(parts, null, 2));
    console.log(`proof: ${name} ${result.passed ? 'holds' : 'failed'} after ${result.seconds} s`);
  });
  if (trials) rmSync(trials, { recursive: true, force: true });
  const minutes = (Date.now() - began) / 60_000;
  writeDown(parts, sources);
  const failed = due.filter((name) => !parts[name].passed);
  const limit = LIMIT * now.factor;
  console.log(
    `proof: ${due.length} parts in ${minutes.toFixed(1)} minutes (${limit.toFixed(0)} at most on this machine); ${failed.length === 0 ? 'all of it holds' : `failed: ${failed.join(', ')}`}`,
  );
  if (failed.length > 0 || minutes > limit) process.exitCode = 1;
});

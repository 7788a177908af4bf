/**
 * Makes a fresh checkout ready: Node built-ins only, since node_modules may be absent. Says what it does on stderr.
 */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { delimiter, dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
const stampFile = (name) => join(root, 'node_modules', `.alluvium-${name}`);
const say = (text) => console.error(`alluvium: ${text}`);

/** For what makes much that soon dies, as compilers do: a larger nursery takes a quarter off their time. */
export const NURSERY = '--max-semi-space-size=64';

/** For a process that runs the database for a minute: optimizing its code takes longer than it saves. */
export const BRIEF = '--liftoff-only';

export class SetupProblem extends Error {}

/** Runs a command in the project's folder with its output on stderr; throws with the sentence when it fails. */
export function run(command, args, sentence, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: ['ignore', 2, 2], ...options });
  if (result.status !== 0) throw new SetupProblem(sentence);
}

const hash = (text) => createHash('sha256').update(text).digest('hex');
const stamped = (name, value) => existsSync(stampFile(name)) && readFileSync(stampFile(name), 'utf8') === value;
const stamp = (name, value) => writeFileSync(stampFile(name), value);

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new SetupProblem(`Alluvium needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
}

/** Installs the packages of the lockfile, when they are not there or the lockfile changed. */
export function packages() {
  const wanted = hash(readFileSync(join(root, 'package-lock.json'), 'utf8'));
  if (existsSync(join(root, 'node_modules')) && stamped('packages', wanted)) return;
  say('installing packages (npm ci, about a minute) …');
  run(
    'npm',
    ['ci', '--no-audit', '--no-fund', '--loglevel=error'],
    'npm ci failed: see above. Is the npm registry reachable?',
  );
  stamp('packages', wanted);
}

/** What a build is made of: no tests, nothing a build writes itself. */
const isSource = (name) => !/\.test\.ts$|\.generated\.d\.ts$|\.md$/.test(name);
const PASSED_OVER = new Set(['node_modules', 'dist', '.git', 'test']);

/** One hash over the content of every source below the folders: the same for the same sources, whenever they were written. */
export function sourceHash(folders) {
  const all = createHash('sha256');
  const under = (folder) => {
    const entries = readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
    for (const entry of entries) {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) {
        if (!PASSED_OVER.has(entry.name)) under(path);
      } else if (isSource(entry.name)) {
        all.update(`${relative(root, path)}\0`);
        all.update(readFileSync(path));
      }
    }
  };
  folders.forEach(under);
  return all.digest('hex').slice(0, 16);
}

/** Builds of the web application kept: a server that runs still gives out the one it started with. */
const KEPT_BUILDS = 3;
const webDist = join(root, 'web', 'dist');
/** The folder of the newest build of the web application. */
export const builtWeb = () => join(webDist, readFileSync(join(webDist, 'current'), 'utf8').trim());

/** Builds the web application and the server when their sources are other than those of the last build. */
export function build({ force = false } = {}) {
  const wanted = sourceHash([
    ...['core', 'records', 'server', 'instruments', 'web'].map((f) => join(root, f)),
    join(root, 'tools', 'src'),
  ]);
  const built = ['web/dist/current', 'server/dist/main.js', 'instruments/dist/main.js'].every((f) =>
    existsSync(join(root, f)),
  );
  if (!force && built && stamped('build', wanted)) return;
  say('building …');
  const vite = join(root, 'node_modules', 'vite', 'bin', 'vite.js');
  const make = (name, outDir) =>
    run(
      process.execPath,
      [vite, 'build', '--logLevel', 'warn', '--outDir', outDir, '--emptyOutDir'],
      `The ${name === 'web' ? 'web application' : name} did not build: see above.`,
      { cwd: join(root, name) },
    );
  // Each build of the web application has a folder of its own, so that nothing is swapped under a server that runs.
  const version = `${Date.now().toString(36)}-${wanted}`;
  make('web', join('dist', version));
  writeWhole(join(webDist, 'current'), version);
  for (const name of ['server', 'instruments']) {
    make(name, 'dist.next');
    if (name === 'server')
      run(
        process.execPath,
        [BRIEF, join('dist.next', 'makeFirst.js'), join('dist.next', 'first')],
        'The database that a new library begins from was not made: see above.',
        { cwd: join(root, name) },
      );
    rmSync(join(root, name, 'dist'), { recursive: true, force: true });
    renameSync(join(root, name, 'dist.next'), join(root, name, 'dist'));
  }
  const builds = readdirSync(webDist)
    .filter((f) => f !== 'current')
    .sort();
  for (const old of builds.slice(0, -KEPT_BUILDS)) rmSync(join(webDist, old), { recursive: true, force: true });
  stamp('build', wanted);
}

/** Writes a file whole or not at all. */
function writeWhole(path, text) {
  writeFileSync(`${path}.next`, text);
  renameSync(`${path}.next`, path);
}

const onPath = (name) =>
  (process.env.PATH ?? '')
    .split(delimiter)
    .map((d) => join(d, name))
    .find((f) => existsSync(f));

/** Installs one of Debian’s packages; only as root. */
function debian(name, why, hint) {
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  say(`installing Debian’s ${name} for ${why} …`);
  run('apt-get', ['update', '-qq'], hint, { env });
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', name], hint, { env });
}
const mayInstall = () => process.getuid?.() === 0 && onPath('apt-get');

/** The reader of PDF that the tests of the report use; what they print is read by somebody else’s program. */
export function pdfReader() {
  const found = () => onPath('pdftotext');
  if (found()) return found();
  const hint = 'The tests of the report need pdftotext. Install it (Debian: sudo apt-get install poppler-utils).';
  if (mayInstall()) debian('poppler-utils', 'the tests of the report', hint);
  if (!found()) throw new SetupProblem(hint);
  return found();
}

/** Path of a Chromium for the browser tests: CHROMIUM_PATH, one that is installed, or Debian's package when root. */
export function chromium() {
  if (process.env.CHROMIUM_PATH) {
    if (!existsSync(process.env.CHROMIUM_PATH))
      throw new SetupProblem(`CHROMIUM_PATH names ${process.env.CHROMIUM_PATH}, which is not there.`);
    return process.env.CHROMIUM_PATH;
  }
  // The shell draws the same pages in half the time.
  const shell = () => onPath('chromium-headless-shell');
  const whole = () => ['chromium', 'chromium-browser', 'google-chrome'].map(onPath).find(Boolean);
  if (shell()) return shell();
  const hint =
    'The browser tests need Chromium. Install it (Debian: sudo apt-get install chromium-headless-shell), or set CHROMIUM_PATH.';
  if (mayInstall()) {
    try {
      debian('chromium-headless-shell', 'the browser tests', hint);
    } catch (error) {
      if (!whole()) debian('chromium', 'the browser tests', hint);
      else if (!(error instanceof SetupProblem)) throw error;
    }
  }
  const found = shell() ?? whole();
  if (!found) throw new SetupProblem(hint);
  return found;
}

export function ensureFolder(name) {
  const folder = join(root, name);
  mkdirSync(folder, { recursive: true });
  return folder;
}

/** Runs a script's main and turns a setup problem into its sentence and exit code 1. */
export async function main(work) {
  try {
    await work();
  } catch (error) {
    if (error instanceof SetupProblem) console.error(`alluvium: ${error.message}`);
    else console.error(error);
    process.exitCode = 1;
  }
}

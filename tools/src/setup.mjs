/**
 * Makes a fresh checkout ready: Node built-ins only, since node_modules may be absent. Says what it does on stderr.
 */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { delimiter, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
const stampFile = (name) => join(root, 'node_modules', `.alluvium-${name}`);
const say = (text) => console.error(`alluvium: ${text}`);

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

function newestUnder(folder) {
  let newest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', '.git'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    newest = Math.max(newest, entry.isDirectory() ? newestUnder(path) : statSync(path).mtimeMs);
  }
  return newest;
}

/** Builds the web application and the server when their sources are newer than the last build. */
export function build({ force = false } = {}) {
  const sources = ['core', 'records', 'server', 'instruments', 'web'].map((f) => join(root, f));
  const newest = `${Math.max(...sources.map(newestUnder))}`;
  const built = ['web/dist/index.html', 'server/dist/main.js', 'instruments/dist/main.js'].every((f) =>
    existsSync(join(root, f)),
  );
  if (!force && built && stamped('build', newest)) return;
  say('building …');
  const vite = join(root, 'node_modules', 'vite', 'bin', 'vite.js');
  run(process.execPath, [vite, 'build', '--logLevel', 'warn'], 'The web application did not build: see above.', {
    cwd: join(root, 'web'),
  });
  for (const name of ['server', 'instruments'])
    run(process.execPath, [vite, 'build', '--logLevel', 'warn'], `The ${name} did not build: see above.`, {
      cwd: join(root, name),
    });
  stamp('build', newest);
}

const onPath = (name) =>
  (process.env.PATH ?? '')
    .split(delimiter)
    .map((d) => join(d, name))
    .find((f) => existsSync(f));

/** Path of a Chromium for the browser tests: CHROMIUM_PATH, one that is installed, or Debian's package when root. */
export function chromium() {
  if (process.env.CHROMIUM_PATH) {
    if (!existsSync(process.env.CHROMIUM_PATH))
      throw new SetupProblem(`CHROMIUM_PATH names ${process.env.CHROMIUM_PATH}, which is not there.`);
    return process.env.CHROMIUM_PATH;
  }
  const find = () => ['chromium', 'chromium-browser', 'google-chrome'].map(onPath).find(Boolean);
  const found = find();
  if (found) return found;
  const hint =
    'The browser tests need Chromium. Install it (Debian: sudo apt-get install chromium), or set CHROMIUM_PATH.';
  if (process.getuid?.() !== 0 || !onPath('apt-get')) throw new SetupProblem(hint);
  say('installing Debian’s chromium for the browser tests …');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update', '-qq'], hint, { env });
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], hint, { env });
  return find() ?? '/usr/bin/chromium';
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

/** A server of its own for each test, over a copy of a data folder that was made once. */
import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const main = join(root, 'server', 'dist', 'main.js');
export const templateFolder = (kind: Template) => join(root, 'reports', `template-${kind}`);
export type Template = 'empty' | 'demo';

export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** Of a server that runs for a minute: optimizing the database's code takes longer than it saves. */
export const BRIEF = ['--liftoff-only'];

export interface RunningServer {
  readonly url: string;
  readonly folder: string;
  readonly child: ChildProcess;
  readonly stop: (signal?: NodeJS.Signals) => Promise<number | null>;
}

/** Starts the built server on a free port; resolves when it prints its address. */
export async function startServer(
  folder: string,
  options: { demo?: boolean; port?: number; env?: Readonly<Record<string, string>> } = {},
): Promise<RunningServer> {
  const child = spawn(process.execPath, [...BRIEF, main, ...(options.demo ? ['--demo'] : [])], {
    env: {
      ...process.env,
      PORT: String(options.port ?? 0),
      HOST: '127.0.0.1',
      ALLUVIUM_DATA: folder,
      // Only the journeys that are about backups pay for them.
      ALLUVIUM_BACKUPS: 'none',
      ...options.env,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const exited = new Promise<number | null>((done) => child.on('exit', (code) => done(code)));
  const url = await new Promise<string>((done, fail) => {
    let out = '';
    let err = '';
    child.stdout.on('data', (chunk: Buffer) => {
      out += chunk.toString();
      const match = /http:\S+/.exec(out);
      if (match) done(match[0]);
    });
    child.stderr.on('data', (chunk: Buffer) => (err += chunk.toString()));
    void exited.then((code) => fail(new Error(`The server ended with ${code}: ${err}`)));
  });
  return {
    url,
    folder,
    child,
    stop: async (signal = 'SIGINT') => {
      child.kill(signal);
      return exited;
    },
  };
}

/** Runs the server expecting it to end by itself. */
export async function refused(env: Readonly<Record<string, string>>): Promise<{ code: number | null; err: string }> {
  const child = spawn(process.execPath, [...BRIEF, main], {
    env: { ...process.env, PORT: '0', ...env },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let err = '';
  child.stderr.on('data', (c: Buffer) => (err += c.toString()));
  const code = await new Promise<number | null>((done) => child.on('exit', done));
  return { code, err: err.trim() };
}

/** A data folder of its own, copied from a template; whoever asks for it takes it away again. */
export async function copyOf(template: Template): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'alluvium-'));
  cpSync(templateFolder(template), folder, { recursive: true });
  return folder;
}

/** A server over a fresh copy of a template. */
export async function startCopy(template: Template): Promise<RunningServer> {
  const folder = await copyOf(template);
  const server = await startServer(folder);
  return {
    ...server,
    stop: async (signal) => {
      const code = await server.stop(signal);
      await rm(folder, { recursive: true, force: true });
      return code;
    },
  };
}

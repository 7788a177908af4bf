/** One server a worker for each kind of data, put back as it was for each test. */
import { fork } from 'node:child_process';
import { once } from 'node:events';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { BRIEF, copyOf, root, type Template } from './server.js';

interface Shared {
  /** Its address, over data put back as it was. */
  readonly fresh: () => Promise<string>;
  readonly stop: () => Promise<void>;
}

async function start(kind: Template): Promise<Shared> {
  const folder = await copyOf(kind);
  const child = fork(join(root, 'server', 'src', 'test', 'journeys.ts'), [folder], {
    execArgv: [...BRIEF, '--import', 'tsx'],
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    cwd: root,
  });
  const gone = new Promise<void>((done) => child.once('exit', () => done()));
  /** What the child says next; it ending instead is told. */
  const answer = async (): Promise<{ url?: string }> => {
    const said = new AbortController();
    const message = once(child, 'message', { signal: said.signal }) as Promise<[{ url?: string }]>;
    const ended = gone.then(() => {
      throw new Error('The server of the journeys ended by itself.');
    });
    try {
      return (await Promise.race([message, ended]))[0];
    } finally {
      said.abort();
      message.catch(() => undefined);
      ended.catch(() => undefined);
    }
  };
  await answer();
  return {
    fresh: async () => {
      child.send('fresh');
      return (await answer()).url!;
    },
    stop: async () => {
      child.kill();
      await gone;
      await rm(folder, { recursive: true, force: true });
    },
  };
}

export class SharedServers {
  private readonly running = new Map<Template, Promise<Shared>>();
  /** The address of a server over untouched data. */
  async fresh(kind: Template): Promise<string> {
    if (!this.running.has(kind)) this.running.set(kind, start(kind));
    return (await this.running.get(kind)!).fresh();
  }
  async stop(): Promise<void> {
    await Promise.all([...this.running.values()].map(async (shared) => (await shared).stop()));
  }
}

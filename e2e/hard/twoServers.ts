/** Two servers on one data folder: the second is refused while the first lives, whether it runs, is stopped or sleeps. */
import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { refused, startServer, type RunningServer } from '../server.js';

interface Trial {
  /** What went wrong, as sentences. */
  readonly wrong: string[];
  /** Ids of heads whose addition was answered. */
  readonly heads: string[];
}

const add = async (url: string, { heads }: Trial): Promise<number> => {
  const id = randomUUID();
  const answer = await fetch(`${url}/api/head`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ id, name: 'Kept' }),
  });
  if (answer.status === 201) heads.push(id);
  return answer.status;
};
const lost = async (url: string, { heads }: Trial): Promise<string[]> => {
  const there = (await (await fetch(`${url}/api/bundle?photos=no`)).json()) as { heads: { id: string }[] };
  const ids = new Set(there.heads.map((h) => h.id));
  return heads.filter((id) => !ids.has(id)).map((id) => `head ${id} is lost`);
};

/** A second start is refused with a sentence, and the first goes on writing. */
async function second(first: RunningServer, trial: Trial, what: string): Promise<void> {
  const { code, err } = await refused({ ALLUVIUM_DATA: first.folder, ALLUVIUM_BACKUPS: 'none' });
  if (code !== 1 || !err.includes('is open in another Alluvium'))
    trial.wrong.push(`${what}: the second ended with ${code}: ${err}`);
  if (/\n\s+at /.test(err)) trial.wrong.push(`${what}: the second ended in a stack`);
}

/** So many stops and wakings, kills, and removed lock files, each with a second start; what was lost or wrong. */
export async function twoServers(folder: string, times: number): Promise<Trial> {
  const trial: Trial = { wrong: [], heads: [] };
  const env = { ALLUVIUM_INSTRUMENTS: 'none' };
  let server = await startServer(folder, { env });
  for (let i = 0; i < times; i++) {
    if ((await add(server.url, trial)) !== 201) trial.wrong.push('a plain write was refused');
    // A laptop is closed, with a write on the way.
    server.child.kill('SIGSTOP');
    const queued = add(server.url, trial);
    await second(server, trial, `stopped ${i}`);
    server.child.kill('SIGCONT');
    if ((await queued) !== 201) trial.wrong.push(`awake ${i}: the write that waited was refused`);
    trial.wrong.push(...(await lost(server.url, trial)));

    await rm(join(folder, 'alluvium.pid'));
    await second(server, trial, `lock removed ${i}`);
    // While the second one looked, a write may have been refused; from then on none is.
    if ((await add(server.url, trial)) !== 201) trial.wrong.push(`lock removed ${i}: the first does not go on`);
    await second(server, trial, `lock taken again ${i}`);

    const dying = add(server.url, trial).catch(() => 0);
    await server.stop('SIGKILL');
    await dying;
    // At once: what a dead process held is free.
    server = await startServer(folder, { env });
    trial.wrong.push(...(await lost(server.url, trial)));
  }
  const { damage } = (await (await fetch(`${server.url}/api/check`, { method: 'POST' })).json()) as {
    damage: string[];
  };
  trial.wrong.push(...damage);
  await server.stop();
  return trial;
}

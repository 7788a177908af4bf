import { constants } from 'node:fs';
import { access, mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { lock } from 'proper-lockfile';
import { StartProblem } from './settings.js';

/** Whether the process that wrote this file ran on this machine and is gone: what it locked, a crash left behind. */
async function isDead(owner: string): Promise<boolean> {
  const [host, pid] = (await readFile(owner, 'utf8').catch(() => '')).trim().split(' ');
  if (host !== hostname() || !pid) return false;
  try {
    process.kill(Number(pid), 0);
    return false;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ESRCH';
  }
}

/** Takes a data folder for this process alone; the answer lets it go. @throws StartProblem when another has it. */
export async function claim(folder: string): Promise<() => Promise<void>> {
  try {
    await mkdir(folder, { recursive: true });
    await access(folder, constants.W_OK);
  } catch {
    throw new StartProblem(`The data folder ${folder} cannot be written. Choose another with ALLUVIUM_DATA.`);
  }
  const lockfilePath = join(folder, 'alluvium.lock');
  const owner = join(folder, 'alluvium.pid');
  const take = async () => {
    const release = await lock(folder, { stale: 10_000, update: 3_000, lockfilePath });
    await writeFile(owner, `${hostname()} ${process.pid}\n`);
    return release;
  };
  try {
    return await take().catch(async (error: unknown) => {
      if (!(await isDead(owner))) throw error;
      await rm(lockfilePath, { recursive: true, force: true });
      return take();
    });
  } catch {
    throw new StartProblem(
      `The data folder ${folder} is open in another Alluvium. Stop that one first; if it crashed on another machine, wait ten seconds.`,
    );
  }
}

/** What tells a command of this program that the folder's server runs, and where. */
export async function noteAddress(data: string, url: string): Promise<void> {
  await writeFile(join(data, 'alluvium.pid'), `${hostname()} ${process.pid} ${url}\n`);
}

/** The address of the server that has this folder; undefined when it noted none. */
export async function addressOf(data: string): Promise<string | undefined> {
  const text = await readFile(join(data, 'alluvium.pid'), 'utf8').catch(() => '');
  return text.trim().split(' ')[2];
}

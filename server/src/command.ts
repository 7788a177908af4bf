import { basename, dirname, join, resolve } from 'node:path';
import { openBackups } from './backup/backups.js';
import { recordsFile } from './backup/manifest.js';
import { addressOf, claim } from './claim.js';
import type { Migration } from './db/migrate.js';
import { openLibrary } from './library.js';
import { StartProblem, type Settings } from './settings.js';

// file!: a restore names one.

/** `main.js backup`: makes one now, by the server of the folder where one runs. `main.js restore FILE`: puts one back. */
export async function command(
  name: 'backup' | 'restore',
  file: string | undefined,
  s: Settings,
  migrations: readonly Migration[],
  first: string,
): Promise<void> {
  if (s.backups === undefined) throw new StartProblem('Backups are switched off (ALLUVIUM_BACKUPS=none).');
  if (name === 'restore' && file === undefined)
    throw new StartProblem('Say which backup: npm run restore -- FILE, with the path of its .json.gz file.');
  const release = await claim(s.data).catch(async (error: unknown) => {
    const url = await addressOf(s.data);
    if (name === 'restore' || !url) throw error;
    return url;
  });
  if (typeof release === 'string') return backupByServer(release, s.passphrase);
  const opened = await openLibrary(s.data, migrations, s.backups, first);
  if (!('library' in opened))
    throw new StartProblem(
      `The library in ${s.data} is damaged: ${opened.damaged.damage.join(' ')} Start Alluvium: it offers what can be done.`,
    );
  const { db, pictures } = opened.library;
  const here = openBackups(db, pictures, s.backups);
  if (name === 'backup') {
    const made = await here.make('by hand');
    console.log(
      made ? `Kept in ${join(s.backups, recordsFile(made.name))}` : 'The library is empty: there is nothing to keep.',
    );
  } else {
    const name = basename(file!).replace(/(\.json\.gz|\.manifest\.json)$/, '');
    const { restored, before } = await here.restore(name, undefined, dirname(resolve(file!)));
    console.log(
      `The library is what it was on ${restored.made}.${before ? ` What stood here before is kept in ${join(s.backups, recordsFile(before.name))}` : ''}`,
    );
  }
  await db.close();
  await release();
  process.exit(0);
}

async function backupByServer(url: string, passphrase: string | undefined): Promise<void> {
  const answer = await fetch(`${url}/api/backup`, {
    method: 'POST',
    headers: passphrase === undefined ? {} : { authorization: `Bearer ${passphrase}` },
  }).catch((error: unknown) => {
    throw new StartProblem(`The server at ${url} does not answer: ${(error as Error).message}`);
  });
  const said = (await answer.json()) as { name?: string; detail?: string };
  if (!answer.ok) throw new StartProblem(said.detail ?? `The server answered ${answer.status}.`);
  console.log(`Kept as ${said.name}, by the server at ${url}.`);
}

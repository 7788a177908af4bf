import { basename, dirname, join, resolve } from 'node:path';
import { openBackups } from './backup/backups.js';
import { recordsFile } from './backup/manifest.js';
import { findBackup, refuseNewer, verifyRecords } from './backup/read.js';
import { restoreBackup } from './backup/restore.js';
import type { Migration } from './db/migrate.js';
import { openLibrary, replaceDamaged, type Damaged, type Library } from './library.js';
import { addressOf, lockFolder, type FolderLock } from './lock.js';
import { StartProblem, type Settings } from './settings.js';

// file!: a restore names one.
// migrations.at()!: there are some.

/** What a command works on. */
interface Work {
  readonly data: string;
  readonly backups: string;
  readonly migrations: readonly Migration[];
  readonly first: string;
  readonly lock: FolderLock;
}

/** `main.js backup`: makes one now, by the server of the folder where one runs. `main.js restore FILE`: puts one back. */
export async function command(
  name: 'backup' | 'restore',
  file: string | undefined,
  s: Settings,
  migrations: readonly Migration[],
  first: string,
): Promise<void> {
  const { data, backups } = s;
  if (backups === undefined) throw new StartProblem('Backups are switched off (ALLUVIUM_BACKUPS=none).');
  if (name === 'restore' && file === undefined)
    throw new StartProblem('Say which backup: npm run restore -- FILE, with the path of its .json.gz file.');
  const lock = await lockFolder(data).catch(async (error: unknown) => {
    const url = await addressOf(data);
    if (name === 'restore' || !url) throw error;
    return url;
  });
  if (typeof lock === 'string') return backupByServer(lock, s.passphrase);
  const work: Work = { data, backups, migrations, first, lock };
  const opened = await openLibrary(data, migrations, { backups, first, lock });
  if (name === 'backup') {
    if (!('library' in opened))
      throw new StartProblem(
        `The library in ${data} is damaged: ${opened.damaged.damage.join(' ')} Start Alluvium: it offers what can be done.`,
      );
    await backUp(opened.library, work);
  } else if ('library' in opened) await putBack(opened.library, work, file!);
  else await replace(opened.damaged, work, file!);
  lock.release();
  process.exit(0);
}

async function backUp({ db, pictures }: Library, { backups }: Work): Promise<void> {
  const made = await openBackups(db, pictures, backups).make('by hand');
  if (!made) console.log('The library is empty: there is nothing to keep.');
  else {
    console.log(`Kept in ${join(backups, recordsFile(made.name))}`);
    for (const { name } of made.missing) console.log(`It lacks the photo “${name}”, whose file is spoilt or gone.`);
  }
  await db.close();
}

const nameOf = (file: string) => basename(file).replace(/(\.json\.gz|\.manifest\.json)$/, '');
const sayLost = (lost: readonly string[]) => {
  if (lost.length > 0)
    console.log(`Photos whose content was lost, and which could not be put back: ${lost.join(', ')}.`);
};

async function putBack({ db, pictures }: Library, { backups }: Work, file: string): Promise<void> {
  const from = dirname(resolve(file));
  const { restored, before, lost } = await openBackups(db, pictures, backups).restore(nameOf(file), undefined, from);
  console.log(
    `The library is what it was on ${restored.made}.${before ? ` What stood here before is kept in ${join(backups, recordsFile(before.name))}` : ''}`,
  );
  sayLost(lost);
  await db.close();
}

/** The library is damaged: it is put aside whole, and the backup takes its place. */
async function replace({ damage, db }: Damaged, work: Work, file: string): Promise<void> {
  const { data, migrations, first, lock } = work;
  const from = dirname(resolve(file));
  const manifest = await findBackup(from, nameOf(file));
  refuseNewer(manifest, migrations.at(-1)!.number);
  await verifyRecords(from, manifest);
  // One that is damaged may not close any more.
  await db?.close().catch(() => undefined);
  let lost: readonly string[] = [];
  const { library, aside } = await replaceDamaged(
    data,
    migrations,
    async (fresh) => void (lost = await restoreBackup(fresh.db, fresh.pictures, from, manifest)),
    { first, lock },
  );
  console.log(
    `The library was damaged: ${damage.join(' ')}\nIt is what it was on ${manifest.made} now.${aside ? ` The damaged database lies in ${aside}.` : ''}`,
  );
  sayLost(lost);
  await library.db.close();
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

import { existsSync } from 'node:fs';
import { cp, mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { takeBackUnfinished } from './bundle/arrive.js';
import { lostRecords, repairIndexes, type Damage } from './damage.js';
import type { Database } from './db/database.js';
import { guarded } from './db/guarded.js';
import { layFirst } from './db/first.js';
import { syncAll, syncFolder } from './db/durable.js';
import { NewerData, migrate, stepOf, type Migration } from './db/migrate.js';
import { NotADatabase, openPglite } from './db/pglite.js';
import type { FolderLock } from './lock.js';
import { openPictures, type Pictures } from './pictures.js';
import { StartProblem } from './settings.js';
import { watchRoom, type Room } from './space.js';
import { PART, stamp, writeWhole } from './stored.js';

// migrations.at()!: there are some.

/** A data folder that is open. */
export interface Library {
  readonly db: Database;
  readonly pictures: Pictures;
  readonly room: Room;
}

/** A data folder that must not be served as if it were whole. */
export interface Damaged {
  readonly damage: readonly Damage[];
  /** What can still be asked, where the database opens at all. */
  readonly db: Database | undefined;
}

export interface LibraryOptions {
  /** Folder of the backups: before the schema moves on, the database is copied there. */
  readonly backups?: string | undefined;
  /** What a new library begins from; see db/first.ts. */
  readonly first?: string | undefined;
  /** The hold of this process on the folder. */
  readonly lock?: FolderLock | undefined;
}

export type Opened = { readonly library: Library } | { readonly damaged: Damaged };

const databaseIn = (data: string) => join(data, 'database');

/** Whether this folder was a library before: only then is what stands in place of its database damage, and not a slip in the settings. */
const wasLibrary = (data: string) => existsSync(join(data, 'pictures'));

/**
 * Opens a data folder, brings its schema up to date and takes back what a crash left half done. A new one begins with a
 * copy of `first` (db/first.ts) where there is one. What is damaged is told and not touched. @throws NewerData; NotADatabase where the folder never was a library.
 */
export async function openLibrary(
  data: string,
  migrations: readonly Migration[],
  options: LibraryOptions = {},
): Promise<Opened> {
  if (existsSync(unfinished(data)))
    return { damaged: { damage: ['A backup was being put in place, and that was not finished.'], db: undefined } };
  return openFolder(data, migrations, options);
}

async function openFolder(
  data: string,
  migrations: readonly Migration[],
  { backups, first, lock }: LibraryOptions,
): Promise<Opened> {
  const folder = databaseIn(data);
  if (!existsSync(folder) && wasLibrary(data))
    return { damaged: { damage: ['The folder of the database is gone; the photos are still here.'], db: undefined } };
  let db: Database;
  try {
    await layFirst(first, folder);
    const mark = join(folder, 'PG_VERSION');
    if (existsSync(mark)) lock?.hold(mark);
    db = await openPglite(folder);
    lock?.hold(mark);
    const step = await stepOf(db);
    if (backups !== undefined && step > 0 && step < migrations.at(-1)!.number)
      db = await copied(db, folder, backups, step);
  } catch (error) {
    if (error instanceof StartProblem || (error instanceof NotADatabase && !wasLibrary(data))) throw error;
    return { damaged: { damage: [`The database does not open: ${(error as Error).message}`], db: undefined } };
  }
  try {
    await whole(db, migrations);
  } catch (error) {
    if (error instanceof NewerData) {
      await db.close();
      throw error;
    }
    const damage =
      error instanceof Lost ? error.damage : [`The library cannot be brought up to date: ${(error as Error).message}.`];
    return { damaged: { damage, db } };
  }
  const room = watchRoom(data);
  return {
    library: { db: guarded(db, folder, room, lock), pictures: await openPictures(join(data, 'pictures')), room },
  };
}

/** Records are missing, or cannot be read. */
class Lost extends Error {
  constructor(readonly damage: readonly Damage[]) {
    super(damage.join(' '));
  }
}

/**
 * Brings an open database up to date and takes back what a crash left half done. An index that is spoilt is built again
 * from its table, once. @throws NewerData, Lost, the database's error.
 */
async function whole(db: Database, migrations: readonly Migration[], again = true): Promise<void> {
  try {
    await migrate(db, migrations);
    const damage = await lostRecords(db);
    if (damage.length > 0) throw new Lost(damage);
    await takeBackUnfinished(db);
  } catch (error) {
    if (error instanceof NewerData || !again) throw error;
    const { repaired } = await repairIndexes(db);
    if (repaired.length === 0) throw error;
    for (const sentence of repaired) console.error(sentence);
    await whole(db, migrations, false);
  }
}

/** Before its schema moves on, the whole database is copied as it is: no program of today could write it as a bundle. */
async function copied(db: Database, folder: string, backups: string, step: number): Promise<Database> {
  await db.close();
  const to = join(backups, `before-step-${step + 1}-${stamp()}`);
  await mkdir(backups, { recursive: true });
  await clearCopies(backups);
  await cp(folder, to + PART, { recursive: true, errorOnExist: true });
  // Opened once, so that what is kept is known to open; what that wrote is on the disk with the rest before the name is.
  const copy = await openPglite(to + PART);
  const of = await stepOf(copy);
  await copy.close();
  if (of !== step) throw new Error(`the copy before the new schema is of step ${of}, not of ${step}`);
  syncAll(to + PART);
  await rename(to + PART, to);
  syncFolder(backups);
  return openPglite(folder);
}

/** A copy that was not finished when the process ended is none. */
async function clearCopies(backups: string): Promise<void> {
  for (const name of await readdir(backups))
    if (name.startsWith('before-step-') && name.endsWith(PART)) await rm(join(backups, name), { recursive: true });
}

/** Stands in the folder while a backup takes the place of a damaged database: what is there then is not whole. */
const unfinished = (data: string) => join(data, 'unfinished');

/** Puts a damaged database aside under a name that says so; the answer is where it lies now. */
async function putAside(data: string): Promise<string | undefined> {
  const folder = databaseIn(data);
  if (!existsSync(folder)) return undefined;
  const aside = `${folder}.damaged-${stamp()}`;
  await rename(folder, aside);
  return aside;
}

/**
 * Puts the damaged database aside and begins an empty one, which `fill` fills; until that is done a start finds it
 * unfinished. Nothing that was put aside is touched again. @throws what `fill` throws; the folder stays unfinished then.
 */
export async function replaceDamaged(
  data: string,
  migrations: readonly Migration[],
  fill: (library: Library) => Promise<void>,
  { first, lock }: Pick<LibraryOptions, 'first' | 'lock'> = {},
): Promise<{ readonly library: Library; readonly aside: string | undefined }> {
  await writeWhole(unfinished(data), '');
  lock?.letGo();
  const aside = await putAside(data);
  await mkdir(databaseIn(data));
  const opened = await openFolder(data, migrations, { first, lock });
  if (!('library' in opened)) throw new Error(opened.damaged.damage.join(' '));
  await fill(opened.library);
  await rm(unfinished(data));
  return { library: opened.library, aside };
}

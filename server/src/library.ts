import { existsSync } from 'node:fs';
import { cp, mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { takeBackUnfinished } from './bundle/arrive.js';
import { lostRecords, type Damage } from './damage.js';
import type { Database } from './db/database.js';
import { guarded } from './db/guarded.js';
import { layFirst } from './db/first.js';
import { migrate, stepOf, type Migration } from './db/migrate.js';
import { NotADatabase, openPglite } from './db/pglite.js';
import { openPictures, type Pictures } from './pictures.js';
import { watchRoom, type Room } from './space.js';
import { PART, stamp } from './stored.js';

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
  backups: string | undefined,
  first?: string,
): Promise<Opened> {
  if (existsSync(unfinished(data)))
    return { damaged: { damage: ['A backup was being put in place, and that was not finished.'], db: undefined } };
  return openFolder(data, migrations, backups, first);
}

async function openFolder(
  data: string,
  migrations: readonly Migration[],
  backups: string | undefined,
  first: string | undefined,
): Promise<Opened> {
  const folder = databaseIn(data);
  if (!existsSync(folder) && wasLibrary(data))
    return { damaged: { damage: ['The folder of the database is gone; the photos are still here.'], db: undefined } };
  let db: Database;
  try {
    await layFirst(first, folder);
    db = await openPglite(folder);
    const step = await stepOf(db);
    if (backups !== undefined && step > 0 && step < migrations.at(-1)!.number)
      db = await copied(db, folder, backups, step);
  } catch (error) {
    if (error instanceof NotADatabase && !wasLibrary(data)) throw error;
    return { damaged: { damage: [`The database does not open: ${(error as Error).message}`], db: undefined } };
  }
  try {
    await migrate(db, migrations);
    const damage = await lostRecords(db);
    if (damage.length > 0) return { damaged: { damage, db } };
    await takeBackUnfinished(db);
  } catch (error) {
    await db.close();
    throw error;
  }
  const room = watchRoom(data);
  return { library: { db: guarded(db, folder, room), pictures: await openPictures(join(data, 'pictures')), room } };
}

/** Before its schema moves on, the whole database is copied as it is: no program of today could write it as a bundle. */
async function copied(db: Database, folder: string, backups: string, step: number): Promise<Database> {
  await db.close();
  const to = join(backups, `before-step-${step + 1}-${stamp()}`);
  await mkdir(backups, { recursive: true });
  await cp(folder, to + PART, { recursive: true, errorOnExist: true });
  await rename(to + PART, to);
  return openPglite(folder);
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
  first?: string,
): Promise<{ readonly library: Library; readonly aside: string | undefined }> {
  await writeFile(unfinished(data), '');
  const aside = await putAside(data);
  await mkdir(databaseIn(data));
  const opened = await openFolder(data, migrations, undefined, first);
  if (!('library' in opened)) throw new Error(opened.damaged.damage.join(' '));
  await fill(opened.library);
  await rm(unfinished(data));
  return { library: opened.library, aside };
}

/** The database every new library begins from: made once, when the server is built, since making one takes seconds. */
import { cpSync, existsSync } from 'node:fs';
import { rename, rm, rmdir } from 'node:fs/promises';
import { dirname } from 'node:path';
import { PART } from '../stored.js';
import { syncAll, syncFolder } from './durable.js';
import { migrate, type Migration } from './migrate.js';
import { openPglite } from './pglite.js';

/** Makes it in a folder that is not there yet: empty, of the newest schema. */
export async function makeFirst(folder: string, migrations: readonly Migration[]): Promise<void> {
  const db = await openPglite(folder);
  await migrate(db, migrations);
  await db.close();
}

/** Takes an empty folder away; whether it did. */
const emptied = (folder: string) =>
  rmdir(folder).then(
    () => true,
    () => false,
  );

/**
 * Lays a copy of it where a library has no database yet, whole or not at all and on the disk when it returns. Does
 * nothing where something lies already, where none was made, or where the empty folder is one that cannot be replaced, as
 * one that is mounted: PGlite then makes its own.
 */
export async function layFirst(first: string | undefined, folder: string): Promise<void> {
  if (first === undefined || !existsSync(first)) return;
  if (existsSync(folder) && !(await emptied(folder))) return;
  const part = folder + PART;
  await rm(part, { recursive: true, force: true });
  // Without giving way: a thousand small files take a quarter of the time so, and nothing is served yet.
  cpSync(first, part, { recursive: true });
  syncAll(part);
  await rename(part, folder);
  syncFolder(dirname(folder));
}

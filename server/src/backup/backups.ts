import { existsSync } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Database } from '../db/database.js';
import type { Pictures } from '../pictures.js';
import { toKeep } from './keep.js';
import { PICTURES, manifestFile, recordsFile, type Manifest, type Reason } from './manifest.js';
import { findBackup, isSound, listBackups, verifyBackup } from './read.js';
import { restoreBackup } from './restore.js';
import { stateOf, writeBackup } from './write.js';

// row!: one row comes back, whatever is there.

export interface Backups {
  readonly folder: string;
  readonly list: () => Promise<Manifest[]>;
  /**
   * Writes a backup and reads it again from end to end; old ones go. Where nothing changed since the newest, that one is
   * the answer; undefined in an empty library. @throws Problem damaged, or the file system's error.
   */
  readonly make: (reason: Reason) => Promise<Manifest | undefined>;
  /**
   * Puts one back, of this folder or of another one, after a backup of what stands here; the answer is both.
   * @throws Problem not-found, damaged.
   */
  readonly restore: (
    name: string,
    onProgress?: (done: number, of: number) => void,
    from?: string,
  ) => Promise<{ readonly restored: Manifest; readonly before: Manifest | undefined }>;
}

/** Removes a backup: the manifest first, so that it is none from then on. */
async function drop(folder: string, name: string): Promise<void> {
  await rm(join(folder, manifestFile(name)), { force: true });
  await rm(join(folder, recordsFile(name)), { force: true });
}

/** Removes backups past their time, and photos no backup refers to any more. */
async function clear(folder: string, now: Date, wanted?: string): Promise<void> {
  const all = await listBackups(folder);
  const keep = toKeep(all, now);
  if (wanted !== undefined) keep.add(wanted);
  for (const { name } of all) if (!keep.has(name)) await drop(folder, name);
  const named = new Set(all.filter((m) => keep.has(m.name)).flatMap((m) => m.pictures));
  const pictures = join(folder, PICTURES);
  if (!existsSync(pictures)) return;
  for (const file of await readdir(pictures)) if (!named.has(file)) await rm(join(pictures, file), { force: true });
}

/** The backups of one library in one folder; one thing at a time. */
export function openBackups(db: Database, pictures: Pictures, folder: string, now = () => new Date()): Backups {
  let last: Promise<unknown> = Promise.resolve();
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const turn = last.then(work);
    last = turn.catch(() => {});
    return turn;
  };

  /** `wanted` is put back next: it stays whatever its age. */
  async function make(reason: Reason, wanted?: string): Promise<Manifest | undefined> {
    const [row] = await db.query<{ n: number }>('select coalesce(sum(n), 0)::int8 as n from tally');
    if (row!.n === 0) return undefined;
    const state = await stateOf(db);
    const newest = (await listBackups(folder)).find((m) => m.state === state);
    if (newest) {
      // It may have been damaged since it was written: then another is made.
      if (await isSound(folder, newest)) return newest;
      await drop(folder, newest.name);
    }
    const made = await writeBackup(db, pictures, folder, reason, now());
    try {
      await verifyBackup(folder, made);
    } catch (error) {
      await drop(folder, made.name);
      throw error;
    }
    await clear(folder, now(), wanted);
    return made;
  }

  return {
    folder,
    list: () => listBackups(folder),
    make: (reason) => inTurn(() => make(reason)),
    restore: (name, onProgress, from = folder) =>
      inTurn(async () => {
        const restored = await findBackup(from, name);
        // Looked through first: a damaged one changes nothing.
        await verifyBackup(from, restored);
        const before = await make('restore', name);
        await restoreBackup(db, pictures, from, restored, onProgress);
        return { restored, before };
      }),
  };
}

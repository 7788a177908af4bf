import { existsSync } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Attachment, ClockJump } from '@alluvium/records';
import { clockJump, trustClock } from '../clock.js';
import type { Damage } from '../damage.js';
import type { Database } from '../db/database.js';
import type { Pictures } from '../pictures.js';
import { copiesToDrop, toKeep } from './keep.js';
import { PICTURES, manifestFile, recordsFile, type Manifest, type Reason } from './manifest.js';
import { photoFile, photoOf } from './photos.js';
import { damagedBackups, findBackup, isSound, listBackups, lookInto, refuseNewer, verifyRecords } from './read.js';
import { restoreBackup } from './restore.js';
import { stateOf } from './records.js';
import { keepPhotos, writeBackup, writeManifest } from './write.js';
import { stepOf } from '../db/migrate.js';

// row!: one row comes back, whatever is there.

/** What others are told who would write while a backup is put back. */
const RESTORING =
  'A backup is being put back: nothing can be saved until it is in place. What you typed is kept here; save it again in a moment.';

export interface Restored {
  readonly restored: Manifest;
  /** What stood here before. */
  readonly before: Manifest | undefined;
  /** Photos whose content was lost, by file. */
  readonly lost: readonly string[];
}

export interface Backups {
  readonly folder: string;
  readonly list: () => Promise<readonly Manifest[]>;
  /**
   * Writes a backup and reads it again from end to end; old ones go. Where nothing changed since the newest, that one is
   * the answer; undefined in an empty library. @throws Problem damaged, or the file system's error.
   */
  readonly make: (reason: Reason) => Promise<Manifest | undefined>;
  /**
   * Puts one back, of this folder or of another one, after a backup of what stands here; nobody writes from before the
   * one to after the other. @throws Problem not-found, damaged, refused, busy.
   */
  readonly restore: (name: string, onProgress?: (done: number, of: number) => void, from?: string) => Promise<Restored>;
  /** Runs `work` while no backup is made or put back: what comes in by slices is in a backup whole, or not at all. */
  readonly apart: <T>(work: () => Promise<T>) => Promise<T>;
  /** Looks through every backup there is; what is damaged, as sentences. */
  readonly check: () => Promise<Damage[]>;
  /** The content of a photo as the backups have it. */
  readonly photo: (photo: Pick<Attachment, 'hash' | 'type'>) => Promise<Buffer | undefined>;
  /** Photos the newest backup lacks, by name, as far as one was made or found since the start. */
  readonly missing: () => readonly string[];
  /** How the clock jumped: nothing is removed by its age until somebody says that it is right. */
  readonly clock: () => Promise<ClockJump | undefined>;
  /** Somebody says that the clock is right: what is past its time goes again. */
  readonly trustClock: () => Promise<void>;
}

/** Removes a backup: the manifest first, so that it is none from then on. */
async function drop(folder: string, name: string): Promise<void> {
  await rm(join(folder, manifestFile(name)), { force: true });
  await rm(join(folder, recordsFile(name)), { force: true });
}

/** Removes backups and copies past their time, and photos no backup refers to any more. */
async function clear(folder: string, now: Date, wanted?: string): Promise<void> {
  const { backups: all, spoilt } = await lookInto(folder);
  const keep = toKeep(all, now);
  if (wanted !== undefined) keep.add(wanted);
  for (const { name } of all) if (!keep.has(name)) await drop(folder, name);
  for (const copy of copiesToDrop(await readdir(folder), now)) await rm(join(folder, copy), { recursive: true });
  // Which photos a spoilt manifest named is not known: none goes.
  if (spoilt.length > 0) return;
  const named = new Set(all.filter((m) => keep.has(m.name)).flatMap((m) => m.pictures));
  const pictures = join(folder, PICTURES);
  if (!existsSync(pictures)) return;
  for (const file of await readdir(pictures)) if (!named.has(file)) await rm(join(pictures, file), { force: true });
}

/** The backups of one library in one folder; one thing at a time. */
export function openBackups(db: Database, pictures: Pictures, folder: string, now = () => new Date()): Backups {
  let last: Promise<unknown> = Promise.resolve();
  let missing: readonly string[] = [];
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const turn = last.then(work);
    last = turn.catch(() => {});
    return turn;
  };

  /** The backup of this state of the library, with every photo that can still be had. */
  async function known(state: string): Promise<Manifest | undefined> {
    const newest = (await listBackups(folder)).find((m) => m.state === state);
    if (!newest) return undefined;
    // It may have been damaged since it was written: then another is made.
    if (!(await isSound(folder, newest))) {
      await drop(folder, newest.name);
      return undefined;
    }
    const photos = await db.query<{ hash: string; type: 'image/png'; name: string }>(
      'select hash, type, name from attachment order by id',
    );
    const again = { ...newest, ...(await keepPhotos(folder, photos, pictures)) };
    if (JSON.stringify(again.missing) !== JSON.stringify(newest.missing)) await writeManifest(folder, again);
    return again;
  }

  async function written(from: Database, reason: Reason): Promise<Manifest> {
    const made = await writeBackup(from, pictures, folder, reason, now());
    try {
      await verifyRecords(folder, made);
    } catch (error) {
      await drop(folder, made.name);
      throw error;
    }
    return made;
  }

  /** `wanted` is put back next: it stays whatever its age. */
  async function make(from: Database, reason: Reason, wanted?: string): Promise<Manifest | undefined> {
    const [row] = await db.query<{ n: number }>('select coalesce(sum(n), 0)::int8 as n from tally');
    if (row!.n === 0) return undefined;
    const jump = await clockJump(from, now());
    const here = await known(await stateOf(db));
    const made = here ?? (await written(from, reason));
    missing = made.missing.map((m) => m.name);
    if (!here && !jump) await clear(folder, now(), wanted);
    return made;
  }

  return {
    folder,
    list: () => listBackups(folder),
    make: (reason) => inTurn(() => make(db, reason)),
    restore: (name, onProgress, from = folder) =>
      inTurn(async () => {
        const restored = await findBackup(from, name);
        // Looked through first: a damaged one changes nothing.
        refuseNewer(restored, await stepOf(db));
        await verifyRecords(from, restored);
        return db.exclusive(RESTORING, async (own) => {
          const before = await make(own, 'restore', name);
          const lost = await restoreBackup(own, pictures, from, restored, onProgress);
          return { restored, before, lost };
        });
      }),
    apart: inTurn,
    check: () => inTurn(() => damagedBackups(folder)),
    photo: (photo) => photoOf(folder, photoFile(photo)),
    missing: () => missing,
    clock: () => clockJump(db, now()),
    trustClock: () =>
      inTurn(async () => {
        await trustClock(db, now());
        if (existsSync(folder)) await clear(folder, now());
      }),
  };
}

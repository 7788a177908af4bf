import { createWriteStream, existsSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { PROGRAM } from '@alluvium/records';
import type { Database } from '../db/database.js';
import { syncFolder } from '../db/durable.js';
import { stepOf } from '../db/migrate.js';
import type { Pictures } from '../pictures.js';
import { PART, stamp, writeWhole } from '../stored.js';
import { PICTURES, manifestFile, recordsFile, type Manifest, type Reason } from './manifest.js';
import { keepPhoto, photoFile } from './photos.js';
import { readRecords, writeRecords, type Moment, type Photo, type Written } from './records.js';
import { openSpool, type Spool } from './spool.js';

async function packed(moment: Moment, spool: Spool, path: string): Promise<Written> {
  const body = new Readable({ read() {}, encoding: 'utf8' });
  const flowing = pipeline(body, createGzip({ level: 6 }), createWriteStream(path));
  // Whoever writes waits for whoever packs: memory stays flat whatever the size of the library.
  flowing.catch(() => {});
  const written = await writeRecords(moment, spool, async (text) => {
    body.push(text);
    while (body.readableLength > 1_000_000) await new Promise((go) => setTimeout(go, 5));
  });
  body.push(null);
  await flowing;
  const file = await open(path, 'r+');
  await file.sync();
  await file.close();
  return written;
}

/** Keeps the photos of a backup in the store; those that are spoilt or gone in the library and in the store are named. */
export async function keepPhotos(
  folder: string,
  photos: readonly Photo[],
  pictures: Pictures,
): Promise<Pick<Manifest, 'pictures' | 'missing'>> {
  const files = new Map(photos.map((p) => [photoFile(p), p]));
  const missing: { file: string; name: string }[] = [];
  for (const [file, { hash, type, name }] of files)
    if (!(await keepPhoto(folder, file, pictures.path(hash, type)))) missing.push({ file, name });
  if (existsSync(join(folder, PICTURES))) syncFolder(join(folder, PICTURES));
  return { pictures: [...files.keys()], missing };
}

export const writeManifest = (folder: string, manifest: Manifest): Promise<void> =>
  writeWhole(join(folder, manifestFile(manifest.name)), `${JSON.stringify(manifest, null, 2)}\n`);

/** Clears what a process left half-written when it died here; one library writes into a folder at a time. */
async function clearParts(folder: string): Promise<void> {
  for (const name of await readdir(folder))
    if (name.endsWith(PART) && name.startsWith('alluvium-')) await rm(join(folder, name), { force: true });
}

/**
 * Writes a backup into a folder: the records, packed; each photo's content once for all backups; last the manifest,
 * without which it is none. Whole or not at all; a photo that is lost keeps the rest from nothing.
 */
export async function writeBackup(
  db: Database,
  pictures: Pictures,
  folder: string,
  reason: Reason,
  at = new Date(),
): Promise<Manifest> {
  await mkdir(folder, { recursive: true });
  await clearParts(folder);
  let name = `alluvium-${stamp(at)}-${reason.replace(' ', '-')}`;
  for (let n = 2; existsSync(join(folder, manifestFile(name))); n++)
    name = `alluvium-${stamp(at)}-${reason.replace(' ', '-')}-${n}`;
  const part = join(folder, recordsFile(name) + PART);
  const aside = join(folder, `${name}.spool${PART}`);
  const spool = await openSpool(aside);
  try {
    const moment = await readRecords(db, spool);
    const { counts, sha256, bytes, photos } = await packed(moment, spool, part);
    const manifest: Manifest = {
      format: 'alluvium-backup',
      version: 1,
      name,
      made: at.toISOString(),
      reason,
      state: moment.state,
      program: PROGRAM,
      schema: await stepOf(db),
      counts,
      sha256,
      bytes,
      ...(await keepPhotos(folder, photos, pictures)),
    };
    await rename(part, join(folder, recordsFile(name)));
    // The folder is synced with the manifest, so what it speaks of is on the disk before it.
    await writeManifest(folder, manifest);
    return manifest;
  } finally {
    await spool.close();
    await rm(aside, { force: true });
    await rm(part, { force: true });
  }
}

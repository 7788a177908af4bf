import { createHash } from 'node:crypto';
import { createWriteStream, existsSync } from 'node:fs';
import { copyFile, link, mkdir, open, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import {
  BUNDLE_FORMAT,
  BUNDLE_KEYS,
  BUNDLE_VERSION,
  NOUN_NAMES,
  PICTURE_TYPES,
  compactRecord,
  type Attachment,
} from '@alluvium/records';
import type { Database, Queries } from '../db/database.js';
import { syncFolder } from '../db/durable.js';
import type { Pictures } from '../pictures.js';
import { giveWay } from '../giveWay.js';
import { orderOf, toRecord } from '../rows.js';
import { PART, stamp, writeWhole } from '../stored.js';
import { PICTURES, manifestFile, recordsFile, type Manifest, type Reason } from './manifest.js';

// row!, rows.at()!: a count gives one row; the last is taken of rows that came.

/** Rows read at a time; others are served in between. */
const PAGE = 200;
/** After so many tries that a change came between, everybody waits until the backup is written. */
const TRIES = 3;

/** Which state of the library this is: it moves with every change, and when a backup is put back. */
export async function stateOf(db: Queries): Promise<string> {
  const [row] = await db.query<{ state: string }>(
    `select concat_ws('/', (select value from fact where name = 'library'), coalesce((select max(id) from change), 0),
       (select value from fact where name = 'restored')) as state`,
  );
  return row!.state;
}

interface Written {
  readonly counts: Record<string, number>;
  readonly sha256: string;
  readonly bytes: number;
  readonly photos: readonly Pick<Attachment, 'hash' | 'type'>[];
}

/** The text of the library as a bundle, a record a line, through `take`. */
async function writeRecords(db: Queries, take: (text: string) => void | Promise<void>): Promise<Written> {
  const hash = createHash('sha256');
  let bytes = 0;
  const counts: Record<string, number> = {};
  const photos: Pick<Attachment, 'hash' | 'type'>[] = [];
  const say = async (text: string) => {
    hash.update(text);
    bytes += Buffer.byteLength(text);
    await take(text);
  };
  await say(`{"format":"${BUNDLE_FORMAT}","version":${BUNDLE_VERSION}`);
  for (const noun of NOUN_NAMES) {
    await say(`,\n"${BUNDLE_KEYS[noun]}":[`);
    const order = orderOf(noun);
    let last: unknown;
    let n = 0;
    for (;;) {
      const rows = await db.query<Record<string, unknown>>(
        `select * from ${noun} ${last === undefined ? '' : `where ${order} > $1`} order by ${order} limit ${PAGE}`,
        last === undefined ? [] : [last],
      );
      if (rows.length === 0) break;
      last = rows.at(-1)![order];
      let text = '';
      for (const row of rows) {
        const record = toRecord<object>(row);
        if (noun === 'attachment') photos.push(record as Attachment);
        text += `${n++ === 0 ? '\n' : ',\n'}${JSON.stringify(compactRecord(record))}`;
      }
      await say(text);
      await giveWay();
    }
    counts[noun] = n;
    await say(']');
  }
  await say('}\n');
  return { counts, sha256: hash.digest('hex'), bytes, photos };
}

/** The hash of the library's records, as a backup of it would have it. */
export const hashOfLibrary = async (db: Queries): Promise<string> => (await writeRecords(db, () => {})).sha256;

async function packed(db: Queries, path: string): Promise<Written> {
  const body = new Readable({ read() {}, encoding: 'utf8' });
  const flowing = pipeline(body, createGzip({ level: 6 }), createWriteStream(path));
  // Whoever writes waits for whoever packs: memory stays flat whatever the size of the library.
  flowing.catch(() => {});
  const written = await writeRecords(db, async (text) => {
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

/**
 * Writes a backup into a folder: the records, packed; each photo's content once for all backups; last the manifest,
 * without which it is none. Whole or not at all.
 */
export async function writeBackup(
  db: Database,
  pictures: Pictures,
  folder: string,
  reason: Reason,
  at = new Date(),
): Promise<Manifest> {
  await mkdir(join(folder, PICTURES), { recursive: true });
  let name = `alluvium-${stamp(at)}-${reason.replace(' ', '-')}`;
  for (let n = 2; existsSync(join(folder, manifestFile(name))); n++)
    name = `alluvium-${stamp(at)}-${reason.replace(' ', '-')}-${n}`;
  const part = join(folder, recordsFile(name) + PART);
  try {
    let state = await stateOf(db);
    let written = await packed(db, part);
    for (let i = 1; state !== (await stateOf(db)); i++) {
      if (i < TRIES) {
        state = await stateOf(db);
        written = await packed(db, part);
      } else {
        [state, written] = await db.transaction(async (tx) => [await stateOf(tx), await packed(tx, part)] as const);
        break;
      }
    }
    const files = [...new Map(written.photos.map((p) => [`${p.hash}.${PICTURE_TYPES[p.type]}`, p]))];
    for (const [file, { hash, type }] of files) {
      const to = join(folder, PICTURES, file);
      if (existsSync(to)) continue;
      const from = pictures.path(hash, type);
      // A photo whose file is missing is found by the check of the library, and does not keep the rest from being saved.
      if (existsSync(from)) await link(from, to).catch(() => copyFile(from, to));
    }
    const [row] = await db.query<{ schema: number }>('select max(number) as schema from schema_step');
    const manifest: Manifest = {
      format: 'alluvium-backup',
      version: 1,
      name,
      made: at.toISOString(),
      reason,
      state,
      schema: row!.schema,
      counts: written.counts,
      sha256: written.sha256,
      bytes: written.bytes,
      pictures: files.map(([file]) => file),
    };
    await rename(part, join(folder, recordsFile(name)));
    // The folder is synced with the manifest, so what it speaks of is on the disk before it.
    syncFolder(join(folder, PICTURES));
    await writeWhole(join(folder, manifestFile(name)), `${JSON.stringify(manifest, null, 2)}\n`);
    return manifest;
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}

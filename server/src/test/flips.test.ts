import { cpSync, openSync, readSync, readdirSync, statSync, writeSync, closeSync, rmSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from '../app.js';
import { openBackups } from '../backup/backups.js';
import { findBackup, verifyRecords } from '../backup/read.js';
import { restoreBackup } from '../backup/restore.js';
import { verifyLibrary } from '../damage.js';
import { readMigrations, type Migration } from '../db/migrate.js';
import { openLibrary, replaceDamaged } from '../library.js';
import { MIGRATIONS, demoText, first, hashOfLibrary } from './fixture.js';
import { seeded } from './powercut.js';

/** Flips in a run of the tests; the proof makes more. */
const FLIPS = Number(process.env.FLIPS ?? 6);
const PATIENCE = 120_000 + FLIPS * 30_000;

let home: string;
/** A sound library with photos and two backups, copied for each flip. */
let sound: string;
let steps: Migration[];
let truth: string;
let photo: { hash: string; type: 'image/png'; content: Buffer; small: Buffer };
let backup: string;
beforeAll(async () => {
  home = await mkdtemp(join(tmpdir(), 'alluvium-flips-'));
  sound = join(home, 'sound');
  steps = await readMigrations(MIGRATIONS);
  const opened = await openLibrary(sound, steps, { first: first() });
  if (!('library' in opened)) throw new Error('A fresh folder is no damage.');
  const { db, pictures } = opened.library;
  const app = await createApp({ db, pictures });
  const json = { 'content-type': 'application/json' };
  await app.inject({ method: 'POST', url: '/api/bundle', payload: await demoText(), headers: json });
  const payload = await sharp({ create: { width: 640, height: 480, channels: 3, background: '#a33' } })
    .png()
    .toBuffer();
  await app.inject({
    method: 'POST',
    url: '/api/attachment?head=corrow-417&name=deck',
    payload,
    headers: { 'content-type': 'image/png' },
  });
  const backups = openBackups(db, pictures, join(sound, 'backups'));
  await backups.make('start');
  await app.inject({ method: 'POST', url: '/api/head', payload: { name: 'One more' } });
  backup = (await backups.make('by hand'))!.name;
  truth = await hashOfLibrary(db);
  const [row] = await db.query<{ hash: string; type: 'image/png' }>('select hash, type from attachment');
  photo = {
    ...row!,
    content: (await pictures.read(row!.hash, row!.type))!,
    small: (await pictures.thumbnail(row!.hash, row!.type))!,
  };
  await db.script('checkpoint');
  await app.close();
  await db.close();
});
afterAll(() => rm(home, { recursive: true, force: true }));

const filesBelow = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((e) =>
    e.isDirectory() ? filesBelow(join(folder, e.name)) : [join(folder, e.name)],
  );

/** Turns one bit of one byte of a file; where it was. */
function flip(path: string, random: () => number): string {
  const at = Math.floor(statSync(path).size * random());
  const file = openSync(path, 'r+');
  const byte = Buffer.alloc(1);
  readSync(file, byte, 0, 1, at);
  byte[0]! ^= 1 << Math.floor(8 * random());
  writeSync(file, byte, 0, 1, at);
  closeSync(file);
  return `byte ${at}`;
}

interface Outcome {
  /** What is against the promise; empty when it held. */
  readonly wrong: string[];
  readonly noticed: boolean;
}

/** Opens the library with a byte changed, reads everything, has everything checked, and puts a backup back where it is damaged. */
async function look(data: string): Promise<Outcome> {
  const wrong: string[] = [];
  const backups = join(data, 'backups');
  let noticed = false;
  const opened = await openLibrary(data, steps, { backups }).catch((error: Error) => {
    wrong.push(`the start ends with: ${error.stack}`);
    return undefined;
  });
  if (!opened) return { wrong, noticed };
  if ('damaged' in opened) {
    noticed = true;
    await opened.damaged.db?.close().catch(() => undefined);
    const manifest = await findBackup(backups, backup).catch(() => undefined);
    if (
      manifest &&
      (await verifyRecords(backups, manifest).then(
        () => true,
        () => false,
      ))
    ) {
      const { library } = await replaceDamaged(
        data,
        steps,
        async (l) => void (await restoreBackup(l.db, l.pictures, backups, manifest)),
        { first: first() },
      );
      if ((await hashOfLibrary(library.db)) !== truth) wrong.push('the backup that was put back is not what it was');
      await library.db.close();
    }
    return { wrong, noticed };
  }
  const { db, pictures } = opened.library;
  const read = await hashOfLibrary(db).catch((error: Error) => `not read: ${error.message}`);
  const content = await pictures.read(photo.hash, photo.type);
  if (content && !content.equals(photo.content)) wrong.push('a photo is served that is not what it was');
  const small = await pictures.thumbnail(photo.hash, photo.type);
  if (small && !small.equals(photo.small)) wrong.push('a small picture is served that is not what it was');
  const of = openBackups(db, pictures, backups);
  const found = [
    ...(await verifyLibrary(db, pictures, of.photo).then(
      ({ damage, repaired }) => [...damage, ...repaired],
      (error: Error) => {
        wrong.push(`the check ends with: ${error.stack}`);
        return [];
      },
    )),
    ...(await of.check()),
  ];
  noticed = found.length > 0 || read !== truth || !content;
  if (read !== truth && found.length === 0)
    wrong.push(`records are read that are not what they were, in silence (${read})`);
  // What the check repaired is as it was.
  const again = await hashOfLibrary(db).catch(() => undefined);
  if (again !== undefined && again !== truth && found.length === 0) wrong.push('records differ after the check');
  await db.close().catch(() => undefined);
  return { wrong, noticed };
}

describe('a byte of a library that turned on the disk', () => {
  it(
    `never ends a start in a stack, and is never served in silence (${FLIPS} flips)`,
    async () => {
      const random = seeded(20261201);
      const files = filesBelow(sound);
      const kinds = {
        index: files.filter((f) => f.includes('/database/base/') && statSync(f).size <= 16_384 && statSync(f).size > 0),
        database: files.filter((f) => f.includes('/database/') && statSync(f).size > 0),
        photos: files.filter((f) => f.includes('/pictures/')),
        backups: files.filter((f) => f.includes('/backups/')),
      };
      const failed: string[] = [];
      let noticed = 0;
      for (let i = 0; i < FLIPS; i++) {
        // Half of them anywhere in the database by size, a quarter in its small files, the rest in photos and backups.
        const kind = (['database', 'index', 'database', 'photos', 'index', 'backups'] as const)[i % 6]!;
        const among = kinds[kind];
        const total = among.reduce((sum, f) => sum + (kind === 'index' ? 1 : statSync(f).size), 0);
        let left = random() * total;
        const file = among.find((f) => (left -= kind === 'index' ? 1 : statSync(f).size) < 0) ?? among[0]!;
        const data = join(home, 'data');
        cpSync(sound, data, { recursive: true });
        const name = relative(sound, file);
        const at = flip(join(data, name), random);
        const outcome = await look(data);
        if (outcome.noticed) noticed++;
        for (const w of outcome.wrong) failed.push(`${name}, ${at}: ${w}`);
        rmSync(data, { recursive: true, force: true });
      }
      console.log(`figure: ${FLIPS} flips: ${noticed} noticed, the rest lay where nothing reads`);
      expect(failed).toEqual([]);
    },
    PATIENCE,
  );
});

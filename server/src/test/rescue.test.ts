import { cpSync, existsSync } from 'node:fs';
import { mkdtemp, mkdir, readFile, readdir, rename, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { openBackups } from '../backup/backups.js';
import { listBackups } from '../backup/read.js';
import { createApp } from '../app.js';
import { createRescue } from '../rescue.js';
import { openLibrary, replaceDamaged, type Damaged, type Library } from '../library.js';
import { restoreBackup } from '../backup/restore.js';
import { readMigrations, type Migration } from '../db/migrate.js';
import { openPglite } from '../db/pglite.js';
import { MIGRATIONS, demoText, first, hashOfLibrary } from './fixture.js';

let data: string;
/** A sound library with a backup, copied for each test. */
let sound: string;
let steps: Migration[];
/** The file of the table of sheets, found while it was sound. */
let sheetFile: string;
let sheetPath: string;
beforeAll(async () => {
  steps = await readMigrations(MIGRATIONS);
  sound = await mkdtemp(join(tmpdir(), 'alluvium-sound-'));
  const opened = await openLibrary(sound, steps, { backups: join(sound, 'backups'), first: first() });
  if (!('library' in opened)) throw new Error('A fresh folder is no damage.');
  const { db, pictures } = opened.library;
  const app = await createApp({ db, pictures });
  await app.inject({
    method: 'POST',
    url: '/api/bundle',
    payload: await demoText(),
    headers: { 'content-type': 'application/json' },
  });
  await openBackups(db, pictures, join(sound, 'backups')).make('by hand');
  const [row] = await db.query<{ path: string }>(`select pg_relation_filepath('sheet') as path`);
  sheetPath = row!.path;
  await db.script('checkpoint');
  await app.close();
  await db.close();
});
afterAll(() => rm(sound, { recursive: true }));
beforeEach(async () => {
  data = await mkdtemp(join(tmpdir(), 'alluvium-rescue-'));
  cpSync(sound, data, { recursive: true });
  sheetFile = join(data, 'database', sheetPath);
});
afterEach(() => rm(data, { recursive: true, force: true }));
const open = () => openLibrary(data, steps, { backups: join(data, 'backups') });
async function damaged(): Promise<Damaged> {
  const opened = await open();
  if (!('damaged' in opened)) throw new Error('The damage was not noticed.');
  return opened.damaged;
}
const rescueOf = (d: Damaged) =>
  createRescue({
    ...d,
    backups: join(data, 'backups'),
    hosts: () => undefined,
    newest: 1_000,
    restore: async () => [],
  });

describe('a damaged library is not served', () => {
  it('a table cut short is noticed at the start; what can be read is offered, and so are sound backups', async () => {
    await truncate(sheetFile, 8192);
    const d = await damaged();
    expect(d.damage.join(' ')).toMatch(/flow sheets (should be here|cannot be read)/);
    const app = await rescueOf(d);
    const said = (await app.inject('/api/rescue')).json();
    expect(said.backups).toEqual([expect.objectContaining({ reason: 'by hand', heads: 12, sound: true })]);
    expect(said.readable).toContainEqual({ noun: 'head', records: 12 });
    const readable = (await app.inject('/api/rescue/readable')).json();
    expect(readable.heads).toHaveLength(12);
    for (const url of ['/api/head', '/api/bundle', '/api/library', '/api/nothing']) {
      const refused = await app.inject(url);
      expect([url, refused.statusCode, refused.json().type]).toEqual([
        url,
        500,
        'https://alluvium.invalid/problems/rescue',
      ]);
    }
    expect((await app.inject('/api/health')).json().status).toBe('damaged');
    await app.close();
    await d.db?.close();
  });
  it('zeroes in the middle of a table are noticed by the checksum of the page, and said', async () => {
    const content = await readFile(sheetFile);
    content.fill(0x5a, 8192 + 200, 8192 + 1200);
    await writeFile(sheetFile, content);
    const d = await damaged();
    expect(d.damage.join(' ')).toMatch(/invalid page|cannot be read/);
    await d.db?.close();
  });
  it.each([
    ['the control file is gone', async () => rm(join(data, 'database', 'global', 'pg_control'))],
    ['PG_VERSION is gone', async () => rm(join(data, 'database', 'PG_VERSION'))],
    ['the database is gone', async () => rm(join(data, 'database'), { recursive: true })],
    [
      'something else lies in its place',
      async () => {
        await rename(join(data, 'database'), join(data, 'elsewhere'));
        await mkdir(join(data, 'database'));
        await writeFile(join(data, 'database', 'letter.txt'), 'Dear shop');
      },
    ],
  ])('%s: it is told, and nothing is laid over it', async (_, spoil) => {
    await spoil();
    const inside = async (): Promise<string[]> =>
      existsSync(join(data, 'database')) ? readdir(join(data, 'database')) : [];
    const before = await inside();
    const d = await damaged();
    expect(d.damage).toHaveLength(1);
    expect(await inside()).toEqual(expect.arrayContaining(before));
    if (!before.includes('PG_VERSION')) expect(await inside()).toEqual(before);
    const app = await rescueOf(d);
    expect((await app.inject('/api/rescue')).json().backups[0].sound).toBe(true);
    await app.close();
  });
  it('is put aside whole under a name that says so, and a backup takes its place', async () => {
    await truncate(sheetFile, 8192);
    await (await damaged()).db?.close();
    const [manifest] = await listBackups(join(data, 'backups'));
    const fill = async (l: Library) => void (await restoreBackup(l.db, l.pictures, join(data, 'backups'), manifest!));
    const { library, aside } = await replaceDamaged(data, steps, fill, { first: first() });
    expect(aside).toMatch(/database\.damaged-\d{8}T\d{6}Z$/);
    expect(existsSync(join(aside!, 'PG_VERSION'))).toBe(true);
    expect(await hashOfLibrary(library.db)).toBe(manifest!.sha256);
    await library.db.close();
    const opened = await open();
    if (!('library' in opened)) throw new Error('It did not open.');
    await opened.library.db.close();
  });
  it('an end in the middle of that is no empty library at the next start', async () => {
    await truncate(sheetFile, 8192);
    await (await damaged()).db?.close();
    let half: Library | undefined;
    await expect(
      replaceDamaged(
        data,
        steps,
        async (l) => {
          half = l;
          throw new Error('killed');
        },
        { first: first() },
      ),
    ).rejects.toThrow('killed');
    await half!.db.close();
    expect((await damaged()).damage).toEqual(['A backup was being put in place, and that was not finished.']);
    const again = await replaceDamaged(data, steps, async () => {}, { first: first() });
    await again.library.db.close();
    const opened = await open();
    expect('library' in opened).toBe(true);
    if ('library' in opened) await opened.library.db.close();
  });
});

describe('before the schema moves on', () => {
  it('the database is copied as it was, and the copy opens', async () => {
    const backups = join(data, 'backups');
    const opened = await openLibrary(data, [...steps, { number: 999, sql: 'create table of_tomorrow (id int)' }], {
      backups,
    });
    if (!('library' in opened)) throw new Error('It did not open.');
    await opened.library.db.close();
    const [copy] = (await readdir(backups)).filter((n) => n.startsWith('before-step-'));
    const before = await openPglite(join(backups, copy!));
    expect((await before.query<{ n: number }>('select max(number) as n from schema_step'))[0]!.n).toBe(
      steps.at(-1)!.number,
    );
    expect(await before.query('select id from head')).toHaveLength(12);
    await before.close();
    expect(await listBackups(backups)).toHaveLength(1);
  });
});

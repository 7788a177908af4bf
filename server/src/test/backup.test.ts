import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from '../app.js';
import { openBackups, type Backups } from '../backup/backups.js';
import { manifestFile, recordsFile } from '../backup/manifest.js';
import { listBackups, verifyRecords } from '../backup/read.js';
import { restoreBackup } from '../backup/restore.js';
import { stateOf } from '../backup/records.js';
import { openPictures, type Pictures } from '../pictures.js';
import { demoText, fixture, hashOfLibrary, type Fixture } from './fixture.js';

let f: Fixture;
let folder: string;
let pictures: Pictures;
let backups: Backups;
let clock = Date.now();
const bring = (g: Fixture, bundle: unknown) => g.call('POST', '/api/bundle', bundle);
beforeAll(async () => {
  f = await fixture();
  folder = await mkdtemp(join(tmpdir(), 'alluvium-backups-'));
  pictures = await openPictures(f.folder);
  backups = openBackups(f.db, pictures, folder, () => new Date((clock += 60_000)));
  await bring(f, JSON.parse(await demoText()));
  const photo = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#a33' } })
    .png()
    .toBuffer();
  await f.app.inject({
    method: 'POST',
    url: '/api/attachment?head=corrow-417&name=deck',
    payload: photo,
    headers: { 'content-type': 'image/png' },
  });
});
afterAll(async () => {
  await f.close();
  await rm(folder, { recursive: true });
});
const rename = async (name: string) => {
  const { body } = await f.call('GET', '/api/head/corrow-417');
  await f.call('PUT', '/api/head/corrow-417', { ...body, name });
};

describe('a backup', () => {
  it('says what it holds, is sound, and is made once for one state', async () => {
    const made = (await backups.make('start'))!;
    expect(made).toMatchObject({ reason: 'start', counts: { head: 12 }, pictures: [expect.stringMatching(/\.png$/)] });
    await verifyRecords(folder, made);
    expect((await backups.make('daily'))!.name).toBe(made.name);
    expect(await hashOfLibrary(f.db)).toBe(made.sha256);
  });
  it('put back on an empty machine gives the same library, photos included', async () => {
    const [made] = await backups.list();
    const other = await fixture();
    const theirs = await openPictures(other.folder);
    await restoreBackup(other.db, theirs, folder, made!);
    expect(await hashOfLibrary(other.db)).toBe(made!.sha256);
    const { hash, type } = (
      await other.db.query<{ hash: string; type: 'image/png' }>('select hash, type from attachment')
    )[0]!;
    expect(await theirs.read(hash, type)).toEqual(await pictures.read(hash, type));
    expect((await theirs.thumbnail(hash, type))!.length).toBeGreaterThan(0);
    await other.close();
  });
  it('is put back in place of what changed; what stood here is kept, and open pages are told', async () => {
    const [made] = await backups.list();
    await rename('Renamed');
    const page = (await f.call('GET', '/api/head/corrow-417')).body;
    const told: string[] = [];
    const stop = await f.db.listen('change', (batch) => told.push(batch));
    await backups.restore(made!.name);
    expect((await f.call('GET', '/api/head/corrow-417')).body.name).not.toBe('Renamed');
    expect(await hashOfLibrary(f.db)).toBe(made!.sha256);
    expect(told).toEqual(['0']);
    await stop();
    // What was typed on a page opened before is compared with what stands here now.
    expect((await f.call('PUT', '/api/head/corrow-417', page)).status).toBe(409);
    const before = (await backups.list()).find((b) => b.reason === 'restore')!;
    await backups.restore(before.name);
    expect((await f.call('GET', '/api/head/corrow-417')).body.name).toBe('Renamed');
    await backups.restore(made!.name);
  });
  it('nothing half-written is one', async () => {
    await writeFile(join(folder, `${recordsFile('alluvium-x')}.part`), 'half');
    await writeFile(join(folder, manifestFile('alluvium-broken')), '{"format":"alluvium-backup"');
    expect((await listBackups(folder)).map((m) => m.name)).not.toContain('alluvium-broken');
  });
  it.each([
    ['cut short', (b: Buffer) => b.subarray(0, b.length - 40)],
    ['with one bit turned', (b: Buffer) => Buffer.from(b.map((x, i) => (i === Math.floor(b.length / 2) ? x ^ 8 : x)))],
    ['empty', () => Buffer.alloc(0)],
  ])('%s is found to be damaged, and nothing is touched by it', async (_, spoil) => {
    await rename(`Spoilt ${Math.random()}`);
    const made = (await backups.make('by hand'))!;
    const path = join(folder, recordsFile(made.name));
    await writeFile(path, spoil(await readFile(path)));
    const hash = await hashOfLibrary(f.db);
    await expect(verifyRecords(folder, made)).rejects.toThrow('is damaged');
    await expect(backups.restore(made.name)).rejects.toThrow('is damaged');
    expect(await hashOfLibrary(f.db)).toBe(hash);
    // The next one is not taken for it.
    expect((await backups.make('by hand'))!.name).not.toBe(made.name);
  });
  it('of an empty library is none', async () => {
    const other = await fixture();
    const none = openBackups(other.db, await openPictures(other.folder), join(folder, 'none'));
    expect(await none.make('start')).toBeUndefined();
    expect(existsSync(join(folder, 'none'))).toBe(false);
    await other.close();
  });
  it('two libraries of the same number of changes are two states', async () => {
    const [a, b] = [await stateOf(f.db), await stateOf(f.db)];
    expect(a).toBe(b);
    expect(a.split('/')[0]).toMatch(/^[0-9a-f-]{36}$/);
  });
});

describe('a backup of a newer program', () => {
  it('is refused with what it needs, and nothing is touched', async () => {
    await rename('Of today');
    const made = (await backups.make('by hand'))!;
    const path = join(folder, manifestFile(made.name));
    const text = await readFile(path, 'utf8');
    await writeFile(
      path,
      text.replace(`"schema": ${made.schema}`, '"schema": 999').replace(/"program": ".*?"/, '"program": "7.0.0"'),
    );
    const hash = await hashOfLibrary(f.db);
    const count = (await backups.list()).length;
    await expect(backups.restore(made.name)).rejects.toThrow(
      /written by a newer Alluvium \(7\.0\.0\): its records are of schema 999, and this program knows them up to \d+\. Nothing was touched/,
    );
    expect(await hashOfLibrary(f.db)).toBe(hash);
    expect(await backups.list()).toHaveLength(count);
    await writeFile(path, text);
    expect((await backups.restore(made.name)).restored.name).toBe(made.name);
  });
});

describe('a backup is put back while others write', () => {
  it('each write is in the library, in the backup made before, or refused with a sentence the page keeps it by', async () => {
    await rename('Before the writes');
    const old = (await backups.make('by hand'))!;
    const app = await createApp({ db: f.db, pictures, backups });
    const acknowledged: string[] = [];
    const refused: string[] = [];
    let restored = false;
    const writer = async (n: number) => {
      for (let i = 0; !restored; i++) {
        const id = `w${n}-${i}`;
        const answer = await app.inject({ method: 'POST', url: '/api/head', payload: { id, name: id } });
        if (answer.statusCode === 201) acknowledged.push(id);
        else refused.push(`${answer.statusCode} ${answer.json().detail}`);
        await new Promise((go) => setImmediate(go));
      }
    };
    const writers = [0, 1, 2].map(writer);
    while (acknowledged.length < 20) await new Promise((go) => setImmediate(go));
    const { before } = await backups.restore(old.name);
    restored = true;
    await Promise.all(writers);
    expect(acknowledged.length).toBeGreaterThan(20);
    expect(new Set(refused)).toEqual(
      new Set([expect.stringMatching(/^503 A backup is being put back: nothing can be saved/)]),
    );
    const ids = async () => new Set((await f.db.query<{ id: string }>('select id from head')).map((r) => r.id));
    const now = await ids();
    await backups.restore(before!.name);
    const then = await ids();
    expect(acknowledged.filter((id) => !now.has(id) && !then.has(id))).toEqual([]);
    await app.close();
  });
  it('and one that fails lets them go on', async () => {
    const made = (await backups.make('by hand'))!;
    await expect(backups.restore('alluvium-nobody')).rejects.toThrow('There is no backup');
    await expect(
      f.db.exclusive('Wait.', async () => {
        await expect(rename('Meanwhile')).resolves.toBeUndefined();
        throw new Error('broken');
      }),
    ).rejects.toThrow('broken');
    await rename('Afterwards');
    expect((await f.call('GET', '/api/head/corrow-417')).body.name).toBe('Afterwards');
    await backups.restore(made.name);
  });
});

describe('a backup is made while others write', () => {
  it('holds them up for no more than what changed meanwhile, and is the library of one moment', async () => {
    const g = await fixture();
    const heads = Array.from({ length: 2_000 }, (_, i) => ({ id: `h${i}`, name: `Head ${i}` }));
    await bring(g, { format: 'alluvium-bundle', version: 1, heads });
    const kept = await openPictures(g.folder);
    const home = await mkdtemp(join(tmpdir(), 'alluvium-moment-'));
    let writing = true;
    let writes = 0;
    const writer = (async () => {
      for (; writing; writes++) {
        // Two records that go together: a backup has both, or neither.
        const steps = ['a', 'b'].map((half) => ({
          do: 'add',
          noun: 'source',
          record: { id: `${half}${writes}`, name: `${half} ${writes}` },
        }));
        await g.call('POST', '/api/change', { steps });
        if (writes > 4) await g.app.inject({ method: 'DELETE', url: `/api/source/a${writes - 4}` });
        if (writes > 4) await g.app.inject({ method: 'DELETE', url: `/api/source/b${writes - 4}` });
        // Injected requests never leave the event loop to anybody; real ones do.
        await new Promise((go) => setImmediate(go));
      }
    })();
    const made = await openBackups(g.db, kept, home).make('by hand');
    writing = false;
    await writer;
    expect(writes).toBeGreaterThan(5);
    const other = await fixture();
    await restoreBackup(other.db, await openPictures(other.folder), home, made!);
    const ids = (await other.db.query<{ id: string }>("select id from source where id ~ '^[ab][0-9]+$'")).map(
      (r) => r.id,
    );
    const halves = ids.filter((id) => id.startsWith('b') && !ids.includes(id.replace('b', 'a')));
    // Between the two deletions one half stands by itself, once at most.
    expect(halves.length).toBeLessThanOrEqual(1);
    expect(ids.filter((id) => id.startsWith('a') && !ids.includes(id.replace('a', 'b')))).toEqual([]);
    await other.close();
    await g.close();
    await rm(home, { recursive: true });
  });
});

describe('backups and imports at one time', () => {
  it('two large imports, each of which is preceded by a backup, do not wait for each other for ever', async () => {
    const { app, db, folder: photos, close } = await fixture();
    const [kept, home] = [await openPictures(photos), await mkdtemp(join(tmpdir(), 'alluvium-both-'))];
    const both = await createApp({ db, pictures: kept, backups: openBackups(db, kept, home) });
    const heads = (from: string) => ({
      format: 'alluvium-bundle',
      version: 1,
      heads: Array.from({ length: 150 }, (_, i) => ({ id: `${from}${i}`, name: `${from} ${i}` })),
    });
    await app.inject({ method: 'POST', url: '/api/head', payload: { name: 'Here already' } });
    const answers = await Promise.all(
      ['a', 'b', 'c'].map((from) => both.inject({ method: 'POST', url: '/api/bundle', payload: heads(from) })),
    );
    for (const { body } of answers) expect(body).toContain('"finished":true');
    expect((await listBackups(home)).map((m) => m.reason)).toContain('import');
    await both.close();
    await close();
    await rm(home, { recursive: true });
  });
});

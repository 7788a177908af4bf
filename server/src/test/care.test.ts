import { mkdtemp, readdir, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { existsSync, statfsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from '../app.js';
import { lostRecords, verifyLibrary } from '../damage.js';
import type { Database } from '../db/database.js';
import { layFirst } from '../db/first.js';
import { guarded } from '../db/guarded.js';
import { openPglite } from '../db/pglite.js';
import { clearPictures, pruneLog } from '../housekeeping.js';
import { openPictures, type Pictures } from '../pictures.js';
import { watchRoom } from '../space.js';
import { demoText, first, fixture, type Fixture } from './fixture.js';

let f: Fixture;
let pictures: Pictures;
beforeAll(async () => {
  f = await fixture();
  pictures = await openPictures(f.folder);
  await f.call('POST', '/api/bundle', JSON.parse(await demoText()));
});
afterAll(() => f.close());

describe('damage is noticed', () => {
  it('a sound library has none, whatever was added, changed, deleted and undone', async () => {
    const { body } = await f.call('POST', '/api/head', { name: 'Short stay' });
    await f.call('PUT', `/api/head/${body.record.id}`, { ...body.record, name: 'Renamed' });
    const gone = await f.app.inject({ method: 'DELETE', url: '/api/head/corrow-417' });
    await f.call('POST', `/api/change/${gone.json().batch}/undo`);
    expect(await lostRecords(f.db)).toEqual([]);
    expect(await verifyLibrary(f.db, pictures)).toEqual({ damage: [], repaired: [] });
    await f.app.inject({ method: 'DELETE', url: `/api/head/${body.record.id}` });
  });
  it('rows that went without a change are missed', async () => {
    await f.db.script(
      'alter table sheet disable trigger user; delete from sheet where id in (select id from sheet limit 3); alter table sheet enable trigger user',
    );
    const [sentence] = await lostRecords(f.db);
    expect(sentence).toMatch(/^\d+ flow sheets should be here; \d+ are\.$/);
    await f.db.script(`update tally set n = (select count(*) from sheet) where noun = 'sheet'`);
  });
  it('a photo that is gone, or another, is found by the check of everything', async () => {
    const photo = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#333' } })
      .png()
      .toBuffer();
    await f.app.inject({
      method: 'POST',
      url: '/api/attachment?head=corrow-417&name=bowl',
      payload: photo,
      headers: { 'content-type': 'image/png' },
    });
    const [row] = await f.db.query<{ hash: string; type: 'image/png' }>('select hash, type from attachment');
    const path = pictures.path(row!.hash, row!.type);
    await writeFile(path, 'something else');
    expect((await verifyLibrary(f.db, pictures)).damage).toEqual([expect.stringContaining('is not what it was')]);
    await rm(path);
    expect((await f.call('POST', '/api/check')).body.damage).toEqual([expect.stringContaining('is missing')]);
    // From then on the program says so, and goes on serving what is sound.
    expect((await f.call('GET', '/api/health')).body).toMatchObject({ status: 'damaged' });
    expect((await f.call('GET', '/api/care')).body.check.damage).toHaveLength(1);
  });

  it('what could not be read has everything looked at, by whoever met it', async () => {
    // As the database says of an index whose page is spoilt.
    const broken = Object.assign(new Error('index "head_pkey" contains unexpected zero page'), { code: 'XX002' });
    const spoilt: Database = {
      ...f.db,
      query: (sql, parameters) =>
        sql.includes('from source where') ? Promise.reject(broken) : f.db.query(sql, parameters),
    };
    const app = await createApp({ db: spoilt, pictures });
    const before = (await app.inject('/api/care')).json().check;
    expect(before).toBeNull();
    const met = await app.inject('/api/source/any');
    expect([met.statusCode, met.json().detail]).toEqual([500, expect.stringContaining('cannot be read')]);
    await expect.poll(async () => (await app.inject('/api/care')).json().check, { timeout: 60_000 }).not.toBeNull();
    await app.close();
  });
});

describe('the log and the photos do not grow for ever', () => {
  it('ten thousand saves of one sheet leave what its history shows', async () => {
    const { body } = await f.call('POST', '/api/head', { name: 'Saved often' });
    const { id } = body.record;
    await f.db.script(
      `do $$ begin for i in 1..2000 loop update head set version = version + 1, note = repeat('x', 100) || i where id = '${id}'; end loop; end $$`,
    );
    // Each save is a change of its own, some time ago.
    await f.db.script(`update change set batch = id + 1000000, at = now() - interval '2 hours' where record = '${id}'`);
    expect(await pruneLog(f.db)).toBe(0);
    expect(await pruneLog(f.db, 0)).toBe(1801);
    const history = (await f.call('GET', `/api/head/${id}/history`)).body;
    expect(history).toHaveLength(200);
    expect(history[0].after.note).toMatch(/x2000$/);
  });
  it('half of a change is never taken away: what can be undone is undone whole', async () => {
    const steps = ['a', 'b'].map((name) => ({ do: 'add', noun: 'source', record: { id: `two-${name}`, name } }));
    const { body } = await f.call('POST', '/api/change', { steps });
    await f.db.script(
      `do $$ begin for i in 1..300 loop update source set version = version + 1 where id = 'two-a'; end loop; end $$`,
    );
    await f.db.script(`update change set batch = id + 2000000 where record = 'two-a' and batch <> ${body.batch}`);
    await f.db.script(`update change set at = now() - interval '60 days'`);
    await pruneLog(f.db);
    const left = await f.db.query<{ record: string }>('select record from change where batch = $1 order by record', [
      body.batch,
    ]);
    expect(left.map((r) => r.record)).toEqual(['two-a', 'two-b']);
  });
  it('a photo that nothing can bring back is cleared; one that an undo can, stays', async () => {
    const home = await mkdtemp(join(tmpdir(), 'alluvium-clear-'));
    const own = await openPictures(home);
    const g = await fixture();
    await g.call('POST', '/api/source', { id: 's', name: 'S' });
    const content = (shade: number) =>
      sharp({ create: { width: 8, height: 8, channels: 3, background: { r: shade, g: 0, b: 0 } } })
        .png()
        .toBuffer();
    const kept = await Promise.all([10, 20, 30].map(async (shade) => own.keep(await content(shade))));
    const row = (hash: string) =>
      `insert into attachment (id, version, source_id, hash, type, width, height, bytes, name, note) values ('a-${hash.slice(0, 8)}', 1, 's', '${hash}', 'image/png', 8, 8, 70, 'n', '')`;
    await g.db.script(row(kept[0]!.hash));
    await g.db.script(row(kept[1]!.hash));
    await g.db.script(`delete from attachment where hash = '${kept[1]!.hash}'`);
    const old = new Date(Date.now() - 2 * 3_600_000);
    for (const name of await readdir(home)) await utimes(join(home, name), old, old);
    expect(await clearPictures(g.db, own)).toBe(1);
    expect(await Promise.all(kept.map(({ hash }) => own.has(hash)))).toEqual([true, true, false]);
    // Ninety days after it was deleted, nothing brings it back.
    await g.db.script(`update change set at = now() - interval '91 days'`);
    await pruneLog(g.db);
    expect(await clearPictures(g.db, own)).toBe(1);
    expect(await own.has(kept[0]!.hash)).toBe(true);
    await g.close();
  });
});

describe('the disk and the folder', () => {
  it('too little room is refused with a sentence; the ballast is let go and taken again', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'alluvium-room-'));
    const { bavail, bsize } = statfsSync(folder);
    const MB = 1024 * 1024;
    const plenty = watchRoom(folder, { reserve: 4 * MB, ballast: 2 * MB });
    plenty.trim();
    expect((await stat(join(folder, 'ballast'))).size).toBe(2 * MB);
    expect(() => plenty.need()).not.toThrow();
    const full = watchRoom(folder, { reserve: 4 * bavail * bsize, ballast: 2 * MB });
    expect(() => full.need()).toThrow(/^The disk of the data folder is full: \d+ MB are free.*Nothing was written/);
    expect(existsSync(join(folder, 'ballast'))).toBe(false);
    full.trim();
    expect(existsSync(join(folder, 'ballast'))).toBe(false);
    await rm(folder, { recursive: true });
  });
  it('a folder that is moved away while the server runs takes no more writes; back in place it does', async () => {
    const data = await mkdtemp(join(tmpdir(), 'alluvium-gone-'));
    const folder = join(data, 'database');
    await layFirst(first(), folder);
    const plain = await openPglite(folder);
    const db = guarded(plain, folder, watchRoom(data));
    const app = await createApp({ db, pictures: await openPictures(join(data, 'pictures')) });
    const add = async (name: string) => app.inject({ method: 'POST', url: '/api/head', payload: { name } });
    expect((await add('Before')).statusCode).toBe(201);
    await rename(folder, `${folder}.away`);
    const refused = await add('Meanwhile');
    expect(refused.statusCode).toBe(500);
    expect(refused.json().detail).toContain('was moved, removed or replaced');
    expect((await app.inject('/api/health')).json()).toMatchObject({ status: 'gone' });
    expect((await app.inject('/api/head')).json()).toHaveLength(1);
    await rename(`${folder}.away`, folder);
    expect((await add('After')).statusCode).toBe(201);
    expect((await app.inject('/api/health')).json()).toEqual({ status: 'ok' });
    await app.close();
    await plain.close();
    await rm(data, { recursive: true });
  });
});

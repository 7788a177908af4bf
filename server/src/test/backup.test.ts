import { existsSync } from 'node:fs';
import { mkdtemp, readFile, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from '../app.js';
import { openBackups, type Backups } from '../backup/backups.js';
import { toKeep } from '../backup/keep.js';
import { PICTURES, manifestFile, recordsFile, type Manifest } from '../backup/manifest.js';
import { listBackups, verifyBackup } from '../backup/read.js';
import { restoreBackup } from '../backup/restore.js';
import { hashOfLibrary, stateOf } from '../backup/write.js';
import { openPictures, type Pictures } from '../pictures.js';
import { demoText, fixture, type Fixture } from './fixture.js';

let f: Fixture;
let folder: string;
let pictures: Pictures;
let backups: Backups;
let clock = Date.parse('2026-06-01T08:00:00Z');
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
    await verifyBackup(folder, made);
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
    expect((await stat(theirs.thumbnail(hash))).size).toBeGreaterThan(0);
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
  it('content of photos is kept once, and goes with the last backup that has it', async () => {
    await rename('Once more');
    await backups.make('by hand');
    expect(await readdir(join(folder, PICTURES))).toHaveLength(1);
    const [photo] = (await f.call('GET', '/api/attachment')).body as { id: string; version: number }[];
    await f.app.inject({ method: 'DELETE', url: `/api/attachment/${photo!.id}` });
    clock += 400 * 86_400_000;
    for (let i = 0; i < 4; i++) {
      await rename(`Later ${i}`);
      await backups.make('by hand');
    }
    expect(await readdir(join(folder, PICTURES))).toEqual([]);
    for (const m of await backups.list()) await verifyBackup(folder, m);
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
    await expect(verifyBackup(folder, made)).rejects.toThrow('is damaged');
    await expect(backups.restore(made.name)).rejects.toThrow('is damaged');
    expect(await hashOfLibrary(f.db)).toBe(hash);
    // The next one is not taken for it.
    expect((await backups.make('by hand'))!.name).not.toBe(made.name);
  });
  it('lacking a photo is damaged', async () => {
    const [made] = await backups.list();
    await expect(verifyBackup(folder, { ...made!, pictures: [`${'0'.repeat(64)}.png`] })).rejects.toThrow(
      'lacks a photo',
    );
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

describe('which backups are kept', () => {
  const DAY = 86_400_000;
  const now = new Date('2026-06-30T12:00:00Z');
  const of = (ages: readonly number[]) =>
    ages.map((age, i) => ({ name: `alluvium-${i}`, made: new Date(now.getTime() - age).toISOString() }) as Manifest);
  it('after a year of daily ones: seven days and four weeks', () => {
    const kept = toKeep(of(Array.from({ length: 365 }, (_, d) => d * DAY + 1)), now);
    expect([...kept].map((n) => Number(n.slice(9))).sort((a, b) => a - b)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 14, 21]);
  });
  it('for any ages: never more than fourteen of the past, always the newest, never one of the future lost', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -5 * DAY, max: 100 * DAY }), { maxLength: 80 }), (ages) => {
        const all = of(ages);
        const kept = toKeep(all, now);
        const future = all.filter((m) => Date.parse(m.made) > now.getTime());
        expect(future.every((m) => kept.has(m.name))).toBe(true);
        expect(kept.size - future.length).toBeLessThanOrEqual(3 + 7 + 4);
        const newest = [...all].sort((a, b) => b.made.localeCompare(a.made))[0];
        if (newest) expect(kept.has(newest.name)).toBe(true);
      }),
    );
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

import { existsSync } from 'node:fs';
import { cp, link, mkdtemp, open, readFile, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import sharp from 'sharp';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { createApp } from '../app.js';
import { openBackups, type Backups } from '../backup/backups.js';
import { PICTURES, manifestFile, recordsFile } from '../backup/manifest.js';
import { trustClock } from '../clock.js';
import { openPictures, type Pictures } from '../pictures.js';
import { fixture, hashOfLibrary, type Fixture } from './fixture.js';
import { keptOf } from './put-back.js';

/** A shop with two photos, one of which is about to be spoilt. */
let f: Fixture;
let app: FastifyInstance;
let pictures: Pictures;
let backups: Backups;
let folder: string;
let spoilt: { id: string; hash: string };
let other: { id: string; hash: string };
/** The folder of the photos, and the database, as they were before each test. */
let sound: string;
let putBack: () => Promise<void>;
/** Another machine, on which backups and files of this shop are put in place. */
let elsewhere: Fixture;
let clearElsewhere: () => Promise<void>;
beforeAll(async () => {
  f = await fixture();
  elsewhere = await fixture();
  clearElsewhere = await keptOf(elsewhere.db);
  await f.call('POST', '/api/head', { id: 'h', name: 'Head' });
  const photo = async (name: string, background: string) => {
    const payload = await sharp({ create: { width: 400, height: 300, channels: 3, background } })
      .png()
      .toBuffer();
    const answer = await f.app.inject({
      method: 'POST',
      url: `/api/attachment?head=h&name=${name}`,
      payload,
      headers: { 'content-type': 'image/png' },
    });
    return answer.json().record as { id: string; hash: string };
  };
  spoilt = await photo('deck', '#a33');
  other = await photo('bowl', '#3a3');
  putBack = await keptOf(f.db);
  sound = await mkdtemp(join(tmpdir(), 'alluvium-sound-photos-'));
  await cp(f.folder, sound, { recursive: true });
});
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'alluvium-photos-'));
  pictures = await openPictures(f.folder);
  backups = openBackups(f.db, pictures, folder);
  app = await createApp({ db: f.db, pictures, backups });
});
afterEach(async () => {
  await app.close();
  await rm(folder, { recursive: true });
  await rm(f.folder, { recursive: true });
  await cp(sound, f.folder, { recursive: true });
  await putBack();
  await clearElsewhere();
});
afterAll(async () => {
  await elsewhere.close();
  await f.close();
  await rm(sound, { recursive: true });
});
const fileOf = ({ hash }: { hash: string }) => pictures.path(hash, 'image/png');
const stored = ({ hash }: { hash: string }) => join(folder, PICTURES, `${hash}.png`);
/** One byte is changed in place, as a failing disk does. */
async function flip(path: string, at = 60): Promise<void> {
  const file = await open(path, 'r+');
  const [byte] = (await file.read(Buffer.alloc(1), 0, 1, at)).buffer;
  await file.write(Buffer.from([byte! ^ 4]), 0, 1, at);
  await file.close();
}
const inject = (method: 'GET' | 'POST', url: string) => app.inject({ method, url });

describe('the photos of the backups are copies of their own', () => {
  it('one byte changed in the library leaves the backup as it was, and is put back from it by the check', async () => {
    await backups.make('by hand');
    expect((await stat(stored(spoilt))).nlink).toBe(1);
    const sound = await readFile(fileOf(spoilt));
    await flip(fileOf(spoilt));
    expect(await readFile(stored(spoilt))).toEqual(sound);
    const { damage, repaired } = (await inject('POST', '/api/check')).json();
    expect(damage).toEqual([]);
    expect(repaired).toEqual([
      expect.stringMatching(/^The photo “deck” of Head was not what it was, and was put back from the backups/),
    ]);
    expect(await readFile(fileOf(spoilt))).toEqual(sound);
  });
  it('links that an earlier version made become copies', async () => {
    await backups.make('by hand');
    await rm(stored(spoilt));
    await link(fileOf(spoilt), stored(spoilt));
    await f.call('POST', '/api/head', { name: 'Another' });
    await backups.make('by hand');
    expect((await stat(stored(spoilt))).nlink).toBe(1);
  });
  it('one that is spoilt in the store is copied again from the library', async () => {
    await backups.make('by hand');
    await flip(stored(spoilt));
    expect(await backups.check()).toEqual([
      expect.stringMatching(/lacks a photo it had \([0-9a-f]{8}…\), which is spoilt or gone/),
    ]);
    expect((await backups.make('by hand'))!.missing).toEqual([]);
    expect(await backups.check()).toEqual([]);
  });
});

describe('content', () => {
  it('of a photo is kept once, and goes with the last backup that has it', async () => {
    const month = (n: number) => new Date(2027, n, 10);
    let at = month(0);
    await trustClock(f.db, at);
    const monthly = openBackups(f.db, pictures, folder, () => at);
    const made = async (n: number) => {
      at = month(n);
      await f.call('POST', '/api/source', { name: `In month ${n}` });
      await monthly.make('by hand');
    };
    await made(0);
    expect(await readdir(join(folder, PICTURES))).toHaveLength(2);
    await app.inject({ method: 'DELETE', url: `/api/attachment/${spoilt.id}` });
    // Until twelve months with a backup have passed over the last that has it.
    for (let n = 1; n <= 12; n++) {
      expect(existsSync(stored(spoilt)), `month ${n}`).toBe(true);
      await made(n);
    }
    expect(await readdir(join(folder, PICTURES))).toEqual([`${other.hash}.png`]);
  });
});

describe.each([
  ['spoilt', () => flip(fileOf(spoilt))],
  ['gone', () => rm(fileOf(spoilt))],
])('a photo that is %s everywhere', (_, harm) => {
  beforeEach(harm);
  it('is named in the manifest and by health; records and the other photos are kept and put back', async () => {
    const made = (await inject('POST', '/api/backup')).json();
    expect(made.missing).toEqual(['deck']);
    const [manifest] = await backups.list();
    expect(manifest!.missing).toEqual([{ file: `${spoilt.hash}.png`, name: 'deck' }]);
    expect((await inject('GET', '/api/health')).json()).toEqual({
      status: 'damaged',
      detail: 'The newest backup lacks the photo “deck”.',
    });
    expect((await inject('GET', '/api/care')).json().backups[0]).toMatchObject({ photos: 1, missing: ['deck'] });

    const theirs = await openPictures(elsewhere.folder);
    const put = await openBackups(elsewhere.db, theirs, join(elsewhere.folder, 'backups')).restore(
      manifest!.name,
      undefined,
      folder,
    );
    expect(put.lost).toEqual([`${spoilt.hash}.png`]);
    expect(await hashOfLibrary(elsewhere.db)).toBe(manifest!.sha256);
    expect(await theirs.read(other.hash, 'image/png')).toEqual(await readFile(fileOf(other)));
  });
  it('keeps no export and no import from being made; the file says what it lacks, and comes in without it', async () => {
    const exported = await inject('GET', '/api/bundle');
    expect(exported.headers['alluvium-missing-photos']).toBe('1');
    expect(Object.keys(exported.json().files)).toEqual([other.hash]);
    expect(exported.json().missing).toEqual([spoilt.hash]);
    const heads = Array.from({ length: 150 }, (_, i) => ({ id: `n${i}`, name: `New ${i}` }));
    const large = await app.inject({
      method: 'POST',
      url: '/api/bundle',
      payload: { format: 'alluvium-bundle', version: 1, heads },
    });
    expect(large.body).toContain('"finished":true');
    const arrived = await elsewhere.call('POST', '/api/bundle', exported.json());
    expect(arrived.body).toContain('"finished":true');
    expect((await elsewhere.call('GET', '/api/attachment')).body).toHaveLength(2);
  });
  it('is never served as if it were whole, and whoever asks for it has everything checked', async () => {
    const shown = await inject('GET', `/api/attachment/${spoilt.id}/picture`);
    expect([shown.statusCode, shown.json().detail]).toEqual([
      500,
      expect.stringContaining('“deck” is spoilt or missing'),
    ]);
    expect((await inject('GET', `/api/attachment/${other.id}/picture`)).statusCode).toBe(200);
    await expect
      .poll(async () => (await inject('GET', '/api/care')).json().check?.damage, { timeout: 60_000 })
      .toEqual([expect.stringContaining('“deck”')]);
  });
});

describe('small pictures', () => {
  it('are known by their own hash: a spoilt one is made again from the photo', async () => {
    const name = (await readdir(f.folder)).find((n) => n.startsWith(`${spoilt.hash}.thumbnail.`))!;
    const sound = await readFile(join(f.folder, name));
    await flip(join(f.folder, name), sound.length - 5);
    const shown = await inject('GET', `/api/attachment/${spoilt.id}/thumbnail`);
    expect(shown.rawPayload).toEqual(sound);
    expect(await readFile(join(f.folder, name))).toEqual(sound);
  });
  it('of earlier versions, which nothing tells to be whole, are made again', async () => {
    const old = join(f.folder, `${spoilt.hash}.thumbnail.webp`);
    await writeFile(old, 'anything');
    const again = await openPictures(f.folder);
    expect(existsSync(old)).toBe(false);
    expect((await again.thumbnail(spoilt.hash, 'image/png'))!.subarray(8, 12).toString()).toBe('WEBP');
  });
});

describe('the check looks at the backups as well', () => {
  beforeEach(async () => void (await backups.make('by hand')));
  const newest = async () => (await backups.list())[0]!.name;
  it.each([
    ['records', async () => flip(join(folder, recordsFile(await newest()))), /its records are not what they were/],
    ['a photo', async () => flip(stored(spoilt)), /is spoilt or gone/],
    [
      'a manifest',
      async () => writeFile(join(folder, manifestFile(await newest())), '{"format":"alluvium-bac'),
      /its manifest is spoilt/,
    ],
  ])('%s of one that is spoilt', async (_, harm, sentence) => {
    await harm();
    expect((await inject('POST', '/api/check')).json().damage).toEqual([expect.stringMatching(sentence)]);
    expect((await inject('GET', '/api/health')).json().status).toBe('damaged');
  });
  it('no photo goes while it is not known which ones a spoilt manifest named', async () => {
    await writeFile(join(folder, manifestFile(await newest())), '{');
    await app.inject({ method: 'DELETE', url: `/api/attachment/${other.id}` });
    await backups.make('by hand');
    expect(existsSync(stored(other))).toBe(true);
  });
});

import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from '../app.js';
import { openBackups } from '../backup/backups.js';
import { stopwatch, trustClock } from '../clock.js';
import { countTries } from '../door/tries.js';
import { keepHouse } from '../housekeeping.js';
import { openPictures, type Pictures } from '../pictures.js';
import { fixture, type Fixture } from './fixture.js';
import { keptOf } from './put-back.js';

const DAY = 86_400_000;
const START = Date.parse('2026-06-01T08:00:00Z');
let f: Fixture;
let pictures: Pictures;
let folder: string;
let putBack: () => Promise<void>;
beforeAll(async () => {
  f = await fixture();
  pictures = await openPictures(f.folder);
  putBack = await keptOf(f.db);
});
afterEach(async () => {
  await putBack();
  await rm(folder, { recursive: true, force: true });
});
afterAll(() => f.close());

/** Eleven days of backups, one a day, as a shop has them. */
async function shop() {
  folder = await mkdtemp(join(tmpdir(), 'alluvium-clock-'));
  let now = START;
  // The history of a library of this test is of today.
  await trustClock(f.db, new Date(START));
  const backups = openBackups(f.db, pictures, folder, () => new Date(now));
  const make = async (at: number) => {
    now = at;
    await f.call('POST', '/api/source', { name: `On day ${(at - START) / DAY}` });
    await backups.make('daily');
  };
  for (let day = 0; day < 11; day++) await make(START + day * DAY);
  return { backups, make, at: (moment: number) => (now = moment) };
}
const files = async () => (await readdir(folder)).sort();

describe('a clock that jumped', () => {
  it('a year ahead: is noticed, and nothing goes until somebody says that it is right', async () => {
    const { backups, make, at } = await shop();
    const before = await files();
    await make(START + 375 * DAY);
    expect(await files()).toEqual(expect.arrayContaining(before));
    expect(await backups.clock()).toEqual({ now: '2027-06-11T08:00:00.000Z', known: '2026-06-11T08:00:00.000Z' });
    // The page asks for it, and answers.
    const app = await createApp({ db: f.db, pictures, backups });
    expect((await app.inject('/api/care')).json().clock.known).toBe('2026-06-11T08:00:00.000Z');
    expect((await app.inject({ method: 'POST', url: '/api/clock' })).statusCode).toBe(204);
    expect((await app.inject('/api/care')).json().clock).toBeNull();
    await app.close();
    // What went by then is what one backup more removes, and no more.
    const after = await files();
    expect(before.filter((name) => name.endsWith('.manifest.json') && !after.includes(name)).length).toBeLessThan(2);
    at(START + 375 * DAY + 60_000);
    expect(await backups.clock()).toBeUndefined();
  });
  it('and was put right again: the question is gone, and what was dated ahead is kept beside the rest', async () => {
    const { backups, make } = await shop();
    await make(START + 375 * DAY);
    await make(START + 11 * DAY);
    expect(await backups.clock()).toBeUndefined();
    const days = (await backups.list()).map((b) => b.made.slice(0, 10));
    expect(days).toContain('2027-06-11');
    expect(days).toContain('2026-06-12');
    expect(days.length).toBeGreaterThanOrEqual(8);
  });
  it('a year back: the same', async () => {
    const { backups, make } = await shop();
    const before = await files();
    await make(START - 360 * DAY);
    expect(await files()).toEqual(expect.arrayContaining(before));
    expect((await backups.clock())!.known).toBe('2026-06-11T08:00:00.000Z');
  });
  it('prunes no log and clears no photo', async () => {
    folder = '';
    await f.call('POST', '/api/source', { id: 's', name: 'S' });
    await f.app.inject({ method: 'DELETE', url: '/api/source/s' });
    await trustClock(f.db, new Date());
    await f.db.script(`update change set at = now() - interval '300 days'`);
    const logged = async () => (await f.db.query('select id from change')).length;
    const house = (now: Date) =>
      keepHouse(
        f.db,
        pictures,
        undefined,
        undefined,
        () => {},
        () => now,
      );
    const ahead = house(new Date(Date.now() + 400 * DAY));
    await ahead.round();
    ahead.stop();
    expect(await logged()).toBeGreaterThan(0);
    const right = house(new Date());
    await right.round();
    right.stop();
    expect(await logged()).toBe(0);
  });
});

describe('durations', () => {
  it('of tries go by a clock nobody sets, and no wait is longer than a minute', () => {
    let now = 5_000_000;
    const tries = countTries(() => now);
    for (let i = 0; i < 5; i++) tries.count('here');
    now -= 365 * DAY;
    expect(tries.count('here')).toBe(60);
    // By itself it takes the machine's own clock.
    const own = countTries();
    for (let i = 0; i < 5; i++) own.count('here');
    expect(own.count('here')).toBeLessThanOrEqual(60);
  });
  it('of what is done once a day go on when the clock is set back, and a sleeping machine’s count', () => {
    let [wall, own] = [START, 0];
    const since = stopwatch(
      () => wall,
      () => own,
    );
    wall -= 365 * DAY;
    own += 2 * DAY;
    expect(since()).toBe(2 * DAY);
    const asleep = stopwatch(
      () => wall,
      () => own,
    );
    wall += 9 * 3_600_000;
    expect(asleep()).toBe(9 * 3_600_000);
  });
});

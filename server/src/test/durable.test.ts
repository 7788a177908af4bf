import { cpSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DurableFS } from '../db/durable.js';
import { NotADatabase, databaseOf, openPglite } from '../db/pglite.js';
import type { Database } from '../db/database.js';
import { FIRST, SNAPSHOT } from './fixture.js';
import { verifyLibrary } from '../damage.js';
import type { Pictures } from '../pictures.js';
import { powerCut, seeded, type PowerCut } from './powercut.js';

/** Trials in a run of the tests; a longer proof sets more. */
const TRIALS = Number(process.env.POWER_CUTS ?? 1);
const PATIENCE = 120_000 + TRIALS * 30_000;

let home: string;
beforeAll(async () => void (home = await mkdtemp(join(tmpdir(), 'alluvium-power-'))));
afterAll(() => rm(home, { recursive: true, force: true }));
let serial = 0;
const folder = () => join(home, `d${++serial}`);
const dump = async () => new Blob([await readFile(process.env[SNAPSHOT]!)]);

/** As it was opened before: syncing off, and a file layer that hears of none. */
async function careless(path: string, disk: PowerCut): Promise<Database> {
  const fs = new DurableFS(path, (nodefs) => {
    delete nodefs.stream_ops.fsync;
    disk.layer(nodefs);
  });
  return databaseOf(await PGlite.create({ fs }));
}

const heads = async (db: Database) =>
  (await db.query<{ id: string }>('select id from head order by id')).map((r) => r.id);

/** These libraries have no photos. */
const NO_PICTURES = { read: () => Promise.reject(new Error('There is none.')) } as unknown as Pictures;

/** Writes until the power fails, then opens what is left. Which acknowledged heads are gone, or why it does not open. */
async function trial(open: (path: string, disk: PowerCut) => Promise<Database>, seed: number): Promise<string[]> {
  const random = seeded(seed);
  const disk = powerCut();
  const [path, after] = [folder(), folder()];
  // What lies there before is old: only what follows may be lost.
  cpSync(process.env[FIRST]!, path, { recursive: true });
  const db = await open(path, disk);
  await db.script('checkpoint');
  const acknowledged: string[] = [];
  const writes = 5 + Math.floor(random() * 25);
  for (let i = 0; i < writes; i++) {
    const id = `s${seed}-${i}`;
    // Two records in one change: what is left of it is both, or neither.
    await db.transaction(async (tx) => {
      await tx.query(
        "insert into head (id, version, name, kind, material, intake_valves, exhaust_valves, note) values ($1, 1, $2, 'production', 'iron', 1, 1, $3)",
        [id, id, 'x'.repeat(Math.floor(random() * 6000))],
      );
      await tx.query("insert into stage (id, version, head_id, name) values ($1, 1, $2, 'as received')", [
        `${id}-s`,
        id,
      ]);
    });
    acknowledged.push(id);
    if (random() < 0.1) await db.script('checkpoint');
  }
  disk.cut(path, after, random);
  await db.close();
  try {
    const again = await openPglite(after);
    const there = new Set(await heads(again));
    const halves = await again.query<{ id: string }>(
      'select coalesce(h.id, s.head_id) as id from head h full join stage s on s.head_id = h.id where h.id is null or s.id is null',
    );
    // Every page, index and count is looked at.
    const { damage, repaired } = await verifyLibrary(again, NO_PICTURES);
    await again.close();
    return [
      ...acknowledged.filter((id) => !there.has(id)),
      ...halves.map(({ id }) => `half of ${id}`),
      ...damage,
      ...repaired,
    ];
  } catch (error) {
    return [`does not open: ${(error as Error).message}`];
  } finally {
    await rm(path, { recursive: true, force: true });
    await rm(after, { recursive: true, force: true });
  }
}

describe('a power cut', () => {
  it(
    `loses nothing that was acknowledged, whatever the disk did with the rest (${TRIALS} cuts)`,
    async () => {
      const durable = (path: string, disk: PowerCut) => openPglite(path, undefined, disk.layer);
      for (let seed = 1; seed <= TRIALS; seed++) expect(await trial(durable, seed), `seed ${seed}`).toEqual([]);
      console.log(`figure: ${TRIALS} power cuts, nothing acknowledged lost`);
    },
    PATIENCE,
  );

  it(
    'is a cut that hurts: the same one breaks a database that does not sync',
    async () => {
      // As many as show it; the proof need not break two hundred.
      const trials = Math.min(TRIALS, 20);
      let broken = 0;
      for (let seed = 1; seed <= trials; seed++) if ((await trial(careless, seed)).length > 0) broken++;
      console.log(`figure: ${broken} of ${trials} databases that do not sync were broken by the same cuts`);
      expect(broken).toBeGreaterThanOrEqual(Math.ceil(0.75 * trials));
    },
    PATIENCE,
  );

  it('every commit is synced', async () => {
    const disk = powerCut();
    const db = await openPglite(folder(), await dump(), disk.layer);
    expect(await db.query('show fsync')).toEqual([{ fsync: 'on' }]);
    const before = disk.syncs();
    for (let i = 0; i < 20; i++)
      await db.query("insert into source (id, version, name, kind) values ($1, 1, $2, 'forum')", [`f${i}`, `f${i}`]);
    expect(disk.syncs() - before).toBeGreaterThanOrEqual(20);
    await db.close();
  });
});

describe('a folder that is no database', () => {
  it('is never laid over: what stands there stays, and the sentence says what to do', async () => {
    const path = folder();
    await mkdir(path, { recursive: true });
    await writeFile(join(path, 'base'), 'the rest of a library');
    await expect(openPglite(path)).rejects.toThrow(NotADatabase);
    await expect(openPglite(path)).rejects.toThrow('PG_VERSION is missing');
    expect(await readFile(join(path, 'base'), 'utf8')).toBe('the rest of a library');
  });
});

import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Database } from '../db/database.js';
import { migrate, readMigrations, type Migration } from '../db/migrate.js';
import { openPglite } from '../db/pglite.js';
import { undo } from '../store.js';
import { MIGRATIONS } from './fixture.js';

const quantity = (typed: string) => ({ si: 0.1, typed });
/** What a set-up and a cam said under the program of a step: the schemas of the time filled them. */
const FOURTH = { intakeFlowValve: null, exhaustFlowValve: null, springs: 'unknown', gasket: 'unknown', portKind: '' };
const SIXTEENTH = {
  entrySize: null,
  entryShape: '',
  guides: 'unknown',
  chamber: 'unknown',
  backCut: 'unknown',
  notch: 'unknown',
  notchToRing: 'unknown',
  plug: '',
  plugReach: null,
  barometer: null,
  zero: '',
  scales: null,
};
const setupOf = (step: number) => ({ reads: 'percent', ranges: RANGES, ...FOURTH, ...(step >= 16 ? SIXTEENTH : {}) });
const camOf = (step: number) => ({ duration: quantity('230°'), ...(step >= 16 ? { kind: 'unknown' } : {}) });
const RANGES = [{ name: '3', intake: { si: 0.14, typed: '295.6 cfm' }, exhaust: null }];
/** A record of each noun that a step changed, as the steps before it knew it; each by the columns there are at the time. */
const recordsOf = (step: number): Readonly<Record<string, Record<string, unknown>>> => ({
  source: { name: 'Bench', kind: 'own bench', note: 'stated nothing' },
  build: {
    name: 'Old six',
    bore: quantity('98 mm'),
    stroke: quantity('93 mm'),
    cylinders: 6,
    valves_per_cylinder: 2,
    fuel: 'petrol',
    use: 'street',
    induction: { kind: 'natural' },
    cam: camOf(step),
    power: quantity('290 hp'),
    speed: quantity('5600 rpm'),
    watch_lifts: [],
  },
  head: { name: 'Old', kind: 'production', material: 'iron', intake_valves: 1, exhaust_valves: 1 },
  stage: { head_id: 'keep', name: 'as received' },
  port: { head_id: 'keep', side: 'intake' },
  sheet: {
    stage_id: 'keep',
    source_id: 'bench',
    title: 'first',
    kind: 'measured',
    date: '2025-02-01',
    setup: setupOf(step),
    rows: [],
  },
  measure: { stage_id: 'keep', item: 'bowl', value: quantity('41 mm') },
  attachment: {
    head_id: 'keep',
    name: 'photo',
    type: 'image/png',
    hash: '0'.repeat(64),
    width: 4,
    height: 3,
    bytes: 90,
  },
  session: {
    head_id: 'keep',
    stage_id: 'keep',
    source_id: 'bench',
    title: 'visit',
    plan: {},
    setups: [setupOf(step)],
    finished: false,
    excused: {},
  },
  call: { session_id: 'visit', who: 'Ann' },
  calibration: { source_id: 'bench', date: '2025-01-01', against: 'plate', measured: quantity('201 cfm') },
  pull: { build_id: 'six', title: 'first', rows: [{}] },
});
/** What the records above hang on, by noun. */
const GROUND = { source: 'bench', head: 'keep', stage: 'keep', session: 'visit', build: 'six' };

let steps: Migration[];
let db: Database;
let at = 0;
const columnsOf = async (table: string): Promise<string[]> =>
  (
    await db.query<{ name: string }>(
      `select column_name as name from information_schema.columns where table_schema = 'public' and table_name = $1`,
      [table],
    )
  ).map((r) => r.name);
/** Adds a record in a transaction of its own, by the columns its table has now. */
async function add(noun: string, id: string, record: Record<string, unknown>): Promise<void> {
  const known = new Set(await columnsOf(noun));
  const row = Object.fromEntries(Object.entries({ id, version: 1, ...record }).filter(([c]) => known.has(c)));
  const names = Object.keys(row).map((c) => `"${c}"`);
  await db.transaction((tx) =>
    tx.query(
      `insert into ${noun} (${names.join(', ')}) select ${names.join(', ')} from jsonb_populate_record(null::${noun}, $1::jsonb)`,
      [JSON.stringify(row)],
    ),
  );
}
const lastBatch = async (noun: string, id: string): Promise<number> =>
  (
    await db.query<{ batch: number }>(
      'select batch from change where noun = $1 and record = $2 order by id desc limit 1',
      [noun, id],
    )
  )[0]!.batch;
const recordOf = async (noun: string, id: string): Promise<Record<string, unknown> | undefined> => {
  const [row] = await db.query<Record<string, unknown>>(`select * from ${noun} where id = $1`, [id]);
  return row;
};
/** All of a record but what tells it from its twin. */
const content = (row: Record<string, unknown> | undefined) => {
  const { id: _, version: __, entered: ___, number: ____, ...rest } = row ?? {};
  return rest;
};

interface Written {
  readonly noun: string;
  readonly deleted: number;
  readonly edited: number;
}

/** A library as a version of the program left it: each record beside a twin that was deleted, and one that was edited last. */
async function libraryOf(step: number): Promise<Written[]> {
  await migrate(db, steps.slice(0, step));
  const records = recordsOf(step);
  for (const [noun, id] of Object.entries(GROUND)) await add(noun, id, records[noun]!);
  const written: Written[] = [];
  for (const [noun, record] of Object.entries(records)) {
    const columns = await columnsOf(noun);
    if (columns.length === 0) continue;
    const note = ['note', 'who', 'nickname'].find((c) => columns.includes(c));
    for (const [n, id] of ['alive', 'deleted', 'edited'].entries())
      await add(noun, `${id}-${noun}`, noun === 'port' ? { ...record, number: n + 1 } : record);
    await db.transaction((tx) => tx.query(`delete from ${noun} where id = $1`, [`deleted-${noun}`]));
    await db.transaction((tx) => tx.query(`update ${noun} set "${note}" = 'edited' where id = $1`, [`edited-${noun}`]));
    written.push({
      noun,
      deleted: await lastBatch(noun, `deleted-${noun}`),
      edited: await lastBatch(noun, `edited-${noun}`),
    });
  }
  return written;
}

describe('what was logged before a step can be taken back after it', () => {
  beforeAll(async () => void (steps = await readMigrations(MIGRATIONS)));
  afterAll(() => db.close());
  // The log as it is now began with the seventh step.
  it.each([7, 12, 15, 17, 18])('a library of step %i', async (step) => {
    if (at++ > 0) await db.close();
    db = await openPglite();
    const written = await libraryOf(step);
    const logged = (await db.query<{ n: number }>('select count(*)::int as n from change'))[0]!.n;
    await migrate(db, steps);
    // The user changed nothing, and the log says so.
    expect((await db.query<{ n: number }>('select count(*)::int as n from change'))[0]!.n).toBe(logged);
    for (const { noun, deleted, edited } of written) {
      const alive = await recordOf(noun, `alive-${noun}`);
      // The newest edit is taken back, and is the record its twin is.
      await undo(db, edited);
      expect(content(await recordOf(noun, `edited-${noun}`)), `${noun}, edited`).toEqual(content(alive));
      await undo(db, deleted);
      expect(content(await recordOf(noun, `deleted-${noun}`)), `${noun}, deleted`).toEqual(content(alive));
    }
  });
  it('a later step takes the log along by itself: columns that come, and columns that go', async () => {
    await db.close();
    db = await openPglite();
    await migrate(db, steps);
    await add('source', 'gone', { ...recordsOf(18).source, bench: '', stated: {}, meter: '', scales: [] });
    await add('source', 'here', { ...recordsOf(18).source, bench: '', stated: {}, meter: '', scales: [] });
    await db.transaction((tx) => tx.query("update source set note = 'now' where id = 'here'"));
    await db.transaction((tx) => tx.query("delete from source where id = 'gone'"));
    const last = steps.at(-1)!.number;
    await migrate(db, [
      ...steps,
      {
        number: last + 1,
        sql: 'alter table source add column rating integer not null default 3; alter table source drop column meter',
      },
    ]);
    await undo(db, await lastBatch('source', 'here'));
    await undo(db, await lastBatch('source', 'gone'));
    expect(await db.query('select id, note, rating from source order by id')).toEqual([
      { id: 'gone', note: 'stated nothing', rating: 3 },
      { id: 'here', note: 'stated nothing', rating: 3 },
    ]);
  });
});

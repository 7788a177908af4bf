import { PGlite } from '@electric-sql/pglite';
import { amcheck } from '@electric-sql/pglite/contrib/amcheck';
import { SourceStated } from '@alluvium/records';
import { afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { Database } from '../db/database.js';
import { NewerData, migrate, readMigrations } from '../db/migrate.js';
import { openPglite } from '../db/pglite.js';
import { MIGRATIONS } from './fixture.js';

let db: Database;
/** A database before its first step: begun once, each test has a copy. */
let bare: Blob;
beforeAll(async () => {
  const pg = await PGlite.create({ extensions: { amcheck } });
  bare = await pg.dumpDataDir('none');
  await pg.close();
});
const blank = () => openPglite(undefined, bare);
afterEach(() => db.close());

describe('migrations', () => {
  it('run once, in order', async () => {
    db = await blank();
    const steps = await readMigrations(MIGRATIONS);
    expect(steps.map((s) => s.number)).toEqual(steps.map((_, i) => i + 1));
    expect(await migrate(db, steps)).toBe(steps.length);
    expect(await migrate(db, steps)).toBe(0);
  });
  it('a step that fails leaves nothing of itself', async () => {
    db = await blank();
    await expect(
      migrate(db, [{ number: 1, sql: 'create table half (x integer); select nonsense;' }]),
    ).rejects.toThrow();
    expect(await db.query("select 1 from pg_tables where tablename = 'half'")).toEqual([]);
  });
  it('data of a newer program is left alone', async () => {
    db = await blank();
    await migrate(db, [{ number: 7, sql: 'select 1' }]);
    await expect(migrate(db, [{ number: 1, sql: 'select 1' }])).rejects.toThrow(NewerData);
  });
  it('the database refuses what the form would', async () => {
    db = await blank();
    await migrate(db, await readMigrations(MIGRATIONS));
    const head = (values: string) =>
      db.script(
        `insert into head (id, version, name, kind, material, intake_valves, exhaust_valves) values (${values})`,
      );
    await expect(head("'bad id', 1, 'x', 'production', 'iron', 1, 1")).rejects.toThrow(/identifier_shape/);
    await expect(head("'a', 1, '', 'production', 'iron', 1, 1")).rejects.toThrow(/title_length/);
    await expect(head("'a', 1, 'x', 'production', 'iron', 9, 1")).rejects.toThrow(/head_intake_valves/);
    await head("'a', 1, 'x', 'production', 'iron', 1, 1");
    await expect(
      db.script(
        `insert into measure (id, version, stage_id, item, value) values ('m', 1, 'none', 'throat', '{"si": "wide"}')`,
      ),
    ).rejects.toThrow(/quantity_shape/);
  });
  it('sheets of the third step come along, and know what the bench asks since', async () => {
    db = await blank();
    const steps = await readMigrations(MIGRATIONS);
    await migrate(db, steps.slice(0, 3));
    await db.script(`
      insert into head (id, version, name, kind, material, intake_valves, exhaust_valves) values ('h', 1, 'Old', 'production', 'iron', 1, 1);
      insert into stage (id, version, head_id, name) values ('s', 1, 'h', 'as received');
      insert into sheet (id, version, stage_id, title, kind, setup, rows)
        values ('f', 4, 's', 'Old sheet', 'measured', '{"entry": "clay", "depression": null}', '[]');
    `);
    const [before] = await db.query<{ n: number }>('select count(*)::int as n from change');
    await migrate(db, steps);
    const [row] = await db.query<{ version: number; setup: Record<string, unknown>; swirl: unknown }>(
      'select * from sheet',
    );
    expect(row).toMatchObject({ version: 4, swirl: [] });
    expect(row!.setup).toMatchObject({
      entry: 'clay',
      springs: 'unknown',
      gasket: 'unknown',
      portKind: '',
      intakeFlowValve: null,
    });
    // The user changed nothing, and the log says so.
    expect((await db.query<{ n: number }>('select count(*)::int as n from change'))[0]).toEqual(before);
  });
  it('sources, sheets and photos of the fourth step come along, and say that nothing is stated', async () => {
    db = await blank();
    const steps = await readMigrations(MIGRATIONS);
    await migrate(db, steps.slice(0, 4));
    await db.script(`
      insert into source (id, version, name, kind) values ('s', 2, 'Old room', 'other bench');
      insert into head (id, version, name, kind, material, intake_valves, exhaust_valves) values ('h', 1, 'Old', 'production', 'iron', 1, 1);
      insert into attachment (id, version, head_id, name, type, hash, width, height, bytes)
        values ('a', 1, 'h', 'photo', 'image/png', '${'0'.repeat(64)}', 4, 3, 90);
    `);
    await migrate(db, steps);
    const [source] = await db.query<Record<string, unknown>>('select * from source');
    // What the schema makes of a source that states nothing is what the step wrote.
    expect(source).toMatchObject({ version: 2, bench: '', date: null, stated: SourceStated.parse({}) });
    expect((await db.query('select * from attachment'))[0]).toMatchObject({ head_id: 'h', source_id: null });
    await expect(
      db.script(`
        insert into attachment (id, version, name, type, hash, width, height, bytes)
          values ('b', 1, 'photo', 'image/png', '${'0'.repeat(64)}', 4, 3, 90);
      `),
    ).rejects.toThrow(/attachment_belongs/);
    await expect(db.script("update attachment set source_id = 's'")).rejects.toThrow(/content of a photo/);
    await expect(
      db.script("insert into question (id, version, text, state) values ('q', 1, 'So?', 'true')"),
    ).rejects.toThrow(/question_/);
  });
  it('builds and heads of the seventh step come along; an engine may then be known by its displacement', async () => {
    db = await blank();
    const steps = await readMigrations(MIGRATIONS);
    await migrate(db, steps.slice(0, 7));
    const put = (id: string, columns: string, values: string) =>
      db.script(`
        insert into build (id, version, name, cylinders, valves_per_cylinder, fuel, use, induction, speed, watch_lifts${columns})
          values ('${id}', 3, 'Old six', 6, 2, 'petrol', 'street', '{"kind": "natural"}', '{"si": 93, "typed": "5600 rpm"}', '[]'${values});
      `);
    const size = ', \'{"si": 0.098, "typed": "98 mm"}\', \'{"si": 0.093, "typed": "93 mm"}\'';
    const power = ', \'{"si": 216000, "typed": "290 hp"}\'';
    await put('old', ', bore, stroke, power', size + power);
    await migrate(db, steps);
    expect((await db.query('select * from build'))[0]).toMatchObject({
      version: 3,
      displacement: null,
      torque: null,
      bore: { typed: '98 mm' },
    });
    await put(
      'new',
      ', displacement, torque',
      ', \'{"si": 0.0042, "typed": "4.2 L"}\', \'{"si": 370, "typed": "370 N m"}\'',
    );
    await expect(put('bad', ', bore, power', ', \'{"si": 0.098, "typed": "98 mm"}\'' + power)).rejects.toThrow(
      /build_size/,
    );
    await expect(put('none', ', bore, stroke', size)).rejects.toThrow(/build_wanted/);
    // The new nouns are counted like every other.
    const tally = await db.query<{ noun: string; n: number }>(
      "select noun, n::int from tally where noun in ('build', 'assumption', 'verdict') order by noun",
    );
    expect(tally).toEqual([
      { noun: 'assumption', n: 0 },
      { noun: 'build', n: 2 },
      { noun: 'verdict', n: 0 },
    ]);
  });
  it('full scales of the fifteenth step move to their bench by date; every sheet and session keeps the ones it was read by', async () => {
    db = await blank();
    const steps = await readMigrations(MIGRATIONS);
    await migrate(db, steps.slice(0, 15));
    const ranges = (intake: string) =>
      JSON.stringify([{ name: '3', intake: { si: 0.1, typed: intake }, exhaust: null }]);
    const setup = (intake: string | null) =>
      `{"reads": "percent", "ranges": ${intake === null ? '[]' : ranges(intake)}}`;
    await db.script(`
      insert into source (id, version, name, kind) values ('b', 1, 'Bench', 'own bench');
      insert into head (id, version, name, kind, material, intake_valves, exhaust_valves) values ('h', 1, 'Old', 'production', 'iron', 1, 1);
      insert into stage (id, version, head_id, name) values ('s', 1, 'h', 'as received');
      insert into sheet (id, version, stage_id, source_id, title, kind, date, setup, rows, entered) values
        ('f1', 1, 's', 'b', 'first', 'measured', '2025-02-01', '${setup('295.6 cfm')}', '[]', 1),
        ('f2', 1, 's', 'b', 'same', 'measured', '2025-05-01', '${setup('295.6 cfm')}', '[]', 2),
        ('f3', 2, 's', 'b', 'moved', 'measured', '2025-05-01', '${setup('301 cfm')}', '[]', 3),
        ('f4', 1, 's', null, 'nobody', 'measured', null, '${setup('80 cfm')}', '[]', 4),
        ('f5', 1, 's', 'b', 'flow', 'measured', null, '${setup(null)}', '[]', 5);
      insert into session (id, version, head_id, stage_id, source_id, title, date, finished, excused, plan, setups)
        values ('v', 3, 'h', 's', 'b', 'visit', '2025-05-01', false, '{}', '{}', '[${setup('301 cfm')}, ${setup('295.6 cfm')}]');
    `);
    const [before] = await db.query<{ n: number }>('select count(*)::int as n from change');
    await migrate(db, steps);
    const [bench] = await db.query<{ scales: { since: string }[]; version: number }>(
      'select scales, version from source',
    );
    expect(bench!.scales.map((s) => s.since)).toEqual(['2025-02-01', '2025-05-01']);
    const sheets = await db.query<{
      id: string;
      setup: { scales: string | null; ranges: { intake: { typed: string } }[] };
    }>('select id, setup from sheet order by id');
    expect(sheets.map((s) => [s.id, s.setup.scales, s.setup.ranges[0]?.intake.typed])).toEqual([
      ['f1', '2025-02-01', '295.6 cfm'],
      ['f2', '2025-02-01', '295.6 cfm'],
      ['f3', '2025-05-01', '301 cfm'],
      ['f4', null, '80 cfm'],
      ['f5', null, undefined],
    ]);
    const [visit] = await db.query<{ version: number; setups: { scales: string }[] }>(
      'select version, setups from session',
    );
    expect(visit).toMatchObject({ version: 3, setups: [{ scales: '2025-05-01' }, { scales: '2025-02-01' }] });
    // The user changed nothing, and the log says so.
    expect((await db.query<{ n: number }>('select count(*)::int as n from change'))[0]).toEqual(before);
  });
});

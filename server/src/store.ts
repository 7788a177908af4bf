import { NOUNS, fingerprint, type Done, type Extent, type Noun, type RecordOf, type Touched } from '@alluvium/records';
import type { Database, Queries } from './db/database.js';
import { Problem } from './problems.js';
import { toRecord, toRow } from './rows.js';

// row!, state!, strangers!: one row comes back, whatever is there.

export { toRecord };

/** The batch number of the running transaction: hands it out so that the whole of it can be undone. */
export async function batchOf(tx: Queries): Promise<number> {
  const [row] = await tx.query<{ batch: number }>('select txid_current() as batch');
  return row!.batch;
}

/** More records than this are not told one by one. */
const MOST_TOUCHED = 300;

/** What a batch touched, and what each record hangs on, also when that went with it. */
export async function touchedBy(db: Queries, batch: number): Promise<Extent> {
  // The library was put back as a whole.
  if (batch === 0) return 'all';
  const rows = await db.query<object>(
    `select distinct c.noun, c.record as id,
       case when c.noun = 'head' then c.record else coalesce(r.is ->> 'head_id', s.head_id,
         (select d.before ->> 'head_id' from change d where d.batch = $1 and d.noun = 'stage' and d.record = r.is ->> 'stage_id' limit 1)) end as head_id,
       case when c.noun = 'build' then c.record else r.is ->> 'build_id' end as build_id,
       case when c.noun = 'session' then c.record else r.is ->> 'session_id' end as session_id
     from change c cross join lateral (select coalesce(c.after, c.before) as is) r
     left join stage s on s.id = r.is ->> 'stage_id'
     where c.batch = $1 limit ${MOST_TOUCHED + 1}`,
    [batch],
  );
  return rows.length > MOST_TOUCHED ? 'all' : rows.map((r) => toRecord<Touched>(r));
}

/** What the running transaction did so far: goes along with the answer. */
export async function done(tx: Queries): Promise<Done> {
  const batch = await batchOf(tx);
  return { batch, touched: await touchedBy(tx, batch) };
}

/** Adds records of one noun in one statement. */
export const insertAll = (tx: Queries, noun: Noun, records: readonly object[]): Promise<void> =>
  insertRows(
    tx,
    noun,
    records.map((r) => JSON.stringify(toRow(r))),
  );

/** The same for rows that are JSON text already. */
export async function insertRows(tx: Queries, noun: Noun, rows: readonly string[]): Promise<void> {
  if (rows.length === 0) return;
  await tx.query(`insert into ${noun} select * from jsonb_populate_recordset(null::${noun}, $1::jsonb)`, [
    `[${rows.join(',')}]`,
  ]);
}

/** What a query gives, as records. */
export const rowsOf = async <T>(db: Queries, sql: string, parameters: unknown[] = []): Promise<T[]> =>
  (await db.query<object>(sql, parameters)).map((r) => toRecord<T>(r));

export async function find<N extends Noun>(tx: Queries, noun: N, id: string): Promise<RecordOf<N> | undefined> {
  const [row] = await tx.query<object>(`select * from ${noun} where id = $1`, [id]);
  return row && toRecord<RecordOf<N>>(row);
}

/** Replaces a record that is still at the version the writer saw. @throws Problem conflict, with the stored record, when it is not. */
export async function replace<N extends Noun>(tx: Queries, noun: N, record: RecordOf<N>): Promise<RecordOf<N>> {
  const columns = Object.keys(toRow(record)).filter((c) => c !== 'id' && c !== 'version');
  const [row] = await tx.query<object>(
    `update ${noun} t set (${columns.map((c) => `"${c}"`).join(', ')}) = (select ${columns.map((c) => `n."${c}"`).join(', ')} from jsonb_populate_record(null::${noun}, $1::jsonb) n)
     where t.id = $2 and t.version = $3 returning t.*`,
    [JSON.stringify(toRow(record)), record.id, record.version],
  );
  if (row) return toRecord<RecordOf<N>>(row);
  const current = await find(tx, noun, record.id);
  if (!current) throw new Problem('not-found', 'This was deleted meanwhile. Undo the deletion, or save a copy.');
  throw new Problem('conflict', 'Someone saved this after you opened it. Compare both versions, then keep one.', {
    current,
  });
}

export async function remove(tx: Queries, noun: Noun, id: string): Promise<void> {
  const rows = await tx.query(`delete from ${noun} where id = $1 returning id`, [id]);
  if (rows.length === 0) throw new Problem('not-found', 'This was deleted already.');
}

/** Whether what is stored is what was sent, whatever its version: a change sent twice is one. */
export const isStored = (stored: object | undefined, sent: object): boolean =>
  stored !== undefined && fingerprint(stored) === fingerprint(sent);

/** The batch that last wrote a record. */
export async function lastBatch(tx: Queries, noun: Noun, id: string): Promise<number> {
  const [row] = await tx.query<{ batch: number }>(
    'select batch from change where noun = $1 and record = $2 order by id desc limit 1',
    [noun, id],
  );
  return row!.batch;
}

/** What a batch did to one record, taken together. */
interface Change {
  readonly noun: Noun;
  readonly record: string;
  readonly before: object | null;
  readonly after: object | null;
}

/** What a batch did, the last first. A cascade may touch a record more than once: only its first and its last state matter. */
export const changesOf = (tx: Queries, batch: number): Promise<Change[]> =>
  tx.query<Change>(
    `select noun, record, (array_agg(before order by id))[1] as before, (array_agg(after order by id desc))[1] as after
     from change where batch = $1 group by noun, record order by max(id) desc`,
    [batch],
  );

const CHANGED_SINCE = 'This was changed again since: undo the later change first.';

/**
 * Takes back one batch. The undo is a batch too, so undoing it is redo.
 * @throws Problem conflict when any record of it was changed since, or something new hangs on one.
 */
export async function undo(db: Database, batch: number): Promise<Done> {
  return db.transaction(async (tx) => {
    await tx.script("set constraints all deferred; set local alluvium.correction = 'on'");
    const changes = await changesOf(tx, batch);
    if (changes.length === 0) throw new Problem('not-found', 'There is no such change to undo.');
    for (const { noun, record, after } of changes) {
      if (!(noun in NOUNS)) throw new Problem('broken', `Unknown noun ${noun} in the change log.`);
      const [state] = await tx.query<{ same: boolean }>(
        `select (select to_jsonb(t) - 'entered' from ${noun} t where id = $1) is not distinct from $2::jsonb - 'entered' as same`,
        [record, after === null ? null : JSON.stringify(after)],
      );
      if (!state!.same) throw new Problem('conflict', CHANGED_SINCE);
    }
    for (const { noun, record, before, after } of changes) {
      if (before === null) await tx.query(`delete from ${noun} where id = $1`, [record]);
      else if (after === null) await insertAll(tx, noun, [before]);
      else await replace(tx, noun, toRecord({ ...before, version: (after as { version: number }).version }));
    }
    const [strangers] = await tx.query<{ any: boolean }>(
      `select exists (select from change c where batch = txid_current()
         and not exists (select from change o where o.batch = $1 and o.noun = c.noun and o.record = c.record)) as any`,
      [batch],
    );
    if (strangers!.any) throw new Problem('conflict', CHANGED_SINCE);
    return done(tx);
  });
}

/** Earlier states of one record, newest first. */
export async function history(db: Queries, noun: Noun, id: string) {
  const changes = await db.query<{ batch: number; at: string; before: object | null; after: object | null }>(
    'select batch, at, before, after from change where noun = $1 and record = $2 order by id desc limit 200',
    [noun, id],
  );
  const record = (row: object | null) => row && toRecord<object>(row);
  return changes.map((c) => ({ ...c, before: record(c.before), after: record(c.after) }));
}

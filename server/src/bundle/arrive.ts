import { NOUN_NAMES, fingerprint, sentence, type BundleProblem, type Noun } from '@alluvium/records';
import type { Database, Queries } from '../db/database.js';
import { giveWay } from '../giveWay.js';
import type { Pictures } from '../pictures.js';
import { Problem } from '../problems.js';
import { batchOf, insertRows, replace, toRecord } from '../store.js';
import type { OpenBundle } from './reader.js';
import type { Slice } from './slices.js';
import { takeBack } from './takeBack.js';

// counts.get()!: made for every noun.
// slice.rows[]!: places of the slice itself.

interface Sorted {
  /** Places in the slice of records that are new here. */
  readonly fresh: readonly number[];
  /** Places of those that stand here and differ, with the version that stands. */
  readonly changed: readonly { readonly at: number; readonly version: number }[];
  readonly same: number;
}

async function sortOut(db: Queries, slice: Slice): Promise<Sorted> {
  const rows = await db.query<object>(`select * from ${slice.noun} where id = any($1)`, [slice.ids]);
  const here = new Map(rows.map((row) => toRecord<{ id: string; version: number }>(row)).map((r) => [r.id, r]));
  const fresh: number[] = [];
  const changed: { at: number; version: number }[] = [];
  slice.ids.forEach((id, at) => {
    const stored = here.get(id);
    if (!stored) fresh.push(at);
    else if (fingerprint(stored) !== slice.prints[at]) changed.push({ at, version: stored.version });
  });
  return { fresh, changed, same: slice.ids.length - fresh.length - changed.length };
}

/** What the file lacks and this library does not have either: records it refers to, content of photos. */
export async function lacking(db: Database, pictures: Pictures, { contents }: OpenBundle): Promise<BundleProblem[]> {
  const problems = [...contents.problems];
  for (const noun of NOUN_NAMES) {
    const asked = contents.outside.filter((o) => o.noun === noun);
    for (let i = 0; i < asked.length; i += 1_000) {
      const part = asked.slice(i, i + 1_000);
      const rows = await db.query<{ id: string }>(`select id from ${noun} where id = any($1)`, [part.map((o) => o.id)]);
      const here = new Set(rows.map((r) => r.id));
      problems.push(...part.filter((o) => !here.has(o.id)).map((o) => o.problem));
      await giveWay();
    }
  }
  for (const { id, name, hash, brought, lost } of contents.photos)
    if (!brought && !lost && !(await pictures.has(hash)))
      problems.push({ place: `attachments (${id})`, ...sentence('photoNotInFile', name) });
  return problems;
}

export type Count = { readonly noun: Noun; fresh: number; changed: number; same: number };

/** How a bundle stands to this library; writes nothing. */
export async function compare(db: Database, bundle: OpenBundle): Promise<Count[]> {
  const counts = new Map(NOUN_NAMES.map((noun) => [noun, { noun, fresh: 0, changed: 0, same: 0 }]));
  for (let i = 0; i < bundle.contents.slices; i++) {
    const slice = await bundle.slice(i);
    const { fresh, changed, same } = await sortOut(db, slice);
    const count = counts.get(slice.noun)!;
    count.fresh += fresh.length;
    count.changed += changed.length;
    count.same += same;
    await giveWay();
  }
  return [...counts.values()];
}

export interface Arrived {
  readonly fresh: number;
  readonly changed: number;
  readonly same: number;
  /** Null when nothing was written. */
  readonly batch: number | null;
}

/** More new records than this leave the planner without a notion of how large the tables are. */
const MANY = 200;

/**
 * Brings a bundle in slice by slice, so that nobody waits for the whole of it; all of it is one batch, and all or
 * nothing: what fails or is cancelled is taken back here, what a crash leaves is taken back at the next start. What others
 * worked on meanwhile stays.
 */
export async function arrive(
  db: Database,
  pictures: Pictures,
  bundle: OpenBundle,
  policy: 'keep' | 'replace',
  onProgress: (done: number, of: number) => void,
  signal?: AbortSignal,
): Promise<Arrived> {
  // Content first: a record never stands without its file, while a file without a record does no harm.
  for (const hash of bundle.contents.files)
    await pictures.restore(hash, Buffer.from(await bundle.file(hash), 'base64'));
  const of = bundle.contents.records;
  const total = { fresh: 0, changed: 0, same: 0 };
  let done = 0;
  let batch: number | null = null;
  try {
    for (let i = 0; i < bundle.contents.slices; i++) {
      if (signal?.aborted) throw new Problem('refused', 'The import was cancelled; nothing of it is kept.');
      const slice = await bundle.slice(i);
      const sorted = await sortOut(db, slice);
      const changed = policy === 'replace' ? sorted.changed : [];
      if (sorted.fresh.length + changed.length > 0) {
        batch ??= await begin(db);
        await db.transaction(async (tx) => {
          await tx.script(`set local alluvium.batch = '${batch}'`);
          await insertRows(
            tx,
            slice.noun,
            sorted.fresh.map((at) => slice.rows[at]!),
          );
          for (const { at, version } of changed)
            await replace(tx, slice.noun, { ...toRecord<object>(JSON.parse(slice.rows[at]!)), version } as never);
        });
      }
      total.fresh += sorted.fresh.length;
      total.changed += changed.length;
      total.same += slice.ids.length - sorted.fresh.length - changed.length;
      onProgress((done += slice.ids.length), of);
      await giveWay();
    }
    if (batch !== null) await end(db, batch);
  } catch (error) {
    if (batch === null) throw error;
    const id = batch;
    const kept = await db.transaction((tx) => takeBack(tx, id));
    if (kept > 0 && error instanceof Problem)
      throw new Problem(
        error.id,
        `${error.message} Others had worked on a part of it meanwhile: that stays, ${kept} ${kept === 1 ? 'record' : 'records'} of it.`,
      );
    throw error;
  }
  if (total.fresh >= MANY)
    for (const noun of NOUN_NAMES) {
      await db.script(`analyze ${noun}`);
      await giveWay();
    }
  return { ...total, batch };
}

const begin = (db: Database): Promise<number> =>
  db.transaction(async (tx) => {
    const batch = await batchOf(tx);
    await tx.query('insert into arriving (batch) values ($1)', [batch]);
    return batch;
  });

const end = (db: Database, batch: number): Promise<void> =>
  db.transaction(async (tx) => {
    await tx.query('delete from arriving where batch = $1', [batch]);
    await tx.query(`select pg_notify('change', $1)`, [String(batch)]);
  });

/** Takes back what imports left that a crash or a power cut ended; returns how many there were. */
export async function takeBackUnfinished(db: Database): Promise<number> {
  const rows = await db.query<{ batch: number }>('select batch from arriving order by batch desc');
  for (const { batch } of rows) await db.transaction((tx) => takeBack(tx, batch));
  return rows.length;
}

/**
 * The records of a library as they stood at one moment, read while others go on writing: everything page by page, then
 * what was changed meanwhile once more, in one short transaction.
 */
import { createHash } from 'node:crypto';
import {
  BUNDLE_FORMAT,
  BUNDLE_KEYS,
  BUNDLE_VERSION,
  NOUN_NAMES,
  compactRecord,
  type Attachment,
  type Noun,
} from '@alluvium/records';
import type { Database, Queries } from '../db/database.js';
import { giveWay } from '../giveWay.js';
import { orderOf, toRecord } from '../rows.js';
import type { Place, Spool } from './spool.js';

// row!, ()[]!, rows.at()!: a count gives one row; the last is taken of rows that came.
// index.get()!: made for every noun.
// places[]!, rows[]!: one for each record.

/** Rows read at a time; others are served in between. */
const PAGE = 200;
/** Records changed meanwhile that are read while others wait. */
const FEW = 200;
/** Rounds of reading what was changed meanwhile; after that, others wait for whatever is left. */
const ROUNDS = 20;

export type Photo = Pick<Attachment, 'hash' | 'type' | 'name'>;

/** A record that was read: where its text lies, and by what it is put in order. */
interface Entry extends Place {
  readonly key: string | number;
  readonly photo?: Photo;
}
/** Entries by noun and id. */
type Index = ReadonlyMap<Noun, Map<string, Entry>>;

/** Which state of the library this is: it moves with every change, and when a backup is put back. */
export async function stateOf(db: Queries): Promise<string> {
  const [row] = await db.query<{ state: string }>(
    `select concat_ws('/', (select value from fact where name = 'library'), coalesce((select max(id) from change), 0),
       (select value from fact where name = 'restored')) as state`,
  );
  return row!.state;
}

const newestChange = async (db: Queries): Promise<number> =>
  (await db.query<{ id: number }>('select coalesce(max(id), 0)::int8 as id from change'))[0]!.id;

async function take(spool: Spool, index: Index, noun: Noun, rows: readonly Record<string, unknown>[]): Promise<void> {
  const order = orderOf(noun);
  const records = rows.map((row) => toRecord<{ id: string }>(row));
  const places = await spool.add(records.map((r) => JSON.stringify(compactRecord(r))));
  records.forEach((record, i) =>
    index.get(noun)!.set(record.id, {
      ...places[i]!,
      key: rows[i]![order] as string | number,
      ...(noun === 'attachment' ? { photo: record as object as Photo } : {}),
    }),
  );
}

/** Reads again what was changed after `from`; records that are gone leave the index. Returns how many there were. */
async function takeChanged(db: Queries, spool: Spool, index: Index, from: number): Promise<number> {
  const changed = await db.query<{ noun: Noun; ids: string[] }>(
    'select noun, array_agg(distinct record) as ids from change where id > $1 group by noun',
    [from],
  );
  for (const { noun, ids } of changed) {
    for (const id of ids) index.get(noun)!.delete(id);
    for (let i = 0; i < ids.length; i += PAGE)
      await take(
        spool,
        index,
        noun,
        await db.query(`select * from ${noun} where id = any($1)`, [ids.slice(i, i + PAGE)]),
      );
  }
  return changed.reduce((n, { ids }) => n + ids.length, 0);
}

export interface Moment {
  readonly state: string;
  readonly index: Index;
}

/** Every record as it stands at the moment this ends. Others wait for no more than a few hundred records. */
export async function readRecords(db: Database, spool: Spool): Promise<Moment> {
  const index: Index = new Map(NOUN_NAMES.map((noun) => [noun, new Map<string, Entry>()]));
  let from = await newestChange(db);
  for (const noun of NOUN_NAMES) {
    const order = orderOf(noun);
    for (let last: unknown; ;) {
      const rows = await db.query<Record<string, unknown>>(
        `select * from ${noun} ${last === undefined ? '' : `where ${order} > $1`} order by ${order} limit ${PAGE}`,
        last === undefined ? [] : [last],
      );
      if (rows.length === 0) break;
      last = rows.at(-1)![order];
      await take(spool, index, noun, rows);
      await giveWay();
    }
  }
  for (let round = 0; round < ROUNDS; round++) {
    const [now, count] = [await newestChange(db), await countSince(db, from)];
    if (count <= FEW) break;
    await takeChanged(db, spool, index, from);
    from = now;
    await giveWay();
  }
  const state = await db.transaction(async (tx) => {
    await takeChanged(tx, spool, index, from);
    return stateOf(tx);
  });
  return { state, index };
}

const countSince = async (db: Queries, from: number): Promise<number> =>
  (
    await db.query<{ n: number }>('select count(distinct (noun, record))::int8 as n from change where id > $1', [from])
  )[0]!.n;

export interface Written {
  readonly counts: Record<string, number>;
  readonly sha256: string;
  readonly bytes: number;
  readonly photos: readonly Photo[];
}

/** The text of a moment as a bundle, a record a line and in order, through `sink`. */
export async function writeRecords(
  { index }: Moment,
  spool: Spool,
  sink: (text: string) => void | Promise<void>,
): Promise<Written> {
  const hash = createHash('sha256');
  let bytes = 0;
  const counts: Record<string, number> = {};
  const photos: Photo[] = [];
  const say = async (text: string) => {
    hash.update(text);
    bytes += Buffer.byteLength(text);
    await sink(text);
  };
  await say(`{"format":"${BUNDLE_FORMAT}","version":${BUNDLE_VERSION}`);
  for (const noun of NOUN_NAMES) {
    await say(`,\n"${BUNDLE_KEYS[noun]}":[`);
    const entries = [...index.get(noun)!.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
    for (let i = 0; i < entries.length; i += PAGE) {
      const texts = await spool.read(entries.slice(i, i + PAGE));
      await say(texts.map((text, n) => `${i + n === 0 ? '\n' : ',\n'}${text}`).join(''));
      await giveWay();
    }
    for (const { photo } of entries) if (photo) photos.push(photo);
    counts[noun] = entries.length;
    await say(']');
  }
  await say('}\n');
  return { counts, sha256: hash.digest('hex'), bytes, photos };
}

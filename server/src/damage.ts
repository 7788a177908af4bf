import { NOUN_NAMES, NOUN_WORDS, type Noun } from '@alluvium/records';
import type { Database } from './db/database.js';
import { giveWay } from './giveWay.js';
import type { Pictures } from './pictures.js';
import { sha256 } from './stored.js';

// row!: one row comes back, whatever is there.

/** One thing that is wrong with a library, as a sentence. */
export type Damage = string;

const many = (noun: Noun, n: number) => `${n} ${n === 1 ? NOUN_WORDS[noun].one : NOUN_WORDS[noun].many}`;

/**
 * What a library lost, found by its counts: fast enough for every start. A table that cannot be read is damaged too.
 */
export async function lostRecords(db: Database): Promise<Damage[]> {
  const damage: Damage[] = [];
  const counted = new Map<string, number>();
  try {
    for (const { noun, n } of await db.query<{ noun: string; n: number }>('select noun, n from tally'))
      counted.set(noun, n);
  } catch (error) {
    return [`The counts of the library cannot be read: ${(error as Error).message}.`];
  }
  for (const noun of NOUN_NAMES) {
    const expected = counted.get(noun);
    try {
      const [row] = await db.query<{ n: number }>(`select count(*)::int8 as n from ${noun}`);
      if (expected === undefined) damage.push(`The count of ${NOUN_WORDS[noun].many} is missing.`);
      else if (row!.n !== expected) damage.push(`${many(noun, expected)} should be here; ${row!.n} are.`);
    } catch (error) {
      damage.push(`The ${NOUN_WORDS[noun].many} cannot be read: ${(error as Error).message}.`);
    }
  }
  return damage;
}

/**
 * Reads everything: every row of every noun and of the change log, so that the checksum of every page is looked at;
 * every index against its table; every photo against its hash. Others are served in between.
 */
export async function verifyLibrary(db: Database, pictures: Pictures): Promise<Damage[]> {
  const damage = await lostRecords(db);
  for (const table of [...NOUN_NAMES, 'change', 'tally', 'fact', 'instrument']) {
    try {
      for (let page = 0, more = true; more; page += 200) {
        // Turned into text, so that what is kept outside the row is read as well.
        const [row] = await db.query<{ n: number | null; last: boolean }>(
          `select sum(length(t::text)) as n, pg_relation_size('${table}') <= ${(page + 200) * 8192} as last
           from ${table} t where ctid >= '(${page},0)'::tid and ctid < '(${page + 200},0)'::tid`,
        );
        more = !row!.last;
        await giveWay();
      }
    } catch (error) {
      damage.push(`The table ${table} is damaged: ${(error as Error).message}.`);
    }
  }
  const indexes = await db.query<{ oid: number; name: string }>(
    `select c.oid::int8 as oid, c.relname as name from pg_index i join pg_class c on c.oid = i.indexrelid
     join pg_am a on a.oid = c.relam join pg_namespace s on s.oid = c.relnamespace
     where a.amname = 'btree' and s.nspname = 'public' and i.indisvalid`,
  );
  for (const { oid, name } of indexes) {
    try {
      await db.query(`select bt_index_check(${oid}::regclass, true)`);
    } catch (error) {
      damage.push(`The index ${name} is damaged: ${(error as Error).message}.`);
    }
    await giveWay();
  }
  for (const { id, name, hash, type } of await db.query<{ id: string; name: string; hash: string; type: string }>(
    'select id, name, hash, type from attachment',
  )) {
    const content = await pictures.read(hash, type as never).catch(() => undefined);
    if (!content) damage.push(`The photo “${name}” (${id}) is missing.`);
    else if (sha256(content) !== hash) damage.push(`The photo “${name}” (${id}) is not what it was.`);
    await giveWay();
  }
  return damage;
}

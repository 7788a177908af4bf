import { NOUN_NAMES, NOUN_WORDS, type Attachment, type Noun } from '@alluvium/records';
import type { Database } from './db/database.js';
import { giveWay } from './giveWay.js';
import type { Pictures } from './pictures.js';

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

/** Every row of every table is read, so that the checksum of every page is looked at. Others are served in between. */
async function damagedTables(db: Database): Promise<Damage[]> {
  const damage: Damage[] = [];
  for (const table of [...NOUN_NAMES, 'change', 'tally', 'fact', 'instrument', 'arriving']) {
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
  return damage;
}

/** What was found, and what of it could be put right. */
export interface Found {
  readonly damage: readonly Damage[];
  /** Sentences of what was put right: nothing of it is lost. */
  readonly repaired: readonly string[];
}

/** Every index against its table. One that is damaged holds nothing of its own, and is built again from its table. */
export async function repairIndexes(db: Database): Promise<Found> {
  const damage: Damage[] = [];
  const repaired: string[] = [];
  const indexes = await db.query<{ oid: number; name: string; of: string }>(
    `select c.oid::int8 as oid, c.relname as name, t.relname as of from pg_index i join pg_class c on c.oid = i.indexrelid
     join pg_class t on t.oid = i.indrelid join pg_am a on a.oid = c.relam join pg_namespace s on s.oid = c.relnamespace
     where a.amname = 'btree' and s.nspname = 'public' and i.indisvalid`,
  );
  const check = (oid: number) => db.query(`select bt_index_check(${oid}::regclass, true)`);
  for (const { oid, name, of } of indexes) {
    try {
      await check(oid);
    } catch (error) {
      try {
        await db.transaction((tx) => tx.script(`reindex index "${name}"`));
        await check(oid);
        repaired.push(`The index ${name} was damaged, and was built again from the table ${of}.`);
      } catch {
        damage.push(`The index ${name} is damaged: ${(error as Error).message}.`);
      }
    }
    await giveWay();
  }
  return { damage, repaired };
}

/** Every photo against its hash. `kept` gives the content a backup has, from which a lost one is put back. */
async function repairPhotos(
  db: Database,
  pictures: Pictures,
  kept: (photo: Pick<Attachment, 'hash' | 'type'>) => Promise<Buffer | undefined>,
): Promise<Found> {
  const damage: Damage[] = [];
  const repaired: string[] = [];
  for (const photo of await db.query<Pick<Attachment, 'name' | 'hash' | 'type'> & { of: string | null }>(
    `select a.name, a.hash, a.type, coalesce(h.name, s.name) as of from attachment a
     left join head h on h.id = a.head_id left join source s on s.id = a.source_id order by a.id`,
  )) {
    const { name, hash, type, of } = photo;
    if (!(await pictures.read(hash, type))) {
      const called = `The photo “${name}”${of ? ` of ${of}` : ''}`;
      const what = (await pictures.has(hash)) ? 'not what it was' : 'missing';
      const content = await kept(photo);
      if (content) {
        await pictures.restore(hash, content);
        repaired.push(`${called} was ${what}, and was put back from the backups.`);
      } else damage.push(`${called} is ${what}.`);
    }
    await giveWay();
  }
  return { damage, repaired };
}

/** A part of the check that cannot be done at all is damage as well: the database's own tables are read on the way. */
const orDamage = (what: string, part: Promise<Found>): Promise<Found> =>
  part.catch((error: Error) => ({ damage: [`The ${what} cannot be looked through: ${error.message}.`], repaired: [] }));

/** Reads everything there is, and puts right what can be: see the parts above. */
export async function verifyLibrary(
  db: Database,
  pictures: Pictures,
  kept: Parameters<typeof repairPhotos>[2] = async () => undefined,
): Promise<Found> {
  const parts: Found[] = [
    { damage: [...(await lostRecords(db)), ...(await damagedTables(db))], repaired: [] },
    await orDamage('indexes', repairIndexes(db)),
    await orDamage('photos', repairPhotos(db, pictures, kept)),
  ];
  return { damage: parts.flatMap((p) => p.damage), repaired: parts.flatMap((p) => p.repaired) };
}

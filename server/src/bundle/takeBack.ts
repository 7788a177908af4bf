/** Takes an import back that did not end, without touching what others did with a part of it meanwhile. */
import type { Noun } from '@alluvium/records';
import type { Queries } from '../db/database.js';
import { changesOf } from '../store.js';

/** A column by which records of one noun hang on those of another. */
interface Reference {
  readonly child: Noun;
  readonly column: string;
  readonly parent: Noun;
}

const referencesOf = (tx: Queries): Promise<Reference[]> =>
  tx.query<Reference>(
    `select child.relname as child, a.attname as column, parent.relname as parent
     from pg_constraint c join pg_class child on child.oid = c.conrelid join pg_class parent on parent.oid = c.confrelid
     join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
     where c.contype = 'f' and c.connamespace = 'public'::regnamespace`,
  );

const keyOf = (noun: string, id: string) => `${noun} ${id}`;

/**
 * Which of the records an import brought have to stay: those others changed since, those others hung something on, and
 * whatever these hang on themselves. `brought` gives the version each was left at, by noun and id.
 */
async function heldByOthers(
  tx: Queries,
  brought: ReadonlyMap<Noun, ReadonlyMap<string, number>>,
): Promise<Set<string>> {
  const held = new Set<string>();
  for (const [noun, versions] of brought) {
    const rows = await tx.query<{ id: string; version: number }>(`select id, version from ${noun} where id = any($1)`, [
      [...versions.keys()],
    ]);
    for (const { id, version } of rows) if (version !== versions.get(id)) held.add(keyOf(noun, id));
  }
  /** What each record that was brought hangs on, of what was brought. */
  const above = new Map<string, string[]>();
  for (const { child, column, parent } of await referencesOf(tx)) {
    const parents = brought.get(parent);
    if (!parents) continue;
    const rows = await tx.query<{ id: string; parent: string }>(
      `select id, "${column}" as parent from ${child} where "${column}" = any($1)`,
      [[...parents.keys()]],
    );
    for (const row of rows) {
      const on = keyOf(parent, row.parent);
      if (!brought.get(child)?.has(row.id)) held.add(on);
      else above.set(keyOf(child, row.id), [...(above.get(keyOf(child, row.id)) ?? []), on]);
    }
  }
  // A set hands out what is added while it is gone through.
  for (const key of held) for (const on of above.get(key) ?? []) held.add(on);
  return held;
}

/**
 * Removes what an import brought, and puts back what it replaced where nobody touched it since. What others changed or
 * hung something on stays, and so does what that hangs on. Returns how many records of the import stay.
 */
export async function takeBack(tx: Queries, batch: number): Promise<number> {
  await tx.script(`set constraints all deferred; set local alluvium.correction = 'on'`);
  const changes = await changesOf(tx, batch);
  const brought = new Map<Noun, Map<string, number>>();
  for (const { noun, record, before, after } of changes) {
    if (before !== null || after === null) continue;
    const versions = brought.get(noun) ?? new Map<string, number>();
    brought.set(noun, versions.set(record, (after as { version: number }).version));
  }
  const held = await heldByOthers(tx, brought);
  for (const { noun, record, before, after } of changes) {
    if (before === null) {
      if (!held.has(keyOf(noun, record))) await tx.query(`delete from ${noun} where id = $1`, [record]);
    } else
      await tx.query(
        `update ${noun} t set ${Object.keys(before)
          .filter((c) => c !== 'id')
          .map((c) => `"${c}" = n."${c}"`)
          .join(
            ', ',
          )} from jsonb_populate_record(null::${noun}, $1::jsonb) n where t.id = $2 and t.version = ($3::jsonb ->> 'version')::integer`,
        [JSON.stringify(before), record, JSON.stringify(after)],
      );
  }
  await tx.query('delete from arriving where batch = $1', [batch]);
  return held.size;
}

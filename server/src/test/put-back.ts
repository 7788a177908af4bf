/** Puts a database back as it was when it was looked at first: for tests that each want it untouched. */
import type { Database } from '../db/database.js';

interface Table {
  readonly name: string;
  /** What can be written of it. */
  readonly columns: readonly string[];
}

/** Keeps every table and counter; the answer puts them back. Triggers stay silent meanwhile: what they keep is put back too. */
export async function keptOf(db: Database): Promise<() => Promise<void>> {
  const tables = await db.query<Table>(
    `select table_name as name, json_agg(quote_ident(column_name) order by ordinal_position) as columns
     from information_schema.columns join information_schema.tables using (table_schema, table_name)
     where table_schema = 'public' and table_type = 'BASE TABLE' and is_generated = 'NEVER'
     group by table_name`,
  );
  const counters = await db.query<{ name: string; last: string | null }>(
    `select quote_ident(sequencename) as name, last_value::text as last from pg_sequences where schemaname = 'public'`,
  );
  await db.script(
    `create schema kept; ${tables.map((t) => `create table kept."${t.name}" as table public."${t.name}";`).join('\n')}`,
  );
  const checksums = tables.map(
    ({ name }) =>
      `select '${name}' as name, count(*)::text || ' ' || coalesce(sum(hashtextextended(t::text, 0)), 0) as is from public."${name}" t`,
  );
  const state = () => db.query<{ name: string; is: string }>(checksums.join(' union all '));
  const kept = new Map((await state()).map(({ name, is }) => [name, is]));
  const restart = counters.map(({ name, last }) =>
    last === null ? `alter sequence ${name} restart;` : `select setval('${name}', ${last});`,
  );
  return async () => {
    // Only what was written: a table laid down anew has new files, which every test would open again.
    const written = new Set((await state()).filter(({ name, is }) => kept.get(name) !== is).map(({ name }) => name));
    const again = tables.filter(({ name }) => written.has(name));
    await db.script(
      [
        'begin; set local session_replication_role = replica;',
        ...again.map(({ name }) => `delete from public."${name}";`),
        ...again.map(
          ({ name, columns }) =>
            `insert into public."${name}" (${columns.join(', ')}) overriding system value select ${columns.join(', ')} from kept."${name}";`,
        ),
        ...restart,
        'commit;',
      ].join('\n'),
    );
    for (const { name } of again) await db.script(`vacuum public."${name}"`);
  };
}

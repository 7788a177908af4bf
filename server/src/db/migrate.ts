import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Database } from './database.js';

/** One step of the schema, by rising number. */
export interface Migration {
  readonly number: number;
  readonly sql: string;
}

/** Reads `001_name.sql` … from a folder. */
export async function readMigrations(folder: string): Promise<Migration[]> {
  const files = (await readdir(folder)).filter((f) => /^\d{3}_.*\.sql$/.test(f)).sort();
  return Promise.all(
    files.map(async (file) => ({ number: Number(file.slice(0, 3)), sql: await readFile(join(folder, file), 'utf8') })),
  );
}

/** The step that brought the change log along, and makes every later one do so. */
const LOG_COMES_ALONG = 19;

/** The data was written by a newer program than this one. */
export class NewerData extends Error {}

/** The newest step a database has; 0 before the first. */
export async function stepOf(db: Database): Promise<number> {
  await db.script(
    'create table if not exists schema_step (number integer primary key, at timestamptz not null default now())',
  );
  const [row] = await db.query<{ latest: number | null }>('select max(number) as latest from schema_step');
  return row?.latest ?? 0;
}

/**
 * Brings the schema up to the newest migration, each in a transaction of its own; returns how many ran.
 * @throws NewerData when the folder holds a schema this program does not know.
 */
export async function migrate(db: Database, migrations: readonly Migration[]): Promise<number> {
  const latest = await stepOf(db);
  const newest = migrations.at(-1)?.number ?? 0;
  if (latest > newest)
    throw new NewerData(
      `This data was written by a newer Alluvium (schema ${latest}, this one knows ${newest}). Update the program first.`,
    );
  const due = migrations.filter((m) => m.number > latest);
  for (const step of due) {
    await db.transaction(async (tx) => {
      await tx.script(step.sql);
      // From that step on what is logged goes along with its records; see 019_log.sql.
      if (step.number > LOG_COMES_ALONG) await tx.query('select log_comes_along()');
      await tx.query('insert into schema_step (number) values ($1)', [step.number]);
    });
  }
  return due.length;
}

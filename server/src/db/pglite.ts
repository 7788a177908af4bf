import { existsSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { amcheck } from '@electric-sql/pglite/contrib/amcheck';
import { PGlite, types, type Results, type Transaction } from '@electric-sql/pglite';
import { Problem } from '../problems.js';
import type { Database, Queries } from './database.js';
import { DurableFS, durableStart, syncAll, syncFolder, type NodeLayer } from './durable.js';

const queriesOf = (pg: PGlite | Transaction): Queries => ({
  query: async <Row>(sql: string, parameters: readonly unknown[] = []) => {
    const result: Results<Row> = await pg.query<Row>(sql, [...parameters]);
    return result.rows;
  },
  script: async (sql) => {
    await pg.exec(sql);
  },
});

const PARSERS = { [types.DATE]: (text: string) => text, [types.INT8]: (text: string) => Number(text) };

/** Holds indexes against their tables; see damage.ts. */
const EXTENSIONS = { amcheck };

/** A PGlite as the server's database. */
export function databaseOf(pg: PGlite): Database {
  let generation = 0;
  let heldFor: string | undefined;
  const running = new Set<Promise<unknown>>();
  const transaction: Database['transaction'] = (work) => {
    // Counted before anybody is told that it is written.
    const ended = pg.transaction((tx) => work(queriesOf(tx))).finally(() => generation++);
    running.add(ended);
    const forget = () => running.delete(ended);
    ended.then(forget, forget);
    return ended;
  };
  const db: Database = {
    ...queriesOf(pg),
    transaction: async (work) => {
      if (heldFor !== undefined) throw new Problem('busy', heldFor);
      return transaction(work);
    },
    exclusive: async (why, work) => {
      if (heldFor !== undefined) throw new Problem('busy', heldFor);
      heldFor = why;
      try {
        await Promise.allSettled(running);
        return await work({ ...db, transaction });
      } finally {
        heldFor = undefined;
      }
    },
    generation: () => generation,
    listen: (channel, heard) => pg.listen(channel, heard),
    close: () => pg.close(),
  };
  return db;
}

/** The folder holds something that is no database: it is never laid over. */
export class NotADatabase extends Error {}

const isDatabase = (folder: string) => existsSync(join(folder, 'PG_VERSION'));

/**
 * A PostgreSQL in this process, kept in a folder, every acknowledged change on the disk; in memory when `folder` is
 * undefined, from a dump where one is given. Dates come as text. `layer` hears the file layer, for tests.
 * @throws NotADatabase when the folder is there, not empty, and holds no database.
 */
export async function openPglite(folder?: string, dump?: Blob, layer?: (nodefs: NodeLayer) => void): Promise<Database> {
  const loaded = dump === undefined ? {} : { loadDataDir: dump };
  if (folder === undefined)
    return databaseOf(await PGlite.create({ ...loaded, extensions: EXTENSIONS, parsers: PARSERS }));
  const fresh = !isDatabase(folder);
  if (fresh && existsSync(folder) && readdirSync(folder).length > 0)
    throw new NotADatabase(
      `The folder ${folder} is not empty and holds no database that can be opened (PG_VERSION is missing). Nothing was written. Put the damaged data aside and a backup in its place, or name another folder with ALLUVIUM_DATA.`,
    );
  const pg = await PGlite.create({
    ...loaded,
    fs: new DurableFS(folder, layer),
    startParams: durableStart(),
    extensions: EXTENSIONS,
    parsers: PARSERS,
  });
  if (fresh) {
    syncAll(folder);
    syncFolder(dirname(folder));
  }
  return databaseOf(pg);
}

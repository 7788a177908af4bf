import { PGlite, types, type Results, type Transaction } from '@electric-sql/pglite';
import type { Database, Queries } from './database.js';

const queriesOf = (pg: PGlite | Transaction): Queries => ({
  query: async <Row>(sql: string, parameters: readonly unknown[] = []) => {
    const result: Results<Row> = await pg.query<Row>(sql, [...parameters]);
    return result.rows;
  },
  script: async (sql) => {
    await pg.exec(sql);
  },
});

/** A PostgreSQL in this process, kept in a folder; in memory when `folder` is undefined. Dates come as text. */
export async function openPglite(folder?: string): Promise<Database> {
  const pg = await PGlite.create({
    ...(folder === undefined ? {} : { dataDir: folder }),
    parsers: { [types.DATE]: (text: string) => text, [types.INT8]: (text: string) => Number(text) },
  });
  return {
    ...queriesOf(pg),
    transaction: (work) => pg.transaction((tx) => work(queriesOf(tx))),
    close: () => pg.close(),
  };
}

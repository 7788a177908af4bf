import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { amcheck } from '@electric-sql/pglite/contrib/amcheck';
import { migrate, readMigrations } from '../db/migrate.js';
import { databaseOf } from '../db/pglite.js';
import { MIGRATIONS, SNAPSHOT } from './fixture.js';

/** Makes one empty, migrated database before the tests; each fixture begins with a copy of it instead of a cold start. */
export default async function setup(): Promise<() => void> {
  const folder = mkdtempSync(join(tmpdir(), 'alluvium-snapshot-'));
  const file = join(folder, 'empty.tar');
  const pg = await PGlite.create({ extensions: { amcheck } });
  await migrate(databaseOf(pg), await readMigrations(MIGRATIONS));
  writeFileSync(file, Buffer.from(await (await pg.dumpDataDir('none')).arrayBuffer()));
  await pg.close();
  process.env[SNAPSHOT] = file;
  return () => rmSync(folder, { recursive: true, force: true });
}

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { amcheck } from '@electric-sql/pglite/contrib/amcheck';
import { makeFirst } from '../db/first.js';
import { readMigrations } from '../db/migrate.js';
import { FIRST, MIGRATIONS, SNAPSHOT } from './fixture.js';

/** Makes one empty, migrated database before the tests; each begins with a copy of it, in memory or in a folder. */
export default async function setup(): Promise<() => void> {
  const folder = mkdtempSync(join(tmpdir(), 'alluvium-snapshot-'));
  const first = join(folder, 'first');
  await makeFirst(first, await readMigrations(MIGRATIONS));
  const file = join(folder, 'empty.tar');
  const pg = await PGlite.create(first, { extensions: { amcheck } });
  writeFileSync(file, Buffer.from(await (await pg.dumpDataDir('none')).arrayBuffer()));
  await pg.close();
  process.env[SNAPSHOT] = file;
  process.env[FIRST] = first;
  return () => rmSync(folder, { recursive: true, force: true });
}

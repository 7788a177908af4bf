import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { NOUN_NAMES } from '@alluvium/records';
import type { Database } from '../db/database.js';
import type { Pictures } from '../pictures.js';
import { insertRows } from '../store.js';
import { PICTURES, type Manifest } from './manifest.js';
import { withBackup } from './read.js';

// split()[]!: splitting gives one part at least.
// newest[]!: one row comes back, whatever is there.

/**
 * Puts the library back to what a backup holds, in one transaction: what stood here goes, and whoever holds an open page
 * is told that it was changed. @throws Problem damaged before anything is touched.
 */
export async function restoreBackup(
  db: Database,
  pictures: Pictures,
  folder: string,
  manifest: Manifest,
  onProgress: (done: number, of: number) => void = () => {},
): Promise<void> {
  await withBackup(folder, manifest, async (bundle) => {
    let done = 0;
    const { slices } = bundle.contents;
    const of = slices + manifest.pictures.length;
    for (const file of manifest.pictures) {
      const path = join(folder, PICTURES, file);
      if (existsSync(path)) await pictures.restore(file.split('.')[0]!, await readFile(path));
      onProgress(++done, of);
    }
    await db.transaction(async (tx) => {
      await tx.script(
        `set constraints all deferred; set local alluvium.quiet = 'on'; set local alluvium.correction = 'on'`,
      );
      // No page holds a record of the version it gets, so that what was typed before is compared and not written over it.
      const newest = await tx.query<{ version: number }>(
        `select coalesce(max(version), 0)::int4 + 1 as version from (${NOUN_NAMES.map((n) => `select max(version) as version from ${n}`).join(' union all ')}) v`,
      );
      for (const noun of [...NOUN_NAMES].reverse()) await tx.query(`delete from ${noun}`);
      for (let i = 0; i < slices; i++) {
        const slice = await bundle.slice(i);
        const rows = slice.rows.map((r) =>
          JSON.stringify({ ...(JSON.parse(r) as object), version: newest[0]!.version }),
        );
        await insertRows(tx, slice.noun, rows);
        onProgress(++done, of);
      }
      await tx.query(
        `insert into fact (name, value) values ('restored', $1) on conflict (name) do update set value = excluded.value`,
        [`${new Date().toISOString()} ${manifest.name}`],
      );
      await tx.query('delete from arriving');
      await tx.query(`select pg_notify('change', '0')`);
    });
  });
}

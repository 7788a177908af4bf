import { NOUN_NAMES } from '@alluvium/records';
import type { Database } from '../db/database.js';
import { stepOf } from '../db/migrate.js';
import type { Pictures } from '../pictures.js';
import { Problem } from '../problems.js';
import { insertRows } from '../store.js';
import type { Manifest } from './manifest.js';
import { hashOfFile, photoOf } from './photos.js';
import { refuseNewer, withBackup } from './read.js';

// newest[]!: one row comes back, whatever is there.

/** A photo of a backup put into the library; false where its content is lost. */
async function putPhoto(pictures: Pictures, folder: string, file: string): Promise<boolean> {
  const content = await photoOf(folder, file);
  if (!content) return false;
  try {
    await pictures.restore(hashOfFile(file), content);
    return true;
  } catch (error) {
    if (error instanceof Problem && error.id === 'bad-input') return false;
    throw error;
  }
}

/**
 * Puts the library back to what a backup holds, in one transaction: what stood here goes, and whoever holds an open page
 * is told that it was changed. The answer names the photos that could not be put back, by file.
 * @throws Problem damaged or, where a newer program wrote it, refused: both before anything is touched.
 */
export async function restoreBackup(
  db: Database,
  pictures: Pictures,
  folder: string,
  manifest: Manifest,
  onProgress: (done: number, of: number) => void = () => {},
): Promise<string[]> {
  refuseNewer(manifest, await stepOf(db));
  return withBackup(folder, manifest, async (bundle) => {
    let done = 0;
    const lost: string[] = [];
    const { slices } = bundle.contents;
    const of = slices + manifest.pictures.length;
    for (const file of manifest.pictures) {
      if (!(await putPhoto(pictures, folder, file))) lost.push(file);
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
    return lost;
  });
}

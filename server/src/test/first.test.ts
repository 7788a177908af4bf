import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { layFirst } from '../db/first.js';
import { readMigrations, stepOf } from '../db/migrate.js';
import { NotADatabase } from '../db/pglite.js';
import { openLibrary } from '../library.js';
import { MIGRATIONS, first } from './fixture.js';

let data: string;
const database = () => join(data, 'database');
beforeEach(async () => void (data = await mkdtemp(join(tmpdir(), 'alluvium-first-'))));
afterEach(() => rm(data, { recursive: true, force: true }));

describe('a new library', () => {
  it('begins empty, of the newest schema, with a copy of the database made before', async () => {
    const steps = await readMigrations(MIGRATIONS);
    const opened = await openLibrary(data, steps, { first: first() });
    if (!('library' in opened)) throw new Error(opened.damaged.damage.join(' '));
    const { db } = opened.library;
    expect(await stepOf(db)).toBe(steps.at(-1)!.number);
    expect(await db.query('select id from head')).toEqual([]);
    await db.close();
    // The very database that was made before, and not another of the same kind.
    const control = (folder: string) => readFile(join(folder, 'global', 'pg_control'));
    expect((await control(database())).subarray(0, 8)).toEqual((await control(first()!)).subarray(0, 8));
  });
  it('that was being laid down when the power failed is laid down again, whole', async () => {
    await mkdir(`${database()}.part/base`, { recursive: true });
    await writeFile(`${database()}.part/PG_VERSION`, '1');
    await layFirst(first(), database());
    expect(existsSync(`${database()}.part`)).toBe(false);
    expect(await readdir(database())).toEqual(await readdir(first()!));
  });
  it('is not laid over anything that lies there', async () => {
    await mkdir(database());
    await writeFile(join(database(), 'letter.txt'), 'Dear shop');
    await expect(openLibrary(data, await readMigrations(MIGRATIONS), { first: first() })).rejects.toThrow(NotADatabase);
    expect(await readdir(database())).toEqual(['letter.txt']);
  });
});

import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { FastifyInstance } from 'fastify';
import { createApp } from '../app.js';
import { readRecords, writeRecords } from '../backup/records.js';
import { openSpool } from '../backup/spool.js';
import type { Database } from '../db/database.js';
import { migrate, readMigrations } from '../db/migrate.js';
import { openPglite } from '../db/pglite.js';
import { openPictures } from '../pictures.js';

export const MIGRATIONS = fileURLToPath(new URL('../../migrations', import.meta.url));
export const demoText = () => readFile(new URL('../../../demo/bundle.json', import.meta.url), 'utf8');

/** The hash of the library's records, as a backup of it would have it. */
export async function hashOfLibrary(db: Database): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'alluvium-hash-'));
  const spool = await openSpool(join(folder, 'spool'));
  try {
    return (await writeRecords(await readRecords(db, spool), spool, () => {})).sha256;
  } finally {
    await spool.close();
    await rm(folder, { recursive: true });
  }
}

export interface Fixture {
  readonly app: FastifyInstance;
  readonly db: Database;
  /** Where the photos lie. */
  readonly folder: string;
  /** Sends JSON and reads JSON. */
  readonly call: (
    method: 'GET' | 'POST' | 'PUT' | 'DELETE',
    url: string,
    payload?: unknown,
  ) => Promise<{ status: number; body: any }>;
  readonly close: () => Promise<void>;
}

/** Names the file of an empty, migrated database. */
export const SNAPSHOT = 'ALLUVIUM_TEST_SNAPSHOT';
/** Names the folder of the same. */
export const FIRST = 'ALLUVIUM_TEST_FIRST';
/** What a library of a test begins from. */
export const first = () => process.env[FIRST];

/** An empty database of the newest schema: a copy of the one made before the tests, else made here. */
async function empty(): Promise<Database> {
  const file = process.env[SNAPSHOT];
  if (file) return openPglite(undefined, new Blob([await readFile(file)]));
  const db = await openPglite();
  await migrate(db, await readMigrations(MIGRATIONS));
  return db;
}

/** The real server over a real PGlite in memory. */
export async function fixture(): Promise<Fixture> {
  const db = await empty();
  const folder = await mkdtemp(join(tmpdir(), 'alluvium-pictures-'));
  const app = await createApp({ db, pictures: await openPictures(folder) });
  return {
    app,
    db,
    folder,
    call: async (method, url, payload) => {
      const answer = await app.inject({
        method,
        url,
        ...(payload === undefined ? {} : { payload: payload as object }),
      });
      const text = answer.body;
      let body: unknown = text;
      try {
        body = JSON.parse(text);
      } catch {
        // A stream of lines stays text.
      }
      return { status: answer.statusCode, body };
    },
    close: async () => {
      await app.close();
      await db.close();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

export const aBuild = {
  name: 'Kestrel Four',
  bore: '3.5 in',
  stroke: '3.25 in',
  cylinders: 4,
  power: '160 hp',
  speed: '6000 rpm',
};

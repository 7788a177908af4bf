import { Readable } from 'node:stream';
import {
  BUNDLE_KEYS,
  fingerprint,
  NOUN_NAMES,
  readBundle,
  writeBundle,
  type Bundle,
  type BundleProblem,
  type ImportPreview,
  type ImportProgress,
  type Noun,
  type RecordOf,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database, Queries } from '../db/database.js';
import type { Pictures } from '../pictures.js';
import { Problem, fromDatabase } from '../problems.js';
import { batchOf, insertAll, replace, toRecord } from '../store.js';

const CHUNK = 200;
/** Most bytes of photos one bundle carries: as text they grow by a third and must fit the limit below. */
export const PHOTO_LIMIT = 40 * 1024 * 1024;
/** Largest file taken, bytes. */
export const IMPORT_LIMIT = 64 * 1024 * 1024;

type AnyRecord = { id: string; version: number };

interface Sorted {
  readonly fresh: AnyRecord[];
  readonly changed: AnyRecord[];
  readonly same: number;
}

/** Which records of a bundle are new, which stand here already unchanged, and which differ from what stands here. */
async function sortOut(db: Queries, bundle: Bundle): Promise<Map<Noun, Sorted>> {
  const result = new Map<Noun, Sorted>();
  for (const noun of NOUN_NAMES) {
    const records = bundle[BUNDLE_KEYS[noun]] as AnyRecord[];
    const here = new Map<string, { print: string; version: number }>();
    const rows = await db.query<object>(`select * from ${noun} where id = any($1)`, [records.map((r) => r.id)]);
    for (const row of rows) {
      const record = toRecord<AnyRecord>(row);
      here.set(record.id, { print: fingerprint(record), version: record.version });
    }
    const fresh: AnyRecord[] = [];
    const changed: AnyRecord[] = [];
    let same = 0;
    for (const record of records) {
      const stored = here.get(record.id);
      if (!stored) fresh.push({ ...record, version: 1 });
      else if (stored.print === fingerprint(record)) same++;
      else changed.push({ ...record, version: stored.version });
    }
    result.set(noun, { fresh, changed, same });
  }
  return result;
}

async function readWithLibrary(db: Queries, input: unknown, pictures: Pictures) {
  const ids = new Map<Noun, Set<string>>();
  for (const noun of NOUN_NAMES) {
    const rows = await db.query<{ id: string }>(`select id from ${noun}`);
    ids.set(noun, new Set(rows.map((r) => r.id)));
  }
  const { bundle, problems } = readBundle(input, (noun, id) => ids.get(noun)!.has(id));
  return { bundle, problems: [...problems, ...(await missingPhotos(bundle, pictures))] };
}

/** Photos a bundle does not bring and this library does not have. */
async function missingPhotos(bundle: Bundle, pictures: Pictures): Promise<BundleProblem[]> {
  const problems: BundleProblem[] = [];
  for (const { id, hash, name } of bundle.attachments) {
    if (bundle.files[hash] === undefined && !(await pictures.has(hash)))
      problems.push({ place: `attachments (${id})`, message: `The content of photo “${name}” is not in this file.` });
  }
  return problems;
}

export function bundleRoutes(app: FastifyInstance, db: Database, pictures: Pictures): void {
  app.get(
    '/api/bundle',
    {
      schema: {
        tags: ['bundle'],
        summary: 'Everything, as one bundle file; with photos=no without them',
        querystring: z.object({ photos: z.enum(['yes', 'no']).default('yes') }),
      },
    },
    async (request, reply) => {
      const { photos } = request.query as { photos: 'yes' | 'no' };
      const records: { [N in Noun]?: RecordOf<N>[] } = {};
      for (const noun of NOUN_NAMES) {
        // In the order they came in where that counts, so that another library keeps it.
        const order = noun === 'sheet' || noun === 'survey' ? 'entered' : 'id';
        const rows = await db.query<object>(`select * from ${noun} order by ${order}`);
        records[noun] = rows.map((r) => toRecord(r)) as never;
      }
      const files: Record<string, string> = {};
      if (photos === 'no') records.attachment = [];
      const bytes = (records.attachment ?? []).reduce((sum, a) => sum + a.bytes, 0);
      if (bytes > PHOTO_LIMIT)
        throw new Problem(
          'too-large',
          `The photos take ${Math.ceil(bytes / 1e6)} MB, more than one file carries (40 MB). Take the file without photos, and copy the folder “pictures” of the data folder beside it.`,
        );
      for (const { hash, type } of records.attachment ?? [])
        files[hash] ??= (await pictures.read(hash, type)).toString('base64');
      return reply
        .header('content-type', 'application/json; charset=utf-8')
        .header('content-disposition', 'attachment; filename="alluvium.json"')
        .send(writeBundle(records, files));
    },
  );

  app.post(
    '/api/bundle/preview',
    { bodyLimit: IMPORT_LIMIT, schema: { tags: ['bundle'], summary: 'What an import would do; writes nothing' } },
    async (request): Promise<ImportPreview> => {
      const { bundle, problems } = await readWithLibrary(db, request.body, pictures);
      const sorted = await sortOut(db, bundle);
      return {
        problems: problems.slice(0, 500) as ImportPreview['problems'],
        counts: NOUN_NAMES.map((noun) => {
          const { fresh, changed, same } = sorted.get(noun)!;
          return { noun, fresh: fresh.length, changed: changed.length, same };
        }),
      };
    },
  );

  app.post(
    '/api/bundle',
    {
      bodyLimit: IMPORT_LIMIT,
      schema: {
        tags: ['bundle'],
        summary: 'Imports a bundle, all or nothing; answers with a stream of progress lines (NDJSON)',
        querystring: z.object({ changed: z.enum(['keep', 'replace']).default('keep') }),
      },
    },
    async (request, reply) => {
      const { changed: policy } = request.query as { changed: 'keep' | 'replace' };
      const { bundle, problems } = await readWithLibrary(db, request.body, pictures);
      if (problems.length > 0) {
        throw new Problem('bad-input', `${problems[0]!.place}: ${problems[0]!.message}`, {
          fields: problems.slice(0, 500).map((p) => ({ field: p.place, message: p.message })),
        });
      }
      const lines = new Readable({ read() {}, encoding: 'utf8' });
      const say = (line: ImportProgress) => lines.push(`${JSON.stringify(line)}\n`);
      void (async () => {
        try {
          // Content first: a record never stands without its file, while a file without a record does no harm.
          for (const [hash, content] of Object.entries(bundle.files))
            await pictures.restore(hash, Buffer.from(content, 'base64'));
          const sorted = await sortOut(db, bundle);
          const all = [...sorted.values()];
          const fresh = all.reduce((n, s) => n + s.fresh.length, 0);
          const differing = all.reduce((n, s) => n + s.changed.length, 0);
          const changed = policy === 'replace' ? differing : 0;
          const same = all.reduce((n, s) => n + s.same, 0) + differing - changed;
          let done = 0;
          const batch = await db.transaction(async (tx) => {
            await tx.script('set constraints all deferred');
            for (const noun of NOUN_NAMES) {
              const { fresh: add, changed: differ } = sorted.get(noun)!;
              for (let i = 0; i < add.length; i += CHUNK) {
                const chunk = add.slice(i, i + CHUNK);
                await insertAll(tx, noun, chunk);
                say({ done: (done += chunk.length), of: fresh + changed });
              }
              if (policy === 'replace') {
                for (const record of differ) {
                  await replace(tx, noun, record as never);
                  if (++done % CHUNK === 0) say({ done, of: fresh + changed });
                }
              }
            }
            return fresh + changed > 0 ? batchOf(tx) : null;
          });
          // Nobody else tells the planner that the library has grown; without it lists read every sheet there is.
          if (fresh >= CHUNK) await db.script('analyze');
          say({ finished: true, fresh, changed, same, batch });
        } catch (error) {
          request.log.error(error);
          const problem = error instanceof Problem ? error : fromDatabase(error);
          say({ problem: { detail: problem?.message ?? 'The import failed; nothing was written.' } });
        }
        lines.push(null);
      })();
      return reply.header('content-type', 'application/x-ndjson').send(lines);
    },
  );
}

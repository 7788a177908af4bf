import type { Readable } from 'node:stream';
import { NOUN_NAMES, excerptOf, writeBundle, type ImportPreview, type Noun, type RecordOf } from '@alluvium/records';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { z } from 'zod';
import type { Backups } from '../backup/backups.js';
import { arrive, compare, lacking } from '../bundle/arrive.js';
import { withBundle } from '../bundle/reader.js';
import type { Database } from '../db/database.js';
import type { Pictures } from '../pictures.js';
import { Problem } from '../problems.js';
import { progress } from './progress.js';
import type { Room } from '../space.js';
import { orderOf, toRecord } from '../rows.js';

// problems[]!: there is one.

/** Most bytes of photos one bundle carries: as text they grow by a third and must fit the limit below. */
const PHOTO_LIMIT = 40 * 1024 * 1024;
/** Largest file taken, bytes. */
const IMPORT_LIMIT = 64 * 1024 * 1024;

/** Ends when whoever asked is gone before the answer was. */
function untilGone(reply: FastifyReply): AbortSignal {
  const gone = new AbortController();
  reply.raw.on('close', () => {
    if (!reply.raw.writableFinished) gone.abort();
  });
  return gone.signal;
}

/** The whole library as records by noun, in the order they came in where that counts. */
async function everything(db: Database): Promise<{ [N in Noun]?: RecordOf<N>[] }> {
  const records: { [N in Noun]?: RecordOf<N>[] } = {};
  for (const noun of NOUN_NAMES) {
    const rows = await db.query<object>(`select * from ${noun} order by ${orderOf(noun)}`);
    records[noun] = rows.map((r) => toRecord(r)) as never;
  }
  return records;
}
/** How many photos an export lacks because their files are lost. */
const MISSING_HEADER = 'alluvium-missing-photos';
/** An import of more records than this is preceded by a backup. */
const LARGE = 100;

export function bundleRoutes(
  app: FastifyInstance,
  db: Database,
  pictures: Pictures,
  { backups, room }: { readonly backups?: Backups; readonly room?: Room } = {},
): void {
  const apart: Backups['apart'] = backups?.apart ?? ((work) => work());
  app.get(
    '/api/bundle',
    {
      schema: {
        tags: ['bundle'],
        summary: 'Everything, or some heads with all that is theirs, as one bundle file; with photos=no without photos',
        querystring: z.object({
          photos: z.enum(['yes', 'no']).default('yes'),
          heads: z.string().max(20_000).optional(),
        }),
      },
    },
    async (request, reply) => {
      const { photos, heads } = request.query as { photos: 'yes' | 'no'; heads?: string };
      const all = await everything(db);
      const records = heads === undefined ? all : { ...excerptOf(all, new Set(heads.split(','))) };
      const files: Record<string, string> = {};
      if (photos === 'no') records.attachment = [];
      const bytes = (records.attachment ?? []).reduce((sum, a) => sum + a.bytes, 0);
      if (bytes > PHOTO_LIMIT)
        throw new Problem(
          'too-large',
          `The photos take ${Math.ceil(bytes / 1e6)} MB, more than one file carries (40 MB). Take the file without photos, and copy the folder “pictures” of the data folder beside it.`,
        );
      const missing: string[] = [];
      for (const { hash, type } of records.attachment ?? []) {
        if (files[hash] !== undefined || missing.includes(hash)) continue;
        const content = await pictures.read(hash, type);
        if (content) files[hash] = content.toString('base64');
        else missing.push(hash);
      }
      if (missing.length > 0) reply.header(MISSING_HEADER, missing.length);
      return reply
        .header('content-type', 'application/json; charset=utf-8')
        .header('content-disposition', 'attachment; filename="alluvium.json"')
        .send(writeBundle(records, files, missing));
    },
  );

  app.register(async (arrivals) => {
    // The body stays bytes: it is read in a thread of its own.
    arrivals.removeAllContentTypeParsers();
    arrivals.addContentTypeParser('application/json', { parseAs: 'buffer' }, (_request, body, done) =>
      done(null, body),
    );

    arrivals.post(
      '/api/bundle/preview',
      {
        bodyLimit: IMPORT_LIMIT,
        schema: { tags: ['bundle'], summary: 'What an import would do; writes nothing' },
        config: { noTurn: true },
      },
      (request, reply): Promise<ImportPreview> =>
        withBundle(
          bytesOf(request.body),
          async (bundle) => ({
            problems: (await lacking(db, pictures, bundle)).slice(0, 500) as ImportPreview['problems'],
            counts: await compare(db, bundle),
          }),
          untilGone(reply),
        ),
    );

    arrivals.post(
      '/api/bundle',
      {
        bodyLimit: IMPORT_LIMIT,
        config: { noTurn: true },
        schema: {
          tags: ['bundle'],
          summary: 'Imports a bundle, all or nothing; answers with a stream of progress lines (NDJSON)',
          querystring: z.object({ changed: z.enum(['keep', 'replace']).default('keep') }),
        },
      },
      async (request, reply) => {
        const { changed: policy } = request.query as { changed: 'keep' | 'replace' };
        const gone = untilGone(reply);
        // As rows, with indexes and the log of changes, a file takes several times its size.
        room?.need(5 * bytesOf(request.body).length);
        // Answered as soon as the file is known to be sound; what follows goes on behind the stream.
        const lines = await new Promise<Readable>((sound, unsound) => {
          withBundle(
            bytesOf(request.body),
            async (bundle) => {
              const problems = await lacking(db, pictures, bundle);
              if (problems.length > 0)
                throw new Problem('bad-input', `${problems[0]!.place}: ${problems[0]!.message}`, {
                  fields: problems.slice(0, 500).map((p) => ({ field: p.place, message: p.message })),
                });
              if (bundle.contents.records > LARGE) await backups?.make('import');
              const arriving = progress(
                (onProgress) => apart(() => arrive(db, pictures, bundle, policy, onProgress, gone)),
                (error) => request.log.error(error),
                () => 'The import failed; nothing was written.',
              );
              sound(arriving.lines);
              await arriving.ended;
            },
            gone,
          ).catch(unsound);
        });
        return reply.header('content-type', 'application/x-ndjson').send(lines);
      },
    );
  });
}

const bytesOf = (body: unknown): Uint8Array => (body instanceof Uint8Array ? body : new Uint8Array());

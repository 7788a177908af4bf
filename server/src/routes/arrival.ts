import { randomUUID } from 'node:crypto';
import {
  ChecklistMake,
  Id,
  PICTURE_TYPES,
  Port,
  checklistFor,
  type Attachment,
  type PictureType,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database } from '../db/database.js';
import { readLimited, type Pictures } from '../pictures.js';
import { Problem } from '../problems.js';
import type { Room } from '../space.js';
import { done, find, insertAll, replace } from '../store.js';
import { wholeHeads } from './heads.js';

// count!: one row comes back, whatever is there.
// get()!: the head was found.

const AttachmentQuery = z.object({
  /** The head it is of; a scan of what a source published names the source instead. */
  head: Id.optional(),
  source: Id.optional(),
  finding: Id.optional(),
  inspection: Id.optional(),
  session: Id.optional(),
  stage: Id.optional(),
  name: z.string().trim().max(200).default('photo'),
});

/** The checklist of a head, made in one go; photos taken in and given out. */
export function arrivalRoutes(app: FastifyInstance, db: Database, pictures: Pictures, room?: Room): void {
  app.post<{ Params: { id: string }; Body: z.output<typeof ChecklistMake> }>(
    '/api/head/:id/checklist',
    {
      schema: {
        tags: ['inspection'],
        summary: 'Makes the checklist of a head and the ports it has; one change, undone as one',
        params: z.object({ id: Id }),
        body: ChecklistMake,
      },
    },
    async ({ params: { id }, body: { kind, checklistId, cylinders } }, reply) => {
      const changed = await db.transaction(async (tx) => {
        const head = await find(tx, 'head', id);
        if (!head) throw new Problem('not-found', 'There is no such head.');
        const [count] = await tx.query<{ any: boolean }>(
          'select exists (select from inspection where head_id = $1) as any',
          [id],
        );
        if (count!.any) throw new Problem('refused', 'This head has its checklist already; add lines to it.');
        const template = checklistId === null ? undefined : await find(tx, 'checklist', checklistId);
        if (checklistId !== null && !template) throw new Problem('not-found', 'There is no such checklist.');
        const lines = template?.lines ?? checklistFor(kind, head);
        if (head.cylinders !== cylinders) await replace(tx, 'head', { ...head, cylinders });
        const ports = await tx.query<{ side: string; number: number }>(
          'select side, number from port where head_id = $1',
          [id],
        );
        const missing = (['intake', 'exhaust'] as const).flatMap((side) =>
          Array.from({ length: cylinders }, (_, i) => ({ side, number: i + 1 })).filter(
            (p) => !ports.some((q) => q.side === p.side && q.number === p.number),
          ),
        );
        await insertAll(
          tx,
          'port',
          missing.map((p) => Port.parse({ ...p, id: randomUUID(), headId: id })),
        );
        await insertAll(
          tx,
          'inspection',
          lines.map((line, position) => ({
            ...line,
            id: randomUUID(),
            version: 1,
            headId: id,
            position,
            state: 'open',
            note: '',
          })),
        );
        return done(tx);
      });
      return reply.code(201).send({ record: (await wholeHeads(db, [id])).get(id)!, ...changed });
    },
  );

  app.register(async (upload) => {
    // The body stays a stream, so that a file of any size is refused before it is in memory.
    upload.removeAllContentTypeParsers();
    upload.addContentTypeParser('*', (_request, payload, done) => done(null, payload));
    upload.post(
      '/api/attachment',
      {
        // Its body is read where it is used, at whatever pace it comes.
        config: { noTurn: true },
        schema: {
          tags: ['attachment'],
          summary: 'Takes a photo: JPEG, PNG or WebP up to 12 MB as the body',
          querystring: AttachmentQuery,
        },
      },
      async (request, reply) => {
        const query = request.query as z.infer<typeof AttachmentQuery>;
        const declared = Number(request.headers['content-length']);
        const content = await readLimited(
          request.body as AsyncIterable<Buffer>,
          Number.isFinite(declared) ? declared : undefined,
        );
        if (!query.head && !query.source)
          throw new Problem('bad-input', 'Say which head or which source the photo belongs to.');
        for (const noun of ['head', 'source'] as const)
          if (query[noun] && !(await find(db, noun, query[noun])))
            throw new Problem('not-found', `There is no such ${noun}.`);
        // The photo, its thumbnail, and the part it is written to first.
        room?.need(3 * content.length);
        const picture = await pictures.keep(content);
        const record: Attachment = {
          ...picture,
          id: randomUUID(),
          version: 1,
          headId: query.head ?? null,
          sourceId: query.source ?? null,
          findingId: query.finding ?? null,
          inspectionId: query.inspection ?? null,
          sessionId: query.session ?? null,
          stageId: query.stage ?? null,
          name: query.name,
          region: null,
          note: '',
        };
        const changed = await db.transaction(async (tx) => {
          await insertAll(tx, 'attachment', [record]);
          return done(tx);
        });
        return reply.code(201).send({ record, ...changed });
      },
    );
  });

  const show = (what: 'picture' | 'thumbnail') =>
    app.get<{ Params: { id: string } }>(
      `/api/attachment/:id/${what}`,
      { schema: { tags: ['attachment'], summary: `The ${what} of one photo`, params: z.object({ id: Id }) } },
      async ({ params }, reply) => {
        const found = await find(db, 'attachment', params.id);
        if (!found) throw new Problem('not-found', 'There is no such photo.');
        const thumbnail = what === 'thumbnail';
        const content = await pictures[thumbnail ? 'thumbnail' : 'read'](found.hash, found.type);
        if (!content)
          throw new Problem(
            'damaged',
            `The file of the photo “${found.name}” is spoilt or missing in the data folder. Have everything checked under Backups: where a backup has it, it is put back.`,
          );
        return reply
          .header('content-type', thumbnail ? 'image/webp' : found.type)
          .header('cache-control', 'private, max-age=31536000, immutable')
          .header(
            'content-disposition',
            `inline; filename="${found.id}.${thumbnail ? 'webp' : PICTURE_TYPES[found.type as PictureType]}"`,
          )
          .send(content);
      },
    );
  show('picture');
  show('thumbnail');
}

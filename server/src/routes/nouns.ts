import { NOUNS, NOUN_NAMES, NOUN_WORDS, Id, type Changed, type Noun } from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database } from '../db/database.js';
import { Problem } from '../problems.js';
import { find, history, toRecord } from '../store.js';
import { JSON_TYPE, remembering } from '../remembered.js';
import { added, makeChange, saved } from './changes.js';

// page.at()!: more came than a page holds.

/** List, read, add, replace, delete and history: the same for every noun. */
export function nounRoutes(app: FastifyInstance, db: Database): void {
  const remember = remembering(db);
  for (const noun of NOUN_NAMES) crud(app, db, noun, remember);
}

/** A record as it is sent, before its schema has read it. */
type Sent = Record<string, unknown>;
/** Most records of one page of a list. */
const PAGE = 1000;

function crud(app: FastifyInstance, db: Database, noun: Noun, remember: ReturnType<typeof remembering>): void {
  const path = `/api/${noun}`;
  const tags = [noun];
  const { one, many } = NOUN_WORDS[noun];
  const schema = NOUNS[noun] as z.ZodType<{ id: string; version: number }>;
  const params = z.object({ id: Id });
  const found = async (id: string) => {
    const record = await find(db, noun, id);
    if (!record) throw new Problem('not-found', `There is no such ${one}.`);
    return record;
  };

  app.get<{ Querystring: { after: string; size: number } }>(
    path,
    {
      schema: {
        tags,
        summary: `All ${many} by id, in pages: the Link header names the next one (RFC 8288)`,
        querystring: z.object({
          after: Id.or(z.literal('')).default(''),
          size: z.coerce.number().int().min(1).max(PAGE).default(PAGE),
        }),
      },
    },
    async ({ query: { after, size } }, reply) => {
      const { text, next } = await remember(`${noun} ${size} ${after}`, async () => {
        const rows = await db.query<{ id: string }>(
          `select * from ${noun} where id > $1 order by id limit ${size + 1}`,
          [after],
        );
        const page = rows.slice(0, size);
        return {
          text: JSON.stringify(page.map((r) => toRecord(r))),
          next: rows.length > size ? page.at(-1)!.id : undefined,
        };
      });
      if (next !== undefined)
        reply.header('link', `<${path}?after=${encodeURIComponent(next)}&size=${size}>; rel="next"`);
      return reply.type(JSON_TYPE).send(text);
    },
  );

  app.get<{ Params: { id: string } }>(
    `${path}/:id`,
    { schema: { tags, summary: `One ${one}`, params } },
    ({ params: { id } }) => found(id),
  );

  app.get<{ Params: { id: string } }>(
    `${path}/:id/history`,
    { schema: { tags, summary: `Earlier states of one ${one}, newest first`, params } },
    ({ params: { id } }) => history(db, noun, id),
  );

  const written = ({ records, ...done }: Changed) => ({ record: records[0], ...done });

  // A photo comes in by its own door, with its content; a reading by that of its session.
  if (noun !== 'attachment' && noun !== 'reading')
    app.post<{ Body: Sent }>(
      path,
      {
        schema: { tags, summary: `Adds a ${one}`, body: schema },
        preValidation: async (request) => {
          request.body = added(request.body);
        },
      },
      async ({ body: record }, reply) =>
        reply.code(201).send(written(await makeChange(db, [{ do: 'add', noun, record }]))),
    );

  // What was read is never changed: the session's own routes put it aside.
  if (noun === 'reading') return;

  app.put<{ Params: { id: string }; Body: Sent }>(
    `${path}/:id`,
    {
      schema: { tags, summary: `Replaces a ${one}; the version must be the stored one`, params, body: schema },
      preValidation: async (request) => {
        request.body = saved({ ...request.body, id: request.params.id });
      },
    },
    async ({ body: record }) => written(await makeChange(db, [{ do: 'save', noun, record }])),
  );

  app.delete<{ Params: { id: string } }>(
    `${path}/:id`,
    { schema: { tags, summary: `Deletes a ${one} and what hangs on it; can be undone`, params } },
    async ({ params: { id } }) => {
      const { batch, touched } = await makeChange(db, [{ do: 'remove', noun, id }]);
      return { batch, touched };
    },
  );
}

import { randomUUID } from 'node:crypto';
import { NOUNS, NOUN_NAMES, NOUN_WORDS, Id, type Noun } from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database, Queries } from '../db/database.js';
import { Problem, type FieldProblem } from '../problems.js';
import { batchOf, find, history, insertAll, remove, replace, toRecord } from '../store.js';

/** @throws Problem bad-input, field by field. */
export function checked<T>(schema: z.ZodType<T>, input: unknown): T {
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  const fields: FieldProblem[] = parsed.error.issues
    .slice(0, 50)
    .map((i) => ({ field: i.path.join('.'), message: i.message }));
  throw new Problem('bad-input', fields[0]?.message ?? 'Something typed cannot be used.', { fields });
}

/** List, read, add, replace, delete and history: the same for every noun. */
export function nounRoutes(app: FastifyInstance, db: Database): void {
  for (const noun of NOUN_NAMES) crud(app, db, noun);
}

/** What must hold before a record is added by itself; an import of earlier work is not asked. */
const GUARDS: { readonly [N in Noun]?: (tx: Queries, record: object) => Promise<void> } = {
  call: async (tx, record) => {
    const [found] = await tx.query<{ any: boolean }>(
      "select exists (select from reading where session_id = $1 and state = 'kept') as any",
      [(record as { sessionId: string }).sessionId],
    );
    if (found!.any) throw new Problem('refused', 'A call is made before the first reading; this session has some.');
  },
};

function crud(app: FastifyInstance, db: Database, noun: Noun): void {
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

  app.get(path, { schema: { tags, summary: `All ${many}, at most 1000` } }, async () => {
    const rows = await db.query<object>(`select * from ${noun} order by id limit 1000`);
    return rows.map((r) => toRecord(r));
  });

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

  // A photo comes in by its own door, with its content; a reading by that of its session.
  if (noun !== 'attachment' && noun !== 'reading')
    app.post(
      path,
      {
        schema: { tags, summary: `Adds a ${one}`, body: schema },
        attachValidation: true,
        validatorCompiler: () => (body) => ({ value: body }),
      },
      async (request, reply) => {
        const body = (request.body ?? {}) as object;
        const record = checked(schema, { id: randomUUID(), ...body, version: 1 });
        const batch = await db.transaction(async (tx) => {
          await GUARDS[noun]?.(tx, record);
          await insertAll(tx, noun, [record]);
          return batchOf(tx);
        });
        return reply.code(201).send({ record: await found(record.id), batch });
      },
    );

  // What was read is never changed: the session's own routes put it aside.
  if (noun === 'reading') return;

  app.put<{ Params: { id: string } }>(
    `${path}/:id`,
    {
      schema: { tags, summary: `Replaces a ${one}; the version must be the stored one`, params, body: schema },
      validatorCompiler: () => (body) => ({ value: body }),
    },
    async (request) => {
      const { id } = checked(params, request.params);
      const body = (request.body ?? {}) as { version?: unknown };
      if (typeof body.version !== 'number')
        throw new Problem('no-version', 'Say which version was opened, so that nobody’s work is overwritten.');
      const record = checked(schema, { ...body, id });
      return db.transaction(async (tx) => ({
        record: await replace(tx, noun, record as never),
        batch: await batchOf(tx),
      }));
    },
  );

  app.delete<{ Params: { id: string } }>(
    `${path}/:id`,
    { schema: { tags, summary: `Deletes a ${one} and what hangs on it; can be undone`, params } },
    ({ params: { id } }) =>
      db.transaction(async (tx) => {
        await remove(tx, noun, id);
        return { batch: await batchOf(tx) };
      }),
  );
}

import { randomUUID } from 'node:crypto';
import {
  Id,
  LineupWrite,
  type LineupEntry,
  type LineupView,
  type Source,
  type Way,
  type WaysView,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database, Queries } from '../db/database.js';
import { Problem } from '../problems.js';
import { done, find, insertAll, rowsOf, toRecord } from '../store.js';
import { wholeHeads } from './heads.js';

// wholes.get()!: the heads of the lineup were asked for.

/** The ways to go of a build with everything they are read from. @throws Problem not-found. */
export async function waysOf(db: Queries, buildId: string): Promise<WaysView> {
  if (!(await find(db, 'build', buildId))) throw new Problem('not-found', 'There is no such build.');
  const ways = await rowsOf<Way>(db, 'select * from way where build_id = $1 order by position, id', [buildId]);
  const heads = await db.query<{ head_id: string }>('select distinct head_id from stage where id = any($1)', [
    ways.flatMap((w) => w.stageId ?? []),
  ]);
  const wholes = await wholeHeads(
    db,
    heads.map((h) => h.head_id),
  );
  const sources = await rowsOf<Source>(db, 'select * from source order by name');
  return { ways, wholes: [...wholes.values()], sources };
}

/** The lineup of a build: read with everything the comparison needs, written as a whole. */
export function lineupRoutes(app: FastifyInstance, db: Database): void {
  const schema = { tags: ['lineup'], params: z.object({ id: Id }) };

  const read = async (buildId: string): Promise<LineupView> => {
    if (!(await find(db, 'build', buildId))) throw new Problem('not-found', 'There is no such build.');
    const rows = await db.query<{ entry: object; head_id: string }>(
      'select to_jsonb(l) as entry, s.head_id from lineup l join stage s on s.id = l.stage_id where l.build_id = $1 order by l.position, l.id',
      [buildId],
    );
    const wholes = await wholeHeads(db, [...new Set(rows.map((r) => r.head_id))]);
    const sources = await rowsOf<Source>(db, 'select * from source order by name');
    return {
      entries: rows.map((r) => ({ entry: toRecord<LineupEntry>(r.entry), whole: wholes.get(r.head_id)! })),
      sources,
    };
  };

  app.get<{ Params: { id: string } }>(
    '/api/build/:id/lineup',
    { schema: { ...schema, summary: 'The heads compared for a build, in order, whole' } },
    ({ params }) => read(params.id),
  );

  app.get<{ Params: { id: string } }>(
    '/api/build/:id/ways',
    { schema: { ...schema, summary: 'The ways to go of a build, in order, with their heads whole' } },
    ({ params }) => waysOf(db, params.id),
  );

  app.put<{ Params: { id: string }; Body: LineupWrite }>(
    '/api/build/:id/lineup',
    { schema: { ...schema, summary: 'Sets which heads are compared, and in which order', body: LineupWrite } },
    async ({ params, body: { entries } }) => {
      const changed = await db.transaction(async (tx) => {
        await tx.query('delete from lineup where build_id = $1', [params.id]);
        await insertAll(
          tx,
          'lineup',
          entries.map((e, position) => ({
            id: e.id ?? randomUUID(),
            version: 1,
            buildId: params.id,
            stageId: e.stageId,
            sheetId: e.sheetId,
            position,
          })),
        );
        return done(tx);
      });
      return { record: await read(params.id), ...changed };
    },
  );
}

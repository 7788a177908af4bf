import {
  Correction,
  Id,
  corrected,
  rangesInUse,
  rowsTouched,
  type BenchWork,
  type CorrectionLine,
  type RawReading,
  type Session,
  type Sheet,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database, Queries } from '../db/database.js';
import { Problem } from '../problems.js';
import { done, find, replace, rowsOf } from '../store.js';

// find()!: sessions that were listed in this transaction.

const params = z.object({ id: Id });

async function workOf(tx: Queries, sourceId: string): Promise<BenchWork> {
  const bench = await find(tx, 'source', sourceId);
  if (!bench) throw new Problem('not-found', 'There is no such bench.');
  const of = <T>(sql: string) => rowsOf<T>(tx, sql, [sourceId]);
  return {
    bench,
    sheets: await of<Sheet>('select * from sheet where source_id = $1 order by date nulls first, entered'),
    sessions: await of<Session>('select * from session where source_id = $1 order by date nulls first, id'),
    readings: await of<RawReading>(
      'select r.* from reading r join session s on s.id = r.session_id where s.source_id = $1 order by r.at, r.id',
    ),
  };
}

/** What a correction changes, line by line. */
async function linesOf(tx: Queries, work: BenchWork, correction: Correction): Promise<CorrectionLine[]> {
  const heads = await tx.query<{ stage: string; head: string; id: string }>(
    'select t.id as stage, h.name as head, h.id from stage t join head h on h.id = t.head_id where t.id = any($1)',
    [[...work.sheets, ...work.sessions].map((r) => r.stageId)],
  );
  const head = (stageId: string) => heads.find((h) => h.stage === stageId)?.head ?? '';
  const line = (noun: CorrectionLine['noun'], r: Sheet | Session, rows: number): CorrectionLine => ({
    noun,
    id: r.id,
    head: head(r.stageId),
    title: r.title,
    date: r.date,
    rows,
  });
  return [
    ...work.sheets.map((s) => line('sheet', s, rowsTouched(s, correction))),
    ...work.sessions.map((s) => line('session', s, 0)),
  ];
}

/** A wrong range or full scale put right in all papers of a bench: one change, undone as one. */
export function correctionRoutes(app: FastifyInstance, db: Database): void {
  const tags = ['bench'];
  app.get<{ Params: { id: string } }>(
    '/api/source/:id/ranges',
    { schema: { tags, summary: 'Every full scale the sheets and sessions of a bench name, and how often', params } },
    async ({ params: { id } }) => rangesInUse(await workOf(db, id)),
  );

  app.post<{ Params: { id: string }; Body: Correction }>(
    '/api/source/:id/correction/preview',
    {
      schema: { tags, summary: 'What a correction would change; writes nothing', params, body: Correction },
    },
    async ({ params: { id }, body: correction }) => {
      // Before they are corrected: a row still stands on the range it was noted on.
      const work = await workOf(db, id);
      const after = corrected(work, correction);
      const ids = new Set(after.sheets.map((s) => s.id));
      return linesOf(db, { ...after, sheets: work.sheets.filter((s) => ids.has(s.id)) }, correction);
    },
  );

  app.post<{ Params: { id: string }; Body: Correction }>(
    '/api/source/:id/correction',
    {
      schema: {
        tags,
        summary: 'Puts a wrong range or full scale right everywhere; undone as one',
        params,
        body: Correction,
      },
    },
    async ({ params: { id }, body: correction }) => {
      return db.transaction(async (tx) => {
        await tx.script("set local alluvium.correction = 'on'");
        const { bench, sheets, sessions, readings } = corrected(await workOf(tx, id), correction);
        if (bench === null && sheets.length + sessions.length + readings.length === 0)
          throw new Problem('refused', 'No sheet and no session of this bench has that.');
        if (bench) await replace(tx, 'source', bench);
        // What points to the bench's own full scales followed them just now.
        for (const s of sheets) if (!bench || s.setup.scales === null) await replace(tx, 'sheet', s);
        for (const s of sessions) {
          const now = (await find(tx, 'session', s.id))!;
          await replace(tx, 'session', { ...s, version: now.version });
        }
        for (const r of readings) await replace(tx, 'reading', r);
        return { sheets: sheets.length, sessions: sessions.length, readings: readings.length, ...(await done(tx)) };
      });
    },
  );
}

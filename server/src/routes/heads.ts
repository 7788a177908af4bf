import {
  HeadQuery,
  Id,
  type Attachment,
  type Finding,
  type Head,
  type HeadPage,
  type HeadSummary,
  type Inspection,
  type Measure,
  type Noun,
  type Port,
  type Report,
  type Seat,
  type Session,
  type Sheet,
  type Stage,
  type Survey,
  type VelocityMap,
  type WetFlow,
  type WholeHead,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database, Queries } from '../db/database.js';
import { Problem } from '../problems.js';
import { rowsOf, toRecord } from '../store.js';

/** Heads with everything that hangs on them, by id. */
export async function wholeHeads(db: Queries, ids: readonly string[]): Promise<Map<string, WholeHead>> {
  const ofHeads = <T>(noun: Noun, order: string) =>
    rowsOf<T>(db, `select * from ${noun} where head_id = any($1) order by ${order}`, [ids]);
  const heads = await rowsOf<Head>(db, 'select * from head where id = any($1)', [ids]);
  const stages = await ofHeads<Stage>('stage', 'position, id');
  const ports = await ofHeads<Port>('port', 'side desc, number');
  const inspections = await ofHeads<Inspection>('inspection', 'position, id');
  const findings = await ofHeads<Finding>('finding', 'date nulls first, id');
  const attachments = await ofHeads<Attachment>('attachment', 'name, id');
  const sessions = await ofHeads<Session>('session', 'date nulls first, id');
  const stageIds = stages.map((s) => s.id);
  const ofStages = <T>(noun: Noun, order: string) =>
    rowsOf<T & { stageId: string }>(db, `select * from ${noun} where stage_id = any($1) order by ${order}`, [stageIds]);
  const sheets = await ofStages<Sheet>('sheet', 'date nulls first, entered');
  const measures = await ofStages<Measure>('measure', 'item, id');
  const surveys = await ofStages<Survey>('survey', 'side desc, date nulls first, entered');
  const seats = await ofStages<Seat>('seat', 'side desc, cylinder, valve, date nulls first, id');
  const velocityMaps = await ofStages<VelocityMap>('velocitymap', 'date nulls first, id');
  const wetFlows = await ofStages<WetFlow>('wetflow', 'date nulls first, id');
  const reports = await ofStages<Report>('report', 'date nulls first, id');
  return new Map(
    heads.map((head) => {
      const own = stages.filter((s) => s.headId === head.id);
      const mine = new Set(own.map((s) => s.id));
      const ofHead = <T extends { headId: string | null }>(list: readonly T[]) =>
        list.filter((x) => x.headId === head.id);
      const ofStage = <T extends { stageId: string }>(list: readonly T[]) => list.filter((x) => mine.has(x.stageId));
      return [
        head.id,
        {
          head,
          stages: own,
          ports: ofHead(ports),
          sheets: ofStage(sheets),
          measures: ofStage(measures),
          surveys: ofStage(surveys),
          inspections: ofHead(inspections),
          findings: ofHead(findings),
          seats: ofStage(seats),
          attachments: ofHead(attachments),
          sessions: ofHead(sessions),
          velocityMaps: ofStage(velocityMaps),
          wetFlows: ofStage(wetFlows),
          reports: ofStage(reports),
        },
      ];
    }),
  );
}

const ORDER = {
  name: 'lower(h.name), h.id',
  maker: 'lower(h.maker), lower(h.name), h.id',
  price: "(h.price ->> 'si')::float8 nulls last, h.id",
} as const;

/** One page of the library. The sheet shown is the newest of the furthest stage, a measured one before a claim. */
export async function headPage(db: Queries, q: HeadQuery): Promise<HeadPage> {
  const conditions: string[] = [];
  const parameters: unknown[] = [];
  const where = (sql: string, value: unknown) => conditions.push(sql.replace('?', `$${parameters.push(value)}`));
  for (const word of q.search.toLowerCase().split(/\s+/).filter(Boolean)) {
    where(
      "lower(h.name || ' ' || h.maker || ' ' || h.catalogue_number) like '%' || ? || '%'",
      word.replace(/[\\%_]/g, '\\$&'),
    );
  }
  if (q.kind) where('h.kind = ?', q.kind);
  if (q.material) where('h.material = ?', q.material);
  if (q.valves) where('h.intake_valves + h.exhaust_valves = ?', q.valves);
  const filter = conditions.length ? `where ${conditions.join(' and ')}` : '';
  const rows = await db.query<{
    total: number;
    head: object | null;
    stages: number;
    sheets: number;
    stage: object | null;
    sheet: object | null;
    intake: unknown;
    exhaust: unknown;
  }>(
    `with hits as materialized (select * from head h ${filter}),
     page as (select * from hits h order by ${ORDER[q.sort]} limit ${q.size} offset ${(q.page - 1) * q.size})
     select c.total, to_jsonb(h) as head, s.stages, f.sheets, s.latest as stage, f.sheet, v.intake, v.exhaust
     from (select count(*)::int as total from hits) c
     left join page h on true
     left join lateral (
       select count(*)::int as stages, (array_agg(to_jsonb(t) order by t.position desc, t.id))[1] as latest from stage t where t.head_id = h.id
     ) s on true
     left join lateral (
       select count(*)::int as sheets, (array_agg(to_jsonb(x) order by t.position desc, x.kind desc, x.date desc nulls last, x.entered desc))[1] as sheet
       from stage t join sheet x on x.stage_id = t.id where t.head_id = h.id
     ) f on true
     left join lateral (
       select (array_agg(m.value order by t.position desc) filter (where m.side = 'intake'))[1] as intake,
              (array_agg(m.value order by t.position desc) filter (where m.side = 'exhaust'))[1] as exhaust
       from stage t join measure m on m.stage_id = t.id where t.head_id = h.id and m.item = 'valve diameter'
     ) v on true
     order by ${ORDER[q.sort]}`,
    parameters,
  );
  return {
    total: rows[0]!.total,
    items: rows.flatMap((r): HeadSummary[] =>
      r.head === null
        ? []
        : [
            {
              head: toRecord<Head>(r.head),
              stages: r.stages,
              sheets: r.sheets,
              latestStage: r.stage && toRecord<Stage>(r.stage),
              sheet: r.sheet && toRecord<Sheet>(r.sheet),
              valves: { intake: r.intake, exhaust: r.exhaust },
            },
          ],
    ),
  };
}

/** The library, and one head whole. */
export function headRoutes(app: FastifyInstance, db: Database): void {
  app.get(
    '/api/library',
    { schema: { tags: ['head'], summary: 'One page of the library: search, filter, sort', querystring: HeadQuery } },
    (request) => headPage(db, request.query as HeadQuery),
  );

  app.get<{ Params: { id: string } }>(
    '/api/head/:id/whole',
    {
      schema: {
        tags: ['head'],
        summary: 'A head with its stages, ports, flow sheets and measures',
        params: z.object({ id: Id }),
      },
    },
    async ({ params }) => {
      const whole = (await wholeHeads(db, [params.id])).get(params.id);
      if (!whole) throw new Problem('not-found', 'There is no such head.');
      return whole;
    },
  );
}

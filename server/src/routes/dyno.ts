import {
  Id,
  assumptionsOf,
  pullFactors,
  type Assumption,
  type Build,
  type Calibration,
  type Head,
  type Outcome,
  type Pull,
  type PulledView,
  type Source,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database } from '../db/database.js';
import { Problem } from '../problems.js';
import { JSON_TYPE, remembering } from '../remembered.js';
import { find, rowsOf, toRecord } from '../store.js';
import { wholeHeads } from './heads.js';

/** Heads of one visit to practice: enough for many questions, few enough to be read in a moment; and missed rounds looked back to. */
const PRACTISED = 12;
const MISSED = 40;

/** Pulls with the heads that were on the engine, and what all of the shop's pulls teach. */
export function dynoRoutes(app: FastifyInstance, db: Database): void {
  const remember = remembering(db);
  const headsOf = async (stages: readonly string[]) => {
    const rows = await db.query<{ head_id: string }>('select distinct head_id from stage where id = any($1)', [stages]);
    const wholes = await wholeHeads(
      db,
      rows.map((r) => r.head_id),
    );
    return [...wholes.values()];
  };
  const inOrder = 'order by date nulls last, position, title, id';

  app.get<{ Params: { id: string } }>(
    '/api/build/:id/pulled',
    {
      schema: {
        tags: ['build'],
        summary: 'The pulls of a build in their order, with the heads that were on it whole',
        params: z.object({ id: Id }),
      },
    },
    async ({ params: { id } }): Promise<PulledView> => {
      if (!(await find(db, 'build', id))) throw new Problem('not-found', 'There is no such build.');
      const pulls = await rowsOf<Pull>(db, `select * from pull where build_id = $1 ${inOrder}`, [id]);
      const wholes = await headsOf(pulls.flatMap((p) => p.stageId ?? []));
      const sources = await rowsOf<Source>(db, 'select * from source order by name');
      return { pulls, wholes, sources };
    },
  );

  app.get(
    '/api/pulls/outcomes',
    {
      schema: {
        tags: ['pull'],
        summary: 'Pulls that fell short and were found out, with their heads and who had claimed something of them',
      },
    },
    async (_, reply) => {
      const text = await remember('outcomes', async () => {
        const rows = await db.query<{ pull: object; head: object; sources: string[] }>(
          `select to_jsonb(p) as pull, to_jsonb(h) as head, array(
             select f.source_id from sheet f join stage s on s.id = f.stage_id
             where s.head_id = h.id and f.kind = 'claim' and f.source_id is not null
             union select r.source_id from report r join stage s on s.id = r.stage_id
             where s.head_id = h.id and r.source_id is not null) as sources
           from pull p join stage t on t.id = p.stage_id join head h on h.id = t.head_id
           where p.cause is not null order by p.date desc nulls last, p.id limit 500`,
        );
        const outcomes: Outcome[] = rows.map((r) => ({
          pull: toRecord<Pull>(r.pull),
          head: toRecord<Head>(r.head),
          sourceIds: r.sources,
        }));
        return JSON.stringify(outcomes);
      });
      return reply.type(JSON_TYPE).send(text);
    },
  );

  app.get(
    '/api/practice/heads',
    {
      schema: { tags: ['round'], summary: 'Heads to practise on: those of missed rounds, and others at random, whole' },
    },
    async () => {
      // A question names the stages and sheets it is made of; one id within another only brings a head more.
      const missed = await db.query<{ head_id: string }>(
        `select distinct t.head_id from (select question from round where not "right" order by date desc limit $1) r
         join sheet f on strpos(r.question, f.id) > 0 or strpos(r.question, f.stage_id) > 0
         join stage t on t.id = f.stage_id limit $2`,
        [MISSED, PRACTISED / 2],
      );
      const known = missed.map((r) => r.head_id);
      const others = await db.query<{ head_id: string }>(
        `select head_id from (select distinct t.head_id from sheet f join stage t on t.id = f.stage_id
         where f.kind = 'measured' and t.head_id <> all($1)) s order by random() limit $2`,
        [known, PRACTISED - known.length],
      );
      const heads = await wholeHeads(db, [...known, ...others.map((r) => r.head_id)]);
      return [...heads.values()];
    },
  );

  app.get(
    '/api/pulls/factors',
    { schema: { tags: ['pull'], summary: 'What each pull of the shop says a cfm of its head made' } },
    async (_, reply) => {
      const text = await remember('factors', async () => {
        const assumptions = assumptionsOf(await rowsOf<Assumption>(db, 'select * from assumption'));
        const checks = await rowsOf<Calibration>(db, 'select * from calibration');
        const pulls = await rowsOf<Pull>(db, `select * from pull ${inOrder} limit 2000`);
        const builds = await rowsOf<Build>(db, 'select * from build');
        const wholes = await headsOf(pulls.flatMap((p) => p.stageId ?? []));
        const sources = await rowsOf<Source>(db, 'select * from source order by name');
        const context = { assumptions, sources, checked: new Set(checks.map((c) => c.sourceId)) };
        return JSON.stringify(pullFactors(pulls, builds, wholes, context));
      });
      return reply.type(JSON_TYPE).send(text);
    },
  );
}

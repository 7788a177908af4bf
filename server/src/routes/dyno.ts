import {
  Id,
  assumptionsOf,
  pullFactors,
  type Assumption,
  type Build,
  type Calibration,
  type Pull,
  type PulledView,
  type Source,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database } from '../db/database.js';
import { Problem } from '../problems.js';
import { JSON_TYPE, remembering } from '../remembered.js';
import { find, rowsOf } from '../store.js';
import { wholeHeads } from './heads.js';

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

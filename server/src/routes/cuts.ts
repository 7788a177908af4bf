import {
  Id,
  assumptionsOf,
  singleCuts,
  toCoreBuild,
  type Assumption,
  type Build,
  type Calibration,
  type SingleCut,
  type Source,
} from '@alluvium/records';
import { evaluateTarget, Refusal } from '@alluvium/core';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database } from '../db/database.js';
import { Problem } from '../problems.js';
import { JSON_TYPE, remembering } from '../remembered.js';
import { find, rowsOf } from '../store.js';
import { wholeHeads } from './heads.js';

/** Heads read at once while the shop's cuts are gathered. */
const AT_ONCE = 20;

/** What the shop's cuts bought over all its heads, and the specimens of one article. */
export function cutRoutes(app: FastifyInstance, db: Database): void {
  const remember = remembering(db);

  /** The cams a build weighs lift with; none where its cam fits no engine. */
  const camsOf = async (buildId: string | undefined) => {
    const build = buildId === undefined ? undefined : ((await find(db, 'build', buildId)) as Build | undefined);
    if (!build?.cam) return {};
    try {
      const { intakeCam, exhaustCam } = evaluateTarget(toCoreBuild(build));
      return { cams: { intake: intakeCam, exhaust: exhaustCam } };
    } catch (error) {
      if (error instanceof Refusal) return {};
      throw error;
    }
  };

  const Query = z.object({ build: Id.optional() });
  app.get<{ Querystring: z.infer<typeof Query> }>(
    '/api/cuts',
    {
      schema: {
        tags: ['change'],
        summary: 'Cuts of all heads that can be told by themselves, with what each bought over the cam of a build',
        querystring: Query,
      },
    },
    async ({ query: { build } }, reply) => {
      const text = await remember(`cuts ${build ?? ''}`, async () => {
        const assumptions = assumptionsOf(await rowsOf<Assumption>(db, 'select * from assumption'));
        const sources = await rowsOf<Source>(db, 'select * from source order by name');
        const checks = await rowsOf<Calibration>(db, 'select * from calibration');
        const context = {
          assumptions,
          sources,
          checked: new Set(checks.map((c) => c.sourceId)),
          ...(await camsOf(build)),
        };
        const ids = await db.query<{ id: string }>(
          'select distinct s.head_id as id from operation o join stage s on s.id = o.stage_id order by 1',
        );
        const cuts: SingleCut[] = [];
        for (let i = 0; i < ids.length; i += AT_ONCE) {
          const wholes = await wholeHeads(
            db,
            ids.slice(i, i + AT_ONCE).map((r) => r.id),
          );
          for (const whole of wholes.values()) cuts.push(...singleCuts(whole, context));
        }
        return JSON.stringify(cuts);
      });
      return reply.type(JSON_TYPE).send(text);
    },
  );

  app.get<{ Params: { id: string } }>(
    '/api/head/:id/specimens',
    {
      schema: {
        tags: ['head'],
        summary: 'Every specimen of a head’s article, the first one first, whole',
        params: z.object({ id: Id }),
      },
    },
    async ({ params: { id } }, reply) => {
      const text = await remember(`specimens ${id}`, async () => {
        const head = await find(db, 'head', id);
        if (!head) throw new Problem('not-found', 'There is no such head.');
        const first = head.specimenOf ?? head.id;
        const ids = await db.query<{ id: string }>(
          'select id from head where id = $1 or specimen_of = $1 order by (id <> $1), lower(name), id',
          [first],
        );
        const order = ids.map((r) => r.id);
        const wholes = await wholeHeads(db, order);
        return JSON.stringify(order.flatMap((x) => wholes.get(x) ?? []));
      });
      return reply.type(JSON_TYPE).send(text);
    },
  );
}

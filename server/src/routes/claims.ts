import type { Head, Measure, NetHead, Port, Report, Sheet, Stage } from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import type { Database } from '../db/database.js';
import { rowsOf } from '../store.js';

/** Sizes the coefficients need. */
const SIZES = ['valve diameter', 'seat width', 'seat angle', 'throat', 'stem diameter', 'pinch', 'window'];
const MOST = 2000;

/** Every head that has a flow sheet or something claimed of it, with what judging claims reads of it. */
export function claimRoutes(app: FastifyInstance, db: Database): void {
  app.get(
    '/api/claims/net',
    {
      schema: {
        tags: ['claims'],
        summary: `Heads with flow sheets or claims, their sheets and the sizes that matter; at most ${MOST}`,
      },
    },
    async (): Promise<NetHead[]> => {
      const heads = await rowsOf<Head>(
        db,
        `select h.* from head h where exists (
           select from stage t where t.head_id = h.id and (
             exists (select from sheet s where s.stage_id = t.id)
             or exists (select from measure m where m.stage_id = t.id and m.source_id is not null)
             or exists (select from report r where r.stage_id = t.id)
           )
         ) order by lower(h.name), h.id limit ${MOST}`,
      );
      const ids = heads.map((h) => h.id);
      const stages = await rowsOf<Stage>(db, 'select * from stage where head_id = any($1) order by position, id', [
        ids,
      ]);
      const ports = await rowsOf<Port>(db, 'select * from port where head_id = any($1) order by side desc, number', [
        ids,
      ]);
      const stageIds = stages.map((s) => s.id);
      const sheets = await rowsOf<Sheet>(
        db,
        'select * from sheet where stage_id = any($1) order by date nulls first, id',
        [stageIds],
      );
      const measures = await rowsOf<Measure>(
        db,
        // What somebody states is held against what was found of the same item of the same head.
        `select m.* from measure m join stage t on t.id = m.stage_id where m.stage_id = any($1) and (
           m.item = any($2) or exists (
             select from measure o join stage u on u.id = o.stage_id
             where u.head_id = t.head_id and o.item = m.item and o.source_id is not null
           )
         ) order by m.item, m.id`,
        [stageIds, SIZES],
      );
      const reports = await rowsOf<Report>(
        db,
        'select * from report where stage_id = any($1) order by date nulls first, id',
        [stageIds],
      );
      const group = <T>(list: readonly T[], key: (x: T) => string): Map<string, T[]> => {
        const groups = new Map<string, T[]>();
        for (const x of list) {
          const own = groups.get(key(x));
          if (own) own.push(x);
          else groups.set(key(x), [x]);
        }
        return groups;
      };
      const byHead = group(stages, (s) => s.headId);
      const portsOf = group(ports, (p) => p.headId);
      const sheetsOf = group(sheets, (s) => s.stageId);
      const measuresOf = group(measures, (m) => m.stageId);
      const reportsOf = group(reports, (r) => r.stageId);
      return heads.map((head) => {
        const own = byHead.get(head.id) ?? [];
        return {
          head,
          stages: own,
          ports: portsOf.get(head.id) ?? [],
          sheets: own.flatMap((s) => sheetsOf.get(s.id) ?? []),
          measures: own.flatMap((s) => measuresOf.get(s.id) ?? []),
          reports: own.flatMap((s) => reportsOf.get(s.id) ?? []),
        };
      });
    },
  );
}

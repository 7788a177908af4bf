import type { Head, Measure, NetHead, Port, Sheet, Stage } from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import type { Database } from '../db/database.js';
import { rowsOf } from '../store.js';

/** Sizes the coefficients need. */
const SIZES = ['valve diameter', 'seat width', 'seat angle', 'throat', 'stem diameter', 'pinch'];
const MOST = 2000;

/** Every head that has a flow sheet, with what the net of sources and the band of coefficients read of it. */
export function claimRoutes(app: FastifyInstance, db: Database): void {
  app.get(
    '/api/claims/net',
    { schema: { tags: ['claims'], summary: `Heads with flow sheets, their sheets and valve sizes; at most ${MOST}` } },
    async (): Promise<NetHead[]> => {
      const heads = await rowsOf<Head>(
        db,
        `select h.* from head h where exists (select from stage t join sheet s on s.stage_id = t.id where t.head_id = h.id)
         order by lower(h.name), h.id limit ${MOST}`,
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
        'select * from measure where stage_id = any($1) and item = any($2) order by item, id',
        [stageIds, SIZES],
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
      return heads.map((head) => {
        const own = byHead.get(head.id) ?? [];
        return {
          head,
          stages: own,
          ports: portsOf.get(head.id) ?? [],
          sheets: own.flatMap((s) => sheetsOf.get(s.id) ?? []),
          measures: own.flatMap((s) => measuresOf.get(s.id) ?? []),
        };
      });
    },
  );
}

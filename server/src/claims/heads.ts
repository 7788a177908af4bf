import type { Head, Measure, NetHead, Operation, Port, Report, Sheet, Stage } from '@alluvium/records';
import type { Queries } from '../db/database.js';
import { rowsOf } from '../store.js';

/** Sizes the coefficients need. */
const SIZES = ['valve diameter', 'seat width', 'seat angle', 'throat', 'stem diameter', 'pinch', 'window'];

/** Heads of these ids with what judging claims reads of them: their sheets, the sizes that matter, powers claimed. */
export async function netHeads(db: Queries, ids: readonly string[]): Promise<NetHead[]> {
  const of = <T>(sql: string, parameters: unknown[]) => rowsOf<T>(db, sql, parameters);
  const heads = await of<Head>('select * from head where id = any($1) order by lower(name), id', [ids]);
  const stages = await of<Stage>('select * from stage where head_id = any($1) order by position, id', [ids]);
  const ports = await of<Port>('select * from port where head_id = any($1) order by side desc, number', [ids]);
  const stageIds = stages.map((s) => s.id);
  const sheets = await of<Sheet>('select * from sheet where stage_id = any($1) order by date nulls first, entered', [
    stageIds,
  ]);
  const measures = await of<Measure>(
    // What somebody states is held against what was found of the same item of the same head.
    `select m.* from measure m join stage t on t.id = m.stage_id where m.stage_id = any($1) and (
       m.item = any($2) or exists (
         select from measure o join stage u on u.id = o.stage_id
         where u.head_id = t.head_id and o.item = m.item and o.source_id is not null
       )
     ) order by m.item, m.id`,
    [stageIds, SIZES],
  );
  const operations = await of<Operation>('select * from operation where stage_id = any($1) order by position, id', [
    stageIds,
  ]);
  const reports = await of<Report>('select * from report where stage_id = any($1) order by date nulls first, id', [
    stageIds,
  ]);
  const group = <T>(list: readonly T[], key: (x: T) => string): Map<string, T[]> => {
    const groups = new Map<string, T[]>();
    for (const x of list) groups.set(key(x), [...(groups.get(key(x)) ?? []), x]);
    return groups;
  };
  const byHead = group(stages, (s) => s.headId);
  const portsOf = group(ports, (p) => p.headId);
  const sheetsOf = group(sheets, (s) => s.stageId);
  const measuresOf = group(measures, (m) => m.stageId);
  const operationsOf = group(operations, (o) => o.stageId);
  const reportsOf = group(reports, (r) => r.stageId);
  return heads.map((head) => {
    const own = byHead.get(head.id) ?? [];
    return {
      head,
      stages: own,
      ports: portsOf.get(head.id) ?? [],
      sheets: own.flatMap((s) => sheetsOf.get(s.id) ?? []),
      measures: own.flatMap((s) => measuresOf.get(s.id) ?? []),
      operations: own.flatMap((s) => operationsOf.get(s.id) ?? []),
      reports: own.flatMap((s) => reportsOf.get(s.id) ?? []),
    };
  });
}

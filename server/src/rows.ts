/** Between a record and its row: only the outer keys are columns; what lies inside a JSON column keeps its own names. */
import type { Noun } from '@alluvium/records';

/** `stageId` → `stage_id`. */
const snake = (name: string): string => name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`);
const camels = new Map<string, string>();
/** `stage_id` → `stageId`; columns are few, and rows many. */
function camel(name: string): string {
  const known = camels.get(name);
  if (known !== undefined) return known;
  const made = name.replace(/_([a-z])/g, (_, c: string) => c.toUpperCase());
  camels.set(name, made);
  return made;
}

/** Columns that are the database's own: where a record stands among those of its day. */
const OWN = new Set(['entered']);

export function toRecord<T>(row: object): T {
  const record: Record<string, unknown> = {};
  for (const [k, v] of Object.entries(row)) if (!OWN.has(k)) record[camel(k)] = v;
  return record as T;
}
export const toRow = (record: object): Record<string, unknown> =>
  Object.fromEntries(Object.entries(record).map(([k, v]) => [snake(k), v]));

/** By what the records of a noun are put in order in a file: as they came in where that counts, so that another library puts the newest last as this one does. */
export const orderOf = (noun: Noun) => (noun === 'sheet' || noun === 'survey' ? 'entered' : 'id');

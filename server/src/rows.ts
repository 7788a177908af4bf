/** Between a record and its row: only the outer keys are columns; what lies inside a JSON column keeps its own names. */
import type { Noun } from '@alluvium/records';

/** `stageId` → `stage_id`. */
const snake = (name: string): string => name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`);
const camel = (name: string): string => name.replace(/_([a-z])/g, (_, c: string) => c.toUpperCase());

/** Columns that are the database's own: where a record stands among those of its day. */
const OWN = new Set(['entered']);

export const toRecord = <T>(row: object): T =>
  Object.fromEntries(Object.entries(row).flatMap(([k, v]) => (OWN.has(k) ? [] : [[camel(k), v]]))) as T;
export const toRow = (record: object): Record<string, unknown> =>
  Object.fromEntries(Object.entries(record).map(([k, v]) => [snake(k), v]));

/** By what the records of a noun are put in order in a file: as they came in where that counts, so that another library puts the newest last as this one does. */
export const orderOf = (noun: Noun) => (noun === 'sheet' || noun === 'survey' ? 'entered' : 'id');

/** Claims as a table: one line a claimed flow, size or power, with who said it and what is known of the conditions. */
import { headingUnit, headingWord } from './heading.js';
import { unitFor, type Kind, type System, recordOf } from '@alluvium/core';
import type { BundleProblem } from './bundle.js';
import { foreignUnit, unitTyped } from './mixedUnits.js';
import { sentence } from '../refusal.js';

/** The columns a claim table may have; `source` and `head` are needed. */
export const CLAIM_COLUMNS = [
  'source',
  'head',
  'maker',
  'stage',
  'title',
  'date',
  'side',
  'lift',
  'flow',
  'intake',
  'exhaust',
  'item',
  'value',
  'power',
  'speed',
  'displacement',
  'cylinders',
  'depression',
  'bore',
  'entry',
  'pipe',
  'valve',
  'port',
  'note',
] as const;
export type ClaimColumn = (typeof CLAIM_COLUMNS)[number];

export interface ClaimTable {
  /** Names of the heads the lines are about. */
  readonly heads: readonly string[];
  readonly lines: readonly { readonly line: number; readonly cells: Readonly<Record<ClaimColumn, string>> }[];
  readonly problems: readonly BundleProblem[];
}

const plain = (text: string): string =>
  headingWord(text)
    .toLowerCase()
    .replace(/[^a-z]/g, '');
const COLUMN_OF = new Map<string, ClaimColumn>([
  ...CLAIM_COLUMNS.map((c) => [c, c] as const),
  ['exhaustpipe', 'pipe'],
  ['catalogue', 'source'],
  ['rpm', 'speed'],
]);

/** Whether a table is one of claims: its heading names a source and a head. */
export const isClaimTable = (table: readonly (readonly string[])[]): boolean => headingOf(table) >= 0;

const headingOf = (table: readonly (readonly string[])[]): number =>
  table.findIndex((row) => {
    const names = row.map(plain);
    return names.includes('head') && (names.includes('source') || names.includes('catalogue'));
  });

const KIND_OF: Partial<Record<ClaimColumn, Kind>> = {
  lift: 'lift',
  flow: 'flow',
  intake: 'flow',
  exhaust: 'flow',
  depression: 'depression',
  bore: 'length',
  power: 'power',
  speed: 'rotation',
  displacement: 'displacement',
};

/** Reads the lines. A unit in a heading holds for its bare figures; a column must not mix bare figures with other units. */
export function readClaimTable(table: readonly (readonly string[])[], system: System): ClaimTable {
  const problems: BundleProblem[] = [];
  const top = headingOf(table);
  const heading = table[top] ?? [];
  const columns = heading.map((h) => COLUMN_OF.get(plain(h)));
  const units = heading.map(headingUnit);
  heading.forEach((h, i) => {
    if (!columns[i] && h.trim() !== '') problems.push({ place: `line ${top + 1}`, ...sentence('unknownColumn', h) });
  });
  const lines = table.slice(top + 1).flatMap((row, i) => {
    if (row.every((c) => c.trim() === '') || row[0]?.trim().startsWith('#')) return [];
    const cells = recordOf(CLAIM_COLUMNS, () => '');
    columns.forEach((c, k) => {
      if (c) cells[c] = (row[k] ?? '').trim();
    });
    return [{ line: top + 2 + i, cells }];
  });
  columns.forEach((column, k) => {
    const kind = column && KIND_OF[column];
    if (!kind) return;
    const assumed = units[k] || unitFor(kind, system).symbol;
    const foreign = foreignUnit(
      lines.map((l) => l.cells[column]),
      kind,
      system,
      assumed,
    );
    if (foreign !== undefined)
      problems.push({
        place: `column ${column}`,
        ...sentence('unitsMixed', foreign, assumed),
      });
    for (const l of lines)
      if (units[k] && l.cells[column] !== '' && unitTyped(l.cells[column]) === '')
        (l.cells as Record<ClaimColumn, string>)[column] = `${l.cells[column]} ${units[k]}`;
  });
  if (lines.length === 0) problems.push({ place: 'file', ...sentence('noClaims') });
  return { heads: [...new Set(lines.map((l) => l.cells.head).filter(Boolean))], lines, problems };
}

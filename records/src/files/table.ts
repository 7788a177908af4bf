/**
 * A flow sheet as a table of text: CSV, a pasted block, or a spreadsheet's cells. Set-up lines come first, `key,value`;
 * then a header naming the columns, optionally a row of units, then the rows. A block without a header is read as lift,
 * intake, exhaust.
 */
import { Refusal, columnStyle, type ColumnStyle, type DecimalSign, withPoint, refusedBy } from '@alluvium/core';
import { SETUP_FIELDS, type SetupFieldName } from '../bench/setupFields.js';
import type { Port } from '../nouns/head.js';
import type { Setup, Sheet } from '../nouns/sheet.js';
import { headingUnit, headingWord } from './heading.js';
import { COLUMNS, emptyCells, writeCells, type Cells, type Column } from './cells.js';
import { sentence, sentenceOf, type CodedSentence } from '../refusal.js';

// table[]!: a line of the table.
// KEYS.get()!: looked for in front of it.

/** Set-up lines a table may carry, and the field each fills. */
export const SETUP_KEYS: readonly SetupKey[] = [
  'title',
  'kind',
  'date',
  'source',
  'intakePort',
  'exhaustPort',
  'reads',
  ...SETUP_FIELDS.map((f) => f.field),
  'factor',
  'intakeLeak',
  'exhaustLeak',
  'setAside',
  'stopped',
  'note',
];
export type SetupKey =
  | SetupFieldName
  | Extract<keyof Setup, 'reads' | 'factor' | 'intakeLeak' | 'exhaustLeak'>
  | Extract<keyof Sheet, 'title' | 'kind' | 'date' | 'setAside' | 'stopped' | 'note'>
  | keyof SheetNames;

export interface SheetTable {
  readonly setup: Partial<Record<SetupKey, string>>;
  /** `range` lines: name, intake full scale, exhaust full scale. */
  readonly ranges: readonly { readonly name: string; readonly intake: string; readonly exhaust: string }[];
  readonly cells: readonly Cells[];
  /** The decimal sign the figures were read with, and whether that is sure; undefined when none has one. */
  readonly style: ColumnStyle | undefined;
  readonly problems: readonly ({ readonly line: number } & CodedSentence)[];
}

/** More lines than this are no flow sheet. */
const MAX_LINES = 2_000;

const plain = (text: string): string => text.toLowerCase().replace(/[^a-z]/g, '');
const HEADINGS: Readonly<Record<string, Column>> = Object.assign(
  Object.create(null) as Record<string, Column>,
  {
    lift: 'lift',
    valvelift: 'lift',
    intake: 'intake',
    in: 'intake',
    int: 'intake',
    inlet: 'intake',
    exhaust: 'exhaust',
    ex: 'exhaust',
    exh: 'exhaust',
    intakerange: 'intakeRange',
    exhaustrange: 'exhaustRange',
    missing: 'missing',
    note: 'missing',
    why: 'missing',
    comment: 'comment',
  } as const,
);
const KEYS = new Map<string, SetupKey>(SETUP_KEYS.map((k) => [plain(k), k]));
const UNIT = /^(in|inch|inches|mm|thou|cfm|l\/s|m3\/h|m³\/h|m3\/min|kg\/h|kg\/s|g\/s|lb\/min|%|percent|"|)$/i;

/** The decimal sign of all figures of a table; the whole table is written by one hand. */
function styleOf(cells: readonly Cells[]): ColumnStyle | Refusal | undefined {
  try {
    return columnStyle(cells.flatMap((c) => [c.lift, c.intake, c.exhaust]));
  } catch (error) {
    return refusedBy(error);
  }
}

/**
 * Reads a table of text cells. Never throws; what cannot be placed is said with its line. The decimal sign is found from
 * the figures themselves unless it is given.
 */
export function readTable(table: readonly (readonly string[])[], decimal?: DecimalSign): SheetTable {
  const setup: Partial<Record<SetupKey, string>> = {};
  const ranges: { name: string; intake: string; exhaust: string }[] = [];
  const problems: ({ line: number } & CodedSentence)[] = [];
  if (table.length > MAX_LINES)
    return {
      setup,
      ranges,
      cells: [],
      style: undefined,
      problems: [{ line: MAX_LINES, ...sentence('flowTableTooLong', table.length) }],
    };

  let line = 0;
  let columns: (Column | undefined)[] | undefined;
  for (; line < table.length; line++) {
    const row = table[line]!.map((c) => c.trim());
    const first = row[0] ?? '';
    if (first.startsWith('#') || row.every((c) => c === '')) continue;
    const headings = row.map((c) => HEADINGS[plain(headingWord(c))]);
    if (headings.includes('lift')) {
      columns = headings;
      row.forEach((c, i) => {
        if (!headings[i] && c !== '') problems.push({ line: line + 1, ...sentence('columnLeftOut', c) });
      });
      line++;
      break;
    }
    if (plain(first) === 'range') ranges.push({ name: row[1] ?? '', intake: row[2] ?? '', exhaust: row[3] ?? '' });
    else if (KEYS.has(plain(first)))
      setup[KEYS.get(plain(first))!] = plain(first) === 'note' ? (table[line]![1] ?? '') : (row[1] ?? '');
    else if (/^[\d.,+-]/.test(first) || first === '') break;
    else
      problems.push({
        line: line + 1,
        ...sentence('lineUnknown', first),
      });
  }
  columns ??= ['lift', 'intake', 'exhaust'];

  let units: string[] = [];
  const headingUnits = (table[line - 1] ?? []).map(headingUnit);
  if (headingUnits.some(Boolean)) units = headingUnits;
  const next = table[line]?.map((c) => c.trim());
  if (next && next.some((c) => c !== '') && next.every((c) => UNIT.test(c))) {
    units = next;
    line++;
  }

  const cells: Cells[] = [];
  for (; line < table.length; line++) {
    const row = table[line]!;
    if (row.every((c) => c.trim() === '') || row[0]?.trim().startsWith('#')) continue;
    const cell = emptyCells();
    columns.forEach((column, i) => {
      if (!column) return;
      const text = (row[i] ?? '').trim();
      const unit = units[i];
      cell[column] =
        unit && (column === 'lift' || column === 'intake' || column === 'exhaust') && /^[\d.,+-]+$/.test(text)
          ? `${text} ${unit}`
          : text;
    });
    cells.push(cell);
  }
  if (cells.length === 0) problems.push({ line: table.length, ...sentence('noFlowRows') });
  const found = styleOf(cells);
  if (found instanceof Refusal && !decimal) problems.push({ line: table.length, ...sentenceOf(found) });
  const style = decimal ? { sign: decimal, sure: true } : found instanceof Refusal ? undefined : found;
  if (style)
    for (const cell of cells)
      for (const column of ['lift', 'intake', 'exhaust'] as const) cell[column] = withPoint(cell[column], style.sign);
  return { setup, ranges, cells, style, problems };
}

/** What a sheet refers to, by the names a file can carry. */
export interface SheetNames {
  readonly source?: string | undefined;
  readonly intakePort?: number | undefined;
  readonly exhaustPort?: number | undefined;
}

/** The names a sheet's file carries for its source and ports. */
export const sheetNames = (
  sheet: Pick<Sheet, 'sourceId' | 'intakePortId' | 'exhaustPortId'>,
  sources: readonly { readonly id: string; readonly name: string }[],
  ports: readonly Port[],
): SheetNames => ({
  source: sources.find((s) => s.id === sheet.sourceId)?.name,
  intakePort: ports.find((p) => p.id === sheet.intakePortId)?.number,
  exhaustPort: ports.find((p) => p.id === sheet.exhaustPortId)?.number,
});

export type SheetContent = Pick<
  Sheet,
  'title' | 'kind' | 'date' | 'setup' | 'rows' | 'valveOut' | 'setAside' | 'stopped' | 'note'
>;

/** The set-up lines of a sheet: how it was done, and what it refers to. */
export function setupLines(sheet: SheetContent, names: SheetNames = {}): string[][] {
  const { setup } = sheet;
  const value = (key: SetupKey): string => {
    const from = key in names ? names : key in setup ? setup : sheet;
    const v = (from as Record<string, unknown>)[key];
    return v === null || v === undefined ? '' : typeof v === 'object' ? (v as { typed: string }).typed : String(v);
  };
  const lines = SETUP_KEYS.map((key): [string, string] => [key, value(key)]).filter(([, v]) => v !== '');
  const ranges = setup.ranges.map((r: Setup['ranges'][number]) => [
    'range',
    r.name,
    r.intake?.typed ?? '',
    r.exhaust?.typed ?? '',
  ]);
  return [...lines, ...ranges];
}

/** The columns a sheet's file has: a comment only where there is one. */
export const columnsOf = (rows: Sheet['rows']): readonly Column[] =>
  COLUMNS.filter((c) => c !== 'comment' || rows.some((r) => r.note !== ''));

/** The sheet as a table of text cells, its set-up lines first. */
export function sheetTable(sheet: SheetContent, names: SheetNames = {}): string[][] {
  const columns = columnsOf(sheet.rows);
  return [
    ...setupLines(sheet, names),
    [...columns],
    ...writeCells(sheet.rows, undefined, sheet.valveOut).map((c) => columns.map((k) => c[k])),
  ];
}

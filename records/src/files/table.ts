/**
 * A flow sheet as a table of text: CSV, a pasted block, or a spreadsheet's cells. Set-up lines come first, `key,value`;
 * then a header naming the columns, optionally a row of units, then the rows. A block without a header is read as lift,
 * intake, exhaust.
 */
import Papa from 'papaparse';
import type { Setup, Sheet } from '../nouns/sheet.js';
import { COLUMNS, emptyCells, writeCells, type Cells, type Column } from './cells.js';

/** Set-up lines a table may carry, and the field each fills. */
export const SETUP_KEYS = [
  'title',
  'kind',
  'date',
  'reads',
  'depression',
  'bore',
  'entry',
  'exhaustPipe',
  'pipeDiameter',
  'pipeLength',
  'holesClosed',
  'valve',
  'intakeFlowValve',
  'exhaustFlowValve',
  'springs',
  'gasket',
  'portKind',
  'factor',
  'intakeLeak',
  'exhaustLeak',
  'meterTemperature',
  'portTemperature',
  'stopped',
  'note',
] as const;
export type SetupKey = (typeof SETUP_KEYS)[number];

export interface SheetTable {
  readonly setup: Partial<Record<SetupKey, string>>;
  /** `range` lines: name, intake full scale, exhaust full scale. */
  readonly ranges: readonly { readonly name: string; readonly intake: string; readonly exhaust: string }[];
  readonly cells: readonly Cells[];
  readonly problems: readonly { readonly line: number; readonly message: string }[];
}

/** More lines than this are no flow sheet. */
const MAX_LINES = 2_000;

const plain = (text: string): string => text.toLowerCase().replace(/[^a-z]/g, '');
const HEADINGS: Readonly<Record<string, Column>> = {
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
};
const KEYS = new Map<string, SetupKey>(SETUP_KEYS.map((k) => [plain(k), k]));
const UNIT = /^(in|inch|inches|mm|thou|cfm|l\/s|m3\/h|m³\/h|m3\/min|%|percent|"|)$/i;

/** Splits a text into cells: tab, semicolon or comma, whichever it uses; else runs of blanks. */
export function splitTable(text: string): string[][] {
  const clean = text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n');
  const delimiter = clean.includes('\t')
    ? '\t'
    : clean.includes(';')
      ? ';'
      : /,/.test(clean) && !/^[ ]*[\d.,]+[ ]+[\d.,]+/m.test(clean)
        ? ','
        : undefined;
  if (delimiter === undefined)
    return clean
      .split('\n')
      .filter((l) => l.trim())
      .map((l) => l.trim().split(/\s+/));
  return Papa.parse<string[]>(clean, { delimiter, skipEmptyLines: 'greedy' }).data;
}

/** Reads a table of text cells. Never throws; what cannot be placed is said with its line. */
export function readTable(table: readonly (readonly string[])[]): SheetTable {
  const setup: Partial<Record<SetupKey, string>> = {};
  const ranges: { name: string; intake: string; exhaust: string }[] = [];
  const problems: { line: number; message: string }[] = [];
  if (table.length > MAX_LINES)
    return {
      setup,
      ranges,
      cells: [],
      problems: [{ line: MAX_LINES, message: `This has ${table.length} lines; a flow sheet has at most 400 rows.` }],
    };

  let line = 0;
  let columns: (Column | undefined)[] | undefined;
  for (; line < table.length; line++) {
    const row = table[line]!.map((c) => c.trim());
    const first = row[0] ?? '';
    if (first.startsWith('#') || row.every((c) => c === '')) continue;
    const headings = row.map((c) => HEADINGS[plain(c.replace(/[([].*$/, ''))]);
    if (headings.includes('lift')) {
      columns = headings;
      row.forEach((c, i) => {
        if (!headings[i] && c !== '')
          problems.push({ line: line + 1, message: `The column “${c.slice(0, 40)}” is not known and was left out.` });
      });
      line++;
      break;
    }
    if (plain(first) === 'range') ranges.push({ name: row[1] ?? '', intake: row[2] ?? '', exhaust: row[3] ?? '' });
    else if (KEYS.has(plain(first))) setup[KEYS.get(plain(first))!] = row[1] ?? '';
    else if (/^[\d.,+-]/.test(first) || first === '') break;
    else
      problems.push({
        line: line + 1,
        message: `“${first.slice(0, 40)}” is neither a set-up line nor a column heading.`,
      });
  }
  columns ??= ['lift', 'intake', 'exhaust'];

  let units: string[] = [];
  const headingUnits = (table[line - 1] ?? []).map((c) => /[([]([^)\]]+)[)\]]\s*$/.exec(c)?.[1]?.trim() ?? '');
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
  if (cells.length === 0) problems.push({ line: table.length, message: 'There are no rows of lift and flow here.' });
  return { setup, ranges, cells, problems };
}

/** The sheet as a table of text cells, its set-up lines first. */
export function sheetTable(
  sheet: Pick<Sheet, 'title' | 'kind' | 'date' | 'setup' | 'rows' | 'stopped' | 'note'>,
): string[][] {
  const { setup } = sheet;
  const value = (key: SetupKey): string => {
    const v = key in setup ? (setup as Record<string, unknown>)[key] : (sheet as Record<string, unknown>)[key];
    return v === null || v === undefined ? '' : typeof v === 'object' ? (v as { typed: string }).typed : String(v);
  };
  const lines = SETUP_KEYS.map((key) => [key, value(key)]).filter(([, v]) => v !== '');
  const ranges = setup.ranges.map((r: Setup['ranges'][number]) => [
    'range',
    r.name,
    r.intake?.typed ?? '',
    r.exhaust?.typed ?? '',
  ]);
  return [...lines, ...ranges, [...COLUMNS], ...writeCells(sheet.rows).map((c) => COLUMNS.map((k) => c[k]))];
}

/** CSV text; a cell that a spreadsheet would run as a formula is made harmless. */
export const toCsv = (table: readonly (readonly (string | number)[])[]): string =>
  Papa.unparse(table as (string | number)[][], { escapeFormulae: /^[=@\t\r]|^[+-](?![\d.])/, newline: '\r\n' }) +
  '\r\n';

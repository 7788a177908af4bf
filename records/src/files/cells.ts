/** A flow sheet as text cells, the way it is typed, pasted and exchanged; and from cells to rows, with a sentence for every cell that cannot be read. */
import { readTyped, unitFor, type Kind, type Quantity, type System } from '@alluvium/core';
import type { Setup, SheetRow, SheetValveOut } from '../nouns/sheet.js';
import { MAX_ROWS, NO_VALVE_OUT, readingSchema, rowProblems, Row, valveOutProblems } from '../nouns/sheet.js';
import { depressionSchema } from '../nouns/build.js';
import { sentence, firstRefused, sentenceOf, type CodedSentence } from '../refusal.js';

// places[]!: one for each row.
// r.exhaust!, r.intake!, pulls[]!: rows with both sides; a side that is there has a pull.

export const COLUMNS = ['lift', 'intakeRange', 'intake', 'exhaustRange', 'exhaust', 'missing', 'comment'] as const;
export type Column = (typeof COLUMNS)[number];
export type Cells = Record<Column, string>;

export interface CellProblem extends CodedSentence {
  readonly row: number;
  readonly column: Column;
}

export const emptyCells = (): Cells => ({
  lift: '',
  intakeRange: '',
  intake: '',
  exhaustRange: '',
  exhaust: '',
  missing: '',
  comment: '',
});
const isEmpty = (cells: Cells) => COLUMNS.every((c) => cells[c].trim() === '');

/** The columns a sheet of this reading shows; comments where they are asked for. */
export const columnsFor = (reads: Setup['reads'], comments = false): readonly Column[] =>
  COLUMNS.filter(
    (c) => (c !== 'comment' || comments) && (!c.endsWith('Range') || reads === 'percent' || reads === 'differential'),
  );

/** What stands in the place of a lift where the valve was out, a radiused plug in its seat. */
const OUT = /^(valve[\s-]*)?out$/i;
export const VALVE_OUT = 'valve out';

/** What is not a reading although something stands in the cell: a dash, "n/a". */
const isMissing = (text: string): boolean => /^(-|–|—|n\/?a|none|x)$/i.test(text.trim());

/** Letters of a cell, more than ten pulls and a depression ever take. */
const LONGEST = 500;

/** `188.2 / 188.9 @ 27.5 ~`: pulls, the depression when it was not held, and a mark for noise. */
function readReading(
  text: string,
  setup: Pick<Setup, 'reads'>,
  system: System,
): { pulls: Quantity[]; depression: Quantity | null; noisy: boolean } | CodedSentence {
  if (text.length > LONGEST) return sentence('readingTooLong');
  const noisy = text.trimEnd().endsWith('~');
  const [readings = '', depressionText] = (noisy ? text.trimEnd().slice(0, -1) : text).split('@');
  const kind: Kind = setup.reads === 'percent' || setup.reads === 'differential' ? 'percent' : 'flow';
  const schema = readingSchema(setup.reads);
  const pulls: Quantity[] = [];
  for (const part of readings.split(/\s*\|\s*|\s+\/\s+|(?<=\d)\/(?=[\d.])/)) {
    const parsed = readTyped(part, kind, system);
    if (!parsed.ok) return sentenceOf(parsed.refusal);
    const checked = schema.safeParse(parsed.quantity);
    if (!checked.success) return firstRefused(checked.error);
    pulls.push(parsed.quantity);
  }
  if (depressionText === undefined) return { pulls, depression: null, noisy };
  const depression = readTyped(depressionText, 'depression', system);
  if (!depression.ok) return sentenceOf(depression.refusal);
  const checked = depressionSchema.safeParse(depression.quantity);
  return checked.success ? { pulls, depression: depression.quantity, noisy } : firstRefused(checked.error);
}

/** Rows from cells. Empty rows are passed over; every unreadable cell has its sentence and its row is left out. */
export function readCells(
  cells: readonly Cells[],
  setup: Pick<Setup, 'reads' | 'ranges'>,
  system: System,
): { rows: SheetRow[]; valveOut: SheetValveOut; problems: CellProblem[] } {
  const problems: CellProblem[] = [];
  if (cells.length > MAX_ROWS) {
    return {
      rows: [],
      valveOut: NO_VALVE_OUT,
      problems: [{ row: MAX_ROWS, column: 'lift', ...sentence('tooManyRows', MAX_ROWS, cells.length) }],
    };
  }
  const places: number[] = [];
  let valveOut: SheetValveOut | undefined;
  let outAt = -1;
  const rows = cells.flatMap((cell, row): SheetRow[] => {
    if (isEmpty(cell)) return [];
    const complain = (column: Column, why: CodedSentence) => void problems.push({ row, column, ...why });
    const read = (side: 'intake' | 'exhaust'): SheetRow['intake'] => {
      const text = cell[side].trim();
      if (text === '' || isMissing(text)) return null;
      const reading = readReading(text, setup, system);
      if ('pulls' in reading) return { ...reading, range: cell[`${side}Range`].trim() || null };
      complain(side, reading);
      return null;
    };
    if (OUT.test(cell.lift.trim())) {
      if (valveOut) complain('lift', sentence('valveOutTwice'));
      else [valveOut, outAt] = [{ intake: read('intake'), exhaust: read('exhaust') }, row];
      return [];
    }
    const lift = readTyped(cell.lift, 'lift', system);
    if (!lift.ok) {
      complain('lift', sentenceOf(lift.refusal));
      return [];
    }
    const checked = Row.shape.lift.safeParse(lift.quantity);
    if (!checked.success) {
      complain('lift', firstRefused(checked.error));
      return [];
    }
    places.push(row);
    return [
      {
        lift: lift.quantity,
        intake: read('intake'),
        exhaust: read('exhaust'),
        missing: cell.missing.trim().slice(0, 200),
        note: cell.comment.trim().slice(0, 200),
      },
    ];
  });
  for (const { path, ...why } of rowProblems(setup, rows)) {
    const [, index, field] = path as [string, number, 'lift' | 'intake' | 'exhaust'];
    problems.push({
      row: places[index]!,
      column: field === 'lift' ? 'lift' : `${field}Range`,
      ...why,
    });
  }
  for (const { path, ...why } of valveOut ? valveOutProblems(setup, valveOut) : [])
    problems.push({ row: outAt, column: `${path[1] as 'intake' | 'exhaust'}Range`, ...why });
  return { rows: rows.sort((a, b) => a.lift.si - b.lift.si), valveOut: valveOut ?? NO_VALVE_OUT, problems };
}

/**
 * Cells that read back to the same rows. With a system, the units it would assume anyway are left out, which is how
 * people type; such cells read back the same only under that system.
 */
export function writeCells(
  rows: readonly SheetRow[],
  system?: System,
  valveOut: SheetValveOut = NO_VALVE_OUT,
): Cells[] {
  const bare = (typed: string, kind: Kind) => {
    const unit = system && ` ${unitFor(kind, system).symbol}`;
    if (typed.endsWith(' %')) return typed.slice(0, -2);
    return unit && typed.endsWith(unit) ? typed.slice(0, -unit.length) : typed;
  };
  const reading = (r: SheetRow['intake']) =>
    r
      ? `${r.pulls.map((p) => bare(p.typed, 'flow')).join(' / ')}${r.depression ? ` @ ${bare(r.depression.typed, 'depression')}` : ''}${r.noisy ? ' ~' : ''}`
      : '';
  const sides = ({ intake, exhaust }: Pick<SheetRow, 'intake' | 'exhaust'>) => ({
    intakeRange: intake?.range ?? '',
    intake: reading(intake),
    exhaustRange: exhaust?.range ?? '',
    exhaust: reading(exhaust),
  });
  const cells = rows.map((row) => ({
    lift: bare(row.lift.typed, 'lift'),
    ...sides(row),
    missing: row.missing,
    comment: row.note,
  }));
  const isOut = valveOut.intake !== null || valveOut.exhaust !== null;
  return isOut ? [...cells, { ...emptyCells(), lift: VALVE_OUT, ...sides(valveOut) }] : cells;
}

/** The same cells for another system of units; a cell that cannot be read stays as it was typed. */
export function respell(
  cells: readonly Cells[],
  setup: Pick<Setup, 'reads' | 'ranges'>,
  from: System,
  to: System,
): Cells[] {
  return cells.map((cell) => {
    const { rows, valveOut, problems } = readCells([cell], setup, from);
    return (problems.length === 0 && writeCells(rows, to, valveOut)[0]) || cell;
  });
}

/** The exhaust flows more than the intake at most lifts: the columns may stand in each other's place. */
export function looksSwapped(rows: readonly SheetRow[]): boolean {
  const both = rows.filter((r) => r.intake && r.exhaust && r.intake.range === r.exhaust.range);
  return (
    both.length >= 3 &&
    both.filter((r) => r.exhaust!.pulls[0]!.si > r.intake!.pulls[0]!.si * 1.02).length > both.length * 0.6
  );
}

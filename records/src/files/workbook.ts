import { fromSi, unitFor, type Kind, type Quantity, type System } from '@alluvium/core';
import type { SheetRow } from '../nouns/sheet.js';
import { writeCells, type Column } from './cells.js';
import { columnsOf, setupLines, type SheetContent, type SheetNames } from './table.js';

// reading.pulls[]!: a side that is there has one.

/** One sheet of a workbook: numbers are numbers, in the units its headings name. */
export interface Workbook {
  /** Name of the sheet's tab. */
  readonly name: string;
  readonly rows: readonly (readonly (string | number)[])[];
  /** Width of each column, in letters. */
  readonly widths: readonly number[];
  /** Rows that stay in view: up to and with the heading. */
  readonly frozen: number;
}

/** A tab's name has at most 31 letters and none of these. */
export const tabName = (text: string): string =>
  text
    .replace(/[\\/?*[\]:]/g, ' ')
    .replace(/^'+|'+$/g, '')
    .trim()
    .slice(0, 31)
    .trim() || 'Sheet';

/** Widths that show what stands below the set-up lines, within reason. */
export function widthsOf(rows: Workbook['rows']): number[] {
  const columns = Math.max(0, ...rows.map((r) => r.length));
  return Array.from({ length: columns }, (_, i) =>
    Math.min(40, Math.max(10, ...rows.map((r) => String(r[i] ?? '').length + 2))),
  );
}

/** A table with one line of headings as a sheet of a workbook. */
export const workbookOf = (name: string, rows: Workbook['rows']): Workbook => ({
  name: tabName(name),
  rows,
  widths: widthsOf(rows),
  frozen: 1,
});

/** A quantity as a number of a unit: the figures as typed where they are in it, else to twelve figures. */
function figure(q: Quantity, kind: Kind, system: System): number {
  const unit = unitFor(kind, system);
  const typed = q.typed.endsWith(` ${unit.symbol}`) ? Number(q.typed.slice(0, -unit.symbol.length - 1)) : NaN;
  return Number.isFinite(typed) ? typed : Number(fromSi(q.si, unit).toPrecision(12));
}

/** A flow sheet as a workbook. A cell that holds more than one plain figure stays text, as it is typed. */
export function sheetWorkbook(sheet: SheetContent, names: SheetNames, system: System): Workbook {
  const columns = columnsOf(sheet.rows);
  const lift = unitFor('lift', system).symbol;
  const percent = sheet.setup.reads === 'percent' || sheet.setup.reads === 'differential';
  const flow = percent ? '%' : unitFor('flow', system).symbol;
  const heading = (c: Column) =>
    c === 'lift' ? `lift (${lift})` : c === 'intake' || c === 'exhaust' ? `${c} (${flow})` : c;
  const number = (row: SheetRow, c: Column): number | undefined => {
    if (c === 'lift') return figure(row.lift, 'lift', system);
    if (c !== 'intake' && c !== 'exhaust') return undefined;
    const reading = row[c];
    if (!reading || reading.pulls.length > 1 || reading.depression || reading.noisy) return undefined;
    return figure(reading.pulls[0]! as Quantity, percent ? 'percent' : 'flow', system);
  };
  const texts = writeCells(sheet.rows, undefined, sheet.valveOut);
  const setup = setupLines(sheet, names);
  const rows = [
    ...setup,
    columns.map(heading),
    ...texts.map((text, i) => columns.map((c) => (sheet.rows[i] && number(sheet.rows[i], c)) ?? text[c])),
  ];
  return { name: tabName(sheet.title), rows, widths: widthsOf(rows.slice(setup.length)), frozen: setup.length + 1 };
}

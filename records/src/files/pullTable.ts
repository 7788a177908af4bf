/**
 * A dyno sheet as a table of text: CSV, a pasted block, or a spreadsheet's cells. Its columns are known by their headings,
 * in any order; what else it carries is named and left out. A block without headings is read as speed, power, torque.
 */
import { columnStyle, parseQuantity, unitFor, withPoint, type Kind, type Quantity, type System } from '@alluvium/core';
import type { z } from 'zod';
import { PullRow } from '../nouns/dyno.js';
import { headingUnit, headingWord } from './heading.js';

type Column = 'speed' | 'power' | 'torque';
const KINDS = { speed: 'rotation', power: 'power', torque: 'torque' } as const satisfies Record<Column, Kind>;
const COLUMNS = ['speed', 'power', 'torque'] as const;

interface Heading {
  readonly column: Column;
  /** The unit the heading itself is named after. */
  readonly unit?: string;
}
const heading = (column: Column, unit?: string): Heading => ({ column, ...(unit ? { unit } : {}) });
const HEADINGS: ReadonlyMap<string, Heading> = new Map([
  ...['rpm', 'revs', 'n', 'speed', 'enginespeed', 'enginerpm', 'min'].map((w) => [w, heading('speed')] as const),
  ...['power', 'p', 'corrpower', 'correctedpower', 'enginepower', 'wheelpower'].map(
    (w) => [w, heading('power')] as const,
  ),
  ...['hp', 'bhp', 'whp', 'chp', 'fwhp'].map((w) => [w, heading('power', 'hp')] as const),
  ['ps', heading('power', 'PS')],
  ['cv', heading('power', 'PS')],
  ['kw', heading('power', 'kW')],
  ...['torque', 'tq', 't', 'corrtorque', 'correctedtorque', 'enginetorque'].map((w) => [w, heading('torque')] as const),
  ...['lbft', 'ftlb', 'ftlbs', 'lbsft'].map((w) => [w, heading('torque', 'lb ft')] as const),
  ['nm', heading('torque', 'N·m')],
]);

const plain = (text: string): string => text.toLowerCase().replace(/[^a-z]/g, '');
const headingOf = (cell: string): Heading | undefined =>
  HEADINGS.get(plain(headingWord(cell))) ?? HEADINGS.get(plain(cell));

export interface PullTable {
  readonly rows: readonly z.infer<typeof PullRow>[];
  /** What stands in the way of a line, by its number in the file. */
  readonly problems: readonly { readonly line: number; readonly message: string }[];
  /** What was taken for granted or left out: to be read before the pull is saved. */
  readonly notices: readonly string[];
}

/** More lines than this are no dyno sheet. */
const MOST_LINES = 20_000;
const MOST_PROBLEMS = 50;

export function readPullTable(table: readonly (readonly string[])[], system: System): PullTable {
  if (table.length > MOST_LINES)
    return {
      rows: [],
      notices: [],
      problems: [
        { line: MOST_LINES, message: `This has ${table.length} lines; a dyno sheet has at most ${MOST_LINES}.` },
      ],
    };
  const notices: string[] = [];
  const problems: { line: number; message: string }[] = [];
  const start = table.findIndex((row) => row.some((c) => headingOf(c)?.column === 'speed'));
  const headings = start < 0 ? COLUMNS.map((c): Heading => heading(c)) : table[start]!.map((c) => headingOf(c));
  const places = new Map<Column, number>();
  headings.forEach((h, i) => {
    if (h && places.has(h.column))
      notices.push(`A second column of ${h.column} was left out: “${table[start]?.[i]?.slice(0, 40) ?? ''}”.`);
    else if (h) places.set(h.column, i);
  });
  if (start >= 0) {
    const unknown = table[start]!.filter((c, i) => c.trim() !== '' && !headings[i]).map(
      (c) => `“${c.trim().slice(0, 40)}”`,
    );
    if (unknown.length > 0) notices.push(`Left out: ${unknown.slice(0, 12).join(', ')}.`);
    if (!places.has('power') && !places.has('torque'))
      problems.push({ line: start + 1, message: 'There is no column of power or torque here.' });
  }
  let first = start + 1;
  const next = table[first];
  const isUnits = next !== undefined && next.some((c) => c.trim() !== '') && next.every((c) => !/\d/.test(c));
  if (isUnits) first++;
  const unitOf = (column: Column): string => {
    const i = places.get(column)!;
    const stated = (isUnits ? next[i]!.trim() : '') || headingUnit(table[start]?.[i] ?? '') || headings[i]!.unit;
    if (stated) return stated;
    const { symbol } = unitFor(KINDS[column], system);
    if (column !== 'speed' && places.has(column))
      notices.push(`The column of ${column} names no unit: it is read as ${symbol}.`);
    return symbol;
  };
  const units = new Map([...places.keys()].map((c) => [c, unitOf(c)]));
  const rows: z.infer<typeof PullRow>[] = [];
  const body = table.slice(first);
  const styles = new Map(
    [...places].map(([column, i]) => {
      try {
        return [column, columnStyle(body.map((r) => r[i] ?? ''))?.sign];
      } catch (error) {
        problems.push({ line: first + 1, message: (error as Error).message });
        return [column, undefined];
      }
    }),
  );
  body.forEach((row, at) => {
    if (problems.length >= MOST_PROBLEMS || row.every((c) => c.trim() === '') || row[0]?.trim().startsWith('#')) return;
    const line = first + at + 1;
    const read = (column: Column): Quantity | null => {
      const i = places.get(column);
      const text = i === undefined ? '' : (row[i] ?? '').trim();
      if (text === '') return null;
      const style = styles.get(column);
      const bare = style ? withPoint(text, style) : text;
      const parsed = parseQuantity(/^[\d.,+-]+$/.test(bare) ? `${bare} ${units.get(column)!}` : bare, KINDS[column]);
      if (parsed.ok) return parsed.quantity;
      problems.push({ line, message: `${column}: ${parsed.problem}` });
      return null;
    };
    const before = problems.length;
    const speed = read('speed');
    const power = read('power');
    const torque = read('torque');
    if (problems.length > before) return;
    if (speed === null) problems.push({ line, message: 'This row has no engine speed.' });
    else if (power === null && torque === null)
      problems.push({ line, message: 'This row has neither power nor torque.' });
    else {
      const row = PullRow.safeParse({ speed, power, torque });
      if (row.success) rows.push(row.data);
      else problems.push({ line, message: row.error.issues[0]!.message });
    }
  });
  if (rows.length === 0 && problems.length === 0)
    problems.push({ line: table.length, message: 'There are no rows of engine speed and power here.' });
  return { rows, problems, notices };
}

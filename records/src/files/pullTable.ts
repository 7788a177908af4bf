/**
 * A dyno sheet as a table of text: CSV, a pasted block, or a spreadsheet's cells. Its columns are known by their headings in
 * any order, or as somebody laid them down by hand; what else it carries is named and left out. A block without headings is
 * read as speed, power, torque. One file may hold several pulls: by a column that names the run, or where the speed starts
 * again.
 */
import {
  columnStyle,
  parseQuantity,
  type Quantity,
  type System,
  unitFor,
  withPoint,
  recordOf,
  refusedBy,
} from '@alluvium/core';
import type { z } from 'zod';
import { PULL_KINDS, PULL_READS, PullRow, type ColumnMap, type PullColumn, type PullQuantity } from '../nouns/dyno.js';
import { headingUnit, headingWord } from './heading.js';
import { sentence, firstRefused, sentenceOf, type CodedSentence } from '../refusal.js';

// table[]!, known[]!, speeds[]!: places of the lists themselves.
// PULL_READS[]!: three of them.
// places.get()!, units.get()!: columns that were found.

interface Heading {
  readonly column: PullColumn;
  /** The unit the heading itself is named after. */
  readonly unit?: string;
}
const heading = (column: PullColumn, unit?: string): Heading => ({ column, ...(unit ? { unit } : {}) });
/** Air over fuel of petrol where it burns all of it; common practice, no source. */
const STOICHIOMETRIC = 14.7;
/** Stands for the unit of a column of air over fuel. */
const AIR_OVER_FUEL = 'air/fuel';
const named = (column: PullColumn, words: readonly string[], unit?: string) =>
  words.map((w) => [w, heading(column, unit)] as const);
const HEADINGS: ReadonlyMap<string, Heading> = new Map([
  ...named('speed', ['rpm', 'revs', 'n', 'speed', 'enginespeed', 'enginerpm', 'min', 'drehzahl']),
  ...named('power', [
    'power',
    'p',
    'corrpower',
    'correctedpower',
    'enginepower',
    'wheelpower',
    'brakepower',
    'leistung',
  ]),
  ...named('power', ['hp', 'bhp', 'whp', 'chp', 'fwhp', 'correctedhp', 'corrhp'], 'hp'),
  ...named('power', ['ps', 'cv'], 'PS'),
  ...named('power', ['kw'], 'kW'),
  ...named('torque', [
    'torque',
    'tq',
    't',
    'corrtorque',
    'correctedtorque',
    'enginetorque',
    'braketorque',
    'drehmoment',
  ]),
  ...named('torque', ['lbft', 'ftlb', 'ftlbs', 'lbsft', 'ftlbf'], 'lb ft'),
  ...named('torque', ['nm'], 'N·m'),
  ...named('lambda', ['lambda', 'lam', 'eqratioinverse']),
  ...named('lambda', ['airfuel', 'airfuelratio'], AIR_OVER_FUEL),
  ...named('manifold', ['map', 'manifold', 'manifoldpressure', 'boostabs', 'inletpressure']),
  ...named('temperature', ['iat', 'inlettemp', 'intaketemp', 'airtemp', 'intakeairtemp', 'inlettemperature']),
  ...named('fuel', ['fuel', 'fuelflow', 'bfuel', 'fuelmass']),
  ...named('air', ['air', 'airflow', 'airmass', 'massair']),
  ...named('run', ['run', 'pull', 'test', 'runno', 'pullno', 'sweep']),
]);

const plain = (text: string): string => text.toLowerCase().replace(/[^a-z]/g, '');
/** Air over fuel by its letters: `A/F`, with or without the ratio. */
const LETTERS = /^af(r|ratio)?$/;
const headingNamed = (word: string): Heading | undefined =>
  HEADINGS.get(word) ?? (LETTERS.test(word) ? heading('lambda', AIR_OVER_FUEL) : undefined);
const headingOf = (cell: string): Heading | undefined =>
  headingNamed(plain(headingWord(cell))) ?? headingNamed(plain(cell));

type Row = z.infer<typeof PullRow>;

/** One column of a file as it is read: its heading, what it is taken for, and in which unit. */
export interface ReadColumn {
  readonly text: string;
  readonly column: PullColumn | null;
  readonly unit: string;
}

export interface PullTable {
  /** Rows of the first pull. */
  readonly rows: readonly Row[];
  /** Every pull of the file, in its order; named where the file names them. */
  readonly pulls: readonly { readonly name: string; readonly rows: readonly Row[] }[];
  readonly columns: readonly ReadColumn[];
  /** What stands in the way of a line, by its number in the file. */
  readonly problems: readonly ({ readonly line: number } & CodedSentence)[];
  /** What was taken for granted or left out: to be read before the pull is saved. */
  readonly notices: readonly string[];
}

/** More lines than this are no dyno sheet. */
const MOST_LINES = 20_000;
const MOST_PROBLEMS = 50;
/** Speed that falls by more than this share of what was reached begins another pull. */
const STARTS_AGAIN = 0.25;

/** The headings of a table as they are remembered. */
export const headingsOf = (columns: readonly ReadColumn[]): string[] => columns.map((c) => c.text.slice(0, 200));

/** The map somebody laid down for exactly these headings. */
export const mapFor = (maps: readonly ColumnMap[], headings: readonly string[]): ColumnMap | undefined =>
  maps.find((m) => m.headings.length === headings.length && m.headings.every((h, i) => h === headings[i]));

/** `laid`: what each column is by hand, in the order of the columns; or maps to look the headings up in. */
export function readPullTable(
  table: readonly (readonly string[])[],
  system: System,
  laid: ColumnMap['columns'] | readonly ColumnMap[] = [],
): PullTable {
  const none = { rows: [], pulls: [], columns: [], notices: [] };
  if (table.length > MOST_LINES)
    return {
      ...none,
      problems: [{ line: MOST_LINES, ...sentence('pullTableTooLong', table.length, MOST_LINES) }],
    };
  const notices: string[] = [];
  const problems: ({ line: number } & CodedSentence)[] = [];
  if (table.every((row) => row.every((c) => c.trim() === '')))
    return { ...none, problems: [{ line: 1, ...sentence('noPullRows') }] };
  const start = headingLine(table);
  const texts = start < 0 ? [] : table[start]!.map((c) => c.trim());
  const maps = laid.filter((m): m is ColumnMap => m !== null && 'headings' in m);
  const map = mapFor(
    maps,
    texts.map((t) => t.slice(0, 200)),
  );
  const byHand: ColumnMap['columns'] = map?.columns ?? (maps.length > 0 ? [] : (laid as ColumnMap['columns']));
  const width = Math.max(texts.length, start < 0 ? Math.max(0, ...table.slice(0, 50).map((r) => r.length)) : 0);
  const known: (Heading | undefined)[] = Array.from({ length: width }, (_, i) => {
    if (byHand.length > 0) {
      const own = byHand[i];
      return own ? heading(own.column, own.unit) : undefined;
    }
    if (start < 0) return i < 3 ? heading(PULL_READS[i]!) : undefined;
    return headingOf(texts[i] ?? '');
  });
  const places = new Map<PullColumn, number>();
  known.forEach((h, i) => {
    if (h && places.has(h.column)) {
      notices.push(`A second column of ${h.column} was left out: “${(texts[i] ?? '').slice(0, 40)}”.`);
      known[i] = undefined;
    } else if (h) places.set(h.column, i);
  });
  if (start >= 0) {
    const unknown = texts.filter((c, i) => c !== '' && !known[i]).map((c) => `“${c.slice(0, 40)}”`);
    if (unknown.length > 0) notices.push(`Left out: ${unknown.slice(0, 12).join(', ')}.`);
  }
  if (!places.has('speed'))
    problems.push({
      line: start + 1,
      ...sentence('noSpeedColumn'),
    });
  if (!places.has('power') && !places.has('torque')) problems.push({ line: start + 1, ...sentence('noPowerColumn') });

  let first = start + 1;
  const next = table[first];
  const isUnits = next !== undefined && next.some((c) => c.trim() !== '') && next.every((c) => !/\d/.test(c));
  if (isUnits) first++;
  const unitOf = (column: PullQuantity): string => {
    const i = places.get(column)!;
    const own = known[i]!.unit;
    const stated =
      (byHand.length > 0 ? own : undefined) ||
      (isUnits ? (next[i] ?? '').trim() : '') ||
      headingUnit(texts[i] ?? '') ||
      own;
    if (stated) return stated;
    const { symbol } = unitFor(PULL_KINDS[column], system);
    if (column !== 'speed' && symbol !== '')
      notices.push(`The column of ${column} names no unit: it is read as ${symbol}.`);
    return symbol;
  };
  const units = new Map(PULL_READS.filter((c) => places.has(c)).map((c) => [c, unitOf(c)]));
  if (units.get('lambda') === AIR_OVER_FUEL)
    notices.push(`Air over fuel is read as petrol’s: ${STOICHIOMETRIC} is lambda 1.`);
  const body = table.slice(first);
  const styles = new Map(
    [...places].map(([column, i]) => {
      try {
        return [column, columnStyle(body.map((r) => r[i] ?? ''))?.sign];
      } catch (error) {
        problems.push({ line: first + 1, ...sentenceOf(refusedBy(error)) });
        return [column, undefined];
      }
    }),
  );
  // Four thousand and five, written `4.005` or `4,005`: no engine turns four times a minute.
  const speeds = body.map((r) => (r[places.get('speed') ?? -1] ?? '').trim()).filter((t) => /\d/.test(t));
  const thousands = speeds.length > 0 && speeds.every((t) => /^\d{1,2}[.,]\d{3}$/.test(t));
  if (thousands) notices.push(`Speeds such as ${speeds[0]!} are read as thousands.`);
  /** Units that cells name themselves, beside those of their columns. */
  const mixed = new Map<PullQuantity, Set<string>>();
  /** One cell; null where it is empty, undefined where it cannot be read. */
  const cell = (row: readonly string[], column: PullQuantity, line: number): Quantity | null | undefined => {
    const i = places.get(column);
    const written = i === undefined ? '' : (row[i] ?? '').trim();
    if (written === '') return null;
    const text = column === 'speed' && thousands ? written.replace(/[.,]/, '') : written;
    const style = column === 'speed' && thousands ? undefined : styles.get(column);
    const bare = style ? withPoint(text, style) : text;
    const unit = units.get(column)!;
    const number = /^[\d.,+-]+$/.test(bare);
    if (unit === AIR_OVER_FUEL && number) {
      const typed = (Number(bare) / STOICHIOMETRIC).toFixed(4);
      return Number.isFinite(Number(typed)) ? { si: Number(typed), typed } : undefined;
    }
    const own = number ? undefined : /[^\d.,+\-\s].*$/.exec(bare)?.[0].trim();
    if (own && own.toLowerCase() !== unit.toLowerCase()) mixed.set(column, (mixed.get(column) ?? new Set()).add(own));
    const parsed = parseQuantity(number && unit !== '' ? `${bare} ${unit}` : bare, PULL_KINDS[column]);
    if (parsed.ok) return parsed.quantity;
    problems.push({ line, ...sentence('cellUnread', column, parsed.problem) });
    return undefined;
  };

  const pulls: { name: string; rows: Row[] }[] = [];
  let reached = 0;
  body.forEach((row, at) => {
    if (problems.length >= MOST_PROBLEMS || row.every((c) => c.trim() === '') || row[0]?.trim().startsWith('#')) return;
    const line = first + at + 1;
    // A heading that stands again begins another pull.
    if (row.some((c) => headingOf(c)?.column === 'speed') && row.every((c) => !/\d/.test(c))) {
      reached = Infinity;
      return;
    }
    const read = recordOf(PULL_READS, (c) => cell(row, c, line));
    if (Object.values(read).some((v) => v === undefined)) return;
    if (read.speed === null) problems.push({ line, ...sentence('rowWithoutSpeed') });
    else if (read.power === null && read.torque === null) problems.push({ line, ...sentence('rowWithoutPower') });
    else {
      const parsed = PullRow.safeParse(read);
      if (!parsed.success) {
        problems.push({ line, ...firstRefused(parsed.error) });
        return;
      }
      const runAt = places.get('run');
      const name = runAt === undefined ? '' : (row[runAt] ?? '').trim().slice(0, 60);
      const speed = parsed.data.speed.si;
      const last = pulls.at(-1);
      const again =
        runAt === undefined ? speed < reached * (1 - STARTS_AGAIN) || reached === Infinity : last?.name !== name;
      const own = runAt !== undefined ? pulls.find((p) => p.name === name) : undefined;
      if (own) own.rows.push(parsed.data);
      else if (!last || again) pulls.push({ name, rows: [parsed.data] });
      else last.rows.push(parsed.data);
      reached = !last || again ? speed : Math.max(reached, speed);
    }
  });
  for (const [column, own] of mixed)
    notices.push(
      `The column of ${column} is in ${units.get(column)!}, but for cells in ${[...own].slice(0, 5).join(', ')}: each is read as it says.`,
    );
  if (pulls.length === 0 && problems.length === 0) problems.push({ line: table.length, ...sentence('noPullRows') });
  if (pulls.length > 1) notices.push(`This file holds ${pulls.length} pulls.`);
  const columns = Array.from({ length: width }, (_, i): ReadColumn => ({
    text: texts[i] ?? '',
    column: known[i]?.column ?? null,
    unit: known[i] && known[i].column !== 'run' ? (units.get(known[i].column as PullQuantity) ?? '') : '',
  }));
  return { rows: pulls[0]?.rows ?? [], pulls, columns, problems, notices };
}

/** The line the headings stand in: where a speed is named, else the last line without figures before the first with some. */
function headingLine(table: readonly (readonly string[])[]): number {
  const named = table.findIndex((row) => row.some((c) => headingOf(c)?.column === 'speed'));
  if (named >= 0) return named;
  const figures = table.findIndex((row) => row.filter((c) => /^\s*[+-]?[\d.,]+\s*$/.test(c)).length >= 2);
  if (figures <= 0) return -1;
  for (let i = figures - 1; i >= 0; i--) if (table[i]!.filter((c) => c.trim() !== '').length >= 2) return i;
  return -1;
}

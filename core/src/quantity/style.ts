/**
 * Which sign a figure uses for its decimals. `1,234` is twelve hundred or one and a bit: a whole column tells, else the
 * range of what is believable, else the writer is asked.
 */
import { parseQuantity, type Parsed, refused } from './parse.js';
import { kindSpec, toSi, unitFor, unitNamed, type Kind, type System } from './units.js';
import { refusal } from '../refusal/refusal.js';

// unitNamed()!: it was met in the list of units.

export type DecimalSign = '.' | ',';

/** Figures of a text: `188,2 / 188,9 @ 27,5` has three. */
const FIGURE = /\d[\d.,]*\d|\d|[.,]\d+/g;

/** What one figure says of its decimal sign; undefined when it says nothing, `both` when it is written with neither rule. */
function signOf(figure: string): DecimalSign | 'either' | undefined {
  const signs = figure.replace(/\d/g, '');
  if (signs === '') return undefined;
  const last = signs.at(-1) as DecimalSign;
  const other = last === '.' ? ',' : '.';
  if (signs.includes(other)) return last;
  // One sign more than once can only group.
  if (signs.length > 1) return other;
  const [before = '', after = ''] = figure.split(last);
  if (after.length !== 3 || before === '' || before.startsWith('0') || before.length > 3) return last;
  return 'either';
}

export interface ColumnStyle {
  readonly sign: DecimalSign;
  /** Every figure with a sign could be read both ways, so the sign is a guess. */
  readonly sure: boolean;
  /** A figure that could be read both ways. */
  readonly sample?: string;
}

/**
 * The decimal sign of figures that were written by one hand, a column or a table. A lone point is a decimal point unless
 * something says otherwise; a lone comma before three figures is not sure. Undefined when no figure has a sign.
 * @throws Refusal with a sentence when some use a decimal comma and others a decimal point.
 */
export function columnStyle(texts: readonly string[]): ColumnStyle | undefined {
  const figures = texts.flatMap((t) => t.match(FIGURE) ?? []);
  const first: Partial<Record<DecimalSign, string>> = {};
  let either: string | undefined;
  for (const figure of figures) {
    const sign = signOf(figure);
    if (sign === 'either') either ??= figure;
    else if (sign) first[sign] ??= figure;
  }
  if (first['.'] !== undefined && first[','] !== undefined) throw refusal('decimalsMixed', first['.'], first[',']);
  if (first[','] !== undefined) return { sign: ',', sure: true };
  if (first['.'] !== undefined) return { sign: '.', sure: true };
  if (either === undefined) return undefined;
  return either.includes('.') ? { sign: '.', sure: true } : { sign: '.', sure: false, sample: either };
}

/** The figures of a text so that each is read alone as its column says: one that is anyway keeps its sign. */
export function withPoint(text: string, sign: DecimalSign): string {
  const group = sign === '.' ? ',' : '.';
  return text.replace(FIGURE, (figure) =>
    figure.includes(group) || signOf(figure) === 'either' ? figure.replaceAll(group, '').replace(sign, '.') : figure,
  );
}

/** What is believable of a kind, in a unit; common practice, no source. Only for telling two readings of one text apart. */
const BELIEVABLE: { readonly [K in Kind]?: readonly [low: number, high: number, unit: string] } = {
  flow: [3, 2500, 'cfm'],
  lift: [0.01, 1.6, 'in'],
  length: [0.01, 30, 'in'],
  area: [0.05, 30, 'in²'],
  volume: [0.5, 2000, 'cc'],
  displacement: [30, 40_000, 'cc'],
  power: [3, 20_000, 'hp'],
  torque: [3, 30_000, 'lb ft'],
  rotation: [100, 30_000, 'rpm'],
  depression: [0.5, 120, 'inH2O'],
  force: [3, 3000, 'lb'],
  rate: [10, 5000, 'lb/in'],
  velocity: [5, 1500, 'ft/s'],
};
function isBelievable(kind: Kind, si: number): boolean {
  const range = BELIEVABLE[kind];
  if (!range) return true;
  const [low, high, symbol] = range;
  const unit = unitNamed(kind, symbol)!;
  return si >= toSi(low, unit) && si <= toSi(high, unit);
}

const LONE = /^([+-]?[1-9]\d{0,2})([.,])(\d{3})(?![\d.,])/;

/**
 * Understands what is typed as `parseQuantity` does, and looks twice at a figure that could be read both ways: the
 * believable reading is taken, and when both or neither is, the sentence asks for it.
 */
export function readTyped(text: string, kind: Kind, system: System = 'inch', bare?: string): Parsed {
  const t = text.trim();
  const lone = LONE.exec(t);
  // Where nobody writes three decimals, as of power, torque, speed or money, a comma groups and a point may; elsewhere a
  // point is a decimal point and a comma may group.
  if (!lone || (lone[2] === '.') !== (kindSpec(kind).grouped ?? false)) return parseQuantity(t, kind, system, bare);
  const [figure, before, , after] = lone;
  const rest = t.slice(figure.length);
  const readings = [`${before}.${after}${rest}`, `${before}${after}${rest}`].map((r) =>
    parseQuantity(r, kind, system, bare),
  );
  const parsed = readings.filter((r) => r.ok);
  if (parsed.length === 0) return readings[0]!;
  const believable = parsed.filter((r) => isBelievable(kind, r.quantity.si));
  if (believable.length === 1) return believable[0]!;
  // Spoken in thousandths both can be the same: 1,250 is 1.250 in either way.
  const [one, other] = parsed;
  if (one && other && Math.abs(one.quantity.si - other.quantity.si) < 1e-9 * one.quantity.si) return one;
  return refused(refusal('readTwoWays', figure, `${before}.${after}`, `${before}${after}`));
}

/**
 * The unit bare lifts are likely in, where it is not the one they would be read in: under inches a column that goes past
 * any valve's lift, under metric one that stays below any. Undefined when nothing speaks against the system's own.
 */
export function likelyLiftUnit(texts: readonly string[], system: System): 'in' | 'mm' | undefined {
  const bare = texts.map((t) => t.trim()).filter((t) => /^[\d.,]+$/.test(t));
  const lifts = bare.flatMap((t) => {
    const parsed = parseQuantity(t, 'lift', system);
    return parsed.ok ? [parsed.quantity.si] : [];
  });
  if (lifts.length < 3) return undefined;
  const top = Math.max(...lifts) / unitFor('lift', system).factor;
  if (system === 'inch') return top > 1.6 && top <= 40 ? 'mm' : undefined;
  return top < 1.6 ? 'in' : undefined;
}

import { inverse } from '../method/cholesky.js';
import type { FlowCurve, FlowPoint } from './curve.js';
import { usualShare } from './usualShape.js';

/** A row that breaks its curve's shape, with the value the writer may have meant. */
export interface Doubt {
  readonly index: number;
  /** What the neighbours suggest. */
  readonly expected: number;
  /** The one slip of the pen that explains it, in the same scale; undefined when none does, or several would. */
  readonly meant?: number;
}

/**
 * Numbers one pen slip away. `sure`: two neighbouring figures swapped, one written twice, one left out. `wrongFigures`:
 * one figure another. `digits` decimals are kept.
 */
export function slips(value: number, digits: number): { sure: number[]; wrongFigures: number[] } {
  const text = value.toFixed(digits);
  const sure: number[] = [];
  const wrongFigures: number[] = [];
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '.') continue;
    const next = text[i + 1] === '.' ? i + 2 : i + 1;
    if (next < text.length && text[i] !== text[next]) {
      const swapped = [...text];
      [swapped[i], swapped[next]] = [swapped[next]!, swapped[i]!];
      sure.push(Number(swapped.join('')));
    }
    if (next < text.length && text[i] === text[next]) sure.push(Number(text.slice(0, i) + text.slice(i + 1)));
    for (let d = 0; d <= 9; d++) {
      wrongFigures.push(Number(text.slice(0, i) + d + text.slice(i + 1)));
      sure.push(Number(text.slice(0, i) + d + text.slice(i)));
    }
  }
  for (let d = 0; d <= 9 && digits === 0; d++) sure.push(Number(text + d));
  const other = (list: number[]) => [...new Set(list)].filter((v) => v > 0 && v !== value);
  return { sure: other(sure), wrongFigures: other(wrongFigures) };
}

/** The one slip within `tolerance` of the aim, sure ones before a wrong figure; undefined where there are none or several. */
function likelySlip(value: number, aim: number, digits: number, tolerance: number): number | undefined {
  const { sure, wrongFigures } = slips(value, digits);
  for (const list of [sure, wrongFigures]) {
    const near = list.filter((v) => Math.abs(v - aim) < tolerance);
    if (near.length > 0) return near.length === 1 ? near[0] : undefined;
  }
  return undefined;
}

/**
 * What is believed of curves before one is seen: the logarithm of flow against the usual shape wanders with lift over the
 * valve's diameter as a Gaussian process (C. E. Rasmussen and C. K. I. Williams, Gaussian Processes for Machine Learning
 * (2006), 2.2 and 5.4.2), broadly where a port chokes early or late, and a little from row to row where it backs up or the
 * flow finds the wall again. Widths as standard deviations of the logarithm, lengths in lifts over diameter. Chosen
 * on curves that rise and stay; those that back up, or sag and come back, were never looked at for it.
 */
const LEVEL = 3;
const BROAD = { width: 0.35, length: 0.3 } as const;
const LOCAL = { width: 0.013, length: 0.055 } as const;
/** Of a row at low lift, where the seat's faces rule and the dial's zero counts: falls off with lift. */
const FIRST = { width: 0.04, lift: 0.035 } as const;
const NOISE = 0.008;
/** A sister port's curve is nearer than the usual shape. */
const BROAD_BESIDE = 0.06;
/** How far slips of the pen lie off: a wrong figure, a figure too many. */
const SLIPS = [0.13, 2] as const;
/** Share of sheets with one. */
const SLIP_SHARE = 0.12;
/** A row is asked about when it is more likely wrong than all rows right, by this much … */
const ASKED = 0.5;
/** … and this share of the doubt is its own, not its neighbour's. */
const ITS_OWN = 0.7;
/** A row off by less is not worth a question. */
const LEAST_OFF = 0.045;
/** Ports that back up lose a few hundredths: a last row that falls by more, where nothing fell before, is asked about. Common practice, no source. */
const LAST_DROP = 0.06;
/** Fewest rows that say what a curve is. */
const FEWEST = 5;
const MOST_ASKED = 3;

/** What is known of a curve besides its rows. */
export interface DoubtContext {
  /** Of the valve, m: three times the last lift where left out. */
  readonly valve?: number | undefined;
  /** A curve of the same kind: another port of the head. */
  readonly beside?: FlowCurve | undefined;
  /** Ratios instead of flows: no usual shape. */
  readonly flat?: boolean;
  /** The most a row could be, in the unit of the flows: what the valve passes there. */
  readonly most?: (lift: number) => number | undefined;
}

/** Logarithm of what a curve is held against at a lift. */
function against(lift: number, valve: number, { beside, flat }: DoubtContext): number {
  if (flat) return 0;
  const other = beside?.anchored(Math.min(lift, beside.last.lift));
  return Math.log(other !== undefined && other > 0 ? other : Math.max(usualShare(lift / valve), 1e-3));
}

interface Row extends FlowPoint {
  readonly index: number;
}

/** The covariance of the rows' logarithms, and what it says without any of them: its inverse. */
function precisionOf(at: readonly number[], hasSister: boolean): Float64Array {
  const n = at.length;
  const cov = new Float64Array(n * n);
  const bell = (d: number, width: number, length: number) => width ** 2 * Math.exp(-0.5 * (d / length) ** 2);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      const d = at[i]! - at[j]!;
      const own = i === j ? NOISE ** 2 + (FIRST.width * Math.exp(-at[i]! / FIRST.lift)) ** 2 : 0;
      cov[i * n + j] =
        LEVEL ** 2 +
        bell(d, hasSister ? BROAD_BESIDE : BROAD.width, BROAD.length) +
        bell(d, LOCAL.width, LOCAL.length) +
        own;
    }
  return inverse(cov, n);
}

/** The row most likely wrong and what the others lead one to expect of it; undefined where none is worth asking. */
function worstOf(rows: readonly Row[], context: DoubtContext, valve: number) {
  const n = rows.length;
  const base = rows.map((r) => against(r.lift, valve, context));
  const logs = rows.map((r, i) => Math.log(Math.max(r.flow, 1e-12)) - base[i]!);
  const precision = precisionOf(
    rows.map((r) => r.lift / valve),
    context.beside !== undefined,
  );
  const pull = logs.map((_, i) => logs.reduce((sum, y, j) => sum + precision[i * n + j]! * y, 0));
  // Log of the Bayes factor of "this row has a slip" against "none has": one more variance at one row (rank-one update).
  const factors = rows.map((_, i) => {
    const p = precision[i * n + i]!;
    const of = SLIPS.map((s) => {
      const grown = 1 + s * s * p;
      return (0.5 * s * s * pull[i]! ** 2) / grown - 0.5 * Math.log(grown);
    });
    return logSum(of) - Math.log(SLIPS.length);
  });
  const all = logSum(factors);
  const odds = Math.log(SLIP_SHARE / (1 - SLIP_SHARE)) + all - Math.log(n);
  const worst = factors.indexOf(Math.max(...factors));
  const p = precision[worst * n + worst]!;
  const off = pull[worst]! / p;
  const isAsked =
    odds > Math.log(ASKED / (1 - ASKED)) && factors[worst]! - all > Math.log(ITS_OWN) && Math.abs(off) > LEAST_OFF;
  return isAsked ? { worst, expected: Math.exp(logs[worst]! - off + base[worst]!), u: Math.sqrt(1 / p) } : undefined;
}

/** Logarithm of a sum of numbers given by their logarithms. */
function logSum(logs: readonly number[]): number {
  const most = Math.max(...logs);
  return most + Math.log(logs.reduce((sum, l) => sum + Math.exp(l - most), 0));
}

/**
 * Rows that break the shape of their curve, each with what the others lead one to expect: the likeliest slip is asked about
 * and left out, then the next. `scale` turns SI into the unit the rows were typed in, `digits` its decimals, so that slips
 * of the pen are looked for in the figures as written.
 */
export function doubts(points: readonly FlowPoint[], scale = 1, digits = 0, context: DoubtContext = {}): Doubt[] {
  const found: Doubt[] = [];
  let live: Row[] = points.map((p, index) => ({ lift: p.lift, flow: p.flow, index })).filter((p) => p.lift > 0);
  const valve = context.valve ?? 3 * Math.max(...live.map((p) => p.lift));
  while (live.length >= FEWEST && found.length < MOST_ASKED) {
    const asked = worstOf(live, context, valve);
    if (!asked) break;
    const row = live[asked.worst]!;
    const most = (r: FlowPoint) => context.most?.(r.lift) ?? Infinity;
    // Where other rows pass the valve's bound too, it is the valve's size that is wrong.
    const isBound = live.every((r) => r === row || r.flow <= most(r));
    const expected = isBound ? Math.min(asked.expected, most(row)) : asked.expected;
    // What lies beyond the other rows is expected less surely.
    const isEnd = asked.worst === 0 || asked.worst === live.length - 1;
    const tolerance = Math.max(isEnd ? 0.07 : 0.025, 2 * asked.u) * expected * scale;
    const meant = likelySlip(row.flow * scale, expected * scale, digits, tolerance);
    found.push({ index: row.index, expected, ...(meant === undefined ? {} : { meant: meant / scale }) });
    live = live.filter((r) => r !== row);
  }
  const [before, above, last] = live.slice(-3);
  const drops = before && above && last && above.flow >= 0.99 * before.flow && last.flow < (1 - LAST_DROP) * above.flow;
  if (drops && !context.flat && found.length < MOST_ASKED) {
    const meant = likelySlip(last.flow * scale, above.flow * scale, digits, LAST_DROP * above.flow * scale);
    found.push({ index: last.index, expected: above.flow, ...(meant === undefined ? {} : { meant: meant / scale }) });
  }
  return found.sort((a, b) => a.index - b.index);
}

/** A claim against what was measured, judged as a whole: one test over all of its lifts. */
import { mean } from '../method/mean.js';
import { slopeOf } from '../bench/steady.js';

/** What a claim and a measured sheet of one port may lie apart though both are right: standard deviations of natural logarithms. */
export interface ClaimSpread {
  /** All rows together: what two benches read off, and two set-ups. */
  readonly level: number;
  /** One row against the others. */
  readonly row: number;
  /** The first holds what nobody stated of the tests besides. */
  readonly unstated?: boolean;
}

/** One row of a claim that was measured too. */
export interface ClaimRow {
  readonly lift: number;
  /** ln(claimed ÷ measured). */
  readonly off: number;
}

/**
 * How far two benches lean against each other from the first lift to the last, a standard deviation: a longer pipe, another
 * entry, a lift zero. Common practice, no source.
 */
const LEAN = 0.015;
/**
 * Standard deviations beyond which a level, or a lean, is more than benches explain. An honest claim passes the first in 50
 * of 1,000 cases and the second in 9 (two-sided normal).
 */
const LEVEL_BEYOND = 1.96;
const LEAN_BEYOND = 2.6;
/** A lean this far beyond its spread is said where the level is off anyway. */
const LEAN_SAID = 1.96;
/** A lean is looked for from so many rows. */
const ROWS_FOR_LEAN = 3;

export interface WholeClaim {
  readonly verdict: 'holds' | 'high' | 'low';
  /** Rows compared. */
  readonly count: number;
  /** Mean error, a share; how far it would lie off on that side, nineteen times in twenty, if both were right. */
  readonly level: number;
  readonly half: number;
  /** That is so far only because of what nobody stated of the tests besides. */
  readonly unstated: boolean;
  /** The error on a straight line at the first and at the last lift compared, shares. */
  readonly first: number;
  readonly last: number;
  /** Whether it grows or shrinks over the lifts by more than benches lean. */
  readonly leans: boolean;
  /** Where the line changes sign, m: high on one side of it, low on the other. */
  readonly turns?: number;
}

/**
 * Judges the rows of a claim that were measured too: their mean against what benches and set-ups differ by, and their lean
 * over lift. Undefined where there is no row.
 */
export function judgeWhole(rows: readonly ClaimRow[], spread: ClaimSpread): WholeClaim | undefined {
  if (rows.length === 0) return undefined;
  const lifts = rows.map((r) => r.lift);
  const [from, to] = [Math.min(...lifts), Math.max(...lifts)];
  const middle = mean(lifts);
  const level = mean(rows.map((r) => r.off));
  const levelSpread = Math.hypot(spread.level, spread.row / Math.sqrt(rows.length));
  const across = Math.sqrt(lifts.reduce((s, l) => s + (l - middle) ** 2, 0));
  const fits = rows.length >= ROWS_FOR_LEAN && across > 0;
  const slope = fits ? slopeOf(rows.map((r) => ({ at: r.lift, value: r.off }))) : 0;
  const leanSpread = fits ? Math.hypot(LEAN, (spread.row * (to - from)) / across) : Infinity;
  const lean = Math.abs(slope * (to - from)) / leanSpread;
  const off = Math.abs(level) > LEVEL_BEYOND * levelSpread;
  const leans = lean > (off ? LEAN_SAID : LEAN_BEYOND);
  const line = (lift: number) => Math.expm1(level + (leans ? slope * (lift - middle) : 0));
  const turn = leans ? middle - level / slope : undefined;
  return {
    // Where a lean alone is off, the high lifts speak: there an engine's air goes.
    verdict: off ? (level > 0 ? 'high' : 'low') : leans ? (slope > 0 ? 'high' : 'low') : 'holds',
    count: rows.length,
    level: Math.expm1(level),
    half: Math.abs(Math.expm1(Math.sign(level || 1) * LEVEL_BEYOND * levelSpread)),
    first: line(from),
    last: line(to),
    leans,
    unstated: spread.unstated ?? false,
    ...(turn !== undefined && turn > from && turn < to ? { turns: turn } : {}),
  };
}

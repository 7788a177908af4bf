import type { Kind } from '../quantity/units.js';
import { normalQuantile, studentQuantile } from './normal.js';

// of.at()!: there is one case at least.

/**
 * One thing that is not known exactly: a reading, a size, a factor of the trade. Whatever rests on it names it by its id,
 * so that what two heads share is one thing and cancels in their difference.
 */
export interface Leaf {
  readonly id: string;
  /** What it is, as a person of the trade says it: `intake, second reading at .400`. */
  readonly label: string;
  readonly value: number;
  readonly spread: Spread;
  /** Where the uncertainty comes from. */
  readonly source: string;
  /** What would make it better known. */
  readonly settle?: Settle;
  /** How its value is shown; a share (0.02 is 2 %) where left out. */
  readonly kind?: Kind;
}

/** What would narrow a leaf: the act, the standard uncertainty it leaves, and about how long it takes. */
export interface Settle {
  readonly act: string;
  /** In the leaf's own unit. */
  readonly after: number;
  readonly minutes: number;
}

/** The shape of what is believed of a value. Deviations are from the leaf's value, in its unit. */
export type Spread =
  | { readonly shape: 'normal'; readonly u: number }
  /** Anything within `half` of the value, all alike. */
  | { readonly shape: 'uniform'; readonly half: number }
  /** From `low` to `high` below and above the value (both positive), likeliest at the value. */
  | { readonly shape: 'triangular'; readonly low: number; readonly high: number }
  /**
   * Normal with a spread that is itself only known from `freedom` (over 2) degrees of freedom: Student's distribution, what
   * is left once the spread is integrated over (JCGM 101:2008, 6.4.9). `u` is its standard deviation.
   */
  | { readonly shape: 'student'; readonly u: number; readonly freedom: number }
  /** One of several things, each with its share of the belief; shares sum to 1, deviations rise. */
  | { readonly shape: 'cases'; readonly of: readonly Case[] };

/** What a value deviates by in one case, and how likely that case is. */
export interface Case {
  readonly at: number;
  readonly share: number;
}

/** The least deviation at or below which a share `p` of the cases lies. */
function caseAt(of: readonly Case[], p: number): number {
  let below = 0;
  for (const { at, share } of of) {
    below += share;
    if (p < below) return at;
  }
  return of.at(-1)!.at;
}

/** Half of the middle 95 % of a normal deviation, in standard deviations. */
const HALF_OF_95 = 1.96;

/**
 * Standard deviation (JCGM 100:2008, 4.3.7 to 4.3.9; a triangle with unequal legs by its second moment). Of cases, what gives
 * the width of their middle 95 %: a rare case far off does not make an everyday ± of it; the odds count it in full.
 */
export function standardUncertainty(spread: Spread): number {
  switch (spread.shape) {
    case 'normal':
    case 'student':
      return spread.u;
    case 'uniform':
      return spread.half / Math.sqrt(3);
    case 'triangular': {
      const { low: a, high: b } = spread;
      return Math.sqrt((a * a + b * b + a * b) / 18);
    }
    case 'cases': {
      const width = caseAt(spread.of, 0.975) - caseAt(spread.of, 0.025);
      if (width > 0) return width / (2 * HALF_OF_95);
      const mean = meanDeviation(spread);
      return Math.sqrt(spread.of.reduce((sum, c) => sum + c.share * (c.at - mean) ** 2, 0));
    }
  }
}

/** Mean of the deviation: 0 but for a triangle with unequal legs, and for cases. */
export const meanDeviation = (spread: Spread): number =>
  spread.shape === 'triangular'
    ? (spread.high - spread.low) / 3
    : spread.shape === 'cases'
      ? spread.of.reduce((sum, c) => sum + c.share * c.at, 0)
      : 0;

/** The deviation below which a share `p` of what is believed lies, 0 < p < 1. */
export function deviationAt(spread: Spread, p: number): number {
  switch (spread.shape) {
    case 'normal':
      return spread.u * normalQuantile(p);
    case 'student': {
      const { u, freedom } = spread;
      if (p === 0.5) return 0;
      const t = studentQuantile(2 * Math.min(p, 1 - p), freedom);
      return u * Math.sqrt((freedom - 2) / freedom) * (p < 0.5 ? -t : t);
    }
    case 'uniform':
      return spread.half * (2 * p - 1);
    case 'triangular': {
      const { low, high } = spread;
      const width = low + high;
      if (width === 0) return 0;
      return p < low / width ? Math.sqrt(p * width * low) - low : high - Math.sqrt((1 - p) * width * high);
    }
    case 'cases':
      return caseAt(spread.of, p);
  }
}

/** The same shape, narrowed to another standard uncertainty. */
export function narrowed(spread: Spread, u: number): Spread {
  const now = standardUncertainty(spread);
  const share = now === 0 ? 0 : u / now;
  switch (spread.shape) {
    case 'normal':
      return { shape: 'normal', u };
    case 'student':
      return { ...spread, u };
    case 'uniform':
      return { shape: 'uniform', half: spread.half * share };
    case 'triangular':
      return { shape: 'triangular', low: spread.low * share, high: spread.high * share };
    case 'cases':
      return { shape: 'cases', of: spread.of.map((c) => ({ ...c, at: c.at * share })) };
  }
}

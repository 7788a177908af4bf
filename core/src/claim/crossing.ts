/** Where two curves change places, and how sure it is that they do. */
import { crossings } from '../flow/compare.js';
import type { FlowCurve } from '../flow/curve.js';
import { mean } from '../method/mean.js';
import { normalShare } from '../uncertainty/normal.js';

// a.at()!, b.at()!: lifts that both of them reach.

export interface Crossing {
  /** m. */
  readonly lift: number;
  /** Chance that the curves really change places there. */
  readonly odds: number;
}

/** The shift is summed over in so many steps either way, out to so many standard deviations. */
const STEPS = 40;
const REACH = 4;

/**
 * The lifts at which two curves cross, each with its odds: that the rows below it differ one way and those above it the other,
 * given what one row repeats by and what both set-ups shift a whole curve by (standard deviations as shares).
 */
export function crossingOdds(a: FlowCurve, b: FlowCurve, repeatability: number, setup: number): Crossing[] {
  const lifts = a.points.map((p) => p.lift).filter((l) => b.at(l) !== undefined);
  const off = (lift: number) => Math.log(b.at(lift)! / a.at(lift)!);
  const at = crossings(a, b);
  return at.flatMap((lift, i): Crossing[] => {
    const [from, to] = [at[i - 1] ?? -Infinity, at[i + 1] ?? Infinity];
    const below = lifts.filter((l) => l > from && l < lift).map(off);
    const above = lifts.filter((l) => l > lift && l < to).map(off);
    if (below.length === 0 || above.length === 0) return [];
    const [low, high] = [mean(below), mean(above)];
    const spread = (rows: number) => (Math.SQRT2 * repeatability) / Math.sqrt(rows);
    const shift = Math.SQRT2 * setup;
    // Both sides share the shift: summed over it.
    let odds = 0;
    let weight = 0;
    for (let k = -STEPS; k <= STEPS; k++) {
      const z = (REACH * k) / STEPS;
      const w = Math.exp(-0.5 * z * z);
      const [l, h] = [(low + shift * z) / spread(below.length), (high + shift * z) / spread(above.length)];
      odds += w * (low < high ? normalShare(-l) * normalShare(h) : normalShare(l) * normalShare(-h));
      weight += w;
    }
    return [{ lift, odds: odds / weight }];
  });
}

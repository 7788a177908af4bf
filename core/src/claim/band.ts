// USUAL_BEST.at()!, rising.at()!: neither is empty.

/**
 * What the library has seen: at each lift ratio the best coefficient of every measured head. It grows and shrinks by one
 * head at a time, so that a library of many thousand heads is never read as a whole.
 */

/** A measured coefficient on the curtain area at a lift ratio, and whose it is. */
export interface BandPoint {
  readonly liftRatio: number;
  readonly coefficient: number;
  readonly head: string;
  /** Bare or piped, on the exhaust: two different quantities. */
  readonly pipe?: string;
}

/** Heads needed near a lift ratio before the user's own library speaks; below it the usual band does. */
export const ENOUGH_HEADS = 5;
/** Lift ratios are held against each other by steps of this … */
const STEP = 0.005;
/** … within so many of them: heads within 0.02 of each other. */
const NEAR = 4;

/**
 * Best coefficients on the curtain area usually seen, by lift ratio. Common practice, no source: well-worked two-valve
 * heads; used only where the library has too few heads of its own.
 */
export const USUAL_BEST: readonly (readonly [liftRatio: number, coefficient: number])[] = [
  [0.03, 0.82],
  [0.1, 0.76],
  [0.15, 0.71],
  [0.2, 0.66],
  [0.25, 0.6],
  [0.3, 0.53],
  [0.35, 0.47],
  [0.45, 0.38],
];

export function usualBest(liftRatio: number): number {
  const after = USUAL_BEST.findIndex(([r]) => r >= liftRatio);
  if (after === 0) return USUAL_BEST[0]![1];
  if (after < 0) return USUAL_BEST.at(-1)![1];
  const [[r0, c0], [r1, c1]] = [USUAL_BEST[after - 1]!, USUAL_BEST[after]!];
  return c0 + ((c1 - c0) * (liftRatio - r0)) / (r1 - r0);
}

export interface BandView {
  /** Heads measured near this lift ratio. */
  readonly heads: number;
  /** The best ever seen there: of the library, or the usual one where it has too few heads. */
  readonly best: number;
  readonly usual: boolean;
  /** Share of the heads seen there whose coefficient is below this one. */
  readonly percentile?: number;
  /** The middle head's coefficient, and what heads differ by about it: a standard deviation as a share. */
  readonly middle?: number;
  readonly spread?: number;
}

/** Heads never lie nearer together than this, a share: few of them say little of how far others may. Common practice, no source. */
const LEAST_SPREAD = 0.045;
/** Half of a normal distribution lies within so many standard deviations of its middle, both ways together. */
const HALF_WITHIN = 1.349;

/** The value below which a share of a rising list lies, read between its places. */
function quantileOf(rising: readonly number[], share: number): number {
  const at = share * (rising.length - 1);
  const below = rising[Math.floor(at)]!;
  return below + (rising[Math.ceil(at)]! - below) * (at - Math.floor(at));
}

/** The middle of a rising list and its spread by the quartiles, which a few odd heads do not move. */
function middleOf(rising: readonly number[]): { readonly middle: number; readonly spread: number } {
  const middle = quantileOf(rising, 0.5);
  const quartiles = (quantileOf(rising, 0.75) - quantileOf(rising, 0.25)) / HALF_WITHIN / middle;
  return { middle, spread: Math.max(LEAST_SPREAD, quartiles) };
}

/** The best coefficient of one head near each step of lift ratio, by the number of the step. */
export type HeadBests = ReadonlyMap<number, number>;

const stepOf = (liftRatio: number): number => Math.round(liftRatio / STEP);

/** The bests of one head, from all its points. */
export function bestsOf(points: readonly Pick<BandPoint, 'liftRatio' | 'coefficient'>[]): HeadBests {
  const bests = new Map<number, number>();
  for (const { liftRatio, coefficient } of points)
    for (let step = stepOf(liftRatio) - NEAR; step <= stepOf(liftRatio) + NEAR; step++)
      if (coefficient > (bests.get(step) ?? -Infinity)) bests.set(step, coefficient);
  return bests;
}

/** Where a coefficient stands among all measured heads at its lift ratio. */
export type BandLookup = (liftRatio: number, coefficient: number) => BandView;

export interface Band {
  readonly add: (bests: HeadBests) => void;
  /** Takes back what was added of one head. */
  readonly remove: (bests: HeadBests) => void;
  readonly at: BandLookup;
}

/** The first place in a rising list at which a value is not less than this one. */
function placeOf(rising: readonly number[], value: number): number {
  let from = 0;
  for (let to = rising.length; from < to;) {
    const middle = (from + to) >> 1;
    if (rising[middle]! < value) from = middle + 1;
    else to = middle;
  }
  return from;
}

export function createBand(): Band {
  /** Rising bests of all heads, by step. */
  const steps = new Map<number, number[]>();
  return {
    add: (bests) => {
      for (const [step, best] of bests) {
        const rising = steps.get(step) ?? [];
        rising.splice(placeOf(rising, best), 0, best);
        steps.set(step, rising);
      }
    },
    remove: (bests) => {
      for (const [step, best] of bests) {
        const rising = steps.get(step);
        const at = rising ? placeOf(rising, best) : -1;
        if (rising?.[at] === best) rising.splice(at, 1);
      }
    },
    at: (liftRatio, coefficient) => {
      const rising = steps.get(stepOf(liftRatio)) ?? [];
      if (rising.length < ENOUGH_HEADS) return { heads: rising.length, best: usualBest(liftRatio), usual: true };
      return {
        heads: rising.length,
        best: rising.at(-1)!,
        usual: false,
        percentile: placeOf(rising, coefficient) / rising.length,
        ...middleOf(rising),
      };
    },
  };
}

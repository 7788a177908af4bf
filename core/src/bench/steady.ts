/** When a live reading may be recorded: found from the stream itself, over a moving window. */
import { deviation, mean } from '../method/mean.js';

// deviation()!: of two at least.

/** One sample of a stream: when (s, any origin) and what (SI). */
export interface Sample {
  readonly at: number;
  readonly value: number;
}

export interface SteadyLimits {
  /** Length of the window, s. */
  readonly window: number;
  /** Largest drift allowed, as a share of the mean per second. */
  readonly slope: number;
  /** Largest standard deviation of the samples allowed, as a share of the mean. */
  readonly spread: number;
}

/** Common practice, no source: two seconds within 0.4 % a second and 0.8 % of scatter. */
export const USUAL_STEADY: SteadyLimits = { window: 2, slope: 0.004, spread: 0.008 };

/** `waiting`: the window is not full. `frozen`: nothing moves at all, which no live meter does. */
export type SteadyState = 'waiting' | 'settling' | 'steady' | 'frozen';

export interface Steadiness {
  readonly state: SteadyState;
  /** Samples inside the window, oldest first. */
  readonly samples: readonly Sample[];
  readonly mean: number;
  /** Standard deviation of one sample about the mean. */
  readonly spread: number;
  /** Drift per second. */
  readonly slope: number;
}

const FEWEST = 5;
/** So many samples alike to the last figure are a stuck meter. */
const FROZEN = 20;

/** Slope of the least-squares line through the samples, per second. */
export function slopeOf(samples: readonly Sample[]): number {
  const at = mean(samples.map((p) => p.at));
  const value = mean(samples.map((p) => p.value));
  const across = samples.reduce((s, p) => s + (p.at - at) ** 2, 0);
  return across === 0 ? 0 : samples.reduce((s, p) => s + (p.at - at) * (p.value - value), 0) / across;
}

/** Judges the last window of a stream. `samples` in order of time; older ones than the window are not looked at. */
export function steadiness(samples: readonly Sample[], limits: SteadyLimits = USUAL_STEADY): Steadiness {
  const last = samples.at(-1)?.at ?? 0;
  const within = samples.filter((s) => s.at > last - limits.window);
  const values = within.map((s) => s.value);
  const level = values.length ? mean(values) : 0;
  const scatter = deviation(values) ?? 0;
  const slope = within.length > 1 ? slopeOf(within) : 0;
  const gap = Math.max(0, ...within.slice(1).map((s, i) => s.at - within[i]!.at));
  const covers = within.length >= FEWEST && last - within[0]!.at >= 0.85 * limits.window && gap <= limits.window / 2;
  const frozen = covers && within.length >= FROZEN && within.every((s) => s.value === within[0]!.value);
  const calm = Math.abs(slope) <= limits.slope * Math.abs(level) && scatter <= limits.spread * Math.abs(level);
  return {
    state: !covers ? 'waiting' : frozen ? 'frozen' : calm ? 'steady' : 'settling',
    samples: within,
    mean: level,
    spread: scatter,
    slope,
  };
}

/** How far several pulls of one point may differ before the odd one is asked about, in their standard deviations. */
const ODD = 3;

/**
 * The pull that stands apart from the others, by its index: further from their mean than three of their own standard
 * deviations (at least `repeatability` of the mean). Undefined for fewer than three pulls or when all agree.
 */
export function oddPull(pulls: readonly number[], repeatability: number): number | undefined {
  if (pulls.length < 3) return undefined;
  const off = pulls.map((pull, i) => {
    const others = pulls.filter((_, k) => k !== i);
    const level = mean(others);
    return Math.abs(pull - level) / Math.max(deviation(others)!, repeatability * Math.abs(level));
  });
  const worst = off.indexOf(Math.max(...off));
  return off[worst]! > ODD ? worst : undefined;
}

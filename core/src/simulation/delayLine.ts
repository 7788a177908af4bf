/**
 * What a runner gave to the plenum over a cycle, kept by crank angle: mass, enthalpy and burned mass. A cylinder that is
 * not solved reads what the solved one of its kind gave at the same angle of its own cycle.
 */
import type { EndFlow } from './pipe.js';
import { CYCLE } from './valveTable.js';

/** Bins of the line: one degree. */
const BINS = 720;
/** Share of the line that a new cycle renews. */
const RENEWED = 0.4;

export type DelayLine = readonly [Float64Array, Float64Array, Float64Array];
export const delayLine = (from?: readonly (readonly number[])[]): DelayLine => {
  const of = (k: number) => (from ? Float64Array.from(from[k]!) : new Float64Array(BINS));
  return [of(0), of(1), of(2)];
};

/** The bin an angle lies in, and the share of a bin that a turn is. */
export const binAt = (angle: number): number => Math.min(BINS - 1, ((angle / CYCLE) * BINS) | 0);
export const binsOf = (turn: number): number => (turn / CYCLE) * BINS;

/** Adds what the plenum gave over a step, spread over the bins the step covers. */
export function keep([mass, energy, burned]: DelayLine, end: EndFlow, from: number, turn: number, dt: number): void {
  const width = CYCLE / BINS;
  let a = from;
  let left = turn;
  while (left > 1e-12) {
    const bin = Math.min(BINS - 1, (a / width) | 0);
    const part = Math.min(Math.max((bin + 1) * width - a, 1e-12), left);
    const time = (dt * part) / turn;
    mass[bin]! += end.mass * time;
    energy[bin]! += end.energy * time;
    burned[bin]! += end.burned * time;
    a += part;
    if (a >= CYCLE) a -= CYCLE;
    left -= part;
  }
}

/**
 * The line after a cycle: some of what was and some of what is, and the other one emptied. Read back at once, a wave of
 * the plenum could feed itself from cycle to cycle. `first`: nothing was known before.
 */
export function renew(line: DelayLine, now: DelayLine, first: boolean): void {
  const fresh = first ? 1 : RENEWED;
  line.forEach((bins, k) => {
    const given = now[k]!;
    for (let i = 0; i < BINS; i++) bins[i] = bins[i]! * (1 - fresh) + given[i]! * fresh;
    given.fill(0);
  });
}

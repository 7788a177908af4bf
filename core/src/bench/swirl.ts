/** Swirl over lift, with its sign. */
import type { Method } from '../method/method.js';

export interface SwirlPoint {
  readonly lift: number;
  /** Turns per second of the meter; positive the way the user calls positive. */
  readonly speed: number;
}

/** Lifts (m) at which the swirl turns round: read straight between the two points beside it. */
export function reversals(points: readonly SwirlPoint[]): number[] {
  const live = [...points].filter((p) => p.speed !== 0).sort((a, b) => a.lift - b.lift);
  return live.flatMap((p, i) => {
    const before = live[i - 1];
    if (!before || before.speed * p.speed > 0) return [];
    return [before.lift + ((p.lift - before.lift) * before.speed) / (before.speed - p.speed)];
  });
}

export const swirlCoefficient: Method<{ speed: number; bore: number; velocity: number }> = {
  id: 'swirl-coefficient',
  title: 'Swirl coefficient of a paddle meter',
  formula: 'C_s = \\frac{2\\pi n B}{v_0}',
  inputs: {
    speed: { label: 'speed of the meter', symbol: 'n', kind: 'rotation' },
    bore: { label: 'bore of the fixture', symbol: 'B', kind: 'length' },
    velocity: { label: 'velocity the depression can drive', symbol: 'v_0', kind: 'velocity' },
  },
  result: { label: 'swirl coefficient', symbol: 'C_s', kind: 'ratio' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §8.3 (from memory).',
  caution: 'A paddle and a honeycomb meter give different figures: compare only readings of one meter in one bore.',
  compute: ({ speed, bore, velocity }) => (2 * Math.PI * speed * bore) / velocity,
};

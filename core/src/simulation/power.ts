/** What the simulation says of an engine's power at one speed, with everything that is not known of it. */
import { shareLeaf } from '../uncertainty/leaves.js';
import type { Response } from '../uncertainty/propagate.js';
import type { SpeedResult } from './point.js';
import type { SimulationSetup } from './setup.js';
import { responsesAt, type FoundAt } from './ranges.js';

export interface SimulatedPower {
  /** Turns a second, and W. */
  readonly speed: number;
  readonly power: number;
  /** What each assumption does to the power, as a share. */
  readonly of: readonly Response[];
}

/** How far an engine may lie from a one-dimensional model of it whose assumptions are all right. Common practice, no source. */
const MODEL = 0.04;
/** One and the same for every head: it cancels between two of them. */
const model: Response = {
  leaf: shareLeaf(
    'simulation:model',
    'what one dimension leaves out: combustion, collectors, bends',
    MODEL,
    undefined,
    'common practice, no source; docs/simulation.md, what it leaves out',
  ),
  change: [MODEL],
};

/** `found`: what the assumptions do at the speeds where they were run. */
export function simulatedPower(
  setup: SimulationSetup,
  found: readonly FoundAt[],
  { speed, torque, power }: SpeedResult,
): SimulatedPower {
  const share = (values: readonly number[]) => values.map((v) => v / torque);
  const of = responsesAt(setup, found, [speed], [torque]).map((r): Response => ({
    leaf: r.leaf,
    change: share(r.change),
    ...(r.sides ? { sides: { low: share(r.sides.low), high: share(r.sides.high) } } : {}),
  }));
  return { speed, power, of: [...of, model] };
}

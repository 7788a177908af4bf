import {
  toSimulation,
  workingSpeeds,
  type HeadEvaluation,
  type JudgingContext,
  type WholeHead,
} from '@alluvium/records';
import type { ActiveBuild } from '../data/build.js';
import type { Pool } from './pool.js';
import { refusedBy } from '@alluvium/core';

/** Speeds at which an engine is run, from end to end of those it works at. */
const SPEEDS = 5;

/** Mean torque of a head over the speeds the engine works at, by simulation, N·m; why it could not be run. @throws Cancelled. */
export async function meanTorque(
  pool: Pool,
  { build, core, target }: ActiveBuild & { readonly target: NonNullable<ActiveBuild['target']> },
  whole: WholeHead,
  evaluation: HeadEvaluation,
  context: JudgingContext,
): Promise<number | string> {
  let setup;
  try {
    setup = toSimulation(build, core, target, { whole, evaluation }, undefined, context);
  } catch (error) {
    return refusedBy(error).message;
  }
  const [from, to] = workingSpeeds(build, core.speed);
  const points = await Promise.all(
    Array.from({ length: SPEEDS }, (_, i) =>
      pool.ask<'single'>({ kind: 'single', setup, speed: from + ((to - from) * i) / (SPEEDS - 1) }),
    ),
  );
  let sum = 0;
  for (const { point } of points) {
    if (!point.ok) return point.reason;
    sum += point.torque;
  }
  return sum / SPEEDS;
}

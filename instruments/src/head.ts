/** The pretended head: flow that follows from its geometry, the same for the same seed. */
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, idealVelocity, minimumAreaOfValve, type Side } from '@alluvium/core';
import type { Mount } from '@alluvium/records';
import { random } from '@alluvium/core';

/** A head as it would be without anybody having measured it. Sizes of no real head. */
export const A_HEAD: Mount = {
  seed: 7,
  port: 3,
  intake: {
    diameter: 0.0462,
    throat: 0.0413,
    stem: 0.0079,
    seatWidth: 0.0015 * Math.SQRT2,
    seatAngle: Math.PI / 4,
    valves: 1,
    choke: 0.00125,
  },
  exhaust: {
    diameter: 0.0376,
    throat: 0.0334,
    stem: 0.0079,
    seatWidth: 0.0018 * Math.SQRT2,
    seatAngle: Math.PI / 4,
    valves: 1,
    choke: 0.00094,
  },
};

/** How good the valve is at a lift ratio, before the port takes its share: near 0.95 at low lift, falling towards 0.84. */
const valveCoefficient = (liftRatio: number): number => 0.84 + 0.11 * Math.exp(-((liftRatio / 0.16) ** 1.5));

/** A port passes this share of what its choke could. */
const PORT = 0.95;
/** Beyond this lift ratio the short turn lets go and the flow backs up. */
const BACKS_UP: Readonly<Record<Side, number>> = { intake: 0.27, exhaust: 0.34 };

/** How this very port differs from its sisters: within about two in a hundred. */
export function portFactor(head: Mount, side: Side): number {
  const draw = random(head.seed * 1000 + head.port * 10 + (side === 'intake' ? 1 : 2));
  for (let i = 0; i < 3; i++) draw();
  return 1 + (draw() - 0.5) * 0.04;
}

/** True flow of the pretended head at a lift (m), at 28 in and reference air, m³/s. */
export function trueFlow(head: Mount, side: Side, lift: number): number {
  if (lift <= 0) return 0;
  const v = head[side];
  const velocity = idealVelocity.compute({ depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });
  const { area } = minimumAreaOfValve({ ...v, lift });
  const ratio = lift / v.diameter;
  const valve = v.valves * area * valveCoefficient(ratio) * velocity;
  const port = PORT * v.choke * velocity;
  const both = 1 / Math.sqrt(1 / valve ** 2 + 1 / port ** 2);
  const over = Math.max(0, ratio - BACKS_UP[side]);
  return both * (1 - 0.9 * over) * portFactor(head, side);
}

/** Turns a second of a swirl meter at a lift: weak and backward at low lift, then with the port's own sense. */
export function trueSwirl(head: Mount, lift: number): number {
  const ratio = lift / head.intake.diameter;
  return 42 * (1 - Math.exp(-ratio / 0.12)) * (ratio / 0.25) - 9 * Math.exp(-(((ratio - 0.06) / 0.05) ** 2));
}

/**
 * True velocity across the port, m/s: `x` from the left edge and `y` from the roof, 0 to 1. Fast under the roof on the
 * side away from the cylinder wall, nearly still at the middle of the floor.
 */
export function trueVelocity(head: Mount, lift: number, x: number, y: number): number {
  const mean = trueFlow(head, 'intake', lift) / head.intake.choke;
  const shape = 1.18 - 0.25 * (x - 0.7) ** 2 - 0.2 * (y - 0.25) ** 2;
  const dead = 1.05 * Math.exp(-(((x - 0.5) / 0.22) ** 2) - ((y - 1) / 0.24) ** 2);
  return Math.max(0, mean * (shape - dead));
}

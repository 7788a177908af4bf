/** One known point of a curve; lift in m, flow in m³/s. */
import { refusal } from '../refusal/refusal.js';
export interface FlowPoint {
  readonly lift: number;
  readonly flow: number;
}

/**
 * A flow curve over lift: passes through every measured point, never overshoots between them, and holds from the first
 * measured lift to the last. Zero flow at zero lift anchors its shape; it is not a reading.
 */
export interface FlowCurve {
  /** Measured points, by rising lift. */
  readonly points: readonly FlowPoint[];
  readonly first: FlowPoint;
  readonly last: FlowPoint;
  /** Flow at a lift; undefined below the first and beyond the last measured lift: nothing is extrapolated. */
  readonly at: (lift: number) => number | undefined;
  /** The same, led on to zero flow at zero lift below the first measured lift: only for a mean over a whole lift event. */
  readonly anchored: (lift: number) => number | undefined;
  /** Whether that lift was measured, and not read between rows. */
  readonly measuredAt: (lift: number) => boolean;
}

/** Two lifts closer than this (m) are the same setting of the dial: a twentieth of a thousandth of an inch. */
export const SAME_LIFT = 1.27e-6;

/**
 * Slopes of the monotone piecewise cubic of F. N. Fritsch and R. E. Carlson, SIAM J. Numer. Anal. 17 (1980) 238:
 * three-point differences, held inside the circle of radius 3 where the cubic stays monotone.
 * `x` strictly rising, same length as `y`, at least 2.
 */
export function monotoneSlopes(x: readonly number[], y: readonly number[]): number[] {
  const n = x.length;
  const secant = (i: number) => (y[i + 1]! - y[i]!) / (x[i + 1]! - x[i]!);
  const slopes = x.map((_, i) => {
    if (i === 0) return secant(0);
    if (i === n - 1) return secant(n - 2);
    const before = secant(i - 1);
    const after = secant(i);
    return before * after <= 0 ? 0 : (before + after) / 2;
  });
  for (let i = 0; i < n - 1; i++) {
    const d = secant(i);
    if (d === 0) {
      slopes[i] = slopes[i + 1] = 0;
      continue;
    }
    const a = slopes[i]! / d;
    const b = slopes[i + 1]! / d;
    const radius = Math.sqrt(a * a + b * b);
    if (radius > 3) {
      slopes[i] = (3 * a * d) / radius;
      slopes[i + 1] = (3 * b * d) / radius;
    }
  }
  return slopes;
}

/** Cubic Hermite value of the piece that holds `at`; `x` strictly rising and spanning `at`. */
export function hermite(x: readonly number[], y: readonly number[], slopes: readonly number[], at: number): number {
  let low = 0;
  let high = x.length - 1;
  while (high - low > 1) {
    const mid = (low + high) >> 1;
    if (x[mid]! <= at) low = mid;
    else high = mid;
  }
  const h = x[high]! - x[low]!;
  const t = (at - x[low]!) / h;
  const s = 1 - t;
  return (
    y[low]! * s * s * (1 + 2 * t) + y[high]! * t * t * (3 - 2 * t) + h * t * s * (slopes[low]! * s - slopes[high]! * t)
  );
}

/** A sheet of one row, where a curve is asked for: known at that lift and nowhere else. */
export const onePointCurve = (point: FlowPoint): FlowCurve => {
  const measuredAt = (lift: number) => Math.abs(lift - point.lift) < SAME_LIFT;
  const at = (lift: number) => (measuredAt(lift) ? point.flow : undefined);
  return { points: [point], first: point, last: point, at, anchored: at, measuredAt };
};

/**
 * The curve through measured points (any order). Undefined when fewer than two points have lift above zero.
 * @throws Refusal when two points share a lift.
 */
export function flowCurve(measured: readonly FlowPoint[]): FlowCurve | undefined {
  const points = measured.filter((p) => p.lift > SAME_LIFT).sort((a, b) => a.lift - b.lift);
  if (points.length < 2) return undefined;
  points.forEach((p, i) => {
    if (i > 0 && p.lift - points[i - 1]!.lift < SAME_LIFT) throw refusal('liftTwice');
  });
  const x = [0, ...points.map((p) => p.lift)];
  const y = [0, ...points.map((p) => p.flow)];
  const slopes = monotoneSlopes(x, y);
  const last = points[points.length - 1]!;
  const anchored = (lift: number) =>
    lift < 0 || lift > last.lift + SAME_LIFT ? undefined : hermite(x, y, slopes, Math.min(lift, last.lift));
  return {
    points,
    first: points[0]!,
    last,
    at: (lift) => (lift < points[0]!.lift - SAME_LIFT ? undefined : anchored(lift)),
    anchored,
    measuredAt: (lift) => points.some((p) => Math.abs(p.lift - lift) < SAME_LIFT),
  };
}

/** A chart in a picture read as figures: two points of each axis are known, and every other point follows. */
import { refusal } from '../refusal/refusal.js';

/** A place in a picture, pixels; y runs downwards. */
export type Pixel = readonly [x: number, y: number];

/** A place on an axis whose value is printed beside it. */
export interface AxisMark {
  readonly at: Pixel;
  /** In SI. */
  readonly value: number;
}

export interface ChartAxes {
  readonly lift: readonly [AxisMark, AxisMark];
  readonly flow: readonly [AxisMark, AxisMark];
}

export interface ChartReader {
  /** Lift (m) and flow (m³/s) at a place of the picture. */
  readonly read: (at: Pixel) => { readonly lift: number; readonly flow: number };
  /** Where a lift and a flow lie in the picture. */
  readonly place: (point: { readonly lift: number; readonly flow: number }) => Pixel;
  /** Angle between the axes, rad: π/2 in a picture taken square on. */
  readonly angle: number;
  /** What one pixel along each axis is worth: no figure read here is surer than that. */
  readonly perPixel: { readonly lift: number; readonly flow: number };
}

/** Axes that meet under less than this cannot be told apart, rad. */
const LEAST_ANGLE = (20 * Math.PI) / 180;
/** Two marks of one axis must lie this far apart, pixels. */
const LEAST_LENGTH = 10;

const along = ([a, b]: readonly [AxisMark, AxisMark], name: string): { ux: number; uy: number } => {
  const length = Math.hypot(b.at[0] - a.at[0], b.at[1] - a.at[1]);
  if (length < LEAST_LENGTH) throw refusal('axisOfOnePoint', name);
  if (a.value === b.value) throw refusal('axisOfOneValue', name);
  return { ux: (b.at[0] - a.at[0]) / (b.value - a.value), uy: (b.at[1] - a.at[1]) / (b.value - a.value) };
};

/**
 * Reads a chart with straight, evenly divided axes, turned or leaning as they may be: a line of one lift runs along the
 * flow axis and the other way round (plane affine geometry). A picture taken from so near that parallel lines converge
 * is not mended by this.
 * @throws Refusal with a sentence when the marks do not make two axes.
 */
export function chartReader(axes: ChartAxes): ChartReader {
  const l = along(axes.lift, 'lift');
  const f = along(axes.flow, 'flow');
  const cross = l.ux * f.uy - l.uy * f.ux;
  const [lengthOfLift, lengthOfFlow] = [Math.hypot(l.ux, l.uy), Math.hypot(f.ux, f.uy)];
  const sine = Math.min(1, Math.abs(cross) / (lengthOfLift * lengthOfFlow));
  if (Math.asin(sine) < LEAST_ANGLE) throw refusal('axesParallel');
  const angle = Math.acos((l.ux * f.ux + l.uy * f.uy) / (lengthOfLift * lengthOfFlow));
  const [origin] = axes.lift;
  const [level] = axes.flow;
  // The flow axis may stand anywhere, so each value is counted from its own axis's first mark.
  const shares = ([x, y]: Pixel, [ox, oy]: Pixel) => ({
    lift: ((x - ox) * f.uy - (y - oy) * f.ux) / cross,
    flow: ((y - oy) * l.ux - (x - ox) * l.uy) / cross,
  });
  const read = (at: Pixel) => ({
    lift: origin.value + shares(at, origin.at).lift,
    flow: level.value + shares(at, level.at).flow,
  });
  const base = read(origin.at);
  return {
    read,
    place: ({ lift, flow }) => [
      origin.at[0] + (lift - base.lift) * l.ux + (flow - base.flow) * f.ux,
      origin.at[1] + (lift - base.lift) * l.uy + (flow - base.flow) * f.uy,
    ],
    angle,
    perPixel: { lift: lengthOfFlow / Math.abs(cross), flow: lengthOfLift / Math.abs(cross) },
  };
}

/** How far the axes may stray from the right angle before it is said, rad: three degrees. */
export const SQUARE_ENOUGH = (3 * Math.PI) / 180;

import type { FlowCurve } from '@alluvium/core';
import type { Point } from './chart.js';

/** A curve of flow as many short steps, from its first row to its last. */
export function pointsAlong({ first, last, at }: Pick<FlowCurve, 'first' | 'last' | 'at'>, steps = 80): Point[] {
  return Array.from({ length: steps + 1 }, (_, i) => first.lift + ((last.lift - first.lift) * i) / steps).map(
    (lift) => [lift, at(lift) ?? 0],
  );
}

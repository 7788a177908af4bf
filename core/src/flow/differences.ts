/** A sheet that holds only differences from another: read against its own baseline, never as a flow. */
import { SAME_LIFT } from './curve.js';

// between.at()!: there is one.

/** One row: what the other side of the comparison flows more (or less) at a lift, m³/s. */
export interface DifferencePoint {
  readonly lift: number;
  readonly difference: number;
}

export interface DifferenceReading {
  /** By rising lift. */
  readonly points: readonly DifferencePoint[];
  /** Largest gain and largest loss; undefined where there is none of that sign. */
  readonly gain: DifferencePoint | undefined;
  readonly loss: DifferencePoint | undefined;
  /** Lifts at which it changes sign, on a straight line between rows. */
  readonly crossings: readonly number[];
}

/** What a list of differences says by itself; undefined without a row. */
export function readDifferences(rows: readonly DifferencePoint[]): DifferenceReading | undefined {
  if (rows.length === 0) return undefined;
  const points = [...rows].sort((a, b) => a.lift - b.lift);
  const best = points.reduce((a, b) => (b.difference > a.difference ? b : a));
  const worst = points.reduce((a, b) => (b.difference < a.difference ? b : a));
  const told = points.filter((p) => p.difference !== 0);
  const crossings = told.slice(1).flatMap((b, i) => {
    const a = told[i]!;
    if (a.difference * b.difference > 0) return [];
    // Rows of nothing between a gain and a loss: it crosses in their middle.
    const between = points.filter((p) => p.difference === 0 && p.lift > a.lift && p.lift < b.lift);
    if (between.length > 0) return [(between[0]!.lift + between.at(-1)!.lift) / 2];
    return [a.lift + ((b.lift - a.lift) * a.difference) / (a.difference - b.difference)];
  });
  return {
    points,
    gain: best.difference > 0 ? best : undefined,
    loss: worst.difference < 0 ? worst : undefined,
    crossings: crossings.filter((l, i) => i === 0 || l - crossings[i - 1]! > SAME_LIFT),
  };
}

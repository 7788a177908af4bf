/** Swirl over lift, with its sign. */

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

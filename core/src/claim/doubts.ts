/** What is asked about a claim before it is judged. */
import type { PointResult } from '../evaluate/sheet.js';
import { SAME_LIFT } from '../flow/curve.js';

/** Beyond half its diameter no lift of a poppet valve is meant. Common practice, no source. */
export const MOST_LIFT_RATIO = 0.5;

export interface ClaimDoubts {
  /** Lifts (m) beyond half the valve's diameter. */
  readonly beyondValve: readonly number[];
  /** Lifts at which the exhaust is said to flow more than the intake. */
  readonly exhaustAhead: readonly number[];
}

export function claimDoubts(sides: {
  readonly intake: readonly PointResult[];
  readonly exhaust: readonly PointResult[];
}): ClaimDoubts {
  const beyond = [...sides.intake, ...sides.exhaust].filter((p) => (p.liftRatio ?? 0) > MOST_LIFT_RATIO);
  return {
    beyondValve: [...new Set(beyond.map((p) => p.lift))].sort((a, b) => a - b),
    exhaustAhead: sides.exhaust.flatMap((e) => {
      const intake = sides.intake.find((i) => Math.abs(i.lift - e.lift) < SAME_LIFT);
      return intake && e.flow.value > intake.flow.value ? [e.lift] : [];
    }),
  };
}

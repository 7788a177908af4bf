/** How sure a verdict is, in five degrees. */
export type Degree = 'carries' | 'probably carries' | "can't be told" | 'probably short' | 'falls short';

/** From sure that it falls short to sure that it carries. */
export const DEGREES: readonly Degree[] = [
  'falls short',
  'probably short',
  "can't be told",
  'probably carries',
  'carries',
];

/** Odds of carrying from which each degree is said; the lower half mirrors the upper. */
export const SURE = 0.95;
export const PROBABLE = 0.75;

/** Why a degree may not be said although the odds would allow it. */
export interface Cap {
  /** The surest that may be said for it. */
  readonly most: Degree;
  /** The surest that may be said against it; nothing is held back where left out. */
  readonly least?: Degree;
}

/** The one place where odds become words. Undefined odds: nothing is known that could decide. */
export function degreeOf(odds: number | undefined, caps: readonly Cap[] = []): Degree {
  const by =
    odds === undefined
      ? 2
      : odds >= SURE
        ? 4
        : odds >= PROBABLE
          ? 3
          : odds > 1 - PROBABLE
            ? 2
            : odds > 1 - SURE
              ? 1
              : 0;
  const rank = (degree: Degree) => DEGREES.indexOf(degree);
  const held = caps.reduce((r, cap) => Math.max(Math.min(r, rank(cap.most)), cap.least ? rank(cap.least) : 0), by);
  return DEGREES[held]!;
}

/** What may be said when one cannot tell which of several degrees holds: the least sure, and nothing where they contradict. */
export function leastSure(degrees: readonly Degree[]): Degree {
  const ranks = degrees.map((d) => DEGREES.indexOf(d) - 2);
  if (ranks.some((r) => r > 0) && ranks.some((r) => r < 0)) return "can't be told";
  return DEGREES[2 + ranks.reduce((a, b) => (Math.abs(b) < Math.abs(a) ? b : a))]!;
}

/** What a port usually flows at one lift against another, where only one of the two was read. */

/**
 * Share of its best flow at a lift over the valve's diameter. Common practice, no source: two-valve heads with healthy ports
 * reach half of it at a tenth and nearly all at a quarter; real curves lie within about a tenth of this.
 */
const USUAL: readonly (readonly [liftRatio: number, share: number])[] = [
  [0, 0],
  [0.05, 0.28],
  [0.1, 0.53],
  [0.15, 0.72],
  [0.2, 0.85],
  [0.25, 0.93],
  [0.3, 0.975],
  [0.35, 1],
];

export function usualShare(liftRatio: number): number {
  const after = USUAL.findIndex(([r]) => r >= liftRatio);
  if (after < 0) return 1;
  if (after === 0) return 0;
  const [[r0, s0], [r1, s1]] = [USUAL[after - 1]!, USUAL[after]!];
  return s0 + ((s1 - s0) * (liftRatio - r0)) / (r1 - r0);
}

/** Valve taken where none is known, m: only its ratio to the lifts counts. */
const USUAL_VALVE = 0.049;
/** Of the logarithm between two lifts, the part that is not known. */
const SHAPE_OPEN = 0.4;

/** Flow at `lift` over that of the only row, both in m, and the standard uncertainty of its logarithm. */
export function alongUsualShape(
  row: { readonly lift: number; readonly liftRatio?: number | undefined },
  lift: number,
): { readonly times: number; readonly u: number } {
  const valve = row.liftRatio ? row.lift / row.liftRatio : USUAL_VALVE;
  const [here, there] = [usualShare(row.lift / valve), usualShare(lift / valve)];
  if (here <= 0 || there <= 0) return { times: 1, u: 1 };
  const by = Math.log(there / here);
  return { times: Math.exp(by), u: SHAPE_OPEN * Math.abs(by) };
}

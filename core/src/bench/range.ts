/** Which range of the bench to read on, and what another would cost in resolution; whether the depression holds. */
import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

/** A range under this share of its full scale is read too coarsely; above the other it is about to leave the scale. */
export const LEAST_USE = 0.5;
export const MOST_USE = 0.97;
/** Smallest step a reading shows, as a share of full scale. */
export const READING_STEP = 0.001;

export const rangeUse: Method<{ flow: number; fullScale: number }> = {
  id: 'range-use',
  title: 'Share of the range in use',
  formula: 'u = \\frac{Q}{Q_{fs}}',
  inputs: {
    flow: { label: 'flow as read', symbol: 'Q', kind: 'flow' },
    fullScale: { label: 'full scale of the range, in this direction', symbol: 'Q_{fs}', kind: 'flow' },
  },
  result: { label: 'range in use', symbol: 'u', kind: 'percent' },
  source: `${COMMON_PRACTICE} Under about half of a range a smaller one reads finer.`,
  compute: ({ flow, fullScale }) => flow / fullScale,
};

export interface Range {
  readonly name: string;
  /** In the direction of the test, m³/s. */
  readonly fullScale: number;
}

export interface RangeAdvice {
  readonly go: 'stay' | 'up' | 'down';
  /** The range to go to; missing when the bench has none that fits. */
  readonly to?: Range;
  /** Share of the present range in use. */
  readonly use: number;
  /** Smallest step now and on the range advised, m³/s. */
  readonly resolution: number;
  readonly resolutionThere?: number;
}

/** Advice for a flow as read, m³/s, on one of the ranges. @throws Refusal when the range is not among them. */
export function rangeAdvice(flow: number, ranges: readonly Range[], current: string): RangeAdvice {
  const now = ranges.find((r) => r.name === current);
  if (!now) throw refusal('noSuchRange', current);
  const use = flow / now.fullScale;
  const base = { use, resolution: now.fullScale * READING_STEP };
  const there = (go: 'up' | 'down', to: Range | undefined): RangeAdvice =>
    to ? { ...base, go, to, resolutionThere: to.fullScale * READING_STEP } : { ...base, go };
  const rising = [...ranges].sort((a, b) => a.fullScale - b.fullScale);
  const fits = rising.find((r) => flow <= MOST_USE * r.fullScale);
  if (use > MOST_USE) {
    const next = rising.find((r) => r.fullScale > now.fullScale && flow <= MOST_USE * r.fullScale);
    // The largest range may be read to its end.
    return next || use > 1 ? there('up', next) : { ...base, go: 'stay' };
  }
  if (use < LEAST_USE && fits && fits.fullScale < now.fullScale) return there('down', fits);
  return { ...base, go: 'stay' };
}

export interface DepressionLimits {
  /** Within this share of the set depression it counts as held. */
  readonly held: number;
  /** Further off than this a reading is refused. */
  readonly refuse: number;
}
/** Common practice, no source. */
export const USUAL_DEPRESSION_LIMITS: DepressionLimits = { held: 0.005, refuse: 0.25 };

export type DepressionVerdict = 'held' | 'corrected' | 'refused';

/** Whether a reading at `read` may stand for a test at `set` (Pa): as it is, corrected and marked so, or not at all. */
export function depressionVerdict(
  set: number,
  read: number,
  limits: DepressionLimits = USUAL_DEPRESSION_LIMITS,
): DepressionVerdict {
  const off = Math.abs(read - set) / set;
  return off <= limits.held ? 'held' : off <= limits.refuse ? 'corrected' : 'refused';
}

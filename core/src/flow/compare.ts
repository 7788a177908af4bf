import type { Method } from '../method/method.js';
import { inches } from '../quantity/units.js';
import { SAME_LIFT, type FlowCurve } from './curve.js';
import { refusal } from '../refusal/refusal.js';

// c.at()!: lifts that all of them reach.

/** Default repeatability of a bench, one standard deviation as a share of the reading. Common practice, no source. */
export const USUAL_REPEATABILITY = 0.005;

/** The smallest difference that counts between two readings, as a share: 2σ√2. */
export const countsBeyond = (repeatability: number): number => 2 * Math.SQRT2 * repeatability;

export const flowBetweenRows: Method<{ curve: FlowCurve; lift: number }> = {
  id: 'flow-between-rows',
  title: 'Flow between two rows',
  formula: 'Q(L)',
  inputs: {
    curve: { label: 'flow curve', symbol: 'Q', kind: 'curve' },
    lift: { label: 'lift', symbol: 'L', kind: 'lift' },
  },
  result: { label: 'flow between rows', symbol: 'Q(L)', kind: 'flow' },
  source: 'Monotone piecewise cubic: F. N. Fritsch and R. E. Carlson, SIAM J. Numer. Anal. 17 (1980) 238.',
  caution: 'Read from the curve through the rows on either side; it was not measured.',
  compute: ({ curve, lift }) => {
    const flow = curve.at(lift);
    if (flow === undefined) throw refusal('liftBeyondSheet');
    return flow;
  },
};

export const flowDifference: Method<{ other: number; base: number }> = {
  id: 'flow-difference',
  title: 'Difference in flow',
  formula: '\\Delta Q = Q - Q_A',
  inputs: {
    other: { label: 'flow', symbol: 'Q', kind: 'flow' },
    base: { label: 'flow of the first head', symbol: 'Q_A', kind: 'flow' },
  },
  result: { label: 'difference in flow', symbol: '\\Delta Q', kind: 'flow' },
  source: 'Definition.',
  compute: ({ other, base }) => other - base,
};

export const flowGain: Method<{ other: number; base: number }> = {
  id: 'flow-gain',
  title: 'Difference in flow as a share',
  formula: 'g = \\frac{Q}{Q_A} - 1',
  inputs: flowDifference.inputs,
  result: { label: 'difference in flow', symbol: 'g', kind: 'percent' },
  source: 'Definition.',
  compute: ({ other, base }) => {
    if (base <= 0) throw refusal('baselineWithoutFlow');
    return other / base - 1;
  },
};

/** The lifts both curves reach, up to `limit`, in steps fine enough to find where they cross. */
export function sharedLifts(curves: readonly FlowCurve[], limit = Infinity, step = inches(0.005)): number[] {
  const top = Math.min(limit, ...curves.map((c) => c.last.lift));
  const bottom = Math.max(...curves.map((c) => c.first.lift));
  const lifts: number[] = [];
  for (let i = 0; bottom + i * step < top - SAME_LIFT; i++) lifts.push(bottom + i * step);
  if (top >= bottom) lifts.push(top);
  return lifts;
}

/** Flow of `other` less that of `base` at a lift; undefined where either is not known. */
export function difference(base: FlowCurve, other: FlowCurve, lift: number): number | undefined {
  const b = base.at(lift);
  const o = other.at(lift);
  return b === undefined || o === undefined ? undefined : o - b;
}

/** Lifts (m) at which two curves cross, each to a micrometre. */
export function crossings(a: FlowCurve, b: FlowCurve, limit = Infinity): number[] {
  const lifts = sharedLifts([a, b], limit);
  const gap = (lift: number) => difference(a, b, lift) ?? 0;
  const found: number[] = [];
  for (let i = 1; i < lifts.length; i++) {
    let low = lifts[i - 1]!;
    let high = lifts[i]!;
    if (gap(low) * gap(high) >= 0) {
      if (gap(high) === 0 && i < lifts.length - 1 && gap(low) * gap(lifts[i + 1]!) < 0) found.push(high);
      continue;
    }
    while (high - low > 1e-6) {
      const mid = (low + high) / 2;
      if (gap(low) * gap(mid) <= 0) high = mid;
      else low = mid;
    }
    found.push((low + high) / 2);
  }
  return found;
}

/** One stretch of lift over which a single curve leads, `leader` −1 where none is told apart from the next. */
export interface Lead {
  readonly leader: number;
  readonly from: number;
  readonly to: number;
  /** Largest lead over the runner-up in the stretch, m³/s. */
  readonly by: number;
}

/** Who leads over which lifts, counting only leads beyond the repeatability. */
export function leads(curves: readonly FlowCurve[], limit: number, repeatability: number): Lead[] {
  if (curves.length < 2) return [];
  const threshold = countsBeyond(repeatability);
  const result: Lead[] = [];
  for (const lift of sharedLifts(curves, limit)) {
    const flows = curves.map((c) => c.at(lift)!);
    const order = flows.map((_, i) => i).sort((a, b) => flows[b]! - flows[a]!);
    const first = order[0]!;
    const by = flows[first]! - flows[order[1]!]!;
    const leader = by > threshold * flows[first]! ? first : -1;
    const current = result[result.length - 1];
    if (current && current.leader === leader)
      result[result.length - 1] = { ...current, to: lift, by: Math.max(current.by, by) };
    else result.push({ leader, from: lift, to: lift, by });
  }
  return result;
}

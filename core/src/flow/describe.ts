import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { inches } from '../quantity/units.js';
import type { FlowCurve, FlowPoint } from './curve.js';
import { refusal } from '../refusal/refusal.js';

/** Default threshold of the knee: gain per .100 in of lift, as a share of peak. */
export const KNEE_THRESHOLD = 0.03;
const TENTH = inches(0.1);

/** The measured point of highest flow; the lowest lift when several share it. */
export function peak(curve: FlowCurve): FlowPoint {
  return curve.points.reduce((best, p) => (p.flow > best.flow ? p : best));
}

/** The highest flow at or below a lift, reading the curve at that lift too. */
export function peakWithin(curve: FlowCurve, limit: number): FlowPoint {
  const within = curve.points.filter((p) => p.lift <= limit);
  const atLimit = curve.at(limit);
  const candidates = atLimit === undefined ? within : [...within, { lift: limit, flow: atLimit }];
  return candidates.reduce((best, p) => (p.flow > best.flow ? p : best), candidates[0] ?? curve.first);
}

/**
 * The measured lift beyond which every further step gains less than `threshold` × peak per .100 in.
 * Undefined when the curve still climbs at its last row.
 */
export function knee(curve: FlowCurve, threshold = KNEE_THRESHOLD): number | undefined {
  const { points } = curve;
  const enough = threshold * peak(curve).flow;
  let at: number | undefined;
  for (let i = points.length - 1; i > 0; i--) {
    const gain = ((points[i]!.flow - points[i - 1]!.flow) / (points[i]!.lift - points[i - 1]!.lift)) * TENTH;
    if (gain >= enough) break;
    at = points[i - 1]!.lift;
  }
  return at;
}

export interface BacksUp {
  /** Lift of the peak the curve falls from. */
  readonly from: number;
  /** Deepest fall beyond the peak, as a share of peak. */
  readonly fall: number;
}

/** Whether the flow falls beyond its peak by more than `repeatability` (share of peak, twice over: 2σ√2). */
export function backsUp(curve: FlowCurve, repeatability: number): BacksUp | undefined {
  const fall = fallOf(curve);
  return fall > 2 * Math.SQRT2 * repeatability ? { from: peak(curve).lift, fall } : undefined;
}

/** What the lowest row beyond the peak lies under it, a share. */
export function fallOf(curve: FlowCurve): number {
  const top = peak(curve);
  const lowest = Math.min(...curve.points.filter((p) => p.lift >= top.lift).map((p) => p.flow));
  return (top.flow - lowest) / top.flow;
}

/**
 * A lift (m) between the peak and the row after it that nobody read, where the flow falls there and rows stand nearer together
 * elsewhere: read, it would say where the port gives up. Undefined where none is missing.
 */
export function skippedAtFall(curve: FlowCurve, repeatability: number): number | undefined {
  const fall = backsUp(curve, repeatability);
  const { points } = curve;
  const top = points.findIndex((p) => p.lift === fall?.from);
  const after = points[top + 1];
  if (top < 1 || !after) return undefined;
  const step = points[top]!.lift - points[top - 1]!.lift;
  const gap = after.lift - points[top]!.lift;
  return gap > WIDE_GAP * step ? points[top]!.lift + step : undefined;
}
/** A gap this much wider than the step before it has a row missing. */
const WIDE_GAP = 1.4;

export const stability: Method<{ last: number; peak: number }> = {
  id: 'stability',
  title: 'Stability at high lift',
  formula: 's = \\frac{Q_{last}}{Q_{peak}}',
  inputs: {
    last: { label: 'flow at the last lift tested', symbol: 'Q_{last}', kind: 'flow' },
    peak: { label: 'peak flow', symbol: 'Q_{peak}', kind: 'flow' },
  },
  result: { label: 'stability', symbol: 's', kind: 'percent' },
  source: COMMON_PRACTICE,
  caution: 'Says something only when the port was tested well beyond its peak.',
  compute: ({ last, peak: top }) => last / top,
};

/** Integral by Simpson's rule, `steps` even. */
export function simpson(f: (x: number) => number, from: number, to: number, steps: number): number {
  const h = (to - from) / steps;
  let sum = f(from) + f(to);
  for (let i = 1; i < steps; i++) sum += f(from + i * h) * (i % 2 ? 4 : 2);
  return (sum * h) / 3;
}

export const exhaustToIntake: Method<{ exhaust: number; intake: number }> = {
  id: 'exhaust-to-intake',
  title: 'Exhaust against intake',
  formula: 'E/I = \\frac{Q_{ex}}{Q_{in}}',
  inputs: {
    exhaust: { label: 'exhaust flow', symbol: 'Q_{ex}', kind: 'flow' },
    intake: { label: 'intake flow', symbol: 'Q_{in}', kind: 'flow' },
  },
  result: { label: 'exhaust / intake', symbol: 'E/I', kind: 'percent' },
  source: `${COMMON_PRACTICE} Naturally aspirated engines usually sit at 70 to 80 %; added oxygen wants more exhaust.`,
  caution: 'Bare and piped exhaust tests are different quantities and are never compared silently.',
  compute: ({ exhaust, intake }) => {
    if (intake <= 0) throw refusal('notAboveZero', 'intake flow');
    return exhaust / intake;
  },
};

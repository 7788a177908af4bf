/** A head whose flow is agreed, flowed on the spot: whether a bench reads as others do. */
import { mean } from '../method/mean.js';
import { COMMON_PRACTICE, type Method } from '../method/method.js';

/** Two benches that read a control head closer than this agree. Common practice, no source. */
export const BENCHES_AGREE = 0.035;

export const controlHeadError: Method<{ measured: number; agreed: number }> = {
  id: 'control-head-error',
  title: 'How far a bench reads off a control head',
  formula: 'e = \\frac{Q}{Q_{agreed}} - 1',
  inputs: {
    measured: { label: 'read on this bench', symbol: 'Q', kind: 'flow' },
    agreed: { label: 'agreed', symbol: 'Q_{agreed}', kind: 'flow' },
  },
  result: { label: 'error', symbol: 'e', kind: 'percent' },
  source: `${COMMON_PRACTICE} Benches that differ by no more than 3.5 % agree.`,
  compute: ({ measured, agreed }) => measured / agreed - 1,
};

export interface ControlPoint {
  readonly lift: number;
  /** m³/s, as is `measured`. */
  readonly agreed: number;
  readonly measured: number;
}

export interface ControlHead {
  readonly agrees: boolean;
  /** The lift that is furthest off, and by how much. */
  readonly worst: { readonly lift: number; readonly error: number };
  /** Mean error: what a factor could take away. */
  readonly mean: number;
}

/** What a control head says of a bench; undefined without a point. */
export function readControlHead(points: readonly ControlPoint[]): ControlHead | undefined {
  if (points.length === 0) return undefined;
  const errors = points.map((p) => ({ lift: p.lift, error: controlHeadError.compute(p) }));
  const worst = errors.reduce((a, b) => (Math.abs(b.error) > Math.abs(a.error) ? b : a));
  return { agrees: Math.abs(worst.error) <= BENCHES_AGREE, worst, mean: mean(errors.map((e) => e.error)) };
}

/** Work that is planned and not done: what it would make of a flow and of the odds, and how sure that can be. */
import type { HeadVerdict } from '../evaluate/verdict.js';
import type { Method } from '../method/method.js';
import { degreeOf, type Cap, type Degree } from '../uncertainty/degree.js';
import type { Leaf } from '../uncertainty/leaf.js';
import { drawsOf, shareAbove } from '../uncertainty/propagate.js';

export const plannedFlow: Method<{ flow: number; off: number }> = {
  id: 'planned-flow',
  title: 'Flow once the planned work is done',
  formula: 'Q = Q_p + \\delta',
  inputs: {
    flow: { label: 'flow as planned', symbol: 'Q_p', kind: 'flow' },
    off: { label: 'what the plan may be off by', symbol: '\\delta', kind: 'flow' },
  },
  result: { label: 'flow', symbol: 'Q', kind: 'flow' },
  source: 'Arithmetic; every lift is raised by the same share.',
  caution: 'A plan, not a measurement: flow it before it is promised.',
  compute: ({ flow, off }) => flow + off,
};

/** What a plan may be off by, as something that is not known. `band`: give or take, m³/s, taken as two standard uncertainties. */
export const planLeaf = (id: string, name: string, band: number): Leaf => ({
  id,
  label: `what is planned of ${name}`,
  value: 0,
  kind: 'flow',
  spread: { shape: 'normal', u: Math.max(1e-9, band / 2) },
  source: 'the shop’s own forecast',
  settle: { act: 'cut one port and flow it', after: 0.0005, minutes: 240 },
});

/** Nothing that was not flowed is sure. */
export const PLAN_CAP: Cap = { most: 'probably carries', least: 'probably short' };

/**
 * Odds of carrying the target once what the plan may be off by is counted, where the flow is what runs out first; `leaf` is of
 * `planLeaf`, `flow` the planned flow.
 */
export function plannedOdds(
  verdict: HeadVerdict,
  leaf: Leaf,
  flow: number,
): { readonly odds?: number; readonly degree: Degree } {
  const { draws, limits, evidence } = verdict;
  if (!draws || verdict.odds === undefined) return { degree: degreeOf(undefined, [...evidence, PLAN_CAP]) };
  const first = limits.reduce((a, b) => (b.margin < a.margin ? b : a));
  const z = drawsOf(leaf);
  const u = leaf.spread.shape === 'normal' ? leaf.spread.u / flow : 0;
  const odds = first.id === 'flow' ? shareAbove(draws.map((d, i) => d + u * z[i]!)) : verdict.odds;
  return { odds, degree: degreeOf(odds, [...evidence, PLAN_CAP]) };
}

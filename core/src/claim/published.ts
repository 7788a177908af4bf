/** Several tables of one head side by side, and which of its runners a table fits. */
import { countsBeyond } from '../flow/compare.js';
import type { FlowCurve, FlowPoint } from '../flow/curve.js';
import { mean } from '../method/mean.js';
import { work, type Method, type Working } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

// curve.at()!: lifts that all of them reach.
// order.at()!: there are two at least.

export const publishedSpread: Method<{ flows: readonly number[] }> = {
  id: 'published-spread',
  title: 'How far publications of one head lie apart',
  formula: 's = \\frac{Q_{max} - Q_{min}}{\\bar Q}',
  inputs: { flows: { label: 'flows published, at the common depression', symbol: 'Q_i', kind: 'flow' } },
  result: { label: 'spread', symbol: 's', kind: 'percent' },
  source: 'Range over mean.',
  compute: ({ flows }) => {
    if (flows.length < 2) throw refusal('spreadOfOnePublication');
    return (Math.max(...flows) - Math.min(...flows)) / mean(flows);
  },
};

export interface PublishedRow {
  readonly lift: number;
  /** One flow a table, in their order; undefined where a table does not reach. */
  readonly flows: readonly (number | undefined)[];
  readonly spread?: Working;
}

/** Tables of one head read at the same lifts (m, rising). Lifts only one table reaches are left out. */
export const sideBySide = (curves: readonly FlowCurve[], lifts: readonly number[]): PublishedRow[] =>
  lifts.flatMap((lift) => {
    const flows = curves.map((c) => (lift < c.first.lift - 1e-6 ? undefined : c.at(lift)));
    const known = flows.filter((q): q is number => q !== undefined);
    return known.length < 2 ? [] : [{ lift, flows, spread: work(publishedSpread, { flows: known }) }];
  });

export interface MeasuredRunner {
  readonly name: string;
  readonly curve: FlowCurve;
}
export interface RunnerFit {
  readonly name: string;
  /** Mean deviation of the table from this runner, as a share. */
  readonly off: number;
  /** Root mean square of the deviations. */
  readonly apart: number;
  /** 1 is the runner that flows most over the lifts of the table. */
  readonly rank: number;
}

export interface RunnerVerdict {
  /** The nearest first. */
  readonly fits: readonly RunnerFit[];
  /** Whether the nearest can be told from the next. */
  readonly told: boolean;
  /** How much less than the best the worst runner flows, as a share. */
  readonly spread: number;
}

/**
 * Which runner a table was taken from: the one it lies nearest to, once what its source reads high is taken off.
 * Undefined with fewer than two runners or fewer than three shared lifts.
 */
export function nearestRunner(
  table: readonly FlowPoint[],
  runners: readonly MeasuredRunner[],
  repeatability: number,
  offset = 0,
): RunnerVerdict | undefined {
  const lifts = table.filter((p) => runners.every((r) => (r.curve.at(p.lift) ?? 0) > 0));
  if (runners.length < 2 || lifts.length < 3) return undefined;
  const level = (r: MeasuredRunner) => mean(lifts.map((p) => r.curve.at(p.lift)!));
  const order = [...runners].sort((a, b) => level(b) - level(a));
  const fits = runners
    .map((r): RunnerFit => {
      const off = lifts.map((p) => (p.flow * Math.exp(-offset)) / r.curve.at(p.lift)! - 1);
      return {
        name: r.name,
        off: mean(off),
        apart: Math.sqrt(mean(off.map((e) => e * e))),
        rank: order.indexOf(r) + 1,
      };
    })
    .sort((a, b) => a.apart - b.apart);
  const spread = 1 - level(order.at(-1)!) / level(order[0]!);
  return { fits, told: fits[1]!.apart - fits[0]!.apart > countsBeyond(repeatability) / 2, spread };
}

/** Means, sums and scatter of figures of any kind, as methods that show what they were made of. */
import type { Kind } from '../quantity/units.js';
import { mean } from './mean.js';
import type { Method } from './method.js';

type Values = Method<{ values: readonly number[] }>;

interface Statistic {
  readonly id: string;
  readonly title: (of: string) => string;
  readonly formula: string;
  readonly result: { readonly label: string; readonly symbol: string };
  readonly source: string;
  readonly compute: (values: readonly number[]) => number;
}
const MEAN: Statistic = {
  id: 'mean',
  title: (of) => `Mean of several ${of}`,
  formula: '\\bar{x} = \\frac{1}{n}\\sum_i x_i',
  result: { label: 'mean', symbol: '\\bar{x}' },
  source: 'Arithmetic mean (JCGM 100:2008, 4.2.1).',
  compute: mean,
};
const SUM: Statistic = {
  id: 'sum',
  title: (of) => `Sum of several ${of}`,
  formula: '\\sum_i x_i',
  result: { label: 'sum', symbol: '\\sum' },
  source: 'Plain sum.',
  compute: (values) => values.reduce((sum, v) => sum + v, 0),
};
const LARGEST: Statistic = {
  id: 'largest',
  title: (of) => `Largest of several ${of}`,
  formula: '\\max_i x_i',
  result: { label: 'largest', symbol: '\\max' },
  source: 'Read off.',
  compute: (values) => Math.max(...values),
};
const SMALLEST: Statistic = {
  id: 'smallest',
  title: (of) => `Smallest of several ${of}`,
  formula: '\\min_i x_i',
  result: { label: 'smallest', symbol: '\\min' },
  source: 'Read off.',
  compute: (values) => Math.min(...values),
};
const HALF_RANGE: Statistic = {
  id: 'half-range',
  title: (of) => `Half of what several ${of} lie apart`,
  formula: '\\tfrac{1}{2}\\left(\\max_i x_i - \\min_i x_i\\right)',
  result: { label: 'half range', symbol: '\\pm' },
  source: 'Read off.',
  compute: (values) => (Math.max(...values) - Math.min(...values)) / 2,
};

/** A statistic of figures of one kind. */
const statisticOf = ({ id, title, formula, result, source, compute }: Statistic, kind: Kind, of: string): Values => ({
  id: `${id}-${kind}`,
  title: title(of),
  formula,
  inputs: { values: { label: of, symbol: 'x_i', kind } },
  result: { ...result, kind },
  source,
  compute: ({ values }) => compute(values),
});

export const meanOfPowersRead = statisticOf(MEAN, 'power', 'powers');
export const meanOfTorques = statisticOf(MEAN, 'torque', 'torques');
export const meanOfVolumes = statisticOf(MEAN, 'volume', 'volumes');
export const sumOfTimes = statisticOf(SUM, 'time', 'times');
export const halfRangeOfVolumes = statisticOf(HALF_RANGE, 'volume', 'volumes');
export const largestVelocity = statisticOf(LARGEST, 'velocity', 'velocities');
export const smallestVelocity = statisticOf(SMALLEST, 'velocity', 'velocities');

export const pooledShares: Method<{ shares: readonly number[] }> = {
  id: 'pooled-shares',
  title: 'Scatter pooled over several points',
  formula: 's = \\sqrt{\\frac{1}{n}\\sum_i s_i^2}',
  inputs: { shares: { label: 'scatter at each point, as a share', symbol: 's_i', kind: 'percent' } },
  result: { label: 'one against the next, one standard deviation', symbol: 's', kind: 'percent' },
  source: 'Pooled experimental standard deviation (JCGM 100:2008, 4.2.4, equal degrees of freedom).',
  compute: ({ shares }) => Math.sqrt(mean(shares.map((s) => s * s))),
};

/** Means, sums and scatter of figures of any kind, as methods that show what they were made of. */
import type { Kind } from '../quantity/units.js';
import { mean } from './mean.js';
import type { Method } from './method.js';

type Values = Method<{ values: readonly number[] }>;

const meanMethod = (kind: Kind, of: string): Values => ({
  id: `mean-${kind}`,
  title: `Mean of several ${of}`,
  formula: '\\bar{x} = \\frac{1}{n}\\sum_i x_i',
  inputs: { values: { label: of, symbol: 'x_i', kind } },
  result: { label: 'mean', symbol: '\\bar{x}', kind },
  source: 'Arithmetic mean (JCGM 100:2008, 4.2.1).',
  compute: ({ values }) => mean(values),
});

const sumMethod = (kind: Kind, of: string): Values => ({
  id: `sum-${kind}`,
  title: `Sum of several ${of}`,
  formula: '\\sum_i x_i',
  inputs: { values: { label: of, symbol: 'x_i', kind } },
  result: { label: 'sum', symbol: '\\sum', kind },
  source: 'Plain sum.',
  compute: ({ values }) => values.reduce((sum, v) => sum + v, 0),
});

/** Largest of several, as the peak of a curve read at its points. */
const largestMethod = (kind: Kind, of: string): Values => ({
  id: `largest-${kind}`,
  title: `Largest of several ${of}`,
  formula: '\\max_i x_i',
  inputs: { values: { label: of, symbol: 'x_i', kind } },
  result: { label: 'largest', symbol: '\\max', kind },
  source: 'Read off.',
  compute: ({ values }) => Math.max(...values),
});

const smallestMethod = (kind: Kind, of: string): Values => ({
  id: `smallest-${kind}`,
  title: `Smallest of several ${of}`,
  formula: '\\min_i x_i',
  inputs: { values: { label: of, symbol: 'x_i', kind } },
  result: { label: 'smallest', symbol: '\\min', kind },
  source: 'Read off.',
  compute: ({ values }) => Math.min(...values),
});

const halfRangeMethod = (kind: Kind, of: string): Values => ({
  id: `half-range-${kind}`,
  title: `Half of what several ${of} lie apart`,
  formula: '\\tfrac{1}{2}\\left(\\max_i x_i - \\min_i x_i\\right)',
  inputs: { values: { label: of, symbol: 'x_i', kind } },
  result: { label: 'half range', symbol: '\\pm', kind },
  source: 'Read off.',
  compute: ({ values }) => (Math.max(...values) - Math.min(...values)) / 2,
});

export const meanOfPowersRead = meanMethod('power', 'powers');
export const meanOfTorques = meanMethod('torque', 'torques');
export const meanOfVolumes = meanMethod('volume', 'volumes');
export const sumOfTimes = sumMethod('time', 'times');
export const halfRangeOfVolumes = halfRangeMethod('volume', 'volumes');
export const largestVelocity = largestMethod('velocity', 'velocities');
export const smallestVelocity = smallestMethod('velocity', 'velocities');

export const pooledShares: Method<{ shares: readonly number[] }> = {
  id: 'pooled-shares',
  title: 'Scatter pooled over several points',
  formula: 's = \\sqrt{\\frac{1}{n}\\sum_i s_i^2}',
  inputs: { shares: { label: 'scatter at each point, as a share', symbol: 's_i', kind: 'percent' } },
  result: { label: 'one against the next, one standard deviation', symbol: 's', kind: 'percent' },
  source: 'Pooled experimental standard deviation (JCGM 100:2008, 4.2.4, equal degrees of freedom).',
  compute: ({ shares }) => Math.sqrt(mean(shares.map((s) => s * s))),
};

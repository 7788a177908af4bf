import { USUAL_REPEATABILITY } from '../flow/compare.js';
import { mean } from '../method/mean.js';
import { noted, work, type Method, type Noted, type Working } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

/** Degrees of freedom from which the bench's own scatter speaks instead of the usual one. */
export const ENOUGH_PULLS = 10;

export const pooledRepeatability: Method<{ squares: number; freedom: number }> = {
  id: 'pooled-repeatability',
  title: 'Repeatability of the bench',
  formula: '\\sigma = \\sqrt{\\frac{1}{\\nu}\\sum_{points}\\sum_{pulls}\\left(\\frac{q}{\\bar q} - 1\\right)^2}',
  inputs: {
    squares: {
      label: 'squared deviations from each point’s mean, as shares, summed',
      symbol: '\\Sigma',
      kind: 'ratio',
    },
    freedom: { label: 'pulls beyond the first of each point', symbol: '\\nu', kind: 'count' },
  },
  result: { label: 'repeatability, one standard deviation', symbol: '\\sigma', kind: 'percent' },
  source: 'Pooled standard deviation: JCGM 100:2008, 4.2.4.',
  caution: 'It knows what happens between pulls, not what a new day or a new set-up does.',
  compute: ({ squares, freedom }) => {
    if (freedom < 1) throw refusal('nothingPulledTwice');
    return Math.sqrt(squares / freedom);
  },
};

/** What repeated pulls say, so that it adds up over any number of sheets. */
export interface PullTally {
  /** Squared deviations from each point's mean, as shares, summed. */
  readonly squares: number;
  /** Pulls beyond the first of each point. */
  readonly freedom: number;
}

export function tallyPulls(pulls: readonly (readonly number[])[]): PullTally {
  let squares = 0;
  let freedom = 0;
  for (const point of pulls) {
    if (point.length < 2) continue;
    const level = mean(point);
    if (level <= 0) continue;
    squares += point.reduce((s, q) => s + (q / level - 1) ** 2, 0);
    freedom += point.length - 1;
  }
  return { squares, freedom };
}

/** Repeatability of a bench from what its pulls say; the usual one, said so, while there are too few. */
export function repeatabilityFrom({ squares, freedom }: PullTally): Working | Noted<number> {
  if (freedom < ENOUGH_PULLS || squares <= 0)
    return noted(USUAL_REPEATABILITY, `usual value; ${freedom} repeated pulls are too few to tell the bench’s own`);
  return work(pooledRepeatability, { squares, freedom });
}

/** Repeatability of a bench from every point pulled more than once. `pulls` holds the flows of each point, one list a point. */
export const repeatabilityOf = (pulls: readonly (readonly number[])[]): Working | Noted<number> =>
  repeatabilityFrom(tallyPulls(pulls));

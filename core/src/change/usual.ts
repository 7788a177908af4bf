/** What a kind of cut usually buys in this shop, and what the next specimen of a kind may be expected to read. */
import { deviation, mean } from '../method/mean.js';
import type { Method } from '../method/method.js';
import { studentQuantile } from '../uncertainty/normal.js';
import { refusal } from '../refusal/refusal.js';

/** Share of the next values that lies within an interval. */
const WITHIN = 0.95;

/** How far one more value may lie from the mean of `values`: t s √(1 + 1/n), 95 %. */
const reach = (values: readonly number[]): number => {
  const s = deviation(values);
  if (s === undefined) throw refusal('spreadOfOne');
  return studentQuantile(1 - WITHIN, values.length - 1) * s * Math.sqrt(1 + 1 / values.length);
};

const prediction = (
  kind: 'flow' | 'percent',
  id: string,
  label: string,
  of: string,
): Method<{ values: readonly number[] }> => ({
  id,
  title: 'How far the next one may lie from the mean',
  formula: 'h = t_{0.975,\\,n-1}\\,s\\sqrt{1 + \\tfrac{1}{n}}',
  inputs: { values: { label: of, symbol: 'x_i', kind } },
  result: { label, symbol: 'h', kind },
  source:
    'Prediction interval of a normal population, 95 %: NIST/SEMATECH e-Handbook of Statistical Methods, 7.2.6.2 (from memory).',
  caution: 'With two or three values it is wide, and rightly so.',
  compute: ({ values }) => reach(values),
});

export const nextGain = prediction(
  'percent',
  'next-gain',
  'next gain, either side of the mean',
  'gain of each such cut',
);
export const nextSpecimen = prediction(
  'flow',
  'next-specimen',
  'next specimen, either side of the mean',
  'flow of each specimen',
);

/** One cut made by itself, flowed before and after in the same way. */
export interface CutMade {
  /** Gain of the mean flow, as a share of what it was. */
  readonly gain: number;
  readonly hours?: number | undefined;
  readonly cost?: number | undefined;
}

export interface UsualGain {
  readonly count: number;
  readonly gain: number;
  /** Half width of the interval for the next one; undefined with a single one. */
  readonly next?: number;
  readonly hours?: number;
  readonly cost?: number;
}

/** What such cuts bought so far; undefined without any. */
export function usualGain(cuts: readonly CutMade[]): UsualGain | undefined {
  if (cuts.length === 0) return undefined;
  const gains = cuts.map((c) => c.gain);
  const known = (read: (c: CutMade) => number | undefined): number | undefined => {
    const values = cuts.flatMap((c) => read(c) ?? []);
    return values.length === 0 ? undefined : mean(values);
  };
  const hours = known((c) => c.hours);
  const cost = known((c) => c.cost);
  return {
    count: cuts.length,
    gain: mean(gains),
    ...(cuts.length > 1 ? { next: reach(gains) } : {}),
    ...(hours === undefined ? {} : { hours }),
    ...(cost === undefined ? {} : { cost }),
  };
}

export interface SpecimenOff<T> {
  readonly specimen: T;
  readonly value: number;
  /** Above (or below) the mean of the others. */
  readonly off: number;
  /** Further off than one more of the others would be, 95 %; undefined where the others are too few to say. */
  readonly outside?: boolean;
}

/** Each specimen against the others of its article. */
export function specimensApart<T>(
  specimens: readonly { readonly specimen: T; readonly value: number }[],
): SpecimenOff<T>[] {
  return specimens.map(({ specimen, value }, i) => {
    const others = specimens.filter((_, k) => k !== i).map((s) => s.value);
    const off = others.length === 0 ? 0 : value - mean(others);
    return { specimen, value, off, ...(others.length > 1 ? { outside: Math.abs(off) > reach(others) } : {}) };
  });
}

/** Whether two heads, stages or ports are told apart: each difference against what measuring twice would give. */
import { countsBeyond } from '../flow/compare.js';
import type { FlowCurve } from '../flow/curve.js';
import { mean } from '../method/mean.js';
import { work, type Method, type Working } from '../method/method.js';
import type { Kind } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

/** A difference in units of what measuring twice would give; one method a kind of quantity, so that the working shows its units. */
export const toldApart = (kind: Kind): Method<{ a: number; b: number; twice: number }> => ({
  id: 'told-apart',
  title: 'A difference against what measuring twice would give',
  formula: 'r = \\frac{|b - a|}{u}',
  inputs: {
    a: { label: 'the one', symbol: 'a', kind },
    b: { label: 'the other', symbol: 'b', kind },
    twice: { label: 'what measuring twice would give', symbol: 'u', kind },
  },
  result: { label: 'multiple of repeatability', symbol: 'r', kind: 'ratio' },
  source:
    'Sizes: the shop’s own limits, else common practice, no source. Flow: 2√2 σ (JCGM 100:2008, 5.1.2 and 6.3.3).',
  compute: ({ a, b, twice }) => {
    if (!(twice > 0)) throw refusal('repeatsWithoutSpread');
    return Math.abs(b - a) / twice;
  },
});

/** One thing looked at on both. */
export interface Likeness {
  readonly what: string;
  readonly group: 'valve job' | 'sizes' | 'port' | 'chamber' | 'springs' | 'intake flow' | 'exhaust flow';
  readonly kind: Kind;
  readonly a: number;
  readonly b: number;
  readonly times: Working;
  readonly counts: boolean;
}

/** Holds two values against each other. `twice` is the smallest difference that counts, in their unit. */
export function likeness(
  what: string,
  group: Likeness['group'],
  kind: Kind,
  a: number,
  b: number,
  twice: number,
): Likeness {
  const times = work(toldApart(kind), { a, b, twice });
  return { what, group, kind, a, b, times, counts: times.value > 1 + 1e-9 };
}

/** Chance of at least `k` of `n` independent looks passing a limit each passes with chance `p`: the binomial tail. */
export function chanceOfAtLeast(k: number, n: number, p: number): number {
  let term = (1 - p) ** n;
  let below = 0;
  for (let i = 0; i < k; i++) {
    below += term;
    term *= ((n - i) / (i + 1)) * (p / (1 - p));
  }
  return Math.max(0, 1 - below);
}

/** One look in twenty passes 2√2 σ by chance. */
const BY_CHANCE = 0.05;

export interface FlowLikeness {
  readonly points: readonly Likeness[];
  /** Mean of the relative differences; undefined without a shared lift. */
  readonly mean?: number;
  /** Whether the two curves are told apart, and not by a point or two that chance would pass. */
  readonly toldApart: boolean;
}

/**
 * Two curves at the lifts both reach (m). A point counts beyond 2√2 σ, which one in twenty passes by chance; so the curves
 * are told apart only when their mean difference counts, or more points do than chance would pass one time in twenty.
 */
export function flowLikeness(
  a: FlowCurve,
  b: FlowCurve,
  lifts: readonly number[],
  repeatability: number,
  side: 'intake' | 'exhaust',
  name: (lift: number) => string,
): FlowLikeness {
  const limit = countsBeyond(repeatability);
  const shares: number[] = [];
  const points = lifts.flatMap((lift): Likeness[] => {
    const [qa, qb] = [a.at(lift), b.at(lift)];
    if (!qa || !qb) return [];
    const middle = (qa + qb) / 2;
    shares.push((qb - qa) / middle);
    return [likeness(`${side} flow at ${name(lift)}`, `${side} flow`, 'flow', qa, qb, limit * middle)];
  });
  if (points.length === 0) return { points, toldApart: false };
  const level = mean(shares);
  const counting = points.filter((p) => p.counts).length;
  return {
    points,
    mean: level,
    toldApart:
      Math.abs(level) > limit || (counting > 0 && chanceOfAtLeast(counting, points.length, BY_CHANCE) < BY_CHANCE),
  };
}

export interface SameVerdict {
  readonly verdict: 'different' | 'not told apart' | 'nothing to compare';
  /** At most three, the strongest first, no two of one group while another has something to say. */
  readonly reasons: readonly Likeness[];
  /** How many things were looked at on both. */
  readonly looked: number;
  readonly counting: number;
}

/** The verdict over all that was looked at. Flow speaks for a side only when the whole curve is told apart. */
export function sameOrDifferent(
  sizes: readonly Likeness[],
  flow: { readonly intake?: FlowLikeness | undefined; readonly exhaust?: FlowLikeness | undefined },
): SameVerdict {
  const curves = [flow.intake, flow.exhaust].filter((f) => f !== undefined);
  const points = curves.flatMap((f) => f.points);
  const looked = sizes.length + points.length;
  if (looked === 0) return { verdict: 'nothing to compare', reasons: [], looked, counting: 0 };
  const counting = [
    ...sizes.filter((s) => s.counts),
    ...curves.filter((f) => f.toldApart).flatMap((f) => f.points.filter((p) => p.counts)),
  ].sort((x, y) => y.times.value - x.times.value);
  const first = counting.filter((l, i) => counting.findIndex((o) => o.group === l.group) === i);
  const rest = counting.filter((l) => !first.includes(l));
  // A curve told apart by its mean alone has no single point that counts.
  const quiet = curves.some((f) => f.toldApart && !f.points.some((p) => p.counts));
  return {
    verdict: counting.length > 0 || quiet ? 'different' : 'not told apart',
    reasons: [...first, ...rest].slice(0, 3),
    looked,
    counting: counting.length,
  };
}

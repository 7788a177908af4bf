/** What one set-up differs from the next, and one bench from another, learnt from ports that were tested again. */
import {
  benchUncertainty,
  mean,
  meanLogDifference,
  USUAL_FREEDOM,
  USUAL_PRIORS,
  type Assumptions,
  type BenchContrast,
  type BenchSpread,
  type HeadPriors,
  type PortTest,
  type Prior,
} from '@alluvium/core';
import type { Head } from './nouns/head.js';
import type { Sheet } from './nouns/sheet.js';

// g[]!, of[]!: a group holds one at least.

/** Squares of what tests of one port lie apart, and how many of them are free. */
export interface Tally {
  readonly squares: number;
  readonly freedom: number;
}

/**
 * Squared deviations of groups of tests from their mean, from their differences: the sum over all pairs over the count of
 * groups, each pair over what it is held against. The order of groups and tests does not matter.
 */
function tallyOf(
  groups: readonly (readonly PortTest[])[],
  scale: (a: readonly PortTest[], b: readonly PortTest[]) => number = () => 1,
): Tally {
  let squares = 0;
  let tied = 0;
  groups.forEach((a, i) =>
    groups.slice(0, i).forEach((b) => {
      const off = a.flatMap((p) =>
        b.flatMap((q) => meanLogDifference(p.result.intake.points, q.result.intake.points) ?? []),
      );
      if (off.length === 0) return;
      squares += (mean(off) / scale(a, b)) ** 2;
      tied++;
    }),
  );
  return tied === 0 ? { squares: 0, freedom: 0 } : { squares: squares / groups.length, freedom: groups.length - 1 };
}

export const sumOfTallies = (tallies: readonly Tally[]): Tally => ({
  squares: tallies.reduce((s, t) => s + t.squares, 0),
  freedom: tallies.reduce((s, t) => s + t.freedom, 0),
});

/**
 * A standard deviation learnt from differences on top of what is usual, known from `freedom` degrees of freedom: the
 * conjugate prior of a variance (A. Gelman and others, Bayesian Data Analysis, 3rd ed. (2013), 2.6). A normal deviation with
 * such a spread is Student's; this is its standard deviation.
 */
export function learnt(usual: number, freedom: number, { squares, freedom: n }: Tally): number {
  return Math.sqrt((squares + (freedom - 2) * usual ** 2) / (freedom + n - 2));
}

/** One port tested more than once. `repeats` are tests by one bench with nothing changed between them. */
export interface TestedPort {
  readonly tests: readonly (PortTest & { readonly sheet: Sheet })[];
  readonly isRepeat: (a: Sheet, b: Sheet) => boolean;
}

/** What set-ups differ by on ports that one bench tested again with nothing changed. */
export const repeatsTally = (ports: readonly TestedPort[]): Tally =>
  sumOfTallies(
    ports.map(({ tests, isRepeat }) => {
      const groups: TestedPort['tests'][number][][] = [];
      for (const test of tests) {
        const group = groups.find((g) => isRepeat(g[0]!.sheet, test.sheet));
        if (group) group.push(test);
        else groups.push([test]);
      }
      return sumOfTallies(groups.map((g) => tallyOf(g.map((test) => [test]))));
    }),
  );

/** What benches differ by on one port: each bench by the mean of its tests, against one of them. */
export function benchContrast({ tests }: TestedPort): BenchContrast | undefined {
  const [first] = tests;
  if (!first) return undefined;
  const byBench = new Map<string, number[]>();
  for (const test of tests) {
    const off = test === first ? 0 : meanLogDifference(test.result.intake.points, first.result.intake.points);
    const bench = test.facts?.bench;
    if (off !== undefined && bench !== undefined) byBench.set(bench, [...(byBench.get(bench) ?? []), off]);
  }
  return byBench.size < 2
    ? undefined
    : { benches: [...byBench.keys()], logs: [...byBench.values()].map((offs) => mean(offs)) };
}

/** What was measured of one head that others may be taken to have: natural logarithms. */
export interface HeadShares {
  readonly class: Head['class'];
  /** Best exhaust flow over best intake flow. */
  readonly exhaust?: number;
  /** Best flow over the least area, m/s. */
  readonly speed?: number;
}

/** What the tests of a whole shop say of set-ups and of benches, and what its heads are. */
export interface ShopSpreads {
  readonly repeats: Tally;
  readonly bench: BenchSpread;
  /** Of all heads, and of each class enough of which were measured. */
  readonly priors: Readonly<Partial<Record<Head['class'] | 'all', HeadPriors>>>;
}

/** So many heads of the trade stand behind what is usual. Common practice, no source. */
const BEHIND_USUAL = 6;
/** A class speaks for itself from so many heads on. */
const ENOUGH_OF_CLASS = 5;

/** What is usual with what was measured besides: as if so many more heads had been seen (A. Gelman and others, 3.3). */
function learntPrior(usual: Prior, seen: readonly number[]): Prior {
  const count = BEHIND_USUAL + seen.length;
  const level = (BEHIND_USUAL * usual.mean + seen.reduce((s, x) => s + x, 0)) / count;
  const squares =
    BEHIND_USUAL * (usual.u ** 2 + (usual.mean - level) ** 2) + seen.reduce((s, x) => s + (x - level) ** 2, 0);
  return { mean: level, u: Math.sqrt(squares / (count - 1)) };
}

/** What heads usually are, by those a shop measured; of a class by its own once there are enough. */
export function priorsFrom(heads: readonly HeadShares[]): ShopSpreads['priors'] {
  const of = (list: readonly HeadShares[]): HeadPriors => ({
    exhaust: learntPrior(
      USUAL_PRIORS.exhaust,
      list.flatMap((h) => h.exhaust ?? []),
    ),
    speed: learntPrior(
      USUAL_PRIORS.speed,
      list.flatMap((h) => h.speed ?? []),
    ),
  });
  const classes = [...new Set(heads.map((h) => h.class))].filter(
    (c) => c !== 'unknown' && heads.filter((h) => h.class === c).length >= ENOUGH_OF_CLASS,
  );
  return {
    all: of(heads),
    ...Object.fromEntries(classes.map((c) => [c, of(heads.filter((h) => h.class === c))])),
  };
}

/**
 * The shop's figures with the spreads as its tests say, of set-ups and of benches that nothing was checked of; and what heads of
 * this class usually are.
 */
export function withShop(usual: Assumptions, { repeats, bench, priors }: ShopSpreads, of: Head['class']): Assumptions {
  const times = bench.u / usual.otherBench;
  return {
    ...usual,
    setup: learnt(usual.setup, USUAL_FREEDOM.setup, repeats),
    otherBench: bench.u,
    uncheckedBench: usual.uncheckedBench * times,
    freedom: { setup: USUAL_FREEDOM.setup + repeats.freedom, bench: bench.freedom },
    priors: priors[of] ?? priors.all ?? USUAL_PRIORS,
  };
}

/** The shop's figures with the set-up's spread as these ports say, a standard deviation. */
export function spreadsFrom(ports: readonly TestedPort[], usual: Assumptions): Assumptions {
  const repeats = repeatsTally(ports);
  return {
    ...usual,
    setup: learnt(usual.setup, USUAL_FREEDOM.setup, repeats),
    freedom: { setup: USUAL_FREEDOM.setup + repeats.freedom, bench: USUAL_FREEDOM.bench },
  };
}

/**
 * What the benches of one port add to its mean by lying further apart than benches usually do, a standard deviation as a
 * share; 0 where they do not. It is the port's own: what each bench reads off stays one thing for all heads tested on it.
 */
export function benchesApart(tests: readonly PortTest[], usual: Assumptions): number {
  const byBench = [...new Set(tests.map((t) => t.facts?.bench))].map((bench) =>
    tests.filter((t) => t.facts?.bench === bench),
  );
  if (byBench.length < 2) return 0;
  const variance = (of: readonly PortTest[]) =>
    benchUncertainty(of[0]!.facts, usual) ** 2 + usual.setup ** 2 / of.length;
  const tally = tallyOf(byBench, (a, b) => Math.sqrt((variance(a) + variance(b)) / 2));
  const times = learnt(1, USUAL_FREEDOM.bench, tally);
  if (times <= 1) return 0;
  const mean = 1 / byBench.reduce((total, of) => total + 1 / variance(of), 0);
  return Math.sqrt((times ** 2 - 1) * mean);
}

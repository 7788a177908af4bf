/** What one set-up differs from the next, and one bench from another, learnt from ports that were tested again. */
import {
  benchUncertainty,
  mean,
  meanLogDifference,
  USUAL_FREEDOM,
  type Assumptions,
  type PortTest,
} from '@alluvium/core';
import type { Sheet } from './nouns/sheet.js';

// g[]!, of[]!: a group holds one at least.

/** Squares of what tests of one port lie apart, and how many of them are free. */
interface Tally {
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

const sum = (tallies: readonly Tally[]): Tally => ({
  squares: tallies.reduce((s, t) => s + t.squares, 0),
  freedom: tallies.reduce((s, t) => s + t.freedom, 0),
});

/**
 * A standard deviation learnt from differences on top of what is usual, known from `freedom` degrees of freedom: the
 * conjugate prior of a variance (A. Gelman and others, Bayesian Data Analysis, 3rd ed. (2013), 2.6). A normal deviation with
 * such a spread is Student's; this is its standard deviation.
 */
function learnt(usual: number, freedom: number, { squares, freedom: n }: Tally): number {
  return Math.sqrt((squares + (freedom - 2) * usual ** 2) / (freedom + n - 2));
}

/** One port tested more than once. `repeats` are tests by one bench with nothing changed between them. */
export interface TestedPort {
  readonly tests: readonly (PortTest & { readonly sheet: Sheet })[];
  readonly isRepeat: (a: Sheet, b: Sheet) => boolean;
}

/** The shop's figures with the set-up's spread as the ports that were tested again say, a standard deviation. */
export function spreadsFrom(ports: readonly TestedPort[], usual: Assumptions): Assumptions {
  const repeated = ports.map(({ tests, isRepeat }) => {
    const groups: TestedPort['tests'][number][][] = [];
    for (const test of tests) {
      const group = groups.find((g) => isRepeat(g[0]!.sheet, test.sheet));
      if (group) group.push(test);
      else groups.push([test]);
    }
    return sum(groups.map((g) => tallyOf(g.map((test) => [test]))));
  });
  const { squares, freedom } = sum(repeated);
  return {
    ...usual,
    setup: learnt(usual.setup, USUAL_FREEDOM.setup, { squares, freedom }),
    freedom: { setup: USUAL_FREEDOM.setup + freedom, bench: USUAL_FREEDOM.bench },
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

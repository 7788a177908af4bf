import {
  evaluateSheet,
  evaluateTarget,
  judgeHead,
  matchHead,
  type Build,
  type HeadGeometry,
  type Runner,
} from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { madeUpFacts } from './test/facts.js';
import { CFM, HP, INCH, numbers } from './test/numbers.js';

/**
 * Never surer by knowing less. Heads are made up here, with the trade's own figures of what is usual (common practice, no
 * source): 255 ft/s at the least area for what a port flows, give or take 12 %; an exhaust of 74 % of the intake, give or take
 * nine hundredths of it.
 */
const HEADS = Number(process.env.KNOWING_HEADS ?? 500);
/** What each head's record could have said. */
const DRAWS = 6;
const FOOT = 0.3048;
const USUAL_SPEED = 255 * FOOT;
const USUAL_RATIO = 0.74;

const OWN = { own: true, bench: 'own', checked: true } as const;

/** One head at the edge of what its target asks, as it may be known. */
function madeUp({ uniform }: ReturnType<typeof numbers>) {
  const bore = (3.6 + 0.8 * uniform()) * INCH;
  const stroke = (3.2 + 0.8 * uniform()) * INCH;
  const lift = (0.4 + 0.2 * uniform()) * INCH;
  const top = (170 + 120 * uniform()) * CFM;
  const rise = (0.12 + 0.06 * uniform()) * INCH;
  const flow = (l: number) => top * Math.tanh(l / (1.6 * rise));
  // The speed at which the usual area just suffices, or somewhat more or less of it.
  const usualArea = flow(lift) / USUAL_SPEED;
  const speed =
    ((613 * FOOT * usualArea) / (1.618 * 2 * stroke * (Math.PI / 4) * bore ** 2)) * (0.8 + 0.35 * uniform());
  const build: Build = {
    bore,
    stroke,
    cylinders: 6,
    fuel: 'petrol',
    induction: { kind: 'natural' },
    power: ((0.257 * HP) / CFM) * flow(lift) * 6 * (0.85 + 0.3 * uniform()),
    speed,
    cam: { intakeLift: lift, rockerRatio: 1.5 },
  };
  const target = evaluateTarget(build);
  interface Known {
    /** Least area measured. */
    readonly area?: number;
    /** Exhaust over intake; none was flowed where it is left out. */
    readonly ratio?: number;
    /** A second test, reading so much of the first. */
    readonly again?: number;
  }
  const test = (id: string, times: number, ratio: number | undefined): Runner => ({
    name: id,
    facts: madeUpFacts(id, OWN),
    sheet: evaluateSheet(
      { reads: 'flow', depression: 28 * 249.089 },
      Array.from({ length: 7 }, (_, i) => {
        const at = 0.1 * (i + 1) * INCH;
        return {
          lift: at,
          intake: { pulls: [flow(at) * times] },
          ...(ratio === undefined ? {} : { exhaust: { pulls: [ratio * flow(at) * times] } }),
        };
      }),
      {},
      id,
    ),
  });
  const odds = ({ area, ratio, again }: Known): number => {
    const geometry: HeadGeometry = area === undefined ? {} : { pinch: area };
    const one = test('a', 1, ratio);
    const two = again === undefined ? undefined : test('b', again, ratio);
    const mean = two && test('a', Math.sqrt(again!), ratio);
    const runner: Runner =
      two && mean ? { ...mean, geometry, tests: [one, two], pooled: { count: 2 } } : { ...one, geometry };
    const match = matchHead(build, target, geometry, [runner]);
    return judgeHead(build, target, geometry, match).odds!;
  };
  return { odds, usualArea };
}

const fromHalf = (odds: number): number => Math.abs(odds - 0.5);

describe(`what is known of ${HEADS} made-up heads`, () => {
  it('(b) not knowing never makes it surer that a head carries; (c) a test that reads what was expected never makes it less sure', () => {
    const random = numbers(20261202);
    const wrong: string[] = [];
    for (let i = 0; i < HEADS; i++) {
      const { odds, usualArea } = madeUp(random);
      const known = odds({ area: usualArea, ratio: USUAL_RATIO });
      // A limit nobody measured is one more that may hold the head back. Of limits the least counts, so that one unknown at a
      // usual value that suffices takes from the odds, also below one half: there (b) of a single margin and (a) exclude each
      // other. Above one half nothing is gained by it. Two hundredths, as odds are counted from draws.
      const unknown = { area: odds({ ratio: USUAL_RATIO }), exhaust: odds({ area: usualArea }) };
      for (const [what, without] of Object.entries(unknown))
        if (without > Math.max(known, 0.5) + 0.02)
          wrong.push(`head ${i}, ${what}: ${without.toFixed(3)} without, ${known.toFixed(3)} with`);
      const again = odds({ area: usualArea, ratio: USUAL_RATIO, again: 1 });
      if (fromHalf(known) > fromHalf(again) + 0.02)
        wrong.push(`head ${i}, second test: ${known.toFixed(3)} without, ${again.toFixed(3)} with`);
    }
    expect(wrong).toEqual([]);
  }, 600_000);

  it('(a) odds with a record, averaged over what it could have said, equal the odds without it', () => {
    const random = numbers(7);
    const bins = Array.from({ length: 10 }, () => ({ n: 0, without: 0, having: 0 }));
    for (let i = 0; i < HEADS; i++) {
      const { odds, usualArea } = madeUp(random);
      const without = odds({ ratio: USUAL_RATIO });
      let having = 0;
      for (let d = 0; d < DRAWS; d++) {
        // One of each of DRAWS equal shares of what is believed of the area: middles of a normal distribution's sixths.
        const z = [-1.383, -0.674, -0.21, 0.21, 0.674, 1.383][d]!;
        having += odds({ area: usualArea * Math.exp(-0.12 * z), ratio: USUAL_RATIO }) / DRAWS;
      }
      const bin = bins[Math.min(9, Math.floor(without * 10))]!;
      bin.n++;
      bin.without += without;
      bin.having += having;
    }
    for (const { n, without, having } of bins.filter((b) => b.n >= 25))
      expect(Math.abs(having - without) / n, `${n} heads at ${(without / n).toFixed(2)}`).toBeLessThan(0.02);
  }, 600_000);
});

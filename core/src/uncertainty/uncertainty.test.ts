import { describe, expect, it } from 'vitest';
import { noted, work, type Method } from '../method/method.js';
import { peakFlowPower, ratioDeratedPower } from '../power/schools.js';
import { cfm, horsepower, horsepowerPerCfm } from '../quantity/units.js';
import { DEGREES, degreeOf, leastSure } from './degree.js';
import { deviationAt, meanDeviation, narrowed, standardUncertainty, type Leaf, type Spread } from './leaf.js';
import { normalQuantile, normalShare, studentQuantile } from './normal.js';
import { DRAWS, budgetOf, combined, deviations, leastOf, moments, responses, shareAbove } from './propagate.js';
import { budgetOfWorking, digitsWorth, type LeafBook } from './working.js';

const leaf = (id: string, value: number, spread: Spread): Leaf => ({ id, label: id, value, spread, source: 'test' });
const quantile = (values: Float64Array, p: number) => [...values].sort((a, b) => a - b)[Math.floor(p * values.length)]!;
const sumOf = (spreads: readonly Spread[]) => ({
  leaves: spreads.map((s, i) => leaf(`x${i}`, 0, s)),
  evaluate: (x: ArrayLike<number>) => [Array.from(x).reduce((a, b) => a + b, 0)],
});

describe('normal shares', () => {
  // Abramowitz and Stegun, table 26.1 (from memory): P(1) 0.841344746, P(1.96) 0.975002105, P(3) 0.998650102.
  it.each([
    [0, 0.5],
    [1, 0.841344746],
    [-1, 0.158655254],
    [1.96, 0.975002105],
    [3, 0.998650102],
    [4, 0.999968329],
  ])('below %f', (z, p) => {
    expect(normalShare(z)).toBeCloseTo(p, 8);
    expect(normalQuantile(p)).toBeCloseTo(z, 5);
  });
});

describe('Student’s distribution', () => {
  // Two-sided 95 %: tables of any handbook (from memory), three decimals.
  it.each([
    [1, 12.706],
    [2, 4.303],
    [3, 3.182],
    [5, 2.571],
    [10, 2.228],
    [30, 2.042],
    [120, 1.98],
  ])('with %i degrees of freedom', (freedom, t) => expect(studentQuantile(0.05, freedom)).toBeCloseTo(t, 3));
});

describe('shapes', () => {
  it('have the deviations of JCGM 100:2008, 4.3.7 and 4.3.9: half over √3, half over √6', () => {
    expect(standardUncertainty({ shape: 'uniform', half: 3 })).toBeCloseTo(Math.sqrt(3), 12);
    expect(standardUncertainty({ shape: 'triangular', low: 3, high: 3 })).toBeCloseTo(3 / Math.sqrt(6), 12);
  });
  it('of power per flow: the variance of a triangle (a² + b² + c² − ab − ac − bc)/18', () => {
    const [a, c, b] = [0.24, 0.257, 0.28];
    const spread: Spread = { shape: 'triangular', low: c - a, high: b - c };
    expect(standardUncertainty(spread) ** 2).toBeCloseTo((a * a + b * b + c * c - a * b - a * c - b * c) / 18, 12);
    expect(meanDeviation(spread)).toBeCloseTo((a + b + c) / 3 - c, 12);
  });
  it.each<Spread>([
    { shape: 'normal', u: 2 },
    { shape: 'uniform', half: 2 },
    { shape: 'triangular', low: 1, high: 3 },
  ])('are drawn with the mean and deviation they state: %o', (spread) => {
    const values = Float64Array.from({ length: 20_000 }, (_, i) => deviationAt(spread, (i + 0.5) / 20_000));
    expect(moments(values).mean).toBeCloseTo(meanDeviation(spread), 3);
    expect(moments(values).u).toBeCloseTo(standardUncertainty(spread), 2);
    expect(standardUncertainty(narrowed(spread, 0.1))).toBeCloseTo(0.1, 12);
  });
});

/** JCGM 101:2008, 9.2, the additive model of four inputs; its figures from memory. */
describe('the worked example of JCGM 101:2008, 9.2', () => {
  const four = (spread: Spread) => sumOf([spread, spread, spread, spread]);
  const interval = (model: ReturnType<typeof sumOf>) => {
    const { base, of } = responses(model);
    const draws = leastOf(base, deviations(of, 1));
    return { u: combined(of, 0), low: quantile(draws, 0.025), high: quantile(draws, 0.975) };
  };
  it('9.2.2, normal inputs: u 2.0, 95 % within ±3.92', () => {
    const { u, low, high } = interval(four({ shape: 'normal', u: 1 }));
    expect(u).toBeCloseTo(2, 9);
    expect(low).toBeCloseTo(-3.92, 0);
    expect(Math.abs(high - 3.92)).toBeLessThan(0.15);
  });
  it('9.2.3, rectangular inputs of deviation 1: u 2.0, 95 % within ±3.88', () => {
    const { u, low, high } = interval(four({ shape: 'uniform', half: Math.sqrt(3) }));
    expect(u).toBeCloseTo(2, 9);
    expect(Math.abs(high - 3.88)).toBeLessThan(0.12);
    expect(Math.abs(low + 3.88)).toBeLessThan(0.12);
  });
  it('9.2.4, one of them ten times as wide: u 10.1, 95 % within ±17.0 and not ±19.9', () => {
    const one: Spread = { shape: 'uniform', half: Math.sqrt(3) };
    const { u, high } = interval(sumOf([one, one, one, { shape: 'uniform', half: 10 * Math.sqrt(3) }]));
    expect(u).toBeCloseTo(10.1, 1);
    expect(Math.abs(high - 17)).toBeLessThan(0.4);
  });
});

describe('a model', () => {
  it('whose response bends is evaluated itself: the mean of x² is u², which no slope at 0 finds', () => {
    const model = {
      leaves: [leaf('bent', 0, { shape: 'normal', u: 1 })],
      evaluate: (x: ArrayLike<number>) => [x[0]! ** 2],
    };
    const { base, of } = responses(model);
    expect(of[0]!.grid).toBeDefined();
    expect(Math.abs(moments(leastOf(base, deviations(of, 1))).mean - 1)).toBeLessThan(0.1);
  });
  it('whose response is a line on either side: both ends, and the mean half a slope’s difference of the mean |z|', () => {
    const bent = leaf('two-sided', 0, { shape: 'uniform', half: 1 });
    const off = deviations([{ leaf: bent, change: [1.5, 0], sides: { low: [-1, 2], high: [2, 2] } }], 2);
    // A uniform spread ends at √3 of its deviations, and its mean |z| is √3/2.
    expect(Math.min(...off[0]!)).toBeCloseTo(-Math.sqrt(3), 2);
    expect(Math.max(...off[0]!)).toBeCloseTo(2 * Math.sqrt(3), 2);
    expect(moments(off[0]!).mean).toBeCloseTo(Math.sqrt(3) / 4, 4);
    expect(moments(off[1]!).mean).toBeCloseTo(Math.sqrt(3), 4);
    expect(Math.min(...off[1]!)).toBeGreaterThanOrEqual(0);
  });
  it('shares its leaves with others: what is shared cancels in a difference', () => {
    const shared = leaf('shared', 1, { shape: 'normal', u: 0.2 });
    const model = (own: string) => ({
      leaves: [shared, leaf(own, 0, { shape: 'normal', u: 0.05 })],
      evaluate: (x: ArrayLike<number>) => [Math.log(x[0]!) + x[1]!],
    });
    const draws = (own: string) => {
      const { base, of } = responses(model(own));
      return leastOf(base, deviations(of, 1));
    };
    const [a, b] = [draws('a'), draws('b')];
    const difference = a.map((v, d) => v - b[d]!);
    // Closed form: √2 × 0.05, whatever the shared leaf is.
    expect(moments(difference).u).toBeCloseTo(Math.SQRT2 * 0.05, 3);
    expect(moments(a).u).toBeGreaterThan(0.2);
  });
  it('of a minimum: two independent limits at even odds each are both passed one time in four', () => {
    const model = {
      leaves: [leaf('p', 0, { shape: 'normal', u: 1 }), leaf('q', 0, { shape: 'normal', u: 1 })],
      evaluate: (x: ArrayLike<number>) => [x[0]!, x[1]!],
    };
    const { base, of } = responses(model);
    expect(Math.abs(shareAbove(leastOf(base, deviations(of, 2))) - 0.25)).toBeLessThan(0.02);
    expect(DRAWS).toBe(4000);
  });
  it('gives each leaf its share of the variance', () => {
    const { of } = responses(
      sumOf([
        { shape: 'normal', u: 3 },
        { shape: 'normal', u: 4 },
      ]),
    );
    expect(budgetOf(of, 0).map((s) => [s.leaf.id, s.share])).toEqual([
      ['x1', expect.closeTo(0.64, 9)],
      ['x0', expect.closeTo(0.36, 9)],
    ]);
  });
});

describe('the budget of a working', () => {
  const k = leaf('k', horsepowerPerCfm(0.257), { shape: 'normal', u: horsepowerPerCfm(0.01) });
  const setup = leaf('setup', 0, { shape: 'normal', u: 0.01 });
  const book: LeafBook = {
    leaves: new Map([['k', k]]),
    made: new Map([['flow', [{ leaf: setup, change: cfm(2) }]]]),
  };
  const power = work(peakFlowPower, {
    powerPerFlow: noted(k.value, '', 'k'),
    flow: noted(cfm(200), 'best', 'flow'),
    cylinders: 6,
    charge: 1,
  });
  it('is the closed form of a product, through figures made of leaves', () => {
    const budget = budgetOfWorking(power, book)!;
    expect(budget.u / power.value).toBeCloseTo(Math.hypot(0.01 / 0.257, 0.01), 9);
    expect(budget.shares[0]!.leaf.id).toBe('k');
    expect(budget.shares.reduce((s, x) => s + x.share, 0)).toBeCloseTo(1, 9);
  });
  it('moves a leaf that stands in several places in all of them at once', () => {
    // k Q n × min(1, E/Q): the intake flow cancels, and with it its uncertainty.
    const derated = work(ratioDeratedPower, {
      peakFlowPower: power,
      exhaust: cfm(140),
      intake: noted(cfm(200), 'best', 'flow'),
    });
    expect(budgetOfWorking(derated, book)!.u / derated.value).toBeCloseTo(0.01 / 0.257, 9);
  });
  it('is not known where nothing it rests on is', () => {
    const plain: Method<{ power: number }> = {
      ...peakFlowPower,
      inputs: { power: { label: 'p', symbol: 'p', kind: 'power' } },
      compute: ({ power: p }) => p,
    };
    expect(budgetOfWorking(work(plain, { power: horsepower(1) }), book)).toBeUndefined();
  });
  it.each([
    [0.3, 1],
    [4, 0],
    [40, 0],
    [0.02, 2],
  ])('an uncertainty of %f leaves %i digits after the point', (u, digits) => {
    expect(digitsWorth(u, 3)).toBe(digits);
  });
});

describe('degrees', () => {
  it.each([
    [0.99, 'carries'],
    [0.95, 'carries'],
    [0.8, 'probably carries'],
    [0.5, "can't be told"],
    [0.25, 'probably short'],
    [0.05, 'falls short'],
    [undefined, "can't be told"],
  ] as const)('of odds %s', (odds, degree) => expect(degreeOf(odds)).toBe(degree));
  it('are held back by the evidence, upwards or both ways', () => {
    expect(degreeOf(0.99, [{ most: 'probably carries' }])).toBe('probably carries');
    expect(degreeOf(0.01, [{ most: 'probably carries' }])).toBe('falls short');
    expect(degreeOf(0.01, [{ most: 'probably carries', least: 'probably short' }])).toBe('probably short');
    expect(degreeOf(0.99, [{ most: 'probably carries' }, { most: "can't be told", least: "can't be told" }])).toBe(
      "can't be told",
    );
  });
  it('of answers that contradict each other say nothing', () => {
    expect(leastSure(['carries', 'probably carries'])).toBe('probably carries');
    expect(leastSure(['carries', 'falls short'])).toBe("can't be told");
    expect(leastSure(['falls short', 'probably short'])).toBe('probably short');
    expect(DEGREES).toHaveLength(5);
  });
});

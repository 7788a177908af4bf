import { describe, expect, it } from 'vitest';
import { fromSi, unitNamed } from '../quantity/units.js';
import { random } from '../uncertainty/random.js';
import { normalQuantile } from '../uncertainty/normal.js';
import { shareLeaf } from '../uncertainty/leaves.js';
import { budgetOfWorking } from '../uncertainty/working.js';
import { costPerFlow, costPerGain, costPerTorque, lineCost, powerForMoney, wayCost, type CostLine } from './cost.js';
import { planLeaf, plannedFlow, plannedOdds } from './plan.js';
import type { HeadVerdict } from '../evaluate/verdict.js';
import { drawsOf } from '../uncertainty/propagate.js';
import { normalShare } from '../uncertainty/normal.js';
import { paretoEdge, rankWays, turnedRound, type Criterion } from './choice.js';

const line = (fields: Partial<CostLine>): CostLine => ({
  id: 'l',
  name: 'line',
  quantity: 1,
  price: 100,
  exchange: 1,
  tax: 'none',
  guess: 0,
  ...fields,
});

describe('what a way costs', () => {
  it('adds pieces, hours, exchange and tax as by hand', () => {
    // A pair at 640 abroad (1.12), 12 hours at 55, a core returned for 80, freight 45 with 20 % tax to come:
    // 1433.60 + 660 − 80 + 54 = 2067.60
    const { sum, u } = wayCost(
      'w',
      [
        line({ id: 'a', quantity: 2, price: 640, exchange: 1.12, tax: 'included' }),
        line({ id: 'b', quantity: 12, price: 55 }),
        line({ id: 'c', price: -80 }),
        line({ id: 'd', price: 45, tax: 'added' }),
      ],
      0.2,
    );
    expect(sum.value).toBeCloseTo(2067.6, 9);
    expect(u).toBe(0);
  });
  it('knows a guess from a quote: independent guesses add as squares', () => {
    const cost = wayCost('w', [line({ id: 'a', guess: 0.1 }), line({ id: 'b', price: 200, guess: 0.2 }), line({})], 0);
    const expected = Math.hypot(10, 40) / Math.sqrt(3);
    expect(cost.u).toBeCloseTo(expected, 12);
    expect(budgetOfWorking(cost.sum, cost.book)!.u).toBeCloseTo(expected, 9);
  });
  it('refuses an exchange rate of nothing and a negative quantity', () => {
    expect(() => lineCost.compute({ quantity: 1, price: 1, exchange: 0, tax: 0 })).toThrow('above zero');
    expect(() => lineCost.compute({ quantity: -1, price: 1, exchange: 1, tax: 0 })).toThrow('negative');
    expect(wayCost('w', [], 0).sum.value).toBe(0);
  });
  it('gives 2,000 for 85 cfm more as 11.3 a horsepower: 85 × 0.26 × 8 = 176.8', () => {
    const gain = 85 * 0.26 * 8;
    expect(gain).toBeCloseTo(176.8, 9);
    expect(costPerGain.compute({ cost: 2000, base: 0, gain })).toBeCloseTo(11.3, 1);
    expect(() => costPerGain.compute({ cost: 1, base: 0, gain: 0 })).toThrow('no more power');
    expect(fromSi(745.69987, unitNamed('power', 'hp')!)).toBeCloseTo(1, 5);
  });
});

describe('the edge of price against power', () => {
  it('is what a search of every pair finds', () => {
    const u = random(11);
    for (let k = 0; k < 50; k++) {
      const ways = Array.from({ length: 7 }, () => ({ cost: Math.round(8 * u()), power: Math.round(8 * u()) }));
      const edge = paretoEdge(ways);
      ways.forEach((w, i) => {
        const beaten = ways.some(
          (o, j) => j !== i && ((o.cost < w.cost && o.power >= w.power) || (o.cost <= w.cost && o.power > w.power)),
        );
        expect(edge[i]).toBe(!beaten);
      });
    }
  });
});

describe('how often a way wins', () => {
  const scored = (value: number, id: string, u: number) => ({
    value,
    parts: u > 0 ? [{ leaf: shareLeaf(id, id, 1), change: u }] : [],
  });
  const power = (scores: Criterion['scores'], weight = 1): Criterion => ({
    name: 'power',
    weight,
    less: false,
    scores,
  });
  it('is all or nothing when nothing is unsure', () => {
    const { marks, wins } = rankWays(3, [power([scored(1, 'a', 0), scored(3, 'b', 0), scored(2, 'c', 0)])]);
    expect(marks).toEqual([0, 1, 0.5]);
    expect(wins).toEqual([0, 1, 0]);
  });
  it('keeps what two ways share: a common error turns no order', () => {
    const { wins } = rankWays(2, [power([scored(10, 'k', 3), scored(11, 'k', 3)])]);
    expect(wins).toEqual([0, 1]);
    // The same errors apart: P(B > A) = Φ(1/√18).
    const apart = rankWays(2, [power([scored(10, 'x', 3), scored(11, 'y', 3)])]);
    expect(apart.wins[1]).toBeCloseTo(0.593, 1);
  });
  it('agrees with drawing it all by brute force', () => {
    const price: Criterion = { name: 'price', weight: 2, less: true, scores: [scored(5, 'pa', 0), scored(9, 'pb', 0)] };
    const { wins } = rankWays(2, [power([scored(10, 'qa', 2), scored(14, 'qb', 2)], 2), price]);
    // Two ways: A is first exactly where it is not the weaker by power, or price weighs more than power.
    const u = random(3);
    const z = () => normalQuantile(Math.min(0.99999, Math.max(0.00001, u())));
    let first = 0;
    for (let i = 0; i < 20_000; i++) {
      const [wp, wk] = [2 * Math.exp(0.3 * z()), 2 * Math.exp(0.3 * z())];
      const stronger = 10 + 2 * z() > 14 + 2 * z();
      if (stronger || wk > wp) first++;
    }
    expect(wins[0]).toBeCloseTo(first / 20_000, 1);
  });
  it('turns with the weights, and says nothing without any', () => {
    const scores = [scored(1, 'a', 0), scored(2, 'b', 0)];
    const cheap: Criterion = { name: 'price', weight: 1, less: true, scores };
    expect(rankWays(2, [power(scores, 3), cheap]).marks[1]).toBeGreaterThan(0.5);
    expect(rankWays(2, [power(scores, 1), { ...cheap, weight: 3 }]).marks[1]).toBeLessThan(0.5);
    expect(rankWays(2, [power(scores, 0)])).toEqual({ marks: [undefined, undefined], wins: [0, 0] });
    expect(rankWays(2, [power([undefined, scored(1, 'a', 0)])]).marks).toEqual([0.5, 0.5]);
  });
  it('sees two estimates disagree about the order: 443 and 480 hp by peak flow, 356 and 329 derated', () => {
    expect(turnedRound([443, 480], [355.7, 328.6])).toEqual([1, 0]);
    expect(turnedRound([443, 480], [300, 330])).toBeUndefined();
  });
});

describe('work that is planned', () => {
  const leaf = planLeaf('plan:w', 'w', 0.01);
  const verdict = (id: 'flow' | 'area'): HeadVerdict => {
    const draws = drawsOf(shareLeaf('margin', 'margin', 0.02)).map((d) => 0.03 + 0.02 * d);
    const limits = [{ id, margin: 0.03 }] as unknown as HeadVerdict['limits'];
    return { draws, limits, evidence: [], odds: normalShare(1.5) } as unknown as HeadVerdict;
  };
  it('is counted in the odds as an error of its own: Φ(0.03 / √(0.02² + 0.05²))', () => {
    // A band of 0.01 m³/s is two uncertainties: 0.005 of 0.1 is 0.05.
    const { odds, degree } = plannedOdds(verdict('flow'), leaf, 0.1);
    expect(odds).toBeCloseTo(normalShare(0.03 / Math.hypot(0.02, 0.05)), 1.5);
    expect(degree).toBe("can't be told");
    // Where the port's area runs out first, the flow's plan changes nothing.
    expect(plannedOdds(verdict('area'), leaf, 0.1).odds).toBe(normalShare(1.5));
  });
  it('is never sure, and not told where nothing is known', () => {
    const sure = { ...verdict('area'), odds: 1 } as HeadVerdict;
    expect(plannedOdds(sure, leaf, 0.1).degree).toBe('probably carries');
    expect(plannedOdds({ ...sure, odds: 0 }, leaf, 0.1).degree).toBe('probably short');
    expect(plannedOdds({ ...sure, draws: undefined }, leaf, 0.1)).toEqual({ degree: "can't be told" });
    expect(plannedFlow.compute({ flow: 0.1, off: 0.002 })).toBeCloseTo(0.102, 12);
  });
});

describe('what money buys', () => {
  it('is the difference of two prices by what is gained, and a proportion of an amount', () => {
    expect(costPerFlow.compute({ cost: 2900, base: 900, gain: 25 })).toBe(80);
    expect(costPerTorque.compute({ cost: 2900, base: 900, gain: 40 })).toBe(50);
    expect(() => costPerFlow.compute({ cost: 1, base: 0, gain: 0 })).toThrow('flows no more');
    expect(powerForMoney.compute({ amount: 500, power: 3000, cost: 750 })).toBe(2000);
    expect(() => powerForMoney.compute({ amount: 500, power: 1, cost: 0 })).toThrow('costs nothing');
  });
});

import { evaluateTarget, sayIn } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import demo from '../../../demo/bundle.json' with { type: 'json' };
import { readBundle } from '../files/bundle.js';
import { Build, CostLine, Way } from '../nouns/index.js';
import { toCoreBuild } from '../toCore.js';
import { wholesOf } from '../wholes.js';
import { costOfWay } from './cost.js';
import { USUAL_MATTERS, criteriaOf, mattersOf, rankOf } from './matters.js';
import { priceToWin } from './turns.js';
import { edgeOf, readWays } from './ways.js';
import { waysWords } from './words.js';

const { bundle } = readBundle(demo);
const wholes = wholesOf(bundle);
const say = sayIn('inch');
function read(id: string, change: (ways: Way[]) => Way[] = (w) => w) {
  const build = bundle.builds.find((b) => b.id === id)!;
  const core = toCoreBuild(build);
  const target = evaluateTarget(core);
  const ways = change(bundle.ways.filter((w) => w.buildId === id));
  return { build, ways: readWays(ways, build, core, target, wholes, { sources: bundle.sources }) };
}
const line = (fields: object) => CostLine.parse({ price: '100', ...fields });

describe('the price of a way', () => {
  const build = { currency: 'sov', rates: [{ currency: 'tal', rate: 0.42, date: '2026-05-20' }], tax: null };
  it('brings each line to the build’s currency, with the tax still to come', () => {
    const lines = [line({ quantity: 2 }), line({ currency: 'tal' }), line({ currency: 'sov', tax: 'added' })];
    const { cost, open } = costOfWay({ id: 'w', lines }, { ...build, tax: { si: 0.19, typed: '19 %' } });
    expect(cost.sum.value).toBeCloseTo(200 + 42 + 119, 9);
    expect(open).toEqual([]);
  });
  it('leaves out what has no price or no rate, and says so', () => {
    const lines = [line({ price: null, kind: 'freight' }), line({ currency: 'kro', text: 'valves' }), line({})];
    const { cost, open } = costOfWay({ id: 'w', lines }, build);
    expect(cost.sum.value).toBe(100);
    expect(open).toEqual(['freight: no price yet.', 'valves: no exchange rate for kro.']);
  });
  it('refuses a rate of nothing, a negative quantity, a planned gain without its range, ten thousand lines', () => {
    const way = { id: 'w', buildId: 'b', name: 'Way' };
    const sentence = (fields: object) => Way.safeParse({ ...way, ...fields }).error?.issues[0]?.message;
    expect(sentence({})).toBeUndefined();
    expect(sentence({ gain: '10 cfm' })).toBe('Say how far the planned gain may be off.');
    expect(sentence({ lines: [{ quantity: -1 }] })).toBe('A quantity cannot be negative.');
    expect(sentence({ lines: Array.from({ length: 10_000 }, () => ({})) })).toContain('at most 300 lines');
    expect(sentence({ fit: [{ item: 'rocker' }, { item: 'rocker' }] })).toBe('“rocker” stands twice.');
    const rate = Build.safeParse({ ...bundle.builds[0], rates: [{ currency: 'tal', rate: 0, date: '2026-01-01' }] });
    expect(rate.error!.issues[0]!.message).toBe('An exchange rate must be above zero.');
  });
});

describe('the ways of the Slate Six', () => {
  const { build, ways } = read('slate-six');
  const of = (id: string) => ways.find((w) => w.way.id === id)!;
  it('have price, power, odds and what stops them', () => {
    expect(of('slate-rework').cost.sum.value).toBeLessThan(3200);
    expect(of('slate-longreach').stops).toEqual(['exhaust flange: raised port, the marine riser does not line up']);
    expect(of('slate-p6').adapters).toContain('needs an adapter: pushrod and guide plate: guide plates from the maker');
    // Measured, not said: the valve of 2.05 in comes near this bore.
    expect(of('slate-p6').adapters.join()).toContain('from the intake valve to this bore');
    expect(of('slate-keep').degree).toBe('falls short');
    const { perGain, cost, power } = of('slate-rework');
    const base = of('slate-keep');
    const more = (power!.value - base.power!.value) / 745.699872;
    expect(perGain!.value).toBeCloseTo((cost.sum.value - base.cost.sum.value) / more, 6);
    expect(base.perGain).toBeUndefined();
  });
  it('are ranked so that what is stopped never wins, and the shares sum to one', () => {
    const { wins } = rankOf(ways, mattersOf(build));
    expect(wins.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
    expect(wins[ways.indexOf(of('slate-longreach'))]).toBeLessThan(0.05);
    expect(wins.indexOf(Math.max(...wins))).toBe(ways.indexOf(of('slate-rework')));
  });
  it('are read in words: over the budget, stopped, and estimates that disagree about the order', () => {
    const words = waysWords(ways, build, rankOf(ways, mattersOf(build)), say).join(' ');
    expect(words).toContain('Rework the 417 comes first in');
    expect(words).toContain('Longreach 212 cannot go as it is');
    expect(words).toMatch(/over the budget/);
    expect(words).toContain('The power estimates disagree');
  });
  it('say what a price would have to fall by to come first, and no more than that', () => {
    const at = ways.indexOf(of('slate-p6'));
    const by = priceToWin(ways, mattersOf(build), at)!;
    expect(by).toBeGreaterThan(0);
    const cut = (off: number) =>
      ways.map((w, i) =>
        i === at ? { ...w, cost: { ...w.cost, sum: { ...w.cost.sum, value: w.cost.sum.value - off } } } : w,
      );
    const first = (off: number) => {
      const { marks } = rankOf(cut(off), mattersOf(build));
      return marks[at]! >= Math.max(...marks.map((m) => m!)) - 1e-12;
    };
    expect(first(by + 1)).toBe(true);
    expect(first(by - 1)).toBe(false);
  });
  it('count what is planned with its range: more power, less sure', () => {
    const planned = read('slate-six', (all) =>
      all.map((w) => (w.id === 'slate-p6' ? Way.parse({ ...w, gain: '12 cfm', gainBand: '6 cfm' }) : w)),
    ).ways;
    const p6 = planned.find((w) => w.way.id === 'slate-p6')!;
    expect(p6.power!.value).toBeGreaterThan(of('slate-p6').power!.value);
    const [criterion] = criteriaOf(planned, [{ name: 'power', weight: 1 }]);
    expect(criterion!.scores[2]!.parts.some((p) => p.leaf.id === 'plan:slate-p6')).toBe(true);
    expect(edgeOf(planned)).toHaveLength(4);
  });
});

describe('the ways of the ice racer', () => {
  it('turn with the weights', () => {
    const { ways } = read('vennick-five');
    const first = (power: number, price: number) => {
      const { wins } = rankOf(ways, [
        { name: 'power', weight: power },
        { name: 'price', weight: price },
      ]);
      return ways[wins.indexOf(Math.max(...wins))]!.way.id;
    };
    expect(first(8, 1)).toBe('vennick-4v');
    expect(first(1, 8)).toBe('vennick-keep');
    expect(mattersOf({ matters: [] })).toBe(USUAL_MATTERS);
  });
});

import { camProfile, degrees, flowCurve, fromSi, inches, unitFor } from '@alluvium/core';
import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { mounted } from '../test/mounted.js';
import FlowChart, { type Series } from './FlowChart.vue';
import { markOf, markPath } from './marks.js';
import { spreadLabels, unitTicks } from './ticks.js';

const curve = (scale: number) =>
  flowCurve([1, 2, 3, 4, 5, 6].map((i) => ({ lift: inches(i / 10), flow: scale * (1 - Math.exp(-i / 2)) })))!;

describe('ticks', () => {
  it('are round in the user’s unit, whichever it is', () => {
    for (const system of ['inch', 'metric'] as const) {
      const unit = unitFor('lift', system);
      for (const t of unitTicks(0, inches(0.7), 'lift', system, 7)) {
        const shown = fromSi(t, unit) * (system === 'inch' ? 10 : 1);
        expect(shown).toBeCloseTo(Math.round(shown), 6);
      }
    }
  });
});

describe('labels', () => {
  it('are pushed apart, keep their order and stay on the paper', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 300, noNaN: true }), { minLength: 1, maxLength: 8 }), (ys) => {
        const placed = spreadLabels(ys, 18, 0, 300);
        const order = ys.map((_, i) => i).sort((a, b) => ys[a]! - ys[b]!);
        order.forEach((i, k) => {
          expect(placed[i]!).toBeLessThanOrEqual(300 + 1e-9);
          if (k > 0) expect(placed[i]! - placed[order[k - 1]!]!).toBeGreaterThanOrEqual(18 - 1e-9);
        });
      }),
    );
  });
  it('stay where they are when there is room', () => {
    expect(spreadLabels([10, 100, 60], 18, 0, 300)).toEqual([10, 100, 60]);
  });
});

describe('marks', () => {
  it('tell seven heads apart by shape and dash', () => {
    const all = Array.from({ length: 7 }, (_, i) => markOf(i));
    expect(new Set(all.map((m) => m.dash)).size).toBe(7);
    expect(new Set(all.map((m) => markPath(m))).size).toBe(7);
  });
});

describe('the flow chart', () => {
  let chart: ReturnType<typeof mounted>;
  afterEach(() => chart.unmount());
  const show = (series: Series[], props: object = {}) =>
    (chart = mounted(FlowChart, { props: { series, side: 'intake', ...props } }));
  const series = (letter: string, index: number, scale: number, more: object = {}): Series => ({
    letter,
    name: `Head ${letter}`,
    index,
    curve: curve(scale),
    ...more,
  });

  it('labels each curve, and says in words what it shows', () => {
    show([series('A', 0, 0.1), series('B', 1, 0.11)], { demand: 0.09, camLift: inches(0.48) });
    expect(chart.findAll('text.name').map((t) => t.text())).toEqual(['A Head A', 'B Head B']);
    expect(chart.find('svg').attributes('aria-label')).toMatch(
      /^intake flow over lift; A Head A: best 201.cfm; B Head B/,
    );
    expect(chart.text()).toContain('target asks 191');
    expect(chart.text()).toContain('beyond this cam');
  });
  it('marks measured points, and draws a claim without them', () => {
    show([series('A', 0, 0.1), series('B', 1, 0.11, { claim: true })]);
    const groups = chart.findAll('svg > g').filter((g) => g.find('path[fill="none"]').exists());
    const [own, claim] = groups.map((g) => g.findAll('path[transform]').length);
    expect([own, claim]).toEqual([6, 0]);
  });
  it('lays grains where the valve dwells', () => {
    show([series('A', 0, 0.1)], {
      camLift: inches(0.48),
      cam: camProfile({ maxLift: inches(0.48), duration: degrees(224), rockerRatio: 1.5 }),
    });
    const grains = chart
      .findAll('path')
      .find((p) => p.attributes('d')!.startsWith('M') && p.attributes('d')!.includes('h1.4'))!;
    const count = grains.attributes('d')!.split('M').length - 1;
    expect(count).toBeGreaterThan(700);
    expect(count).toBeLessThan(800);
  });
});

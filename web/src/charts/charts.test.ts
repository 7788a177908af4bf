import { camProfile, degrees, flowCurve, fromSi, inches, sayIn, unitFor } from '@alluvium/core';
import { flushPromises } from '@vue/test-utils';
import { h } from 'vue';
import ChartCurve from './ChartCurve.vue';
import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { mounted } from '../test/mounted.js';
import ChartMenu from './ChartMenu.vue';
import FlowChart, { type Series } from './FlowChart.vue';
import ChartFrame from './ChartFrame.vue';
import { drawnTable, readAt, rowsOf, stops, ticksOf } from './chart.js';
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
    expect(chart.findAll('text.end').map((t) => t.text())).toEqual(['A Head A', 'B Head B']);
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
  it('is read at the cursor by the arrow keys, at each row of any curve, and left with Esc', async () => {
    show([series('A', 0, 0.1), series('B', 1, 0.11)]);
    const svg = chart.find('svg');
    const read = () => chart.find('.read').text().replaceAll('\u00a0', ' ');
    await svg.trigger('keydown', { key: 'ArrowRight' });
    expect(read()).toMatch(/^\.300: A 165 cfm, B 181 cfm$/);
    await svg.trigger('keydown', { key: 'ArrowRight' });
    expect(read()).toMatch(/^\.400:/);
    await svg.trigger('keydown', { key: 'Home' });
    expect(read()).toMatch(/^\.100:/);
    await svg.trigger('keydown', { key: 'Escape' });
    expect(read()).toBe('');
  });
  it('hides a curve by its name, and reads and draws it no more', async () => {
    show([series('A', 0, 0.1), series('B', 1, 0.11)]);
    const curves = () => chart.findAll('svg path[fill="none"]').length;
    await chart.find('figure').trigger('pointerenter');
    await flushPromises();
    const name = chart.find('[aria-label="Curve B Head B"]');
    expect([curves(), name.attributes('aria-pressed')]).toEqual([2, 'true']);
    await name.trigger('click');
    await chart.find('svg').trigger('keydown', { key: 'ArrowRight' });
    expect([curves(), name.attributes('aria-pressed')]).toEqual([1, 'false']);
    expect(chart.find('.read').text()).toMatch(/^\.300: A [^,]*$/);
    expect(chart.findAll('text.end')[1]!.attributes('text-decoration')).toBe('line-through');
    const menu = chart.findComponent(ChartMenu);
    expect(menu.props('table')()[0]).toEqual(['lift, in', 'A Head A, cfm']);
    // A finger finds the names too small, and has them in the menu.
    menu.vm.$emit('toggle', 'B Head B');
    await flushPromises();
    expect(curves()).toBe(2);
  });
});

describe('a frame whose page owns the keys', () => {
  it('takes neither the focus nor an arrow, and does not offer to', () => {
    const curve = { render: () => h(ChartCurve, { name: 'A', points: [[0, 0] as const, [1, 1] as const] }) };
    const axis = { from: 0, to: 1 };
    const frame = mounted(ChartFrame, {
      props: { label: 'Flow', x: axis, y: axis, keyless: true },
      slots: { default: () => h(curve) },
    });
    const svg = frame.find('svg');
    const event = new KeyboardEvent('keydown', { key: 'ArrowRight', cancelable: true });
    svg.element.dispatchEvent(event);
    expect([svg.attributes('tabindex'), event.defaultPrevented, svg.attributes('aria-label')]).toEqual([
      undefined,
      false,
      'Flow',
    ]);
    frame.unmount();
  });
});

describe('what is drawn, as a table', () => {
  const x = { from: 0, to: inches(0.5), kind: 'lift', name: 'lift' } as const;
  const y = { from: 0, to: 0.2, kind: 'flow' } as const;
  it('has a row for each place and a column for each curve, in the user’s units; a gap stays a gap', () => {
    const drawn = [
      { name: 'A', points: [[inches(0.1), 0.04719475] as const, [inches(0.2), 0.0943895] as const] },
      { name: 'B', points: [[inches(0.2), 0.1] as const] },
    ];
    expect(drawnTable(drawn, x, y, 'inch')).toEqual([
      ['lift, in', 'A, cfm', 'B, cfm'],
      [0.1, 100, ''],
      [0.2, 200, 211.888],
    ]);
  });
  it('reads between the points of a curve that is known there, and nowhere else', () => {
    const drawn = [
      { name: 'A', points: [[0.001, 1] as const], at: (v: number) => (v < 0.0025 ? 2 : undefined) },
      { name: 'B', points: [[0.002, 3] as const, [0.003, 4] as const] },
    ];
    const at = (v: number) => readAt(drawn, v, x).map((r) => [r.drawn.name, r.point[1]]);
    expect(at(0.002)).toEqual([
      ['A', 2],
      ['B', 3],
    ]);
    expect(at(0.003)).toEqual([['B', 4]]);
    expect(stops(drawn, x)).toEqual([0.001, 0.002, 0.003]);
  });
  it('keeps every point where a curve comes by twice, and each mark with its places in a chart of rows', () => {
    const loop = [{ name: 'A', points: [[0.001, 0.1] as const, [0.001, 0.2] as const] }];
    const plain = { from: 0, to: 1 };
    expect(drawnTable(loop, plain, plain, 'inch').slice(1)).toEqual([
      [0.001, 0.1],
      [0.001, 0.2],
    ]);
    const bars = [
      { name: 'Bench 1', points: [[0.25, 0.5] as const] },
      { name: 'Bench 2', points: [[0.5, 1.5] as const] },
    ];
    expect(drawnTable(bars, { ...plain, name: 'reads' }, rowsOf(2), 'inch')).toEqual([
      ['', 'reads'],
      ['Bench 1', 0.25],
      ['Bench 2', 0.5],
    ]);
  });
  it('ticks of a logarithm are one, two and five of each power of ten in the user’s unit', () => {
    const metric = sayIn('metric');
    const volume = { from: 4e-5, to: 6e-4, kind: 'volume', log: true } as const;
    const texts = ticksOf(volume, 5, metric).map((t) => t.text);
    expect(texts).toEqual(['50', '100', '200', '500']);
  });
});

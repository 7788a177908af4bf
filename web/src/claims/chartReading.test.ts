import { cfm, inches, millimetres, sayIn } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import {
  chartOf,
  chartProblem,
  chartWords,
  emptyChart,
  markValue,
  pointsOf,
  readerOf,
  rowsOf,
  stateOf,
  type ChartState,
} from './chartReading.js';

/** .100 in is 100 px, 50 cfm is 80 px, the origin at 60, 500. */
const square: ChartState = {
  at: { lift1: [60, 500], lift2: [560, 500], flow1: [60, 500], flow2: [60, 180] },
  values: { lift1: '0', lift2: '.500', flow1: '0', flow2: '200' },
  points: [],
};
const reader = (state = square) => {
  const made = readerOf(state, 'inch');
  if (typeof made === 'string') throw new Error(made);
  return made;
};
const at = (lift: number, flow: number): [number, number] => [60 + lift * 1000, 500 - flow * 1.6];
const intake = (...points: [number, number][]): ChartState => ({
  ...square,
  points: points.map(([l, q]) => ({ side: 'intake', dot: at(l, q) })),
});
const read = (state: ChartState, round = true) => pointsOf(state, reader(), 'inch', round);

describe('reading a chart', () => {
  it('waits for all four marks, then says what is wrong with them', () => {
    expect(readerOf(emptyChart, 'inch')).toBe('');
    const { lift2: _, ...values } = square.values;
    expect(readerOf({ ...square, values }, 'inch')).toBe('Type the value printed there.');
    expect(readerOf({ ...square, values: { ...square.values, flow2: 'much' } }, 'inch')).toContain('“much”');
    expect(readerOf({ ...square, at: { ...square.at, flow2: [560, 490] } }, 'inch')).toContain('the same way');
    expect(markValue(square, 'lift2', 'inch')).toMatchObject({ si: inches(0.5) });
    expect(markValue({ ...square, values: { lift1: '2' } }, 'lift1', 'metric')).toMatchObject({ si: millimetres(2) });
  });
  it('gives the points by rising lift, those near a line of the chart on that line', () => {
    const points = read(intake([0.4, 150], [0.2015, 90], [0.3, 120]));
    expect(points.map((p) => [p.index, p.lift])).toEqual([
      [1, expect.closeTo(inches(0.2), 9)],
      [2, expect.closeTo(inches(0.3), 9)],
      [0, expect.closeTo(inches(0.4), 9)],
    ]);
    expect(points[2]!.flow).toBeCloseTo(cfm(150), 9);
    expect(read(intake([0.2015, 90]), false)[0]!.lift).toBeCloseTo(inches(0.2015), 9);
    expect(read(intake([0.21, 90]))[0]!.lift).toBeCloseTo(inches(0.21), 9);
  });
  it('writes rows as the trade writes them, both sides of one lift in one row', () => {
    const state = intake([0.2, 90], [0.4, 150]);
    const both = { ...state, points: [...state.points, { side: 'exhaust' as const, dot: at(0.4, 110) }] };
    expect(
      rowsOf(read(both), 'inch').map((r) => [r.lift.typed, r.intake?.pulls[0]!.typed, r.exhaust?.pulls[0]!.typed]),
    ).toEqual([
      ['.200 in', '90.0 cfm', undefined],
      ['.400 in', '150.0 cfm', '110.0 cfm'],
    ]);
    expect(rowsOf(read(state), 'metric')[0]).toMatchObject({
      lift: { typed: '5.08 mm' },
      intake: { pulls: [{ typed: '42.5 L/s' }] },
    });
  });
  it.each([
    ['too few', [[0.2, 90]], 'at least two points'],
    [
      'two at one lift',
      [
        [0.2, 90],
        [0.2005, 95],
      ],
      'Two intake points lie at one lift',
    ],
    [
      'left of no lift',
      [
        [-0.02, 5],
        [0.2, 90],
      ],
      'A point lies at no lift',
    ],
    [
      'below no flow',
      [
        [0.1, -5],
        [0.2, 90],
      ],
      'below no flow',
    ],
  ] as [string, [number, number][], string][])('%s is told', (_, points, sentence) => {
    expect(chartProblem(read(intake(...points)), 'inch')).toContain(sentence);
  });
  it('says what a pixel is worth, and that the axes lean where they do', () => {
    const say = (si: number, kind: 'lift' | 'flow') => sayIn('inch').of(si, kind, { digits: 4 });
    expect(chartProblem(read(intake([0.2, 90], [0.3, 120])), 'inch')).toBe('');
    expect(chartWords(reader(), say)).toMatch(/^One pixel is \.0010 of lift and 0\.6250\scfm/);
    const leaning = reader({ ...square, at: { ...square.at, flow2: [100, 180] } });
    expect(chartWords(leaning, say)).toMatch(/^The axes meet at 83°, and each point is read along them\./);
  });
  it('comes back from its record as it was', () => {
    const state = intake([0.2, 90], [0.3, 120]);
    const chart = chartOf(state, 'picture', 'inch');
    expect(chart.attachmentId).toBe('picture');
    const again = stateOf(chart);
    expect(again.points).toEqual(state.points);
    expect(again.at).toEqual(state.at);
    expect(again.values.lift2).toBe('.500 in');
  });
});

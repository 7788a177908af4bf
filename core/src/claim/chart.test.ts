import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SQUARE_ENOUGH, cfm, chartReader, inches, type AxisMark, type Pixel } from '../index.js';

const mark = (at: Pixel, value: number): AxisMark => ({ at, value });

/** A picture made from a known affine map: where a lift and a flow are drawn. */
const picture = (angle: number, lean: number, scale: number, stretch: number, origin: Pixel) => {
  const l: Pixel = [(scale * Math.cos(angle)) / inches(1), (scale * Math.sin(angle)) / inches(1)];
  const f: Pixel = [
    (stretch * Math.cos(angle - Math.PI / 2 + lean)) / cfm(100),
    (stretch * Math.sin(angle - Math.PI / 2 + lean)) / cfm(100),
  ];
  return (lift: number, flow: number): Pixel => [
    origin[0] + lift * l[0] + flow * f[0],
    origin[1] + lift * l[1] + flow * f[1],
  ];
};

describe('a chart read from a picture', () => {
  it('square on: by hand', () => {
    // .100 in is 100 px, 50 cfm is 80 px; the origin at 60, 500.
    const chart = chartReader({
      lift: [mark([60, 500], 0), mark([560, 500], inches(0.5))],
      flow: [mark([60, 500], 0), mark([60, 180], cfm(200))],
    });
    const at = chart.read([460, 260]);
    expect(at.lift).toBeCloseTo(inches(0.4), 9);
    expect(at.flow).toBeCloseTo(cfm(150), 9);
    expect(chart.angle).toBeCloseTo(Math.PI / 2, 12);
    expect(chart.perPixel.flow).toBeCloseTo(cfm(50 / 80), 9);
    expect(chart.perPixel.lift).toBeCloseTo(inches(0.001), 9);
  });
  it('axes need not start at nought, nor their marks lie on one line: the flow axis may stand anywhere', () => {
    const chart = chartReader({
      lift: [mark([100, 470], inches(0.1)), mark([500, 470], inches(0.5))],
      flow: [mark([30, 400], cfm(50)), mark([30, 100], cfm(200))],
    });
    expect(chart.read([300, 300]).lift).toBeCloseTo(inches(0.3), 9);
    expect(chart.read([300, 300]).flow).toBeCloseTo(cfm(100), 9);
  });
  it('turned, leaning and stretched pictures give back every point of the map they were drawn by', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -0.9, max: 0.9, noNaN: true }),
        fc.double({ min: 200, max: 3000, noNaN: true }),
        fc.double({ min: 20, max: 400, noNaN: true }),
        fc.double({ min: 0.01, max: 0.8, noNaN: true }),
        fc.double({ min: 1, max: 400, noNaN: true }),
        (angle, lean, scale, stretch, lift, flow) => {
          const draw = picture(angle, lean, scale, stretch, [321, 654]);
          const chart = chartReader({
            lift: [mark(draw(inches(0.1), cfm(10)), inches(0.1)), mark(draw(inches(0.6), cfm(10)), inches(0.6))],
            flow: [mark(draw(inches(0.05), cfm(50)), cfm(50)), mark(draw(inches(0.05), cfm(300)), cfm(300))],
          });
          const at = chart.read(draw(inches(lift), cfm(flow)));
          expect(at.lift / inches(1)).toBeCloseTo(lift, 6);
          expect(at.flow / cfm(1)).toBeCloseTo(flow, 4);
          const back = chart.place({ lift: inches(lift), flow: cfm(flow) });
          const there = draw(inches(lift), cfm(flow));
          expect(Math.hypot(back[0] - there[0], back[1] - there[1])).toBeLessThan(1e-4);
          expect(Math.abs(chart.angle - Math.PI / 2)).toBeCloseTo(Math.abs(lean), 6);
        },
      ),
    );
    expect(SQUARE_ENOUGH).toBeCloseTo(0.0524, 4);
  });
  it('marks that make no axes are refused in words', () => {
    const flow = [mark([60, 500], 0), mark([60, 180], cfm(200))] as const;
    const lift = [mark([60, 500], 0), mark([560, 500], inches(0.5))] as const;
    expect(() => chartReader({ lift: [lift[0], mark([62, 500], 1)], flow })).toThrow(/on top of each other/);
    expect(() => chartReader({ lift: [lift[0], mark([560, 500], 0)], flow })).toThrow(/need different values/);
    expect(() => chartReader({ lift, flow: [mark([60, 500], 0), mark([560, 480], 1)] })).toThrow(/the same way/);
  });
});

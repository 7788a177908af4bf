import { curveMonotoneX, line } from 'd3-shape';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../refusal/refusal.js';
import { work } from '../method/method.js';
import { cfm, feetPerSecond, inches, inchesOfWater, squareInches } from '../quantity/units.js';
import { USUAL_REPEATABILITY, crossings, difference, leads } from './compare.js';
import { flowCurve, hermite, monotoneSlopes, type FlowCurve } from './curve.js';
import { backsUp, exhaustToIntake, fallOf, knee, peak, peakWithin, skippedAtFall, stability } from './describe.js';
import { OPENING_COEFFICIENT, plateFlow } from '../bench/orifice.js';
import { deviation } from '../method/mean.js';
import { evaluateSide } from '../evaluate/sheet.js';
import { doubts, slips } from './doubt.js';
import {
  REFERENCE_DENSITY,
  REFERENCE_DEPRESSION,
  REFERENCE_SOUND_SPEED,
  calibrationFactor,
  conversionError,
  depressionCorrection,
  differentialReading,
  idealVelocity,
  leakage,
  meanOfPulls,
  percentReading,
  temperatureCorrection,
} from './reading.js';

const toCfm = (q: number) => q / cfm(1);
const thousandths = (l: number) => (l / inches(1)) * 1000;
/** A curve from flows in cfm at .100, .200, … in. */
const sheet = (...flows: number[]): FlowCurve =>
  flowCurve(flows.map((q, i) => ({ lift: inches((i + 1) / 10), flow: cfm(q) })))!;

describe('bench reading', () => {
  // Common practice, no source: method notes of the trade.
  it.each([
    [42.5, 125.6],
    [65.9, 194.8],
    [76, 224.7],
    [82.85, 244.9],
  ])('%d %% of a 295.6 cfm range', (percent, flow) => {
    expect(toCfm(percentReading.compute({ reading: percent / 100, fullScale: cfm(295.6) }))).toBeCloseTo(flow, 1);
  });
  it('has its own full scale in the exhaust direction: 127 cfm at 40 % means 317.5', () => {
    expect(toCfm(percentReading.compute({ reading: 0.4, fullScale: cfm(317.5) }))).toBeCloseTo(127, 6);
  });
  it('a differential reading goes with the square root', () => {
    expect(toCfm(differentialReading.compute({ reading: 0.25, fullScale: cfm(300) }))).toBeCloseTo(150, 9);
    expect(() => differentialReading.compute({ reading: -0.1, fullScale: cfm(300) })).toThrow(Refusal);
  });
  // Arithmetic: √(28/25), √(28/10).
  it.each([
    [25, 1.0583],
    [10, 1.6733],
  ])('from %d in of water to 28', (from, factor) => {
    const q = depressionCorrection.compute({
      flow: 1,
      depression: inchesOfWater(from),
      reference: REFERENCE_DEPRESSION,
    });
    expect(q).toBeCloseTo(factor, 4);
  });
  it('refuses no depression', () => {
    expect(() => depressionCorrection.compute({ flow: 1, depression: 0, reference: REFERENCE_DEPRESSION })).toThrow(
      /above zero/,
    );
  });
  it('takes off leakage, corrects temperature, averages pulls', () => {
    expect(leakage.compute({ flow: 200, leak: 3 })).toBe(197);
    expect(temperatureCorrection.compute({ flow: 100, port: 293.15, meter: 303.15 })).toBeCloseTo(98.337, 3);
    expect(meanOfPulls.compute({ pulls: [2, 4, 4, 4, 5, 5, 7, 9] })).toBe(5);
  });
  it('spread is the experimental standard deviation', () => {
    // Worked by hand from JCGM 100:2008, 4.2.2: squares about the mean sum to 32, over 7.
    expect(deviation([2, 4, 4, 4, 5, 5, 7, 9])).toBeCloseTo(Math.sqrt(32 / 7), 12);
    expect(deviation([5])).toBeUndefined();
  });
});

describe('velocity and plates', () => {
  // ASHRAE Handbook, Fundamentals; ACGIH Industrial Ventilation: V[ft/min] = 4005 √(inH2O), standard air 0.075 lb/ft³.
  it.each([1, 10, 25, 28])('agrees with the standard-air constant at %d in', (h) => {
    const v = idealVelocity.compute({ depression: inchesOfWater(h), density: 0.075 * 16.018463 });
    // The constant is rounded to four figures: agreement within 0.1 %.
    expect(Math.abs(v / feetPerSecond(1) / ((4005 / 60) * Math.sqrt(h)) - 1)).toBeLessThan(1e-3);
  });
  it('reference air gives 350.1 ft/s and 145.9 cfm per square inch at 28 in', () => {
    const v = idealVelocity.compute({ depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });
    expect(v / feetPerSecond(1)).toBeCloseTo(350.1, 1);
    expect(toCfm(v * squareInches(1))).toBeCloseTo(145.9, 1);
  });
  it('a plate with its coefficient, and the factor it gives', () => {
    const expected = work(plateFlow, {
      coefficient: 0.6,
      diameter: inches(2),
      depression: REFERENCE_DEPRESSION,
      density: REFERENCE_DENSITY,
    });
    // A sharp edge in a wall: ζ = 2.78 (Idelchik, diagram 4-18, from memory).
    expect(OPENING_COEFFICIENT).toBeCloseTo(1 / Math.sqrt(2.78), 2);
    // π in² at 145.9 cfm per in², times 0.6, and ε of ISO 5167-2 at a diameter ratio of nothing: 1 − 0.351 (1 − 0.9312^(1/1.4)).
    expect(toCfm(expected.value)).toBeCloseTo(0.6 * Math.PI * 145.9 * (1 - 0.351 * (1 - 0.93117 ** (1 / 1.4))), 0);
    expect(work(calibrationFactor, { expected, measured: expected.value / 1.03 }).value).toBeCloseTo(1.03, 9);
  });
});

describe('curve', () => {
  // The data set RPN 14 of Fritsch and Carlson (1980), from memory of its wide reprinting.
  const x = [7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20];
  const y = [0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.94374, 0.998636, 0.999919, 0.999994];
  it('stays monotone on the data of Fritsch and Carlson', () => {
    const slopes = monotoneSlopes(x, y);
    let before = 0;
    for (let at = 7.99; at <= 20; at += 0.01) {
      const now = hermite(x, y, slopes, at);
      expect(now).toBeGreaterThanOrEqual(before - 1e-12);
      before = now;
    }
    slopes.forEach((m, i) => {
      if (i === x.length - 1) return;
      const secant = (y[i + 1]! - y[i]!) / (x[i + 1]! - x[i]!);
      expect(Math.hypot(m / secant, slopes[i + 1]! / secant)).toBeLessThanOrEqual(3 + 1e-9);
    });
  });
  it('keeps close to another monotone interpolant of the same points (d3-shape, Steffen 1990)', () => {
    const points: [number, number][] = [
      [0, 0],
      [1, 58],
      [2, 109],
      [3, 149],
      [4, 172],
      [5, 179],
      [6, 180],
    ];
    const path = line().curve(curveMonotoneX)(points)!;
    const pieces = path
      .split('C')
      .slice(1)
      .map((p) => p.split(',').map(Number));
    const curve = flowCurve(points.slice(1).map(([l, q]) => ({ lift: l, flow: q })))!;
    pieces.forEach((b, i) => {
      const start = points[i]!;
      // Bézier midpoint: t = ½ falls at the middle of the piece, since its controls are evenly spaced.
      const mid = (start[1] + 3 * b[1]! + 3 * b[3]! + b[5]!) / 8;
      expect(Math.abs(curve.anchored(start[0] + 0.5)! - mid)).toBeLessThan(1.5);
    });
  });
  it('passes through every point and never leaves the range of its neighbours', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.integer({ min: 0, max: 4000 }).map((q) => q / 10),
          { minLength: 2, maxLength: 14 },
        ),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (flows, t) => {
          const c = flowCurve(flows.map((flow, i) => ({ lift: i + 1, flow })))!;
          flows.forEach((q, i) => expect(c.at(i + 1)).toBeCloseTo(q, 6));
          for (let i = 0; i < flows.length - 1; i++) {
            const v = c.at(i + 1 + t)!;
            expect(v).toBeGreaterThanOrEqual(Math.min(flows[i]!, flows[i + 1]!) - 1e-9);
            expect(v).toBeLessThanOrEqual(Math.max(flows[i]!, flows[i + 1]!) + 1e-9);
          }
        },
      ),
    );
  });
  it('never extrapolates, and needs two points', () => {
    const c = sheet(58, 109, 149);
    expect(c.at(inches(0.31))).toBeUndefined();
    expect(c.at(0)).toBeUndefined();
    expect(c.anchored(0)).toBe(0);
    expect(flowCurve([{ lift: 1, flow: 1 }])).toBeUndefined();
    expect(() =>
      flowCurve([
        { lift: 1, flow: 1 },
        { lift: 1, flow: 2 },
      ]),
    ).toThrow('Two rows share a lift.');
  });
  it('knows a row from what is read between rows', () => {
    const c = sheet(58, 109);
    expect(c.measuredAt(inches(0.1))).toBe(true);
    expect(c.measuredAt(inches(0.15))).toBe(false);
  });
});

describe('reading a curve', () => {
  // Worked examples of the trade: common practice, no source.
  it('knee at .400 for 63 120 157 172 176 179 181', () => {
    expect(thousandths(knee(sheet(63, 120, 157, 172, 176, 179, 181))!)).toBeCloseTo(400, 6);
  });
  it('peak at .400 and flat after for 55 119 166 176 174 174', () => {
    const c = sheet(55, 119, 166, 176, 174, 174);
    expect(thousandths(peak(c).lift)).toBeCloseTo(400, 6);
    expect(thousandths(knee(c)!)).toBeCloseTo(400, 6);
    expect(backsUp(c, USUAL_REPEATABILITY)).toBeUndefined();
  });
  it('197 at .500 and 189 at .600: peak at .500, down 4.1 %', () => {
    const c = sheet(60, 115, 160, 187, 197, 189);
    expect(thousandths(peak(c).lift)).toBeCloseTo(500, 6);
    expect(backsUp(c, USUAL_REPEATABILITY)!.fall * 100).toBeCloseTo(4.1, 1);
    expect(work(stability, { last: c.last.flow, peak: peak(c).flow }).value).toBeCloseTo(189 / 197, 9);
  });
  it('asks for the lift that was skipped where the flow falls, and for none where rows stand as before', () => {
    const at = (rows: [lift: number, flow: number][]) =>
      flowCurve(rows.map(([l, q]) => ({ lift: inches(l), flow: cfm(q) })))!;
    const skipped = at([
      [0.3, 170],
      [0.4, 190],
      [0.5, 197],
      [0.7, 180],
    ]);
    expect(skippedAtFall(skipped, USUAL_REPEATABILITY)! / inches(1)).toBeCloseTo(0.6, 9);
    const whole = at([
      [0.3, 170],
      [0.4, 190],
      [0.5, 197],
      [0.6, 189],
    ]);
    expect(skippedAtFall(whole, USUAL_REPEATABILITY)).toBeUndefined();
    const rising = at([
      [0.3, 170],
      [0.4, 190],
      [0.6, 197],
    ]);
    expect(skippedAtFall(rising, USUAL_REPEATABILITY)).toBeUndefined();
    // 1.3 % is what a bench repeats by.
    expect(
      fallOf(
        at([
          [0.4, 190],
          [0.5, 200],
          [0.6, 197.4],
        ]),
      ),
    ).toBeCloseTo(0.013, 9);
  });
  it('a curve that still climbs has no knee', () => {
    expect(knee(sheet(60, 115, 160, 190, 210))).toBeUndefined();
  });
  it('peak within a lift reads the curve at that lift', () => {
    const c = sheet(60, 115, 160, 187, 197, 189);
    expect(toCfm(peakWithin(c, inches(0.45)).flow)).toBeCloseTo(toCfm(c.at(inches(0.45))!), 9);
    expect(toCfm(peakWithin(c, inches(0.6)).flow)).toBeCloseTo(197, 9);
  });
  it('exhaust against intake: 171/213 and 158/231', () => {
    expect(exhaustToIntake.compute({ exhaust: 171, intake: 213 }) * 100).toBeCloseTo(80.3, 1);
    expect(exhaustToIntake.compute({ exhaust: 158, intake: 231 }) * 100).toBeCloseTo(68.4, 1);
    expect(() => exhaustToIntake.compute({ exhaust: 1, intake: 0 })).toThrow();
  });
});

describe('two curves', () => {
  it('cross where their difference changes sign', () => {
    const a = sheet(50, 100, 150, 200);
    const b = sheet(60, 105, 145, 180);
    const found = crossings(a, b);
    expect(found).toHaveLength(1);
    expect(a.at(found[0]!)).toBeCloseTo(b.at(found[0]!)!, 6);
  });
  it('tell who leads over which lifts, and not where the bench could not tell', () => {
    const a = sheet(50, 100, 150, 200);
    const b = sheet(60, 105, 145, 180);
    const found = leads([a, b], Infinity, USUAL_REPEATABILITY);
    expect(found.map((l) => l.leader)).toEqual([1, -1, 0]);
    expect(toCfm(found[2]!.by)).toBeCloseTo(20, 6);
    expect(leads([a, a], Infinity, USUAL_REPEATABILITY).map((l) => l.leader)).toEqual([-1]);
  });
});

describe('converting a depression', () => {
  // An isentropic nozzle that draws from the room, γ 1.4, 101325 Pa, worked from ψ = √(2γ/(γ−1)(r^(2/γ) − r^((γ+1)/γ))):
  // 10 → 28 in 1.6321, 25 → 28 1.0538, 60 → 28 0.6831; the root gives 1.6733, 1.0583 and 0.7165 less 1 in the last figure.
  it.each([
    [10, 1.6321],
    [15, 1.3417],
    [25, 1.0538],
    [36, 0.8921],
    [28, 1],
  ])('from %i in the root leaves out what a nozzle would', (depression, nozzle) => {
    const root = Math.sqrt(28 / depression);
    expect(conversionError(inchesOfWater(depression))).toBeCloseTo(root / nozzle - 1, 3);
  });
  it('reference air has one density and one speed of sound: ISO 2533 at 15 °C, 340.29 m/s', () => {
    expect(REFERENCE_SOUND_SPEED).toBeCloseTo(340.29, 1);
  });
});

describe('pulls and leaks of a sheet', () => {
  const read = (setup: Partial<Parameters<typeof evaluateSide>[0]>, reading: object) =>
    evaluateSide(
      { reads: 'flow', depression: inchesOfWater(28), ...setup },
      [{ lift: inches(0.3), intake: { pulls: [cfm(100)], ...reading } }],
      'intake',
    ).points[0]!;
  it('a leak goes with the row’s own depression', () => {
    // Read at 28 in it is 4 cfm; at 7 in half of it: (100 − 2) × √(28/7).
    expect(toCfm(read({ leak: { intake: cfm(4) } }, { depression: inchesOfWater(7) }).flow.value)).toBeCloseTo(196, 6);
    expect(toCfm(read({ leak: { intake: cfm(4) } }, {}).flow.value)).toBeCloseTo(96, 9);
  });
  it('the spread of differential pulls is halved by the root, that of flows is not', () => {
    const pulls = [0.49, 0.51];
    const share = (p: { spread?: number; flow: { value: number } }) => p.spread! / p.flow.value;
    const differential = read({ reads: 'differential' }, { pulls, fullScale: cfm(300) });
    const percent = read({ reads: 'percent' }, { pulls, fullScale: cfm(300) });
    expect(share(percent)).toBeCloseTo(0.02 * Math.SQRT2, 9);
    expect(share(differential)).toBeCloseTo(share(percent) / 2, 9);
  });
  it('below its first row a curve says nothing: a sheet that begins at .400 shows no flow at .200', () => {
    const late = flowCurve([0.4, 0.5, 0.6].map((l, i) => ({ lift: inches(l), flow: cfm([276, 290, 300][i]!) })))!;
    expect(late.at(inches(0.2))).toBeUndefined();
    expect(difference(late, late, inches(0.2))).toBeUndefined();
    expect(late.at(inches(0.4))).toBeCloseTo(cfm(276), 12);
  });
});

describe('doubtful points', () => {
  const good = [63, 120, 175, 225, 270, 303, 322, 330];
  it('a true sheet is not doubted', () => {
    expect(doubts(sheet(...good).points, 1 / cfm(1))).toEqual([]);
    expect(doubts(sheet(58, 109, 149, 172, 179, 180, 180).points, 1 / cfm(1))).toEqual([]);
    expect(doubts(sheet(60, 115, 160, 187, 197, 189).points, 1 / cfm(1))).toEqual([]);
  });
  it('330 for 303 is asked about, and the swap is named', () => {
    const found = doubts(sheet(63, 120, 175, 225, 270, 330, 322, 330).points, 1 / cfm(1));
    expect(found.map((d) => [d.index, Math.round(toCfm(d.meant ?? 0))])).toEqual([[5, 303]]);
  });
  it('454 for 354 is asked about, and the figure is named', () => {
    const found = doubts(sheet(80, 160, 230, 290, 330, 454, 370, 380).points, 1 / cfm(1));
    expect(found.map((d) => [d.index, Math.round(toCfm(d.meant ?? 0))])).toEqual([[5, 354]]);
  });
  it('a sheet that begins at .400 is not held against zero flow at zero lift', () => {
    const late = [276, 287, 293, 297, 299, 300].map((q, i) => ({ lift: inches(0.4 + 0.05 * i), flow: cfm(q) }));
    expect(doubts(late, 1 / cfm(1))).toEqual([]);
  });
  it('a garbled last row is doubted, and not its true neighbour; the first row likewise', () => {
    const last = doubts(sheet(63, 120, 157, 172, 178, 181, 183, 168).points, 1 / cfm(1));
    expect(last.map((d) => d.index)).toEqual([7]);
    const first = doubts(sheet(36, 120, 175, 225, 270, 303, 322, 330).points, 1 / cfm(1));
    expect(first.map((d) => [d.index, Math.round(toCfm(d.meant ?? 0))])).toEqual([[0, 63]]);
  });
  it('a figure written twice or left out is named; where several slips would do, none is', () => {
    const doubled = doubts(sheet(63, 120, 1755, 225, 270, 303, 322, 330).points, 1 / cfm(1));
    expect(doubled.map((d) => [d.index, Math.round(toCfm(d.meant ?? 0))])).toEqual([[2, 175]]);
    const left = doubts(sheet(63, 120, 175, 225, 27, 303, 322, 330).points, 1 / cfm(1));
    expect(left.map((d) => [d.index, d.meant])).toEqual([[4, undefined]]);
  });
  it('slips are one swap, one figure too many or too few, or one figure away', () => {
    expect(slips(330, 0).sure).toContain(303);
    expect(slips(330, 0).sure).toContain(30);
    expect(slips(27, 0).sure).toContain(270);
    expect(slips(454, 0).wrongFigures).toContain(354);
    expect(slips(454, 0).wrongFigures).not.toContain(454);
  });
});

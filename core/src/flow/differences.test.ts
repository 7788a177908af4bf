import { describe, expect, it } from 'vitest';
import {
  WITHIN,
  cfm,
  crowdedShare,
  farFrom,
  inches,
  lessManifold,
  millimetres,
  noted,
  numberOf,
  offsetFromGap,
  concentricGap,
  ownManifoldFlow,
  readDifferences,
  seriesFlow,
  throughManifoldOf,
  withManifold,
} from '../index.js';

const rows = (...pairs: [number, number][]) =>
  pairs.map(([lift, difference]) => ({ lift: inches(lift), difference: cfm(difference) }));

describe('a sheet of differences', () => {
  it('says where it gains most, loses most and crosses: +19, +10, 0, −3', () => {
    const read = readDifferences(rows([0.2, 19], [0.3, 10], [0.4, 0], [0.5, -3]))!;
    expect(read.gain!.lift).toBeCloseTo(inches(0.2), 12);
    expect(read.loss!.difference).toBeCloseTo(cfm(-3), 12);
    expect(read.crossings).toHaveLength(1);
    expect(read.crossings[0]).toBeCloseTo(inches(0.4), 12);
  });
  it('crosses on a straight line between rows, as often as it does', () => {
    const read = readDifferences(rows([0.4, -3], [0.2, 6], [0.3, -6], [0.5, 3]))!;
    expect(read.points.map((p) => p.lift)).toEqual([0.2, 0.3, 0.4, 0.5].map(inches));
    expect(read.crossings.map((l) => l / inches(1))).toEqual([expect.closeTo(0.25, 9), expect.closeTo(0.45, 9)]);
  });
  it('a gain all over crosses nowhere, and nothing says nothing', () => {
    expect(readDifferences(rows([0.2, 5], [0.3, 0], [0.4, 2]))).toMatchObject({ crossings: [], loss: undefined });
    expect(readDifferences([])).toBeUndefined();
  });
});

describe('a reading is looked at again', () => {
  it('when it lies further off than a port, a stage or a call usually does; the furthest first', () => {
    const expected = [
      { what: 'port 3', flow: cfm(250), within: WITHIN.port },
      { what: 'the call', flow: cfm(300), within: WITHIN.call },
    ];
    expect(farFrom(cfm(257), expected)).toEqual([]);
    expect(farFrom(cfm(225), expected).map((f) => f.what)).toEqual(['the call', 'port 3']);
    expect(farFrom(cfm(225), expected)[0]!.off).toBeCloseTo(-0.25, 12);
  });
});

describe('head and manifold', () => {
  it('“about 25 cfm lost” is taken off the best flow, and the manifold’s own flow follows from it', () => {
    const loss = { manifoldLoss: cfm(25) };
    expect(withManifold(cfm(300), loss)).toBeCloseTo(cfm(275), 12);
    expect(numberOf(throughManifoldOf(noted(cfm(300), 'best'), loss))).toBeCloseTo(cfm(275), 12);
    // Pressure drops in series: the two together give back what is left.
    const own = ownManifoldFlow(cfm(300), loss)!;
    expect(seriesFlow.compute({ flows: [cfm(300), own] })).toBeCloseTo(cfm(275), 12);
  });
  it('a manifold that was flowed is believed before what is said to be lost in it', () => {
    const both = { manifoldFlow: cfm(400), manifoldLoss: cfm(25) };
    expect(withManifold(cfm(300), both)).toBeCloseTo(cfm(240), 9);
    expect(ownManifoldFlow(cfm(300), both)).toBe(cfm(400));
    expect(withManifold(cfm(300), {})).toBe(cfm(300));
  });
  it('no loss leaves less than nothing', () => {
    expect(lessManifold.compute({ flow: cfm(30), loss: cfm(100) })).toBeGreaterThan(0);
  });
});

describe('a gap measured beside the valve', () => {
  it('says how far off the centre it stands, and so how much of its edge the wall crowds', () => {
    const sizes = { bore: millimetres(100), valve: millimetres(50) };
    const gap = concentricGap.compute({ ...sizes, offset: millimetres(20) });
    expect(offsetFromGap.compute({ ...sizes, gap })).toBeCloseTo(millimetres(20), 12);
    // Plane geometry, counted: directions in which a circle of the valve's edge and the lift leaves the bore.
    const [R, e, d] = [50, 20, 25 + 12];
    const steps = 200_000;
    let out = 0;
    for (let i = 0; i < steps; i++) {
      const t = (2 * Math.PI * i) / steps;
      if (Math.hypot(e + d * Math.cos(t), d * Math.sin(t)) > R) out++;
    }
    const share = crowdedShare.compute({ ...sizes, offset: millimetres(20), lift: millimetres(12) });
    expect(share).toBeCloseTo(out / steps, 4);
  });
  it('a gap no valve in the bore could have is refused', () => {
    expect(() => offsetFromGap.compute({ bore: 0.1, valve: 0.05, gap: 0.03 })).toThrow(/wider than a valve/);
  });
});

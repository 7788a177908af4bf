import { describe, expect, it } from 'vitest';
import {
  chamberForRatio,
  chamberOverhang,
  millingFor,
  millingRateFromPairs,
  sunkVolume,
  topCutLeft,
} from '../chamber/chamber.js';
import { compressionRatio, cylinderVolume } from '../engine/engine.js';
import { cfm, millimetres } from '../quantity/units.js';
import { largestForBore, largestForRing, largestForSpacing, ringWall } from './ring.js';
import { concentricGap, crowdedShare, measuredShrouding, shroudAt, type Bore, type ShroudedValve } from './shroud.js';

const mm = millimetres;

describe('the seat ring', () => {
  it('worked example of the method notes: 38.8 and 33.2 leave 2.8 mm', () => {
    expect(ringWall.compute({ outside: mm(38.8), inside: mm(33.2) })).toBeCloseTo(mm(2.8), 12);
    expect(() => ringWall.compute({ outside: mm(33), inside: mm(33.2) })).toThrow('smaller than its outside');
  });
  it('sets the largest valve, as bore and spacing do (plane geometry)', () => {
    expect(largestForRing.compute({ outside: mm(50), margin: mm(1) })).toBeCloseTo(mm(48), 12);
    expect(largestForBore.compute({ bore: mm(98), offset: mm(22), gap: mm(1.5) })).toBeCloseTo(mm(51), 12);
    expect(largestForSpacing.compute({ spacing: mm(46), other: mm(38), gap: mm(2) })).toBeCloseTo(mm(50), 12);
  });
});

describe('shrouding', () => {
  const valve: ShroudedValve = { diameter: mm(48), x: mm(20), y: 0, inclination: 0, leanTowards: 0 };
  const bore: Bore = { diameter: mm(98), x: 0, y: 0, relief: 0, reliefDepth: 0 };
  const at = (lift: number, v: Partial<ShroudedValve> = {}, b: Partial<Bore> = {}) =>
    shroudAt({ ...valve, ...v }, { ...bore, ...b }, mm(lift));

  it('the least gap is what plane geometry says, towards the wall', () => {
    const { leastGap, towards } = at(5);
    expect(leastGap).toBeCloseTo(concentricGap.compute({ bore: mm(98), valve: mm(48), offset: mm(20) }), 9);
    expect(leastGap).toBeCloseTo(mm(5), 9);
    expect(towards).toBe(0);
  });
  it('a valve in the middle has one gap all round and is crowded by nothing or by all', () => {
    const gaps = at(5, { x: 0 }).gaps;
    expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThan(1e-12);
    expect([at(24, { x: 0 }).crowded, at(26, { x: 0 }).crowded]).toEqual([0, 1]);
  });
  it('the crowded share agrees with the law of cosines', () => {
    // Edge of the crowded arc: the point of the wall 24 + L from the valve's centre.
    const lift = 12;
    const [R, e, d] = [49, 20, 24 + lift];
    const half = Math.acos((R * R - e * e - d * d) / (2 * e * d));
    expect(at(lift).crowded).toBeCloseTo((2 * half) / (2 * Math.PI), 2);
  });
  it('the closed form is what looking all round finds, from nothing to all', () => {
    for (const lift of [1, 4, 6, 9, 14, 25, 45, 60]) {
      const closed = crowdedShare.compute({ bore: mm(98), valve: mm(48), offset: mm(20), lift: mm(lift) });
      expect(closed).toBeCloseTo(at(lift).crowded, 1.7);
    }
    const middle = (lift: number) => crowdedShare.compute({ bore: mm(98), valve: mm(48), offset: 0, lift: mm(lift) });
    expect([middle(24), middle(26)]).toEqual([0, 1]);
  });
  it('a smaller bore crowds more, offset boring and a relieved edge less', () => {
    const base = at(8);
    expect(at(8, {}, { diameter: mm(96.5) }).leastGap).toBeCloseTo(base.leastGap - mm(0.75), 9);
    expect(at(8, {}, { x: mm(0.5) }).leastGap).toBeCloseTo(base.leastGap + mm(0.5), 9);
    expect(at(8, {}, { relief: mm(2), reliefDepth: mm(9) }).leastGap).toBeCloseTo(base.leastGap + mm(2), 9);
    expect(at(10, {}, { relief: mm(2), reliefDepth: mm(9) }).leastGap).toBeCloseTo(base.leastGap, 9);
  });
  it('a valve that leans inwards leaves the wall as it opens', () => {
    const lean = { inclination: (20 * Math.PI) / 180, leanTowards: Math.PI };
    expect(at(10, lean).leastGap - at(0, lean).leastGap).toBeCloseTo(mm(10) * Math.sin(lean.inclination), 9);
  });
  it('refuses a valve outside its bore', () => {
    expect(() => at(5, { x: mm(60) })).toThrow('outside the bore');
  });
  it('measured pair (common practice, no source): 252 to 225 cfm at .500 lost 10.7 %', () => {
    expect(measuredShrouding.compute({ wide: cfm(252), narrow: cfm(225) })).toBeCloseTo(0.107, 3);
  });
});

describe('the chamber', () => {
  // Hand-worked: 98.0 × 93.0 mm is 701.50 cc; 66.8 + 9.0 + 4.0 + 3.0 = 82.8 cc; (701.50 + 82.8) / 82.8 = 9.472.
  const v = cylinderVolume.compute({ bore: mm(98), stroke: mm(93) });
  const parts = { gasket: 9e-6, deck: 4e-6, piston: 3e-6 };
  it('gives the compression of its parts, and the other way round', () => {
    expect(v * 1e6).toBeCloseTo(701.5, 1);
    expect(compressionRatio.compute({ cylinderVolume: v, chamber: 66.8e-6, ...parts })).toBeCloseTo(9.472, 3);
    expect(chamberForRatio.compute({ cylinderVolume: v, compression: 9.472, ...parts }) * 1e6).toBeCloseTo(66.8, 1);
    expect(() => chamberForRatio.compute({ cylinderVolume: v, compression: 1, ...parts })).toThrow('above 1');
  });
  it('is milled by what two measured pairs tell: 67.5 to 65.0 cc with .5 mm, so 1 mm for 62.5', () => {
    const face = millingRateFromPairs.compute({ before: 67.5e-6, after: 65e-6, taken: mm(0.5) });
    expect(face * 1e6).toBeCloseTo(5000, 6);
    expect(millingFor.compute({ now: 67.5e-6, wanted: 62.5e-6, face })).toBeCloseTo(mm(1), 12);
    expect(() => millingRateFromPairs.compute({ before: 65e-6, after: 66e-6, taken: mm(1) })).toThrow('gets smaller');
    expect(() => millingRateFromPairs.compute({ before: 65e-6, after: 64e-6, taken: 0 })).toThrow('above zero');
  });
  it('sunk valves give room that milling takes: 47 mm by 1 mm is 1.735 cc', () => {
    expect(sunkVolume.compute({ diameter: mm(47), depth: mm(1), valves: 1 }) * 1e6).toBeCloseTo(1.735, 3);
  });
  it('a top cut of 30° loses 1.73 of width for each milled', () => {
    expect(topCutLeft.compute({ width: mm(4), milled: mm(1), angle: Math.PI / 6 })).toBeCloseTo(
      mm(4 - Math.sqrt(3)),
      9,
    );
  });
  it('wider than the bore hangs over by half on each side', () => {
    expect(chamberOverhang.compute({ chamber: mm(101), bore: mm(98) })).toBeCloseTo(mm(1.5), 12);
  });
});

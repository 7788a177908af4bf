import { describe, expect, it } from 'vitest';
import { cfm, inches, millimetres } from '../quantity/units.js';
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, idealVelocity } from '../flow/reading.js';
import {
  curtainArea,
  curtainCoefficient,
  minimumArea,
  minimumAreaOfValve,
  radialSeatWidth,
  throatArea,
  valveDiscArea,
} from './areas.js';

const valve = {
  diameter: millimetres(46),
  // 2.83 mm along a 45° face are 2 mm square to the axis, Heywood's w.
  seatWidth: millimetres(2 / Math.cos(Math.PI / 4)),
  seatAngle: Math.PI / 4,
  throat: millimetres(40),
  stem: millimetres(8),
};

describe('valve areas', () => {
  // J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §6.3, eqs. 6.7-6.9: values worked from the formulas.
  it.each([
    [1, 94.41],
    [2, 191.04],
    [4, 390.97],
    [8, 874.24],
    [12, 1206.37],
  ])('minimum area at %d mm', (lift, area) => {
    expect(minimumArea.compute({ ...valve, lift: millimetres(lift), valves: 1 }) * 1e6).toBeCloseTo(area, 2);
  });
  it('stages one and two meet at 4 mm, and the last is the port less the stem', () => {
    expect(minimumAreaOfValve({ ...valve, lift: millimetres(3.9999999) }).stage).toBe(1);
    const below = minimumAreaOfValve({ ...valve, lift: millimetres(3.9999999) }).area;
    const above = minimumAreaOfValve({ ...valve, lift: millimetres(4.0000001) });
    expect(above.stage).toBe(2);
    expect(above.area).toBeCloseTo(below, 9);
    expect(minimumAreaOfValve({ ...valve, lift: millimetres(30) })).toEqual({
      area: throatArea.compute({ throat: valve.throat, stem: valve.stem, valves: 1 }),
      stage: 3,
    });
  });
  it('a seat drawn by hand: valve 46, face 2.83 at 45°, lift 2: inner edge of the seat at 42, frustum to the valve’s edge', () => {
    // On the drawing the seat face runs from 46 out to 42 in: 2 across, 2 down, 2.83 along. Lifted 2, the shortest way
    // from the seat's inner edge to the valve's cone is square to the face: 2 cos 45° = 1.414, mean diameter 42 + 1.0.
    expect(radialSeatWidth(millimetres(2.8284), Math.PI / 4) * 1000).toBeCloseTo(2, 4);
    const { area, stage } = minimumAreaOfValve({ ...valve, lift: millimetres(2) });
    expect([stage, area * 1e6]).toEqual([1, expect.closeTo(Math.PI * 43 * Math.SQRT2, 6)]);
  });
  it('no stage passes the throat less the stem', () => {
    const tight = { ...valve, throat: millimetres(20), stem: millimetres(8) };
    const port = throatArea.compute({ throat: tight.throat, stem: tight.stem, valves: 1 });
    for (let lift = 0.1; lift < 20; lift += 0.1)
      expect(minimumAreaOfValve({ ...tight, lift: millimetres(lift) }).area).toBeLessThanOrEqual(port + 1e-15);
  });
  it('never falls as the valve opens', () => {
    let before = 0;
    for (let lift = 0.1; lift < 20; lift += 0.1) {
      const { area } = minimumAreaOfValve({ ...valve, lift: millimetres(lift) });
      expect(area).toBeGreaterThanOrEqual(before - 1e-12);
      before = area;
    }
  });
  it('refuses a stem as wide as the throat and a seat wider than the valve', () => {
    expect(() => minimumAreaOfValve({ ...valve, stem: valve.throat, lift: 0.001 })).toThrow(/stem/);
    expect(() => minimumAreaOfValve({ ...valve, seatWidth: 0.034, lift: 0.001 })).toThrow(/seat/);
  });
  it('two valves have twice the area of one', () => {
    expect(valveDiscArea.compute({ diameter: 0.03, valves: 2 })).toBeCloseTo(2 * Math.PI * 0.015 ** 2, 12);
    expect(curtainArea.compute({ diameter: 0.03, lift: 0.01, valves: 2 })).toBeCloseTo(2 * Math.PI * 0.0003, 12);
  });
});

describe('coefficients', () => {
  const velocity = idealVelocity.compute({ depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });
  // Arithmetic on the definition, 2.08 in valve at .400.
  it.each([
    [270, 0.708],
    [261, 0.684],
  ])('%d cfm at .400 on 2.08 in', (flow, c) => {
    const area = curtainArea.compute({ diameter: inches(2.08), lift: inches(0.4), valves: 1 });
    expect(curtainCoefficient.compute({ flow: cfm(flow), area, velocity })).toBeGreaterThanOrEqual(c - 5e-4);
    expect(curtainCoefficient.compute({ flow: cfm(flow), area, velocity })).toBeLessThan(c + 1e-3);
  });
});

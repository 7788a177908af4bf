import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { flowCurve } from '../flow/curve.js';
import { cfm, degrees, inches } from '../quantity/units.js';
import { camProfile, exhaustCentreline, valveEvents } from './profile.js';
import { dwell, dwellMean } from './dwell.js';

const card = { maxLift: inches(0.48), duration: degrees(224), rockerRatio: 1.5 };

describe('cam profile', () => {
  it('meets its card: maximum lift, and duration at .050 at the tappet', () => {
    const cam = camProfile(card);
    expect(cam.liftAt(0)).toBeCloseTo(inches(0.48), 12);
    expect(cam.liftAt(degrees(112)) / 1.5).toBeCloseTo(inches(0.05), 12);
    expect(cam.liftAt(-degrees(112))).toBeCloseTo(cam.liftAt(degrees(112)), 15);
  });
  it('meets both durations exactly when two are known', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 195, max: 260, noNaN: true }),
        fc.double({ min: 2.05, max: 6, noNaN: true }),
        (duration, fullness) => {
          const ref = camProfile({ ...card, duration: degrees(duration) });
          // A second duration taken from a cam of another fullness with the same first one.
          const at = (h: number) => (1 - Math.cbrt(h / (0.48 / 1.5))) ** (1 / fullness);
          const d2 = (duration * at(0.2)) / at(0.05);
          const cam = camProfile({
            ...card,
            duration: degrees(duration),
            second: { height: inches(0.2), duration: degrees(d2) },
          });
          expect(cam.fullness).toBeCloseTo(fullness, 6);
          expect(cam.liftAt(degrees(d2 / 2)) / 1.5).toBeCloseTo(inches(0.2), 9);
          expect(cam.liftAt(degrees(duration / 2)) / 1.5).toBeCloseTo(inches(0.05), 9);
          expect(ref.liftAt(0)).toBe(cam.liftAt(0));
        },
      ),
    );
  });
  it('lift, velocity and acceleration all start from zero at both ends', () => {
    const cam = camProfile(card);
    const T = cam.halfDuration;
    const h = T * 1e-3;
    const y = (a: number) => cam.liftAt(a) / cam.maxLift;
    expect(y(T)).toBe(0);
    expect(Math.abs(y(T - h) / h)).toBeLessThan(1e-3);
    expect(Math.abs((y(T - 2 * h) - 2 * y(T - h) + y(T)) / h ** 2)).toBeLessThan(0.1);
  });
  it('has believable seat-to-seat and .200 in durations', () => {
    const cam = camProfile(card);
    const durationAt = (h: number) => (2 * cam.halfDuration * cam.shareAbove(inches(h * 1.5))) / degrees(1);
    // Common practice, no source: about 270° at .006 in and 140° at .200 in for a 224° hydraulic cam.
    expect(durationAt(0.006)).toBeGreaterThan(260);
    expect(durationAt(0.006)).toBeLessThan(282);
    expect(durationAt(0.2)).toBeGreaterThan(130);
    expect(durationAt(0.2)).toBeLessThan(150);
  });
  it.each([
    [{ ...card, maxLift: inches(0.05) }, /never lifts/],
    [{ ...card, duration: degrees(400) }, /between 0° and 360°/],
    [{ ...card, second: { height: inches(0.2), duration: degrees(230) } }, /shorter one/],
    [{ ...card, second: { height: inches(0.2), duration: degrees(222) } }, /No smooth cam/],
  ])('says what does not fit', (figures, message) => {
    expect(() => camProfile(figures)).toThrow(message);
  });
  it('places its events', () => {
    const e = valveEvents(degrees(106), degrees(224));
    expect(e.opens / degrees(1)).toBeCloseTo(-6, 9);
    expect(e.closes / degrees(1)).toBeCloseTo(218, 9);
    expect(exhaustCentreline(degrees(110), degrees(106)) / degrees(1)).toBeCloseTo(114, 9);
  });
});

describe('dwell', () => {
  const cam = camProfile(card);
  it('shares sum to one and match a count over the lift curve', () => {
    const bins = 12;
    const shares = dwell(cam, bins);
    expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
    const counts = new Array<number>(bins).fill(0);
    const n = 100_000;
    for (let i = 0; i < n; i++) {
      const lift = cam.liftAt(((i + 0.5) / n) * cam.halfDuration);
      counts[Math.min(bins - 1, Math.floor((lift / cam.maxLift) * bins))]! += 1 / n;
    }
    shares.forEach((s, i) => expect(s).toBeCloseTo(counts[i]!, 3));
  });
  it('mean of a flow that goes with lift is flow at the mean lift', () => {
    const curve = flowCurve([1, 2, 3, 4, 5].map((i) => ({ lift: inches(i / 10), flow: cfm(40 * i) })))!;
    // ∫(1 − u^m)³ du from 0 to 1, expanded: 1 − 3/(m+1) + 3/(2m+1) − 1/(3m+1).
    const m = cam.fullness;
    const meanShare = 1 - 3 / (m + 1) + 3 / (2 * m + 1) - 1 / (3 * m + 1);
    expect(dwellMean.compute({ curve, cam }) / cfm(1)).toBeCloseTo(400 * 0.48 * meanShare, 3);
  });
  it('says when the sheet stops short', () => {
    const curve = flowCurve([1, 2].map((i) => ({ lift: inches(i / 10), flow: cfm(40 * i) })))!;
    expect(() => dwellMean.compute({ curve, cam })).toThrow(/stops short/);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { degrees, inches, rpm } from '../quantity/units.js';
import { accelerationAt, springsAt } from './float.js';
import { camProfile } from './profile.js';

const card = { maxLift: inches(0.48), duration: degrees(224), rockerRatio: 1.5 };
const cam = camProfile(card);
const springs = { seatForce: 110 * 4.448222, rate: 300 * 175.1268, mass: 0.24 };

describe('the valve’s acceleration', () => {
  it('is the second difference of the lift law, for any cam of the family', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 200, max: 250, noNaN: true }),
        fc.double({ min: -0.97, max: 0.97, noNaN: true }),
        (duration, at) => {
          const own = camProfile({ ...card, duration: degrees(duration) });
          const [angle, h] = [at * own.halfDuration, 1e-4];
          if (Math.abs(angle) < 0.02) return;
          const by = (own.liftAt(angle + h) - 2 * own.liftAt(angle) + own.liftAt(angle - h)) / h ** 2;
          expect(accelerationAt(own, angle)).toBeCloseTo(by, 4);
        },
      ),
    );
    expect(accelerationAt(cam, cam.halfDuration)).toBe(0);
  });
  it('gives the valve back all the speed it took: its integral over the lift is nothing', () => {
    const n = 20_000;
    let sum = 0;
    for (let i = 0; i < n; i++) sum += accelerationAt(cam, cam.halfDuration * ((2 * (i + 0.5)) / n - 1));
    expect(Math.abs(sum / n)).toBeLessThan(1e-6);
  });
});

describe('the springs against their cam', () => {
  it('at a lobe of m = 2 it is Newton’s second law at the nose: F = m · 6 y / T² · ω²', () => {
    const round = { ...cam, fullness: 2, liftAt: (a: number) => inches(0.48) * (1 - (a / cam.halfDuration) ** 2) ** 3 };
    const speed = rpm(6500);
    // A spring so soft that it is weakest for its task at the nose, where the slowing is greatest.
    const found = springsAt(round, { ...springs, rate: 0 }, speed)!;
    const asked = (springs.mass * 6 * inches(0.48) * (2 * Math.PI * speed) ** 2) / cam.halfDuration ** 2;
    expect(found.share.value).toBeCloseTo(springs.seatForce / asked, 9);
    expect(found.lift).toBeCloseTo(inches(0.48), 9);
  });
  it('let go at the speed where force and need meet, whatever speed they were asked at', () => {
    const found = springsAt(cam, springs, rpm(6000))!;
    expect(springsAt(cam, springs, found.floats)!.share.value).toBeCloseTo(1, 9);
    expect(springsAt(cam, springs, rpm(3000))!.floats).toBeCloseTo(found.floats, 9);
    // Half the mass floats √2 later.
    expect(springsAt(cam, { ...springs, mass: 0.12 }, rpm(6000))!.floats).toBeCloseTo(found.floats * Math.SQRT2, 9);
    // Common practice, no source: such springs hold an ordinary hydraulic cam to somewhere from 5,500 to 8,500 rpm.
    expect(found.floats).toBeGreaterThan(rpm(5500));
    expect(found.floats).toBeLessThan(rpm(8500));
  });
  it('of nothing say nothing', () => {
    expect(springsAt(cam, { ...springs, mass: 0 }, 100)).toBeUndefined();
    expect(springsAt(cam, { ...springs, seatForce: 0 }, 100)).toBeUndefined();
    expect(springsAt(cam, springs, 0)).toBeUndefined();
  });
});

import { describe, expect, it } from 'vitest';
import { normal, random, rpm, type PullPoint } from '../index.js';
import { smoothed } from './smooth.js';

const line = (n: number, of: (speed: number) => number): PullPoint[] =>
  Array.from({ length: n }, (_, i) => rpm(3000 + 50 * i)).map((speed) => ({
    speed,
    power: of(speed),
    torque: of(speed) / speed,
  }));

describe('a pull drawn smooth', () => {
  it('leaves a straight line where it was, ends too', () => {
    const straight = line(40, (s) => 1000 * s + 7);
    smoothed(straight, rpm(300)).forEach((p, i) => expect(p.power).toBeCloseTo(straight[i]!.power, 4));
  });
  it('takes noise out and the top not down by more than the noise', () => {
    const u = random(3);
    const truth = line(60, (s) => 2e5 - 8 * (s - rpm(4600)) ** 2);
    const noisy = truth.map((p) => ({ ...p, power: p.power + 2000 * normal(u) }));
    const off = (list: readonly PullPoint[]) =>
      Math.sqrt(list.reduce((s, p, i) => s + (p.power - truth[i]!.power) ** 2, 0) / list.length);
    expect(off(smoothed(noisy, rpm(300)))).toBeLessThan(0.6 * off(noisy));
  });
  it('gives the rows back for no width, and never changes what it was given', () => {
    const rows = line(5, (s) => s);
    expect(smoothed(rows, 0)).toBe(rows);
    const copy = structuredClone(rows);
    smoothed(rows, rpm(200));
    expect(rows).toEqual(copy);
    expect(smoothed(rows.slice(0, 2), rpm(200))).toHaveLength(2);
  });
});

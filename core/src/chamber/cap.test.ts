import { describe, expect, it } from 'vitest';
import { capDepth } from './cap.js';

describe('the depth of a dome', () => {
  it('of half a sphere is its radius', () => {
    expect(capDepth((2 / 3) * Math.PI * 0.05 ** 3, 0.05)).toBeCloseTo(0.05, 12);
  });
  it('gives its volume back by the formula of the tables', () => {
    for (const [volume, radius] of [
      [65e-6, 0.045],
      [1e-6, 0.06],
      [200e-6, 0.03],
    ] as const) {
      const h = capDepth(volume, radius);
      expect((Math.PI * h * (3 * radius ** 2 + h ** 2)) / 6).toBeCloseTo(volume, 12);
    }
  });
});

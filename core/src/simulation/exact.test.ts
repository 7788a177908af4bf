import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cosine, exp, ln, raised, sine } from './exact.js';

describe('powers and turns of plain arithmetic', () => {
  it('are those of the standard library within 2e-15, wherever the simulation asks them', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-6, max: 1e6, noNaN: true }),
        fc.double({ min: -8, max: 8, noNaN: true }),
        (x, y) => {
          expect(Math.abs(ln(x) - Math.log(x))).toBeLessThan(2e-15 * Math.max(1, Math.abs(Math.log(x))));
          const power = x ** y;
          expect(Math.abs(raised(x, y) / power - 1)).toBeLessThan(2e-14);
        },
      ),
      { numRuns: 2000 },
    );
    fc.assert(
      fc.property(fc.double({ min: -30, max: 30, noNaN: true }), (x) => {
        expect(Math.abs(exp(x) / Math.exp(x) - 1)).toBeLessThan(2e-15);
        expect(Math.abs(sine(x) - Math.sin(x))).toBeLessThan(5e-15);
        expect(Math.abs(cosine(x) - Math.cos(x))).toBeLessThan(5e-15);
      }),
      { numRuns: 2000 },
    );
  });
  it('at the edges', () => {
    expect([raised(0, 1.4), raised(1, 7), exp(0), ln(1), sine(0)]).toEqual([0, 1, 1, 0, 0]);
    expect(exp(-1000)).toBe(0);
    expect(exp(1000)).toBe(Infinity);
    expect(cosine(0)).toBeCloseTo(1, 15);
    expect(sine(Math.PI)).toBeCloseTo(0, 14);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ENOUGH_HEADS, bestsOf, createBand, usualBest } from './band.js';

const head = fc.array(
  fc.record({
    liftRatio: fc.double({ min: 0.02, max: 0.4, noNaN: true }),
    coefficient: fc.double({ min: 0.2, max: 1, noNaN: true }),
  }),
  { minLength: 1, maxLength: 8 },
);

describe('the band of all measured heads', () => {
  it('is the same whatever came and went before: what a head added, its going takes back', () => {
    fc.assert(
      fc.property(fc.array(head, { minLength: 1, maxLength: 12 }), fc.array(fc.nat(11)), (heads, gone) => {
        const lost = new Set(gone.filter((i) => i < heads.length));
        const grown = createBand();
        heads.forEach((h) => grown.add(bestsOf(h)));
        lost.forEach((i) => grown.remove(bestsOf(heads[i]!)));
        const fresh = createBand();
        heads
          .filter((_, i) => !lost.has(i))
          .toReversed()
          .forEach((h) => fresh.add(bestsOf(h)));
        for (let r = 0.03; r < 0.4; r += 0.017)
          for (const c of [0.3, 0.55, 0.8]) expect(grown.at(r, c)).toEqual(fresh.at(r, c));
      }),
      { numRuns: 100 },
    );
  });

  it('says what the middle head has, and what heads differ by: a few odd ones move neither', () => {
    const band = createBand();
    const at = (coefficient: number) => bestsOf([{ liftRatio: 0.25, coefficient }]);
    [0.52, 0.54, 0.55, 0.56, 0.58].forEach((c) => band.add(at(c)));
    // Quartiles .54 and .56: .02 ÷ 1.349 ÷ .55 is 2.7 %, under the least that is believed of so few.
    expect(band.at(0.25, 0.5)).toMatchObject({ middle: 0.55, spread: 0.045 });
    band.add(at(0.9));
    band.add(at(0.1));
    expect(band.at(0.25, 0.5).middle).toBe(0.55);
    expect(band.at(0.25, 0.5).spread).toBeCloseTo(Math.max(0.045, (0.57 - 0.53) / 1.349 / 0.55), 9);
  });
  it('counts each head once, by its best near the lift ratio, against a count of all of them', () => {
    fc.assert(
      fc.property(fc.array(head, { minLength: ENOUGH_HEADS, maxLength: 20 }), (heads) => {
        const band = createBand();
        heads.forEach((h) => band.add(bestsOf(h)));
        const near = (a: number, b: number) => Math.abs(Math.round(a / 0.005) - Math.round(b / 0.005)) <= 4;
        for (const r of [0.05, 0.1, 0.21, 0.3]) {
          const seen = heads.flatMap((h) => {
            const own = h.filter((p) => near(p.liftRatio, r)).map((p) => p.coefficient);
            return own.length ? [Math.max(...own)] : [];
          });
          const view = band.at(r, 0.6);
          expect(view.heads).toBe(seen.length);
          if (seen.length < ENOUGH_HEADS) expect(view).toMatchObject({ usual: true, best: usualBest(r) });
          else
            expect(view).toMatchObject({
              usual: false,
              best: Math.max(...seen),
              percentile: seen.filter((c) => c < 0.6).length / seen.length,
            });
        }
      }),
      { numRuns: 100 },
    );
  });
});

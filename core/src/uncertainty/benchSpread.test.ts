import { random } from './random.js';
import { describe, expect, it } from 'vitest';
import { benchSpread, type BenchContrast } from './benchSpread.js';
import { studentQuantile } from './normal.js';

const PRIOR = { usual: 0.018, freedom: 5, setup: 0.01 };

function normals(seed: number) {
  const draw = random(seed);
  return () => Math.sqrt(-2 * Math.log(1 - draw())) * Math.cos(2 * Math.PI * draw());
}
/** So many ports, each tested once by every one of the benches. */
const contrasts = (benches: readonly number[], ports: number, setup: number, z: () => number): BenchContrast[] =>
  Array.from({ length: ports }, () => {
    const level = z();
    return { benches: benches.map((_, i) => `b${i}`), logs: benches.map((b) => level + b + setup * z()) };
  });

describe('how far benches lie off', () => {
  it('is what is usual while nothing says otherwise', () => {
    expect(benchSpread([], PRIOR)).toMatchObject({ freedom: 5, benches: 0 });
    expect(benchSpread([], PRIOR).u).toBeCloseTo(0.018, 3);
    expect(benchSpread([{ benches: ['a'], logs: [1] }], PRIOR).u).toBeCloseTo(0.018, 3);
  });
  it('grows by benches that lie far apart, shrinks by those that agree, and is better known by many', () => {
    const z = normals(1);
    const far = benchSpread(contrasts([-0.05, 0.04, 0.06, -0.03, 0.05, -0.06], 8, 0.01, z), PRIOR);
    const near = benchSpread(contrasts([0.001, -0.002, 0.002, 0, -0.001, 0.001], 8, 0.01, z), PRIOR);
    expect(far.u).toBeGreaterThan(0.03);
    expect(near.u).toBeLessThan(0.016);
    expect(far.freedom).toBeGreaterThan(6);
    expect(far.benches).toBe(6);
  });
  it('does not hang on the order of ports or benches, nor on the level of a port', () => {
    const z = normals(2);
    const some = contrasts([0.01, -0.02, 0.03], 4, 0.01, z);
    const turned = some
      .toReversed()
      .map((c) => ({ benches: c.benches.toReversed(), logs: c.logs.toReversed().map((y) => y + 7) }));
    expect(benchSpread(turned, PRIOR).u).toBeCloseTo(benchSpread(some, PRIOR).u, 12);
  });
  it('holds the next bench nineteen times in twenty, where a spread taken from two benches alone would not', () => {
    const z = normals(3);
    const worlds = 2000;
    let [held, plugged] = [0, 0];
    for (let w = 0; w < worlds; w++) {
      // A world's spread: scaled inverse χ² of five degrees of freedom about 1.4 %, drawn by five squares.
      const squares = Array.from({ length: 5 }, () => z() ** 2).reduce((s, x) => s + x, 0);
      const spread = Math.sqrt((5 * 0.018 ** 2 * (3 / 5)) / squares);
      const benches = [spread * z(), spread * z()];
      const { u, freedom } = benchSpread(contrasts(benches, 3, 0.01, z), PRIOR);
      const next = spread * z();
      const scale = u * Math.sqrt((freedom - 2) / freedom);
      if (Math.abs(next) < studentQuantile(0.05, freedom) * scale) held++;
      if (Math.abs(next) < (1.96 * Math.abs(benches[0]! - benches[1]!)) / Math.SQRT2) plugged++;
    }
    expect(held / worlds).toBeGreaterThan(0.93);
    expect(held / worlds).toBeLessThan(0.97);
    expect(plugged / worlds).toBeLessThan(0.8);
  });
});

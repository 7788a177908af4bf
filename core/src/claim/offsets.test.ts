import { Matrix, solve } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { sourceOffsets, sourceReads, type OffsetData } from '../index.js';

/** A repeatable draw (Park and Miller, CACM 31 (1988) 1192), and a normal one from it. */
function dice(seed: number) {
  let state = seed;
  const uniform = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
  for (let i = 0; i < 10; i++) uniform();
  return { uniform, normal };
}

interface Row {
  point: number;
  source: number;
  value: number;
}
const data = (rows: readonly Row[], sources: number): OffsetData => ({
  point: rows.map((r) => r.point),
  source: rows.map((r) => r.source),
  logFlow: rows.map((r) => r.value),
  sources,
  own: 0,
});

/** A net of heads, each tested by two to four of the sources at some lifts. */
function net(seed: number, { sources = 5, heads = 14, lifts = 5, sigma = 0.012 } = {}) {
  const { uniform, normal } = dice(seed);
  const truth = Array.from({ length: sources }, (_, s) => (s === 0 ? 0 : 0.04 * normal()));
  const rows: Row[] = [];
  for (let h = 0; h < heads; h++) {
    const by = new Set([h % sources, (h + 1) % sources]);
    if (uniform() < 0.5) by.add(Math.floor(uniform() * sources));
    for (let l = 0; l < lifts; l++) {
      const level = 4 + 0.3 * l + 0.1 * normal();
      for (const source of by)
        rows.push({ point: h * lifts + l, source, value: level + truth[source]! + sigma * normal() });
    }
  }
  return { rows, truth };
}

describe('source offsets', () => {
  it('equal a reference library’s dense least squares on a small net', () => {
    const { rows, truth } = net(7, { sources: 4, heads: 5, lifts: 3 });
    const points = Math.max(...rows.map((r) => r.point)) + 1;
    // Columns: every point's own effect, then every source but the first. Solved by ml-matrix's QR.
    const design = Matrix.zeros(rows.length, points + truth.length - 1);
    rows.forEach((r, i) => {
      design.set(i, r.point, 1);
      if (r.source > 0) design.set(i, points + r.source - 1, 1);
    });
    const dense = solve(design, Matrix.columnVector(rows.map((r) => r.value))).to1DArray();
    const { offsets } = sourceOffsets(data(rows, 4), { threshold: Infinity });
    for (let s = 1; s < 4; s++) expect(Math.abs(offsets[s]!.offset - dense[points + s - 1]!)).toBeLessThan(1e-9);
  });

  it('lie within their stated error: 95 % intervals cover 90 to 98 % over 200 nets', () => {
    let covered = 0;
    let all = 0;
    for (let seed = 1; seed <= 200; seed++) {
      const { rows, truth } = net(seed * 977);
      for (const o of sourceOffsets(data(rows, truth.length)).offsets.slice(1)) {
        // What the offset is shown to be made of makes it: each source's own row of the normal equations holds.
        expect(sourceReads.compute(o)).toBeCloseTo(Math.expm1(o.offset), 6);
        all++;
        if (Math.abs(o.offset - truth[o.source]!) <= 1.96 * o.error) covered++;
      }
    }
    expect(covered / all).toBeGreaterThan(0.9);
    expect(covered / all).toBeLessThan(0.98);
  });

  it('with a set-up bias of 1 % a sheet, 95 % intervals cover 90 to 98 % over 300 nets', () => {
    let covered = 0;
    let all = 0;
    const lifts = 5;
    for (let seed = 1; seed <= 300; seed++) {
      const { normal } = dice(seed * 1543 + 11);
      const truth = [0, 0.02, -0.015, 0.03];
      const rows: (Row & { group: number })[] = [];
      for (let h = 0; h < 10; h++)
        for (const source of [h % 4, (h + 1) % 4]) {
          const setup = 0.01 * normal();
          for (let l = 0; l < lifts; l++)
            rows.push({
              point: h * lifts + l,
              group: h,
              source,
              value: 4 + 0.3 * l + truth[source]! + setup + 0.003 * normal(),
            });
        }
      const { offsets } = sourceOffsets({ ...data(rows, 4), group: rows.map((r) => r.group) });
      for (const o of offsets.slice(1)) {
        all++;
        if (Math.abs(o.offset - truth[o.source]!) <= o.half) covered++;
      }
    }
    expect(covered / all).toBeGreaterThan(0.9);
    expect(covered / all).toBeLessThan(0.98);
  });

  it('of lifts that not all sources of a head share are solved over the whole head', () => {
    // Source 1 reads 3 % high, source 2 5 % high; 2 shares no lift with our bench, only with 1.
    const rows = [
      [0, 0, 5],
      [0, 1, 5.03],
      [1, 1, 6.03],
      [1, 2, 6.05],
    ].map(([point, source, value]) => ({ point: point!, source: source!, value: value! }));
    const { offsets } = sourceOffsets({ ...data(rows, 3), group: [0, 0, 0, 0] });
    expect(offsets.map((o) => o.offset)).toEqual([0, expect.closeTo(0.03, 12), expect.closeTo(0.05, 12)]);
  });

  it('one odd sheet moves plain least squares, and the robust net hardly', () => {
    const { rows, truth } = net(31, { heads: 20 });
    const spoilt = rows.map((r) => (r.source === 2 && r.point < 10 ? { ...r, value: r.value + 0.4 } : r));
    const off = (threshold?: number) =>
      Math.abs(
        sourceOffsets(data(spoilt, truth.length), threshold ? { threshold } : {}).offsets[2]!.offset - truth[2]!,
      );
    expect(off()).toBeLessThan(off(Infinity) / 2);
    const { odd } = sourceOffsets(data(spoilt, truth.length));
    expect(odd.some((i) => spoilt[i]!.source === 2 && spoilt[i]!.point < 10)).toBe(true);
  });

  it('says which sources nothing ties to the bench', () => {
    const rows: Row[] = [
      { point: 0, source: 0, value: 5 },
      { point: 0, source: 1, value: 5.03 },
      { point: 1, source: 0, value: 5.2 },
      { point: 1, source: 1, value: 5.23 },
      { point: 2, source: 2, value: 5 },
      { point: 2, source: 3, value: 5.1 },
      { point: 3, source: 4, value: 5 },
    ];
    const { offsets, sigma } = sourceOffsets(data(rows, 5));
    expect(offsets.map((o) => o.tied)).toEqual([true, true, false, false, false]);
    expect(offsets[1]!.offset).toBeCloseTo(0.03, 12);
    expect(offsets[1]!.shared).toBe(2);
    expect(offsets[2]).toMatchObject({ offset: 0, error: Infinity });
    expect(sigma).toBeCloseTo(0, 9);
  });

  it('a chain ties a source that never met our bench, less surely than its neighbours', () => {
    const { normal } = dice(5);
    const rows: Row[] = [];
    for (let p = 0; p < 40; p++) {
      const [a, b] = p < 20 ? [0, 1] : [1, 2];
      for (const source of [a, b]) rows.push({ point: p, source, value: 5 + 0.02 * source + 0.01 * normal() });
    }
    const { offsets } = sourceOffsets(data(rows, 3));
    expect(offsets[2]!.tied).toBe(true);
    expect(Math.abs(offsets[2]!.offset - 0.04)).toBeLessThan(3 * offsets[2]!.error);
    expect(offsets[2]!.error).toBeGreaterThan(offsets[1]!.error);
  });

  it('one shared point gives an offset, and no error to judge it by', () => {
    const rows = [0, 1].map((source) => ({ point: 0, source, value: 5 + 0.03 * source }));
    const { offsets, sigma } = sourceOffsets(data(rows, 2));
    expect(offsets[1]).toMatchObject({ tied: true, offset: expect.closeTo(0.03, 12), error: Infinity });
    expect(sigma).toBeUndefined();
    expect(sourceOffsets(data([], 1)).offsets).toHaveLength(1);
  });
});

/** Which head, tested now on our own bench, would tie a loose source or sharpen the others most. */
import { USUAL_REPEATABILITY } from '../flow/compare.js';
import { cholesky, solveFactored } from '../method/cholesky.js';
import { components, rowsOf, type OffsetData } from './net.js';
import { sheetNet } from './sheets.js';

// before.get()!, after.get()!: of the same sources.

/** A head that could be tested: the points of the net our bench would then see too. */
export interface Candidate {
  readonly key: string;
  readonly points: readonly number[];
}

export interface Gain {
  readonly key: string;
  /** Sources it would tie to our bench. */
  readonly ties: readonly number[];
  /** Standard errors of the sources tied already, before and after; the one that gains most first. */
  readonly sharpens: readonly { readonly source: number; readonly before: number; readonly after: number }[];
}

/**
 * Weighs each candidate: what the net's errors would become if our bench saw its points once each. Only where
 * observations stand matters for that, not what they say; `sigma` is the scatter of one observation.
 * Best first: most sources newly tied, then most taken off the sum of the variances.
 */
export function gainsOf(
  data: OffsetData,
  candidates: readonly Candidate[],
  sigma: number = USUAL_REPEATABILITY,
): Gain[] {
  if (!data.group) return weighed(data, candidates, sigma);
  // Only where observations stand matters, so the levels of the sheets need not be solved for.
  const net = sheetNet(data, data.group, (part) => Array.from({ length: part.sources }, () => 0));
  return weighed(
    net.data,
    candidates.map(({ key, points }) => ({
      key,
      points: [...new Set(points.map((p) => net.pointOf[p]!))].filter((p) => p >= 0),
    })),
    sigma,
  );
}

function weighed(data: OffsetData, candidates: readonly Candidate[], sigma: number): Gain[] {
  const rows = rowsOf(data);
  const { start, order, points } = rows;
  const n = data.sources;
  const part = components(data, rows);
  /** How often each source saw a point. */
  const seen = (p: number): Map<number, number> => {
    const counts = new Map<number, number>();
    for (let k = start[p]!; k < start[p + 1]!; k++) {
      const s = data.source[order[k]!]!;
      counts.set(s, (counts.get(s) ?? 0) + 1);
    }
    return counts;
  };
  /** What a point adds to the normal equations of the sources, times `sign`. */
  const put = (matrix: Float64Array, counts: ReadonlyMap<number, number>, sign: number): void => {
    let total = 0;
    for (const c of counts.values()) total += c;
    for (const [a, ca] of counts) {
      matrix[a * n + a]! += sign * ca;
      for (const [b, cb] of counts) matrix[a * n + b]! -= (sign * ca * cb) / total;
    }
  };
  const base = new Float64Array(n * n);
  for (let p = 0; p < points; p++) put(base, seen(p), 1);

  /** Standard errors of the sources that hang together with our bench. */
  const errorsOf = (matrix: Float64Array, tied: readonly number[]): Map<number, number> => {
    const m = tied.length;
    const reduced = Float64Array.from(
      { length: m * m },
      (_, i) => matrix[tied[Math.floor(i / m)]! * n + tied[i % m]!]!,
    );
    cholesky(reduced, m);
    return new Map(
      tied.map((s, i) => {
        const unit = new Float64Array(m);
        unit[i] = 1;
        return [s, sigma * Math.sqrt(solveFactored(reduced, m, unit)[i]!)];
      }),
    );
  };
  const others = Array.from({ length: n }, (_, s) => s).filter((s) => s !== data.own);
  const tiedNow = others.filter((s) => part[s] === part[data.own]);
  const before = errorsOf(base, tiedNow);

  return candidates
    .map(({ key, points: tested }) => {
      const matrix = base.slice();
      const joined = new Set<number>();
      for (const p of tested) {
        const counts = seen(p);
        put(matrix, counts, -1);
        for (const s of counts.keys()) joined.add(part[s]!);
        put(matrix, new Map(counts).set(data.own, (counts.get(data.own) ?? 0) + 1), 1);
      }
      const tied = others.filter((s) => part[s] === part[data.own] || joined.has(part[s]!));
      const after = errorsOf(matrix, tied);
      const sharpens = tiedNow
        .map((source) => ({ source, before: before.get(source)!, after: after.get(source)! }))
        .filter((g) => g.after < g.before * 0.999)
        .sort((a, b) => b.before - b.after - (a.before - a.after));
      return {
        key,
        ties: tied.filter((s) => part[s] !== part[data.own]),
        sharpens,
        taken: sharpens.reduce((sum, g) => sum + g.before ** 2 - g.after ** 2, 0),
      };
    })
    .filter((g) => g.ties.length > 0 || g.sharpens.length > 0)
    .sort((a, b) => b.ties.length - a.ties.length || b.taken - a.taken || a.key.localeCompare(b.key))
    .map(({ key, ties, sharpens }) => ({ key, ties, sharpens }));
}

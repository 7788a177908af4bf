/** How far benches lie from the truth, learnt from ports that several of them tested. */
import { cholesky, solveFactored } from '../method/cholesky.js';

// place.get()!: every bench of a contrast has its place.

/** One port that several benches tested alike: each bench's natural logarithm of flow, against any one level. */
export interface BenchContrast {
  readonly benches: readonly string[];
  readonly logs: readonly number[];
}

export interface BenchSpread {
  /** Standard deviation of what a bench reads off, a share. */
  readonly u: number;
  /** How well that is known, in degrees of freedom. */
  readonly freedom: number;
  /** Benches that were held against another. */
  readonly benches: number;
}

/** Spreads looked at, as multiples of the usual one: from a fifth to five times, in equal steps of the logarithm. */
const GRID = Array.from({ length: 41 }, (_, i) => Math.exp(Math.log(5) * (i / 20 - 1)));

/**
 * The spread of benches by what the contrasts say, over a prior: `usual` as if known from `freedom` (over 4) degrees of
 * freedom. Each bench is one value, normal about the truth, for all ports it tested; a set-up of each test lies off by `setup`
 * besides. The spread is marginalised, not estimated: its posterior is summed over a grid (A. Gelman and others, Bayesian
 * Data Analysis, 3rd ed. (2013), 5.4), and what is left of not knowing it stands in the degrees of freedom.
 */
export function benchSpread(
  contrasts: readonly BenchContrast[],
  { usual, freedom, setup }: { readonly usual: number; readonly freedom: number; readonly setup: number },
): BenchSpread {
  const names = [...new Set(contrasts.filter((c) => c.benches.length > 1).flatMap((c) => c.benches))].sort();
  const n = names.length;
  if (n === 0) return { u: usual, freedom, benches: 0 };
  const place = new Map(names.map((name, i) => [name, i]));
  const matrix = new Float64Array(n * n);
  const right = new Float64Array(n);
  for (const { benches, logs } of contrasts) {
    const count = benches.length;
    if (count < 2) continue;
    const level = logs.reduce((s, y) => s + y, 0) / count;
    benches.forEach((bench, i) => {
      const a = place.get(bench)!;
      right[a]! += (logs[i]! - level) / setup ** 2;
      for (const other of benches)
        matrix[a * n + place.get(other)!]! += ((other === bench ? 1 : 0) - 1 / count) / setup ** 2;
    });
  }
  const scale = (usual ** 2 * (freedom - 2)) / freedom;
  const logs = GRID.map((times) => {
    const variance = (times * usual) ** 2;
    // Scaled inverse χ² of the variance, on a grid of its logarithm.
    const prior = -(freedom / 2) * Math.log(variance) - (freedom * scale) / (2 * variance);
    const a = matrix.slice();
    for (let i = 0; i < n; i++) a[i * n + i]! += 1 / variance;
    cholesky(a, n);
    let half = 0;
    for (let i = 0; i < n; i++) half += Math.log(a[i * n + i]!);
    const mean = solveFactored(a, n, right);
    const fit = mean.reduce((s, m, i) => s + m * right[i]!, 0) / 2;
    return { variance, log: prior + fit - half - (n / 2) * Math.log(variance) };
  });
  const most = Math.max(...logs.map((l) => l.log));
  const weights = logs.map((l) => Math.exp(l.log - most));
  const total = weights.reduce((s, w) => s + w, 0);
  const moment = (power: number) => logs.reduce((s, l, i) => s + weights[i]! * l.variance ** power, 0) / total;
  const variance = moment(1);
  const relative = moment(2) / variance ** 2 - 1;
  return {
    u: Math.sqrt(variance),
    // Of a scaled inverse χ² the relative variance is 2 ÷ (ν − 4).
    freedom: Math.max(freedom, 4 + 2 / relative),
    benches: n,
  };
}

import type { Method } from '../method/method.js';
import { cholesky, solveFactored } from '../method/cholesky.js';
import { studentQuantile } from '../uncertainty/normal.js';
import { components, rowsOf, type OffsetData } from './net.js';
import { sheetNet } from './sheets.js';

/**
 * How far each source reads from our own bench, from all heads more than one of them tested:
 * ln Q = (head at this lift) + (source) + error, by least squares, our bench at zero.
 */

export const offsetCorrection: Method<{ flow: number; offset: number }> = {
  id: 'offset-correction',
  title: 'A figure read through its source’s offset',
  formula: 'Q = Q_{source}\\,e^{-o}',
  inputs: {
    flow: { label: 'flow as the source says', symbol: 'Q_{source}', kind: 'flow' },
    offset: { label: 'offset of the source, natural logarithm', symbol: 'o', kind: 'ratio' },
  },
  result: { label: 'flow our bench would show', symbol: 'Q', kind: 'flow' },
  source:
    'ln Q = head and lift + source + error, least squares over shared heads; robust by P. J. Huber, Robust Statistics (1981).',
  caution: 'An offset is an average over other heads: it says nothing of how this one was set up.',
  compute: ({ flow, offset }) => flow * Math.exp(-offset),
};

export const sourceReads: Method<{ differences: readonly number[]; weights: readonly number[] }> = {
  id: 'source-reads',
  title: 'How far a source reads from our bench',
  formula: 'e^{o} - 1,\\quad o = \\frac{\\sum_i w_i\\,(\\ln Q_i - h_i)}{\\sum_i w_i}',
  inputs: {
    differences: {
      label: 'each shared figure less what the whole net says of its head, ln',
      symbol: '\\ln Q_i - h_i',
      kind: 'ratio',
    },
    weights: { label: 'weight of each: odd ones count less', symbol: 'w_i', kind: 'ratio' },
  },
  result: { label: 'against our bench', symbol: 'e^o - 1', kind: 'percent' },
  source:
    'Least squares over shared heads, each source’s own row of the normal equations; weights by P. J. Huber, Robust Statistics (1981).',
  caution: 'What the net says of a head h is solved together with all sources: it rests on their figures too.',
  compute: ({ differences, weights }) =>
    Math.expm1(differences.reduce((sum, d, i) => sum + weights[i]! * d, 0) / weights.reduce((sum, w) => sum + w, 0)),
};

export const offsetInterval: Method<{ error: number; coverage: number }> = {
  id: 'offset-interval',
  title: 'How well an offset is known',
  formula: '\\pm t\\,s_o',
  inputs: {
    error: { label: 'standard error, from what the net leaves over', symbol: 's_o', kind: 'percent' },
    coverage: { label: 'Student’s factor for 95 %', symbol: 't', kind: 'ratio' },
  },
  result: { label: 'uncertainty of the offset', symbol: '\\pm', kind: 'percent' },
  source: 'JCGM 100:2008, annex G; the covariance of the net by P. J. Huber, Robust Statistics (1981), 7.6.',
  compute: ({ error, coverage }) => error * coverage,
};

export const offsetSpread: Method<{ flow: number; share: number }> = {
  id: 'offset-spread',
  title: 'What an offset leaves open of a figure',
  formula: '\\pm s\\,Q',
  inputs: {
    flow: { label: 'flow read through the offset', symbol: 'Q', kind: 'flow' },
    share: { label: 'uncertainty of the offset', symbol: 's', kind: 'percent' },
  },
  result: { label: 'uncertainty of the figure', symbol: '\\pm', kind: 'flow' },
  source: 'Definition of a share.',
  compute: ({ flow, share }) => flow * share,
};

export interface SourceOffset {
  readonly source: number;
  /** Whether a chain of heads tested at two sources each ties it to our bench. */
  readonly tied: boolean;
  /** ln Q_source − ln Q_own: 0.03 reads about 3 % high. 0 where nothing ties it. */
  readonly offset: number;
  /** Standard error of the offset; 0 for our own, Infinity where nothing ties it. */
  readonly error: number;
  /** Half of its 95 % interval, by Student’s distribution; 0 for our own, Infinity where nothing says. */
  readonly half: number;
  /** Points it shares with any other source. */
  readonly shared: number;
  /** What the offset was made of: each shared observation less its head's level, and its weight. Empty where it is not tied. */
  readonly differences: readonly number[];
  readonly weights: readonly number[];
}

export interface OffsetResult {
  readonly offsets: readonly SourceOffset[];
  /** Standard deviation of one observation about the fit; undefined when nothing is left over to judge by. */
  readonly sigma: number | undefined;
  /** Observations the robust weights hold below a half: odd ones. By their index. */
  readonly odd: readonly number[];
  readonly rounds: number;
}

export interface OffsetOptions {
  /** Huber's threshold in standard deviations; Infinity is plain least squares. */
  readonly threshold?: number;
  readonly mostRounds?: number;
  /** Told after each round: 0 to 1. */
  readonly progress?: (share: number) => void;
}

/** P. J. Huber, Robust Statistics (1981): 95 % as sharp as least squares on normal errors. */
export const HUBER = 1.345;

/**
 * Solves the net. Where the data say which sheet an observation is of, each sheet counts once: its lifts share its set-up,
 * and taken one by one they would promise more than they know. Each point's own effect is eliminated, so that only as many unknowns as sources are solved for.
 * Sources in a part of the net without our bench have no offset: they are said not to be tied.
 */
export function sourceOffsets(data: OffsetData, options: OffsetOptions = {}): OffsetResult {
  if (!data.group) return solveNet(data, options);
  const net = sheetNet(data, data.group, (part) =>
    solveNet(part, { threshold: Infinity }).offsets.map((o) => o.offset),
  );
  const solved = solveNet(net.data, options);
  const odd = new Set(solved.odd);
  return { ...solved, odd: Array.from(net.observationOf, (o, i) => (odd.has(o) ? i : -1)).filter((i) => i >= 0) };
}

function solveNet(data: OffsetData, options: OffsetOptions): OffsetResult {
  const { threshold = HUBER, mostRounds = 20, progress = () => {} } = options;
  const rows = rowsOf(data);
  const { start, order, points } = rows;
  const part = components(data, rows);
  const ownPart = part[data.own]!;
  /** Unknowns: the tied sources but our own. */
  const column = new Int32Array(data.sources).fill(-1);
  let unknowns = 0;
  for (let s = 0; s < data.sources; s++) if (s !== data.own && part[s] === ownPart) column[s] = unknowns++;
  const n = data.point.length;
  const weight = new Float64Array(n).fill(1);
  const residual = new Float64Array(n);
  const offset = new Float64Array(data.sources);
  const shared = new Int32Array(data.sources);
  /** Points that say something of a source: seen more than once, in our bench's part of the net. */
  const speaking: number[] = [];
  let used = 0;
  for (let p = 0; p < points; p++) {
    const size = start[p + 1]! - start[p]!;
    if (size < 2 || part[data.source[order[start[p]!]!]!] !== ownPart) continue;
    speaking.push(p);
    used += size;
    for (let k = start[p]!; k < start[p + 1]!; k++) shared[data.source[order[k]!]!]!++;
  }
  /** A point's own effect under weights: the mean of its observations, each less `off` of its source. */
  const levelOf = (p: number, w: Float64Array, off?: Float64Array): { level: number; total: number } => {
    let total = 0;
    let sum = 0;
    for (let k = start[p]!; k < start[p + 1]!; k++) {
      const i = order[k]!;
      total += w[i]!;
      sum += w[i]! * (data.logFlow[i]! - (off?.[data.source[i]!] ?? 0));
    }
    return { level: sum / total, total };
  };

  /** Normal equations of the sources under the present weights. */
  const normal = (w: Float64Array): { matrix: Float64Array; right: Float64Array } => {
    const matrix = new Float64Array(unknowns * unknowns);
    const right = new Float64Array(unknowns);
    for (const p of speaking) {
      const [from, to] = [start[p]!, start[p + 1]!];
      const { level, total } = levelOf(p, w);
      for (let k = from; k < to; k++) {
        const i = order[k]!;
        const a = column[data.source[i]!]!;
        if (a < 0) continue;
        right[a]! += w[i]! * (data.logFlow[i]! - level);
        matrix[a * unknowns + a]! += w[i]!;
        for (let m = from; m < to; m++) {
          const j = order[m]!;
          const b = column[data.source[j]!]!;
          if (b >= 0) matrix[a * unknowns + b]! -= (w[i]! * w[j]!) / total;
        }
      }
    }
    return { matrix, right };
  };

  const freedom = used - speaking.length - unknowns;
  let sigma = 0;
  let rounds = 0;
  if (unknowns > 0) {
    for (; rounds < mostRounds;) {
      const { matrix, right } = normal(weight);
      cholesky(matrix, unknowns);
      const solved = solveFactored(matrix, unknowns, right);
      let moved = 0;
      for (let s = 0; s < data.sources; s++)
        if (column[s]! >= 0) {
          moved = Math.max(moved, Math.abs(solved[column[s]!]! - offset[s]!));
          offset[s] = solved[column[s]!]!;
        }
      const sizes: number[] = [];
      const stride = Math.max(1, Math.floor(used / 20_000));
      let seen = 0;
      for (const p of speaking) {
        const { level } = levelOf(p, weight, offset);
        for (let k = start[p]!; k < start[p + 1]!; k++) {
          const i = order[k]!;
          residual[i] = data.logFlow[i]! - offset[data.source[i]!]! - level;
          if (seen++ % stride === 0) sizes.push(Math.abs(residual[i]!));
        }
      }
      rounds++;
      progress(Math.min(1, rounds / mostRounds));
      // The middle of the residuals' sizes, on the scale of a normal error, and for the figures spent on the fit.
      sizes.sort((a, b) => a - b);
      const middle = sizes[Math.floor(sizes.length / 2)] ?? 0;
      sigma = freedom > 0 ? (middle / 0.6745) * Math.sqrt(used / freedom) : 0;
      if (threshold === Infinity || sigma < 1e-12) break;
      for (let i = 0; i < n; i++) {
        const size = Math.abs(residual[i]!);
        weight[i] = size <= threshold * sigma ? 1 : (threshold * sigma) / size;
      }
      if (rounds > 1 && moved < 1e-10) break;
    }
  }
  progress(1);

  const errors = new Float64Array(data.sources);
  let spread: number | undefined;
  if (unknowns > 0 && freedom > 0) {
    // Huber (1981), 7.6: the covariance of the plain net times what the bounded residuals leave over.
    let bounded = 0;
    let inside = 0;
    let total = 0;
    for (const p of speaking) {
      for (let k = start[p]!; k < start[p + 1]!; k++) {
        const i = order[k]!;
        bounded += (weight[i]! * residual[i]!) ** 2;
        if (weight[i] === 1) inside++;
        total++;
      }
    }
    const share = inside / total;
    const parameters = speaking.length + unknowns;
    const correction = 1 + ((parameters / total) * (1 - share)) / share;
    const variance = (correction ** 2 * (bounded / freedom)) / share ** 2;
    spread = Math.sqrt(variance);
    const { matrix } = normal(new Float64Array(n).fill(1));
    cholesky(matrix, unknowns);
    for (let s = 0; s < data.sources; s++) {
      const c = column[s]!;
      if (c < 0) continue;
      const unit = new Float64Array(unknowns);
      unit[c] = 1;
      errors[s] = Math.sqrt(variance * solveFactored(matrix, unknowns, unit)[c]!);
    }
  }
  const coverage = freedom > 0 ? studentQuantile(0.05, freedom) : Infinity;
  const differences: number[][] = Array.from({ length: data.sources }, () => []);
  const weights: number[][] = Array.from({ length: data.sources }, () => []);
  if (unknowns > 0)
    for (const p of speaking) {
      const { level } = levelOf(p, weight, offset);
      for (let k = start[p]!; k < start[p + 1]!; k++) {
        const i = order[k]!;
        differences[data.source[i]!]!.push(data.logFlow[i]! - level);
        weights[data.source[i]!]!.push(weight[i]!);
      }
    }
  const odd: number[] = [];
  for (let i = 0; i < n; i++) if (weight[i]! < 0.5) odd.push(i);
  return {
    offsets: Array.from({ length: data.sources }, (_, source) => {
      const tied = part[source] === ownPart && (source === data.own || shared[source]! > 0);
      return {
        source,
        tied,
        offset: tied ? offset[source]! : 0,
        error: source === data.own ? 0 : tied && spread !== undefined ? errors[source]! : Infinity,
        half: source === data.own ? 0 : tied && spread !== undefined ? coverage * errors[source]! : Infinity,
        shared: shared[source]!,
        differences: differences[source]!,
        weights: weights[source]!,
      };
    }),
    sigma: spread,
    odd,
    rounds,
  };
}

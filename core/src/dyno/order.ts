/** Pulls in the order they were made: what heat does to them, and whether a change between them counts. */
import { inverse } from '../method/cholesky.js';
import { mean } from '../method/mean.js';
import type { Method } from '../method/method.js';
import { studentQuantile } from '../uncertainty/normal.js';
import { refusal } from '../refusal/refusal.js';

/** One pull of a sequence: what was on the engine, and its figure (mean power, peak), in the order it was made. */
export interface Ordered {
  readonly what: string;
  readonly value: number;
}

/** A slope over the order, as a share of the mean for each pull. */
export interface Drift {
  readonly share: number;
  readonly u: number;
  /** Beyond what two thirds of such series show by chance alone, twice over. */
  readonly counts: boolean;
}

interface Fitted {
  readonly values: readonly number[];
  /** Variance of each value for a row's variance of one. */
  readonly spread: readonly number[];
  readonly residual: number;
  readonly freedom: number;
}

/** Least squares of y on columns that stand apart; undefined for fewer rows than columns. */
function fit(columns: readonly (readonly number[])[], y: readonly number[]): Fitted | undefined {
  const k = columns.length;
  if (y.length < k) return undefined;
  const sum = (a: readonly number[], b: readonly number[]) => a.reduce((s, v, n) => s + v * b[n]!, 0);
  const spread = inverse(Float64Array.from(columns.flatMap((c) => columns.map((d) => sum(c, d)))), k);
  const right = columns.map((c) => sum(c, y));
  const values = columns.map((_, i) => right.reduce((s, r, j) => s + spread[i * k + j]! * r, 0));
  let squares = 0;
  y.forEach((v, n) => (squares += (v - values.reduce((s, p, i) => s + p * columns[i]![n]!, 0)) ** 2));
  return { values, spread: columns.map((_, i) => spread[i * k + i]!), residual: squares, freedom: y.length - k };
}

/** Like pulls that rise or fall with their order: heat soak, or an engine that still loosens. Undefined for fewer than three. */
export function driftOf(values: readonly number[], repeatability: number): Drift | undefined {
  if (values.length < 3) return undefined;
  const middle = (values.length - 1) / 2;
  const found = fit([values.map(() => 1), values.map((_, i) => i - middle)], values);
  if (!found) return undefined;
  const [level, slope] = found.values as [number, number];
  const s = spreadOf(found, repeatability * level);
  const u = s.value * Math.sqrt(found.spread[1]!);
  return { share: slope / level, u: u / level, counts: Math.abs(slope) > s.reach * u };
}

/** The scatter of one pull: what the series shows, with the known repeatability standing for a few pulls more. */
function spreadOf({ residual, freedom }: Fitted, known: number): { value: number; reach: number } {
  const all = freedom + KNOWN;
  return { value: Math.sqrt((residual + KNOWN * known ** 2) / all), reach: studentQuantile(0.05, all) };
}
/** Degrees of freedom a repeatability that is known from elsewhere is worth. Common practice, no source. */
const KNOWN = 4;

export interface Swap {
  /** B less A, in the figure's own unit. */
  readonly difference: number;
  readonly u: number;
  /** Beyond what chance does, 95 %. */
  readonly counts: boolean;
  /** The drift was taken off: A stood before and after B. */
  readonly driftRemoved: boolean;
  /** All on one day; over several the drift is never taken off. */
  readonly oneDay: boolean;
  readonly pulls: number;
}

/**
 * B against A in the order they were pulled, least squares with a drift where A and B alternate (NIST/SEMATECH
 * e-Handbook, 5.3.3 on blocking against time, from memory). Where all of A came before all of B the drift cannot be
 * told from the change and is not taken off; nor over several days (`oneDay` false). `repeatability` is a share, one standard deviation of one pull.
 */
export function swapOf(
  pulls: readonly Ordered[],
  a: string,
  b: string,
  repeatability: number,
  oneDay = true,
): Swap | undefined {
  const used = pulls.map((p, i) => ({ ...p, order: i })).filter((p) => p.what === a || p.what === b);
  const isB = used.map((p) => (p.what === b ? 1 : 0));
  if (new Set(isB).size < 2) return undefined;
  const values = used.map((p) => p.value);
  const turns = isB.filter((v, i) => i > 0 && v !== isB[i - 1]).length;
  const alternates = oneDay && turns >= 2;
  const middle = mean(used.map((p) => p.order));
  const columns = [used.map(() => 1), isB, ...(alternates ? [used.map((p) => p.order - middle)] : [])];
  const found = fit(columns, values);
  if (!found) return undefined;
  const difference = found.values[1]!;
  const s = spreadOf(found, repeatability * found.values[0]!);
  const u = s.value * Math.sqrt(found.spread[1]!);
  return {
    difference,
    u,
    counts: Math.abs(difference) > s.reach * u,
    driftRemoved: alternates,
    oneDay,
    pulls: used.length,
  };
}

export const pullsWanted: Method<{ difference: number; repeatability: number }> = {
  id: 'pulls-wanted',
  title: 'Pulls that tell two heads apart',
  formula: 'n = \\left\\lceil \\frac{3}{2}\\left(\\frac{2\\,s}{\\Delta}\\right)^2 \\right\\rceil',
  inputs: {
    difference: { label: 'difference expected, as a share', symbol: '\\Delta', kind: 'percent' },
    repeatability: { label: 'one pull against the next, one standard deviation', symbol: 's', kind: 'percent' },
  },
  result: { label: 'pulls of each turn of A-B-A', symbol: 'n', kind: 'count' },
  source:
    'Two standard uncertainties of the mean of 2n pulls against n: 4 s² (1/2n + 1/n) = Δ². Definition of u (JCGM 100:2008, 4.2.3).',
  caution: 'At least two of each turn: one pull shows no scatter of its own.',
  compute: ({ difference, repeatability }) => {
    if (difference === 0) throw refusal('noDifferenceExpected');
    if (!(repeatability > 0)) throw refusal('pullRepeatsWithoutSpread');
    return Math.max(2, Math.ceil(1.5 * ((2 * repeatability) / difference) ** 2));
  },
};

/** Repeatability of pulls on one day and cell until the shop has its own. Common practice, no source. */
export const PULL_REPEATABILITY = 0.005;

/** Gains and losses that somebody added up: what they make, and whether the sum stated is theirs. */
export function sumChecked(
  parts: readonly number[],
  stated: number,
): { readonly sum: number; readonly agrees: boolean } {
  const sum = parts.reduce((s, p) => s + p, 0);
  return { sum, agrees: Math.abs(sum - stated) < 0.5 };
}

/** A simulation tied to a pull: a few of its assumptions moved, within what is believed of them, until it lies on the rows. */
import { cholesky, inverse, solveFactored } from '../method/cholesky.js';
import { refusal } from '../refusal/refusal.js';

/** An assumption that may be moved: where it is believed to lie, and how far it may go. */
export interface Tied {
  readonly id: string;
  readonly label: string;
  readonly value: number;
  /** Standard uncertainty of what is believed. */
  readonly u: number;
  readonly low: number;
  readonly high: number;
}

export interface Tie {
  readonly values: readonly number[];
  /** Standard uncertainties of the values after the pull. */
  readonly u: readonly number[];
  /** Of the first two with each other: near −1 or 1 the pull cannot tell them apart. */
  readonly correlation: number;
  /** Made less simulated once tied, in the rows' unit. */
  readonly residuals: readonly number[];
  /** One standard deviation of what stays unexplained, as a share of the rows. */
  readonly left: number;
  readonly rounds: number;
}

/** The step of least squares with every value kept in its bounds: what would leave them stays at the bound, and the rest is solved anew. */
function boundedMove(a: Float64Array, b: Float64Array, values: readonly number[], tied: readonly Tied[]): number[] {
  const k = tied.length;
  const next = [...values];
  const free = new Set(tied.map((_, i) => i));
  for (let round = 0; round <= k && free.size > 0; round++) {
    const own = [...free];
    const m = own.length;
    const left = new Float64Array(m * m);
    const right = new Float64Array(m);
    own.forEach((i, r) => {
      own.forEach((j, c) => (left[r * m + c] = a[i * k + j]!));
      right[r] = b[i]!;
      // What is held at its bound has moved already.
      for (let j = 0; j < k; j++) if (!free.has(j)) right[r]! -= a[i * k + j]! * (next[j]! - values[j]!);
    });
    cholesky(left, m);
    const move = solveFactored(left, m, right);
    const beyond = own.filter((i, r) => {
      const to = values[i]! + move[r]!;
      return to > tied[i]!.high || to < tied[i]!.low;
    });
    own.forEach((i, r) => (next[i] = Math.min(tied[i]!.high, Math.max(tied[i]!.low, values[i]! + move[r]!))));
    if (beyond.length === 0) break;
    for (const i of beyond) free.delete(i);
  }
  return next;
}

/** Share of an assumption's own uncertainty by which it is moved to find the slope. */
const STEP = 0.5;
/** Rounds at most; a move smaller than this share of the uncertainty ends it. */
const ROUNDS = 5;
const SETTLED = 0.05;

/**
 * Gauss-Newton with the beliefs as prior (Bayesian least squares; Rodgers, Inverse Methods for Atmospheric Sounding, ch. 2,
 * from memory), each value kept within its bounds. `run` gives the rows for values, in the order of `made`; `u` is the
 * standard uncertainty of a row. @throws Refusal when fewer rows are given than two.
 */
export async function tieTo(
  tied: readonly Tied[],
  made: readonly number[],
  u: number,
  run: (values: readonly number[]) => Promise<readonly number[]>,
): Promise<Tie> {
  if (made.length < 2) throw refusal('pullTooShort');
  const k = tied.length;
  let values = tied.map((t) => t.value);
  let now = await run(values);
  let spread: Float64Array = new Float64Array(k * k);
  let rounds = 0;
  for (; rounds < ROUNDS; rounds++) {
    const slopes = await Promise.all(
      tied.map(async (t, i) => {
        const up = values[i]! + STEP * t.u <= t.high;
        const step = (up ? 1 : -1) * STEP * t.u;
        const moved = await run(values.map((v, j) => (j === i ? v + step : v)));
        return moved.map((m, n) => (m - now[n]!) / step);
      }),
    );
    const a = new Float64Array(k * k);
    const b = new Float64Array(k);
    tied.forEach((t, i) => {
      tied.forEach((_, j) => (a[i * k + j] = slopes[i]!.reduce((s, v, n) => s + (v * slopes[j]![n]!) / u ** 2, 0)));
      a[i * k + i]! += 1 / t.u ** 2;
      b[i] =
        slopes[i]!.reduce((s, v, n) => s + (v * (made[n]! - now[n]!)) / u ** 2, 0) + (t.value - values[i]!) / t.u ** 2;
    });
    spread = inverse(a, k);
    const next = boundedMove(a, b, values, tied);
    const still = next.every((v, i) => Math.abs(v - values[i]!) < SETTLED * tied[i]!.u);
    values = next;
    now = await run(values);
    if (still) {
      rounds++;
      break;
    }
  }
  const residuals = made.map((m, n) => m - now[n]!);
  const off = tied.map((_, i) => Math.sqrt(spread[i * k + i]!));
  return {
    values,
    u: off,
    correlation: k > 1 ? spread[1]! / (off[0]! * off[1]!) : 0,
    residuals,
    left: Math.sqrt(residuals.reduce((s, r, n) => s + (r / made[n]!) ** 2, 0) / Math.max(1, residuals.length - 1)),
    rounds,
  };
}

import { deviationAt, standardUncertainty, type Leaf, type Spread } from './leaf.js';
import { normalShare } from './normal.js';
import { random, seedOf } from './random.js';

/**
 * A pure function from the values of its leaves to several outputs. Several models may share leaves: what is shared is
 * what has the same id.
 */
export interface Model {
  readonly leaves: readonly Leaf[];
  /** Values in the order of `leaves`; outputs in an order of the model's own. */
  readonly evaluate: (values: ArrayLike<number>) => readonly number[];
}

/** What one leaf does to the outputs. */
export interface Response {
  readonly leaf: Leaf;
  /** Change of each output for one standard uncertainty, with its sign (JCGM 100:2008, 5.1.3 note 2: central difference). */
  readonly change: readonly number[];
  /** Where the response bends: the change of each output at each of GRID's deviations, else undefined. */
  readonly grid?: readonly (readonly number[])[];
  /** Where it is a straight line on either side: the change of each output for one standard uncertainty down, and up. */
  readonly sides?: Sides;
}

export interface Sides {
  readonly low: readonly number[];
  readonly high: readonly number[];
}

/** Standard deviations at which a bending response is evaluated (JCGM 101:2008 asks for the function itself there). */
export const GRID = [-4, -3, -2, -1.3, -0.7, 0, 0.7, 1.3, 2, 3, 4];
/** A response bends when its two sides differ by more than this share of what it does. */
const BEND = 0.15;

export interface Responses {
  readonly base: readonly number[];
  readonly of: readonly Response[];
}

export function responses(model: Model): Responses {
  const values = model.leaves.map((l) => l.value);
  const base = model.evaluate(values);
  const at = (i: number, deviation: number) => {
    values[i] = model.leaves[i]!.value + deviation;
    const out = model.evaluate(values);
    values[i] = model.leaves[i]!.value;
    return out;
  };
  const of = model.leaves.flatMap((leaf, i): Response[] => {
    const u = standardUncertainty(leaf.spread);
    if (u === 0) return [];
    const up = at(i, u);
    const down = at(i, -u);
    const change = base.map((_, k) => (up[k]! - down[k]!) / 2);
    const bent = base.some((b, k) => {
      const most = Math.max(Math.abs(up[k]! - b), Math.abs(down[k]! - b));
      return most > 1e-4 && Math.abs(up[k]! + down[k]! - 2 * b) > BEND * 2 * most;
    });
    if (!bent) return [{ leaf, change }];
    const grid = GRID.map((z) => (z === 0 ? base.map(() => 0) : at(i, z * u).map((v, k) => v - base[k]!)));
    return [{ leaf, change, grid }];
  });
  return { base, of };
}

/** Where each draw lies on GRID: the place below it, and how far on to the next, which beyond its ends is past it. */
function placesOf(draws: Float64Array): { readonly below: Uint8Array; readonly on: Float64Array } {
  const below = new Uint8Array(draws.length);
  const on = new Float64Array(draws.length);
  draws.forEach((z, d) => {
    let i = 0;
    while (i < GRID.length - 2 && GRID[i + 1]! <= z) i++;
    below[d] = i;
    on[d] = (z - GRID[i]!) / (GRID[i + 1]! - GRID[i]!);
  });
  return { below, on };
}

export const DRAWS = 4000;
const drawn = new Map<string, Float64Array>();
/** Leaves whose draws are kept; a lineup of six needs about two hundred. */
const MOST_KEPT = 1000;

const tables = new Map<string, Float64Array>();
/** What spreads of one form have in common, whatever their width. */
function shapeOf(spread: Spread): string {
  switch (spread.shape) {
    case 'triangular':
      return `triangular ${(spread.low / spread.high).toFixed(9)}`;
    case 'student':
      return `student ${spread.freedom}`;
    case 'cases': {
      const u = standardUncertainty(spread);
      return `cases ${spread.of.map((c) => `${c.share} ${(c.at / u).toFixed(9)}`).join(' ')}`;
    }
    case 'normal':
    case 'uniform':
      return spread.shape;
  }
}

/** The middle of each of DRAWS equal shares of a shape, rising, in standard uncertainties: one table for each shape. */
function sharesOf(spread: Spread): Float64Array {
  const shape = shapeOf(spread);
  const known = tables.get(shape);
  if (known) return known;
  const u = standardUncertainty(spread);
  const table = Float64Array.from({ length: DRAWS }, (_, i) => deviationAt(spread, (i + 0.5) / DRAWS) / u);
  tables.set(shape, table);
  return table;
}

/**
 * The leaf's draws, in standard uncertainties from its value: the same for the same leaf in every head and every run.
 * One from each of DRAWS equal shares, in an order of the leaf's own (M. D. McKay, R. J. Beckman, W. J. Conover,
 * Technometrics 21 (1979) 239), so that few draws say much.
 */
export function drawsOf(leaf: Leaf): Float64Array {
  const key = `${leaf.id} ${JSON.stringify(leaf.spread)}`;
  const kept = drawn.get(key);
  if (kept) return kept;
  const uniform = random(seedOf(leaf.id));
  const draws = sharesOf(leaf.spread).slice();
  for (let i = DRAWS - 1; i > 0; i--) {
    const j = Math.floor(uniform() * (i + 1));
    [draws[i], draws[j]] = [draws[j]!, draws[i]!];
  }
  if (drawn.size >= MOST_KEPT) drawn.clear();
  drawn.set(key, draws);
  return draws;
}

/** Adds what a bending response does. A draw's place on GRID is the same for every output: found once. */
function addBent(total: readonly Float64Array[], grid: readonly (readonly number[])[], draws: Float64Array): void {
  const places = placesOf(draws);
  const at = new Float64Array(GRID.length);
  for (let k = 0; k < total.length; k++) {
    for (let i = 0; i < GRID.length; i++) at[i] = grid[i]![k]!;
    addAlong(total[k]!, at, places);
  }
}

function addAlong(into: Float64Array, at: Float64Array, { below, on }: ReturnType<typeof placesOf>): void {
  for (let d = 0; d < DRAWS; d++) {
    const i = below[d]!;
    const t = on[d]!;
    into[d] = into[d]! + at[i]! * (1 - t) + at[i + 1]! * t;
  }
}

/** Adds what a response of two straight lines does: their mean slope, and half of what they differ by on either side. */
function addSides(total: readonly Float64Array[], { low, high }: Sides, draws: Float64Array): void {
  for (let k = 0; k < total.length; k++) {
    const slope = (high[k]! - low[k]!) / 2;
    const bend = (high[k]! + low[k]!) / 2;
    const into = total[k]!;
    for (let d = 0; d < DRAWS; d++) {
      const z = draws[d]!;
      into[d] = into[d]! + slope * z + bend * Math.abs(z);
    }
  }
}

/** What the leaves do to each output in each draw: one array an output. `only` picks the leaves. */
export function deviations(of: readonly Response[], outputs: number): Float64Array[] {
  const total = Array.from({ length: outputs }, () => new Float64Array(DRAWS));
  for (const response of of) {
    // A row far from the lift that counts does nothing, and needs no draws.
    const { grid, sides } = response;
    if (!grid && !sides && response.change.every((c) => c === 0)) continue;
    const z = drawsOf(response.leaf);
    if (grid) addBent(total, grid, z);
    else if (sides) addSides(total, sides, z);
    else
      for (let k = 0; k < outputs; k++) {
        const into = total[k]!;
        const c = response.change[k]!;
        if (c !== 0) for (let d = 0; d < DRAWS; d++) into[d]! += c * z[d]!;
      }
  }
  return total;
}

/** The least of the outputs in each draw. */
export function leastOf(base: readonly number[], off: readonly Float64Array[]): Float64Array {
  const least = new Float64Array(DRAWS).fill(Infinity);
  for (let k = 0; k < base.length; k++) {
    const b = base[k]!;
    const o = off[k]!;
    for (let d = 0; d < DRAWS; d++) if (b + o[d]! < least[d]!) least[d] = b + o[d]!;
  }
  return least;
}

/** Share of draws above a limit. */
export function shareAbove(values: Float64Array, limit = 0): number {
  let above = 0;
  for (const v of values) if (v > limit) above++;
  return above / values.length;
}

/** Mean and standard deviation of draws. */
export function moments(values: Float64Array): { readonly mean: number; readonly u: number } {
  let sum = 0;
  for (const v of values) sum += v;
  const mean = sum / values.length;
  let squares = 0;
  for (const v of values) squares += (v - mean) ** 2;
  return { mean, u: Math.sqrt(squares / (values.length - 1)) };
}

/** Combined standard uncertainty of one output (JCGM 100:2008, 5.1.2; correlation is in the shared leaf). */
export const combined = (of: readonly Response[], output: number): number =>
  Math.hypot(...of.map((r) => r.change[output]!));

/** A leaf's share of an output's variance. */
export interface Share {
  readonly leaf: Leaf;
  /** Change of the output for one standard uncertainty. */
  readonly change: number;
  readonly share: number;
}

/** The budget of one output: each leaf's share of the variance, largest first; those under a thousandth are left out. */
export function budgetOf(of: readonly Response[], output: number): Share[] {
  const variance = combined(of, output) ** 2;
  return of
    .map((r) => ({
      leaf: r.leaf,
      change: r.change[output]!,
      share: variance > 0 ? r.change[output]! ** 2 / variance : 0,
    }))
    .filter((s) => s.share >= 0.001)
    .sort((a, b) => b.share - a.share);
}

/** The chance that a value of this mean and uncertainty is above zero, were it normal. */
export const chanceAbove = (mean: number, u: number): number => (u > 0 ? normalShare(mean / u) : mean > 0 ? 1 : 0);

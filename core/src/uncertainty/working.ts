/** What a computed number's uncertainty is made of, found by moving the leaves of its own working. */
import { isWorking, leafOf, valueOf, type Working } from '../method/method.js';
import { standardUncertainty, type Leaf } from './leaf.js';
import type { Share } from './propagate.js';
import { Refusal } from '../refusal/refusal.js';

/** Leaves by their id, and figures that are themselves made of leaves (a best flow). */
export interface LeafBook {
  readonly leaves: ReadonlyMap<string, Leaf>;
  /** Change of a figure for one standard uncertainty of each leaf. */
  readonly made: ReadonlyMap<string, Made>;
}
export type Made = readonly { readonly leaf: Leaf; readonly change: number }[];

/** The value of a working with one leaf of it, wherever it stands, at another value. @throws Refusal where there is none. */
function revalued(x: unknown, leaf: string, value: number): unknown {
  if (leafOf(x) === leaf) return value;
  if (isWorking(x)) {
    const given: Record<string, unknown> = {};
    for (const name in x.given) given[name] = revalued(x.given[name], leaf, value);
    return x.method.compute(given) as unknown;
  }
  return valueOf(x);
}

/** Values of the leaves a working rests on, by id. */
function leavesOf(x: unknown, into = new Map<string, number>()): Map<string, number> {
  const id = leafOf(x);
  if (id !== undefined) into.set(id, valueOf(x) as number);
  else if (isWorking(x)) for (const name in x.given) leavesOf(x.given[name], into);
  return into;
}

export interface Budget {
  /** Standard uncertainty, in the unit of the number. */
  readonly u: number;
  /** Each leaf's share of the variance, largest first. */
  readonly shares: readonly Share[];
}

/**
 * The budget of a computed number (JCGM 100:2008, 5.1: central differences over one standard uncertainty, by the chain
 * rule through figures that are made of leaves; a leaf that stands in several places moves in all of them at once).
 * Undefined when nothing it rests on has a known uncertainty.
 */
export function budgetOfWorking(working: Working, book: LeafBook): Budget | undefined {
  const changes = new Map<string, { leaf: Leaf; change: number }>();
  const add = (leaf: Leaf, change: number) => {
    const known = changes.get(leaf.id);
    changes.set(leaf.id, { leaf, change: (known?.change ?? 0) + change });
  };
  const slope = (id: string, at: number, step: number): number => {
    try {
      const up = revalued(working, id, at + step) as number;
      const down = revalued(working, id, at - step) as number;
      return (up - down) / 2;
    } catch (error) {
      if (error instanceof Refusal) return 0;
      throw error;
    }
  };
  for (const [id, value] of leavesOf(working)) {
    const leaf = book.leaves.get(id);
    const made = book.made.get(id);
    if (leaf) {
      const u = standardUncertainty(leaf.spread);
      if (u > 0) add(leaf, slope(id, value, u));
    } else if (made) {
      const whole = Math.hypot(...made.map((m) => m.change));
      if (whole === 0) continue;
      const one = slope(id, value, whole) / whole;
      for (const m of made) add(m.leaf, one * m.change);
    }
  }
  return budgetOf([...changes.values()]);
}

/** The same of a figure that is made of leaves by itself. */
export const budgetOfMade = (id: string, book: LeafBook): Budget | undefined => budgetOf(book.made.get(id) ?? []);

function budgetOf(changes: Made): Budget | undefined {
  const list = changes.filter((c) => c.change !== 0);
  if (list.length === 0) return undefined;
  const u = Math.hypot(...list.map((c) => c.change));
  return {
    u,
    shares: list
      .map((c) => ({ ...c, share: c.change ** 2 / u ** 2 }))
      .filter((c) => c.share >= 0.001)
      .sort((a, b) => b.share - a.share),
  };
}

/** Digits after the point that an uncertainty leaves worth writing: one of its own figures (JCGM 100:2008, 7.2.6). */
export const digitsWorth = (u: number, most: number): number =>
  u > 0 ? Math.max(0, Math.min(most, -Math.floor(Math.log10(u)))) : most;

/** Which way wins: the edge of price against power, and how often each comes first when nothing is sure. */
import type { Leaf } from '../uncertainty/leaf.js';
import { DRAWS, drawsOf } from '../uncertainty/propagate.js';
import { shareLeaf } from '../uncertainty/leaves.js';

export interface Priced {
  readonly cost: number;
  readonly power: number;
}

/** Whether nothing else is at least as cheap and as strong, and better in one of the two. */
export const paretoEdge = (ways: readonly Priced[]): boolean[] =>
  ways.map(
    (w) =>
      !ways.some((o) => o !== w && o.cost <= w.cost && o.power >= w.power && (o.cost < w.cost || o.power > w.power)),
  );

/** A figure with what it rests on: leaves of the same id are the same thing in every way. */
export interface Scored {
  readonly value: number;
  readonly parts: readonly { readonly leaf: Leaf; readonly change: number }[];
}

export interface Criterion {
  readonly name: string;
  readonly weight: number;
  /** Less is better: a price, a time. */
  readonly less: boolean;
  /** One a way, in their order; undefined where nothing is known of it. */
  readonly scores: readonly (Scored | undefined)[];
}

export interface Ranked {
  /** Weighted mark of each way with the figures as they stand, 0 to 1; undefined where it has none. */
  readonly marks: readonly (number | undefined)[];
  /** How often each way comes first when weights and figures vary. */
  readonly wins: readonly number[];
}

/** How much a weight varies, a share of it: log-normal. Common practice, no source. */
export const WEIGHT_SPREAD = 0.3;

/** Marks of one criterion, 0 for the worst of the ways and 1 for the best; a way without a figure gets the middle. */
export function marksOf(values: readonly (number | undefined)[], less: boolean): number[] {
  const known = values.filter((v) => v !== undefined);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  return values.map((v) => {
    if (v === undefined || !(high > low)) return 0.5;
    const mark = (v - low) / (high - low);
    return less ? 1 - mark : mark;
  });
}

const usedOf = (criteria: readonly Criterion[]): Criterion[] =>
  criteria.filter((c) => c.weight > 0 && c.scores.some((s) => s !== undefined));

function weigh(
  ways: number,
  used: readonly Criterion[],
  weights: readonly number[],
  values: (c: number, w: number) => number | undefined,
): number[] {
  const total = weights.reduce((s, w) => s + w, 0);
  const marks = new Array<number>(ways).fill(0);
  used.forEach((c, k) => {
    const own = marksOf(
      Array.from({ length: ways }, (_, w) => values(k, w)),
      c.less,
    );
    own.forEach((m, w) => (marks[w]! += (weights[k]! / total) * m));
  });
  return marks;
}

/** Weighted mark of each way with the figures as they stand, 0 to 1; undefined where nothing counts. */
export function weighedMarks(ways: number, criteria: readonly Criterion[]): (number | undefined)[] {
  const used = usedOf(criteria);
  if (ways === 0 || used.length === 0) return Array.from({ length: ways }, () => undefined);
  return weigh(
    ways,
    used,
    used.map((c) => c.weight),
    (k, w) => used[k]!.scores[w]?.value,
  );
}

/**
 * Ranks ways by weighted marks, and draws weights and figures to say how often each wins (JCGM 101:2008; the draws of a
 * leaf are the same wherever it stands, so that shared errors stay shared).
 */
export function rankWays(ways: number, criteria: readonly Criterion[], spread = WEIGHT_SPREAD): Ranked {
  const used = usedOf(criteria);
  const base = weighedMarks(ways, criteria);
  if (ways === 0 || used.length === 0) return { marks: base, wins: base.map(() => 0) };
  const off = used.map((c) =>
    c.scores.map((s) => {
      if (!s) return undefined;
      const draws = new Float64Array(DRAWS).fill(s.value);
      for (const { leaf, change } of s.parts) {
        const z = drawsOf(leaf);
        for (let d = 0; d < DRAWS; d++) draws[d]! += change * z[d]!;
      }
      return draws;
    }),
  );
  const weightDraws = used.map((c) => drawsOf(shareLeaf(`weight:${c.name}`, c.name, spread)));
  const wins = new Array<number>(ways).fill(0);
  for (let d = 0; d < DRAWS; d++) {
    const marks = weigh(
      ways,
      used,
      used.map((c, k) => c.weight * Math.exp(spread * weightDraws[k]![d]!)),
      (k, w) => off[k]![w]?.[d],
    );
    let best = 0;
    for (let w = 1; w < ways; w++) if (marks[w]! > marks[best]!) best = w;
    wins[best]!++;
  }
  return { marks: base, wins: wins.map((n) => n / DRAWS) };
}

/** Whether two orders of the same things differ: the first pair that stands the other way round. */
export function turnedRound(a: readonly number[], b: readonly number[]): readonly [number, number] | undefined {
  for (let i = 0; i < a.length; i++)
    for (let k = 0; k < i; k++) if ((a[i]! - a[k]!) * (b[i]! - b[k]!) < 0) return a[i]! > a[k]! ? [i, k] : [k, i];
  return undefined;
}

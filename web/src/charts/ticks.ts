import { ticks } from 'd3-array';
import { fromSi, toSi, unitFor, type Kind, type System } from '@alluvium/core';

// ys[]!, placed[]!, order[]!: places of lists that are equally long.

/** Round values in the user's unit between two SI ends, back in SI. */
export function unitTicks(from: number, to: number, kind: Kind, system: System, count: number): number[] {
  const unit = unitFor(kind, system);
  return ticks(fromSi(from, unit), fromSi(to, unit), count).map((v) => toSi(v, unit));
}

/** Of a list the first and every further one that has room beside it, when there is room for `most`. */
export function thinned<T>(all: readonly T[], most: number): T[] {
  const every = Math.max(1, Math.ceil(all.length / most));
  return all.filter((_, i) => i % every === 0);
}

/** Pushes labels apart along y so that none covers another; keeps their order. Input and output in the order given. */
export function spreadLabels(ys: readonly number[], gap: number, top: number, bottom: number): number[] {
  const order = ys.map((_, i) => i).sort((a, b) => ys[a]! - ys[b]!);
  const placed = ys.slice();
  order.forEach((i, k) => {
    const above = k > 0 ? placed[order[k - 1]!]! + gap : top;
    placed[i] = Math.max(placed[i]!, above);
  });
  for (let k = order.length - 1; k >= 0; k--) {
    const i = order[k]!;
    const below = k < order.length - 1 ? placed[order[k + 1]!]! - gap : bottom;
    placed[i] = Math.min(placed[i]!, below);
  }
  return placed;
}

/** A pipe cut into cells, a face of them on its least area. */
import { refusal } from '../refusal/refusal.js';

// points.at()!, pipe.at()!: a pipe has points.

/** A point of a pipe: distance from its first end and area there, m and m². Two points may share a place: a step. */
export interface AreaPoint {
  readonly x: number;
  readonly area: number;
}

export interface Grid {
  readonly cells: number;
  readonly dx: Float64Array;
  /** Area at each face, cells + 1 of them. */
  readonly area: Float64Array;
  readonly volume: Float64Array;
  /** One over: the volume of each cell; the way from the middle of each cell to that of the one before (the first: 0). */
  readonly perVolume: Float64Array;
  readonly perWay: Float64Array;
  /** Rim of a round pipe of each cell's area times its length, m²: the wall. */
  readonly wall: Float64Array;
  /** The face of the least area. */
  readonly choke: number;
}

/** Area at x by linear diameters between points; `after` takes the far side of a step. */
export function pipeAreaAt(points: readonly AreaPoint[], x: number, after = true): number {
  const last = points.length - 1;
  if (x <= points[0]!.x && !(after && points[1]!.x === points[0]!.x)) return points[0]!.area;
  if (x >= points[last]!.x) return points[last]!.area;
  let i = 0;
  while (i < last - 1 && (after ? points[i + 1]!.x <= x : points[i + 1]!.x < x)) i++;
  const [a, b] = [points[i]!, points[i + 1]!];
  const t = (x - a.x) / (b.x - a.x);
  const side = Math.sqrt(a.area) * (1 - t) + Math.sqrt(b.area) * t;
  return side * side;
}

/** Volume between two places, by the frusta between the points. */
function volumeBetween(points: readonly AreaPoint[], from: number, to: number): number {
  const cuts = [from, ...points.map((p) => p.x).filter((x) => x > from && x < to), to];
  let sum = 0;
  for (let i = 1; i < cuts.length; i++) {
    const a = pipeAreaAt(points, cuts[i - 1]!, true);
    const b = pipeAreaAt(points, cuts[i]!, false);
    sum += ((cuts[i]! - cuts[i - 1]!) / 3) * (a + Math.sqrt(a * b) + b);
  }
  return sum;
}

/**
 * Cells of about `size`, alike on each side of the least area so that a face stands on it; at least two on a side.
 * @throws Refusal when the points do not run along the pipe or an area is not above zero.
 */
export function gridOf(points: readonly AreaPoint[], size: number): Grid {
  if (points.length < 2 || points.some((p, i) => !(p.area > 0) || (i > 0 && !(p.x >= points[i - 1]!.x))))
    throw refusal('pipeNotRising');
  const start = points[0]!.x;
  const end = points.at(-1)!.x;
  if (!(end > start)) throw refusal('pipeWithoutLength');
  const least = points.reduce((a, b) => (b.area < a.area ? b : a));
  const inside = least.x > start + 0.35 * size && least.x < end - 0.35 * size;
  const parts = inside ? [start, least.x, end] : [start, end];
  const faces = [start];
  for (let k = 1; k < parts.length; k++) {
    const length = parts[k]! - parts[k - 1]!;
    const n = Math.max(parts.length === 2 ? 3 : 2, Math.round(length / size));
    for (let i = 1; i <= n; i++) faces.push(parts[k - 1]! + (length * i) / n);
  }
  const cells = faces.length - 1;
  const area = Float64Array.from(faces, (x) => Math.min(pipeAreaAt(points, x, true), pipeAreaAt(points, x, false)));
  const dx = Float64Array.from({ length: cells }, (_, i) => faces[i + 1]! - faces[i]!);
  const volume = Float64Array.from({ length: cells }, (_, i) => volumeBetween(points, faces[i]!, faces[i + 1]!));
  return {
    cells,
    dx,
    area,
    volume,
    perVolume: volume.map((v) => 1 / v),
    perWay: dx.map((d, i) => (i === 0 ? 0 : 2 / (d + dx[i - 1]!))),
    wall: dx.map((d, i) => d * Math.sqrt((4 * Math.PI * volume[i]!) / d)),
    choke: area.reduce((best, a, i) => (a < area[best]! ? i : best), 0),
  };
}

/** A pipe of one area. */
export const plainPipe = (length: number, area: number): AreaPoint[] => [
  { x: 0, area },
  { x: length, area },
];

/** Pipes one after another. */
export function pipesJoined(...pipes: readonly (readonly AreaPoint[])[]): AreaPoint[] {
  const points: AreaPoint[] = [];
  let at = 0;
  for (const pipe of pipes) {
    const first = pipe[0]!.x;
    for (const p of pipe) points.push({ x: at + p.x - first, area: p.area });
    at += pipe.at(-1)!.x - first;
  }
  return points;
}

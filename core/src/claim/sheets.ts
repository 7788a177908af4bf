/** The net of sources sheet by sheet: the lifts of one sheet share its set-up and are one observation, not many. */
import { components, rowsOf, type OffsetData } from './net.js';

// placeOf.get()!, sourceOf.get()!, local.get()!: every point and source was numbered in front of it.

export interface SheetNet {
  readonly data: OffsetData;
  /** Which point of it each point of the net it was made of became; −1 where none. */
  readonly pointOf: Int32Array;
  /** Which observation of it each observation became. */
  readonly observationOf: Int32Array;
}

/**
 * One observation a group and source: how far the source reads from the others of the group over the lifts they share,
 * by `solve` (plain least squares over the group's points). `group` says of each observation which head, tested alike,
 * it is of. Sources of a group that share no lift stay apart.
 */
export function sheetNet(
  data: OffsetData,
  group: ArrayLike<number>,
  solve: (part: OffsetData) => readonly number[],
): SheetNet {
  const byGroup = new Map<number, number[]>();
  for (let i = 0; i < data.point.length; i++) {
    const list = byGroup.get(group[i]!);
    if (list) list.push(i);
    else byGroup.set(group[i]!, [i]);
  }
  const [point, source, logFlow]: [number[], number[], number[]] = [[], [], []];
  const pointOf = new Int32Array(rowsOf(data).points).fill(-1);
  const observationOf = new Int32Array(data.point.length);
  let points = 0;
  for (const list of byGroup.values()) {
    const sources = [...new Set(list.map((i) => data.source[i]!))];
    const places = [...new Set(list.map((i) => data.point[i]!))];
    const placeOf = new Map(places.map((p, k) => [p, k]));
    const sourceOf = new Map(sources.map((s, k) => [s, k]));
    const part: OffsetData = {
      point: list.map((i) => placeOf.get(data.point[i]!)!),
      source: list.map((i) => sourceOf.get(data.source[i]!)!),
      logFlow: list.map((i) => data.logFlow[i]!),
      sources: sources.length,
      own: 0,
    };
    const parts = components(part, rowsOf(part));
    for (const root of new Set(parts)) {
      const members = sources.map((_, k) => k).filter((k) => parts[k] === root);
      const own = list.filter((i) => parts[sourceOf.get(data.source[i]!)!] === root);
      const local = new Map(members.map((k, m) => [sources[k]!, m]));
      const levels = solve({
        point: own.map((i) => placeOf.get(data.point[i]!)!),
        source: own.map((i) => local.get(data.source[i]!)!),
        logFlow: own.map((i) => data.logFlow[i]!),
        sources: members.length,
        own: 0,
      });
      const first = point.length;
      members.forEach((k, m) => {
        point.push(points);
        source.push(sources[k]!);
        logFlow.push(levels[m]!);
      });
      for (const i of own) {
        pointOf[data.point[i]!] = points;
        observationOf[i] = first + local.get(data.source[i]!)!;
      }
      points++;
    }
  }
  return { data: { point, source, logFlow, sources: data.sources, own: data.own }, pointOf, observationOf };
}

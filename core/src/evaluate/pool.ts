/** Several sheets of one port as one: a port tested again is known better, and neither sheet is put before the other. */
import { SAME_LIFT } from '../flow/curve.js';
import { meanOfSheets } from '../flow/reading.js';
import { mean } from '../method/mean.js';
import { work } from '../method/method.js';
import { pointLeaf } from './sheetRows.js';
import {
  pointOfRow,
  sheetOf,
  sideOf,
  type PointResult,
  type PortValves,
  type SheetResult,
  type Side,
} from './sheet.js';

// first!: a group begins with one.

/**
 * The mean of several sheets of one port, row by row; a lift that only some of them have is the mean of those. `exhaust`
 * lists the sheets whose exhaust may be taken together (one pipe, one port); both lists begin with the sheet that names it.
 */
export function pooledSheet(
  tests: { readonly intake: readonly SheetResult[]; readonly exhaust: readonly SheetResult[] },
  valves: PortValves,
  id: string,
): SheetResult {
  const side = (s: Side) =>
    sideOf(
      groupsOf(tests[s].map((t) => t[s].points)).map((group) => {
        const [first] = group;
        if (group.length === 1) return { ...first!, flow: { ...first!.flow, leaf: pointLeaf(id, s, first!.lift) } };
        const flow = {
          ...work(meanOfSheets, { flows: group.map((p) => p.flow.value) }),
          leaf: pointLeaf(id, s, first!.lift),
        };
        const pulls = group.reduce((sum, p) => sum + p.pulls, 0);
        return pointOfRow(first!.lift, flow, { pulls, noisy: group.some((p) => p.noisy) }, valves[s]);
      }),
    );
  return sheetOf(side('intake'), side('exhaust'), id);
}

/** Rows of several sheets, those of one lift together, by rising lift. */
function groupsOf(sheets: readonly (readonly PointResult[])[]): PointResult[][] {
  const groups: PointResult[][] = [];
  for (const point of sheets.flat().sort((a, b) => a.lift - b.lift)) {
    const group = groups.at(-1);
    if (group && Math.abs(group[0]!.lift - point.lift) < SAME_LIFT) group.push(point);
    else groups.push([point]);
  }
  return groups;
}

/** Mean difference of two sheets of one port as natural logarithms, over the lifts both have; undefined where there are none. */
export function meanLogDifference(a: readonly PointResult[], b: readonly PointResult[]): number | undefined {
  const logs = a.flatMap((p) => {
    const q = b.find((o) => Math.abs(o.lift - p.lift) < SAME_LIFT);
    return q && p.flow.value > 0 && q.flow.value > 0 ? [Math.log(p.flow.value / q.flow.value)] : [];
  });
  return logs.length === 0 ? undefined : mean(logs);
}

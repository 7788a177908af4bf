/** Several sheets of one port as one: a port tested again is known better, and each sheet counts by how it was taken. */
import { flowCurve, SAME_LIFT } from '../flow/curve.js';
import { meanOfSheets } from '../flow/reading.js';
import { mean } from '../method/mean.js';
import { work } from '../method/method.js';
import { USUAL_ASSUMPTIONS, type Assumptions } from '../uncertainty/assumptions.js';
import type { SheetFacts } from './evidence.js';
import { joinRows } from './joinRows.js';
import {
  pointOfRow,
  sheetOf,
  sideOf,
  type PointResult,
  type PortValves,
  type SheetResult,
  type Side,
} from './sheet.js';
import { expectedApart, weightsOf } from './sheetLeaves.js';
import { pointLeaf } from './sheetRows.js';

/** One test of a port: what its sheet says, and how it was taken. */
export interface PortTest {
  readonly result: SheetResult;
  readonly facts?: SheetFacts | undefined;
}

/**
 * Several sheets of one port as one, row by row, each by its weight. `exhaust` lists the sheets whose exhaust may be taken
 * together (one pipe, one port). It goes by the name `id`. The order of the sheets does not matter.
 */
export function pooledSheet(
  tests: { readonly intake: readonly PortTest[]; readonly exhaust: readonly PortTest[] },
  valves: PortValves,
  id: string,
  a: Assumptions = USUAL_ASSUMPTIONS,
): SheetResult {
  const side = (s: Side) => sideOf(pointsOf(tests[s], s, valves, id, a));
  return sheetOf(side('intake'), side('exhaust'), id);
}

function pointsOf(given: readonly PortTest[], side: Side, valves: PortValves, id: string, a: Assumptions) {
  const tests = given
    .filter((t) => t.result[side].points.length > 0)
    .sort((p, q) => ((p.facts?.id ?? '') < (q.facts?.id ?? '') ? -1 : 1));
  const sheets = tests.map((t) => t.result[side].points.map((p) => ({ lift: p.lift, flow: p.flow.value })));
  const weights = weightsOf(
    tests.map((t) => t.facts),
    a,
  );
  const joined = joinRows(
    sheets.map((rows) => rows.map((r) => r.lift)),
    weights,
  )(sheets);
  return joined.map(({ lift, flows }) => {
    const rows = tests.flatMap((t) => t.result[side].points.filter((p) => Math.abs(p.lift - lift) < SAME_LIFT));
    const reach = flows.flatMap((flow, i) => (flow === undefined ? [] : [{ flow, weight: weights[i]! }]));
    const leaf = pointLeaf(id, side, lift);
    const [only] = rows;
    if (reach.length === 1 && only && only.flow.value === reach[0]!.flow)
      return { ...only, flow: { ...only.flow, leaf } };
    const flow = {
      ...work(meanOfSheets, { flows: reach.map((r) => r.flow), weights: reach.map((r) => r.weight) }),
      leaf,
    };
    const pulls = rows.reduce((sum, p) => sum + p.pulls, 0);
    return pointOfRow(lift, flow, { pulls, noisy: rows.some((p) => p.noisy) }, valves[side]);
  });
}

/** The two tests of one port that lie furthest apart for how they were taken. */
export interface Apart {
  /** Mean log difference of the two. */
  readonly by: number;
  /** The same in standard deviations of what set-ups and benches explain. */
  readonly times: number;
  readonly ids: readonly [string, string];
}

/** How far the sheets of one port lie apart on one side at most; undefined where no two share a lift. */
export function apartOf(tests: readonly PortTest[], side: Side, a: Assumptions = USUAL_ASSUMPTIONS): Apart | undefined {
  let most: Apart | undefined;
  tests.forEach((one, i) =>
    tests.slice(0, i).forEach((other) => {
      const off = meanLogDifference(one.result[side].points, other.result[side].points);
      if (off === undefined) return;
      const by = Math.abs(off);
      const times = by / expectedApart(one.facts, other.facts, a);
      if (most === undefined || times > most.times)
        most = { by, times, ids: [other.facts?.id ?? '', one.facts?.id ?? ''] };
    }),
  );
  return most;
}

/**
 * Mean difference of two sheets of one port as natural logarithms, over the lifts both have a row at, else over those of
 * either that the other reaches between its rows; undefined where there are none.
 */
export function meanLogDifference(a: readonly PointResult[], b: readonly PointResult[]): number | undefined {
  const logs = a.flatMap((p) => {
    const q = b.find((o) => Math.abs(o.lift - p.lift) < SAME_LIFT);
    return q && p.flow.value > 0 && q.flow.value > 0 ? [Math.log(p.flow.value / q.flow.value)] : [];
  });
  if (logs.length > 0) return mean(logs);
  const between = [...offRows(a, b), ...offRows(b, a).map((l) => -l)];
  return between.length === 0 ? undefined : mean(between);
}

/** How far each row of one lies from the other's curve, as natural logarithms. */
function offRows(rows: readonly PointResult[], of: readonly PointResult[]): number[] {
  const curve = flowCurve(of.map((p) => ({ lift: p.lift, flow: p.flow.value })));
  return rows.flatMap((p) => {
    const q = curve?.at(p.lift);
    return q !== undefined && q > 0 && p.flow.value > 0 ? [Math.log(p.flow.value / q)] : [];
  });
}

/** The rows of a port as functions of what is not known exactly of the sheets they were read from. */
import type { FlowPoint } from '../flow/curve.js';
import type { Assumptions } from '../uncertainty/assumptions.js';
import { shareLeaf, type Leaves } from '../uncertainty/leaves.js';
import { joinRows } from './joinRows.js';
import type { PointResult, Side } from './sheet.js';
import { idOf, sharedLeaves, weightsOf, type ReadSheet } from './sheetLeaves.js';

const micrometres = (lift: number): number => Math.round(lift * 1e6);
/** The leaf a row's flow at 28 in is shown by. */
export const pointLeaf = (sheet: string, side: Side, lift: number): string =>
  `point:${sheet}:${side}:${micrometres(lift)}`;

/** The leaf of a side's mean over the cam, and of its peak. */
export const meanOf = (sheet: string, side: Side): string => `mean:${sheet}:${side}`;
export const peakOf = (sheet: string, side: Side): string => `peak:${sheet}:${side}`;

/** The leaf of what one reading of a sheet may be off by. */
export const rowLeaf = (sheet: string, side: Side, lift: number): string => `row:${sheet}:${side}:${micrometres(lift)}`;

/** Standard uncertainty of one row as a share: its own pulls where there are some, never under the usual over their root. */
function rowUncertainty(p: PointResult, resolution: number, a: Assumptions): number {
  const flow = Math.max(p.flow.value, 1e-9);
  const own = p.spread === undefined ? 0 : p.spread / flow;
  return Math.hypot(Math.max(own, a.repeatability) / Math.sqrt(p.pulls), resolution / Math.sqrt(3) / flow);
}

type Values = ArrayLike<number>;
interface ReadRow {
  readonly lift: number;
  readonly flow: (x: Values, shift: number) => number;
  readonly zero: number;
}

function rowsOfSheet(leaves: Leaves, sheet: ReadSheet, side: Side, a: Assumptions, say: (lift: number) => string) {
  const { name, points, facts } = sheet;
  const id = idOf(sheet);
  const shared = sharedLeaves(sheet, side, a).map((leaf) => leaves.add(leaf));
  const zero = leaves.add({
    id: `zero:${side === 'intake' ? id : `${id}:exhaust`}`,
    label: `zero of the lift, ${name}`,
    value: 0,
    kind: 'lift',
    spread: { shape: 'uniform', half: a.liftZero },
    source: 'common practice, no source',
    settle: { act: 'set the dial’s zero again on the shut valve', after: a.liftZero / 4, minutes: 5 },
  });
  return points.map((p): ReadRow => {
    const { value } = p.flow;
    const row = leaves.add(
      shareLeaf(
        rowLeaf(id, side, p.lift),
        `${name}, ${side} at ${say(p.lift)}`,
        rowUncertainty(p, facts?.resolution ?? 0, a),
        {
          act: `read ${name} at ${say(p.lift)} ${p.pulls + 2} times in all`,
          after: a.repeatability / Math.sqrt(p.pulls + 2),
          minutes: 5,
        },
        p.spread === undefined ? 'one pull; common practice, no source' : `${p.pulls} pulls`,
      ),
    );
    return {
      lift: p.lift,
      zero,
      flow: (x, shift) => {
        let off = shift + x[row]!;
        for (const i of shared) off += x[i]!;
        return value * Math.exp(off);
      },
    };
  });
}

/**
 * The rows of one port, by one sheet or by the mean of several of it, for values of the leaves that are added to `leaves`
 * (each sheet its own set-up, zero and rows; sheets of one bench share what it reads off). `shift` is added to the
 * natural logarithm of every flow.
 */
export function rowReader(
  leaves: Leaves,
  sheets: readonly ReadSheet[],
  side: Side,
  a: Assumptions,
  say: (lift: number) => string,
): (x: Values, shift?: number) => readonly FlowPoint[] {
  // One order of sheets, whatever order they come in: the same figure to the last bit.
  const sorted = [...sheets].sort((p, q) => (idOf(p) < idOf(q) ? -1 : 1));
  const all = sorted.map((sheet) => rowsOfSheet(leaves, sheet, side, a, say));
  const join = joinRows(
    all.map((rows) => rows.map((r) => r.lift)),
    weightsOf(
      sorted.map((sheet) => sheet.facts),
      a,
    ),
  );
  return (x, shift = 0) => {
    const moved = all.map((rows) => rows.map((row) => ({ lift: row.lift + x[row.zero]!, flow: row.flow(x, shift) })));
    return moved.length === 1 ? moved[0]! : join(moved);
  };
}

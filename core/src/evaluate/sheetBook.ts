/** How sure the figures of a sheet are: what its leaves do to each of them. */
import { flowCurve, type FlowCurve, type FlowPoint } from '../flow/curve.js';
import { dwellMean } from '../cam/dwell.js';
import type { CamProfile } from '../cam/profile.js';
import { USUAL_ASSUMPTIONS, type Assumptions } from '../uncertainty/assumptions.js';
import { Leaves, shareLeaf } from '../uncertainty/leaves.js';
import { responses } from '../uncertainty/propagate.js';
import type { LeafBook } from '../uncertainty/working.js';
import { seatBook } from '../valve/seatBook.js';
import { idOf, type ReadSheet } from './sheetLeaves.js';
import { meanOf, peakOf, pointLeaf, rowReader } from './sheetRows.js';
import type { PortValve, Side } from './sheet.js';

// curve!, flowCurve()!: there are points enough for one.

/** A figure a side of a sheet gives: the leaf it is shown by, and how it is read from the rows. */
interface Figure {
  readonly leaf: string;
  readonly read: (rows: readonly FlowPoint[], curve: FlowCurve | undefined) => number;
}

/** What one side is asked for besides the flow of each of its rows. */
export interface Asked {
  /** Lifts between rows that are shown too, m. */
  readonly lifts?: readonly number[];
  readonly cam?: CamProfile | undefined;
}

/**
 * The leaves of one side, by one sheet or the mean of several (the first names it), and what they do to the flow at each
 * lift, its peak and its mean over a cam (JCGM 100:2008, 5.1.3: central differences through the curve built anew).
 */
export function sheetBook(
  sheets: readonly ReadSheet[],
  side: Side,
  asked: Asked = {},
  assumptions: Assumptions = USUAL_ASSUMPTIONS,
  say: (lift: number) => string = (lift) => `${(lift * 1000).toFixed(2)} mm`,
): LeafBook {
  const leaves = new Leaves();
  const rows = rowReader(leaves, sheets, side, assumptions, say);
  const id = idOf(sheets[0]!);
  const read = rows(leaves.list.map((l) => l.value));
  const first = read[0]?.lift ?? 0;
  const last = read.at(-1)?.lift ?? 0;
  // A zero that is off moves the rows: the flow is asked at the lift itself, held at the ends.
  const at = (lift: number): Figure => ({
    leaf: pointLeaf(id, side, lift),
    read: (moved, curve) => curve?.anchored(Math.min(lift, curve.last.lift)) ?? moved[0]!.flow,
  });
  const between = (asked.lifts ?? []).filter(
    (l) => l > first && l < last && !read.some((r) => Math.abs(r.lift - l) < 1e-6),
  );
  const { cam } = asked;
  const figures: Figure[] = [
    ...[...read.map((r) => r.lift), ...between].map(at),
    { leaf: peakOf(id, side), read: (moved) => Math.max(...moved.map((r) => r.flow)) },
    ...(cam && read.length > 1 && last >= cam.maxLift
      ? [
          {
            leaf: meanOf(id, side),
            read: (_: readonly FlowPoint[], curve: FlowCurve | undefined) =>
              dwellMean.compute({ curve: reaching(curve!, cam.maxLift), cam }),
          },
        ]
      : []),
  ];
  if (read.length === 0) return { leaves: new Map(), made: new Map() };
  const below = cam && read.length > 1 ? belowFirst(side, read[0]!, cam) : undefined;
  const { of } = responses({
    leaves: leaves.list,
    evaluate: (x) => {
      const moved = rows(x);
      const curve = flowCurve(moved);
      return figures.map((f) => f.read(moved, curve));
    },
  });
  return {
    leaves: new Map(leaves.list.map((l) => [l.id, l])),
    made: new Map(
      figures.map((f, k) => [
        f.leaf,
        [
          ...of.map((r) => ({ leaf: r.leaf, change: r.change[k]! })).filter((m) => m.change !== 0),
          ...(below && f.leaf === meanOf(id, side) ? [below] : []),
        ],
      ]),
    ),
  };
}

/** How far the flow below a sheet's first row may lie from the line led on to zero, as a share of it. Common practice, no source. */
const BELOW_FIRST = 0.3;

/** What the guess below the first row does to a mean over the cam. */
function belowFirst(side: Side, first: FlowPoint, cam: CamProfile) {
  const leaf = shareLeaf(
    // One guess for every sheet of a side: between two stages of a head it cancels.
    `below:${side}`,
    'flow below the sheet’s first row',
    BELOW_FIRST,
    undefined,
    'led on to zero flow at zero lift; common practice, no source',
  );
  return { leaf, change: ((1 - cam.shareAbove(first.lift)) * BELOW_FIRST * first.flow) / 2 };
}

/** A curve held at its last flow up to a lift its zero may have moved it short of. */
const reaching = (curve: FlowCurve, lift: number): FlowCurve =>
  curve.last.lift >= lift ? curve : flowCurve([...curve.points, { lift, flow: curve.last.flow }])!;

/** Several books as one; a leaf they share is one leaf. */
export const joined = (...books: readonly LeafBook[]): LeafBook => ({
  leaves: new Map(books.flatMap((b) => [...b.leaves])),
  made: new Map(books.flatMap((b) => [...b.made])),
});

/**
 * The same with the valve's and seat's leaves, for coefficients of that side. The lift's zero is the sheet's own already:
 * a coefficient is asked at the nominal lift, where only the flow is in doubt.
 */
export function withSeat(book: LeafBook, valve: PortValve | undefined, assumptions?: Assumptions): LeafBook {
  if (!valve) return book;
  const seat = seatBook(valve, assumptions);
  return joined(book, { leaves: new Map([...seat.leaves].filter(([id]) => id !== 'lift')), made: seat.made });
}

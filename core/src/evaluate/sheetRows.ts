/** The rows of a port as functions of what is not known exactly of the sheets they were read from. */
import type { FlowPoint } from '../flow/curve.js';
import { SAME_LIFT } from '../flow/curve.js';
import { conversionError } from '../flow/reading.js';
import type { Assumptions } from '../uncertainty/assumptions.js';
import { shareLeaf, type Leaves } from '../uncertainty/leaves.js';
import { standardUncertainty, type Leaf } from '../uncertainty/leaf.js';
import type { SheetFacts } from './evidence.js';
import type { PointResult, Side } from './sheet.js';

/** One side of one sheet: what to call it, its rows, how it was taken. */
export interface ReadSheet {
  readonly name: string;
  readonly points: readonly PointResult[];
  readonly facts?: SheetFacts;
}

export const idOf = ({ facts, name }: Pick<ReadSheet, 'facts' | 'name'>): string => facts?.id ?? name;

const micrometres = (lift: number): number => Math.round(lift * 1e6);
/** The leaf a row's flow at 28 in is shown by. */
export const pointLeaf = (sheet: string, side: Side, lift: number): string =>
  `point:${sheet}:${side}:${micrometres(lift)}`;

/** The leaf of a side's mean over the cam, and of its peak. */
export const meanOf = (sheet: string, side: Side): string => `mean:${sheet}:${side}`;
export const peakOf = (sheet: string, side: Side): string => `peak:${sheet}:${side}`;

/** Standard uncertainty of one row as a share: its own pulls where there are some, never under the usual over their root. */
function rowUncertainty(p: PointResult, resolution: number, a: Assumptions): number {
  const flow = Math.max(p.flow.value, 1e-9);
  const own = p.spread === undefined ? 0 : p.spread / flow;
  return Math.hypot(Math.max(own, a.repeatability) / Math.sqrt(p.pulls), resolution / Math.sqrt(3) / flow);
}

/** What all rows of one side of a sheet share, each as a share of the flow. */
function sharedLeaves(sheet: ReadSheet, side: Side, a: Assumptions): Leaf[] {
  const { facts, name } = sheet;
  // The two directions of a bench are set up and sealed one by one; what the meter reads off is one thing.
  const own = side === 'intake' ? idOf(sheet) : `${idOf(sheet)}:exhaust`;
  const setup = shareLeaf(`setup:${own}`, `set-up of ${name}`, a.setup, {
    act: `take ${name} off and test it again`,
    after: a.setup / Math.SQRT2,
    minutes: 40,
  });
  return [setup, benchLeaf(facts, a), ...conversionLeaf(facts, own)];
}

function benchLeaf(facts: SheetFacts | undefined, a: Assumptions): Leaf {
  if (facts?.kind === 'claim')
    return shareLeaf(`source:${facts.bench}`, `what ${facts.source ?? 'its source'} reads off`, a.claim, {
      act: 'test it on your own bench',
      after: Math.hypot(a.setup, a.uncheckedBench),
      minutes: 60,
    });
  const id = `bench:${facts?.bench ?? 'own'}`;
  if (facts && !facts.own)
    return shareLeaf(id, `what ${facts.source ?? 'that bench'} reads off`, a.otherBench, {
      act: 'test it on your own bench',
      after: a.checkedBench,
      minutes: 60,
    });
  return facts?.checked
    ? shareLeaf(id, 'what the bench reads off', a.checkedBench)
    : shareLeaf(id, 'what the bench reads off', a.uncheckedBench, {
        act: 'check the bench with a plate',
        after: a.checkedBench,
        minutes: 15,
      });
}

/** Standard uncertainty of what the bench of a sheet reads off, a share. */
export const benchUncertainty = (facts: SheetFacts | undefined, a: Assumptions): number =>
  standardUncertainty(benchLeaf(facts, a).spread);

function conversionLeaf(facts: SheetFacts | undefined, own: string): Leaf[] {
  if (facts?.depression === undefined) return [];
  const off = Math.abs(conversionError(facts.depression));
  if (off <= 0.0005) return [];
  return [
    {
      id: `conversion:${own}`,
      label: 'what converting the depression by the root leaves out',
      value: 0,
      spread: { shape: 'uniform', half: off },
      source: 'root against an isentropic nozzle that draws from the room',
      settle: { act: 'test at 28 in of water', after: 0, minutes: 40 },
    },
  ];
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
        `row:${id}:${side}:${micrometres(p.lift)}`,
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
): (x: Values, shift?: number) => FlowPoint[] {
  const all = sheets.flatMap((sheet) => rowsOfSheet(leaves, sheet, side, a, say)).sort((p, q) => p.lift - q.lift);
  const groups: ReadRow[][] = [];
  for (const row of all) {
    const group = groups.at(-1);
    if (group && Math.abs(group[0]!.lift - row.lift) < SAME_LIFT) group.push(row);
    else groups.push([row]);
  }
  return (x, shift = 0) =>
    groups.map((group) => {
      let lift = 0;
      let flow = 0;
      for (const row of group) {
        lift += row.lift + x[row.zero]!;
        flow += row.flow(x, shift);
      }
      return { lift: lift / group.length, flow: flow / group.length };
    });
}

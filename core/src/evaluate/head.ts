import { meanPortArea } from '../head/ratios.js';
import { noted, work, type Given } from '../method/method.js';
import { USUAL_FREEDOM } from '../uncertainty/assumptions.js';
import { learntLeaf } from '../uncertainty/leaves.js';
import type { PortValve, SheetResult, Side } from './sheet.js';
import type { ReadSheet } from './sheetLeaves.js';
import type { PooledFacts, SheetFacts } from './evidence.js';

export type SizeItem = 'window' | 'pinch' | 'portVolume' | 'portLength';

/** Which leaf a size is, and how well it is known. */
export interface SizeFacts {
  readonly leaf: string;
  /** Half of the last figure written, in the size's own unit. */
  readonly resolution: number;
  /** Somebody else's word. */
  readonly stated: boolean;
  /** How often it was measured: the value is the mean. */
  readonly count: number;
}

/** What is known of a head beside its sheets; SI. Any of it may be missing. */
export interface HeadGeometry {
  readonly intakeValve?: PortValve;
  readonly exhaustValve?: PortValve;
  /** Intake valves in one cylinder, when a port feeds more or fewer. */
  readonly intakeValvesPerCylinder?: number;
  /** Intake ports in one cylinder; 1 where left out. */
  readonly intakePorts?: number;
  readonly window?: number;
  readonly pinch?: number;
  readonly portVolume?: number;
  readonly portLength?: number;
  /** Of one casting, and how many cylinders it covers. */
  readonly price?: number;
  readonly cylinders?: number;
  readonly sizes?: Partial<Record<SizeItem, SizeFacts>>;
}

/** One tested runner: the sheet's result, what to call it, its own port's sizes, and how it was tested. */
export interface Runner {
  readonly name: string;
  readonly sheet: SheetResult;
  /** Sizes of this runner's own port; the head's where left out. */
  readonly geometry?: HeadGeometry;
  readonly facts?: SheetFacts;
  /** The sheets `sheet` is the mean of, where its port was tested more than once. */
  readonly tests?: readonly Pick<Runner, 'name' | 'sheet' | 'facts'>[];
  readonly pooled?: PooledFacts;
  /** The other ports of its cylinder, each tested by itself: their flows add. */
  readonly beside?: readonly Runner[];
}

/** The tests a runner is read from: its one sheet, or those it is the mean of. */
export const testsOf = (runner: Runner): readonly Pick<Runner, 'name' | 'sheet' | 'facts'>[] =>
  runner.tests ?? [runner];

/** One side of every sheet a runner is read from. */
export function sheetsOf(runner: Runner, side: Side): ReadSheet[] {
  const more = runner.pooled?.more;
  // One leaf for all sheets of the port: their mean is off by it.
  const extra = more
    ? [
        learntLeaf(`apart:${runner.facts?.id ?? runner.name}`, 'benches that lie apart', more, USUAL_FREEDOM.bench, {
          act: 'find which of its sheets is right',
          after: 0,
          minutes: 40,
        }),
      ]
    : [];
  return testsOf(runner).map(({ name, sheet, facts }) => ({
    name,
    points: sheet[side].points,
    extra,
    ...(facts ? { facts } : {}),
  }));
}

export const sizeLeaf = (head: HeadGeometry, item: SizeItem): string => head.sizes?.[item]?.leaf ?? `size:${item}`;

/** The least port area known: the smaller of pinch and window, else the mean area (which hides a choke). */
export function leastPortArea(head: HeadGeometry): Given<number> | undefined {
  const { pinch, window } = head;
  if (pinch !== undefined && (window === undefined || pinch <= window))
    return noted(pinch, 'pinch, measured', sizeLeaf(head, 'pinch'));
  if (window !== undefined) return noted(window, 'window over the short turn, measured', sizeLeaf(head, 'window'));
  if (head.portVolume !== undefined && head.portLength !== undefined) {
    return work(meanPortArea, {
      volume: noted(head.portVolume, '', sizeLeaf(head, 'portVolume')),
      length: noted(head.portLength, '', sizeLeaf(head, 'portLength')),
    });
  }
  return undefined;
}

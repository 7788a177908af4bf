/** What all rows of a sheet share that is not known exactly, and what each sheet of a port counts by it. */
import { conversionError } from '../flow/reading.js';
import { USUAL_FREEDOM, type Assumptions } from '../uncertainty/assumptions.js';
import { standardUncertainty, type Leaf } from '../uncertainty/leaf.js';
import { learntLeaf, shareLeaf } from '../uncertainty/leaves.js';
import type { ClaimSpread } from '../claim/whole.js';
import { unknownConditions, type SheetFacts } from './evidence.js';
import type { PointResult, Side } from './sheet.js';

// inBench.get()!: every sheet's bench was put there in front of it.

/** One side of one sheet: what to call it, its rows, how it was taken. */
export interface ReadSheet {
  readonly name: string;
  readonly points: readonly PointResult[];
  readonly facts?: SheetFacts;
  /** What else all of its rows share, each as a share of the flow. */
  readonly extra?: readonly Leaf[];
}

export const idOf = ({ facts, name }: Pick<ReadSheet, 'facts' | 'name'>): string => facts?.id ?? name;

/** What a test of a port nobody named may lie off any one port of its head. Common practice, no source. */
const PORT_TO_PORT = 0.015;

/** What all rows of one side of a sheet share, each as a share of the flow. */
export function sharedLeaves(sheet: ReadSheet, side: Side, a: Assumptions): Leaf[] {
  const { facts, name } = sheet;
  // The two directions of a bench are set up and sealed one by one; what the meter reads off is one thing.
  const own = side === 'intake' ? idOf(sheet) : `${idOf(sheet)}:exhaust`;
  const settle = {
    act: `take ${name} off and test it again`,
    after: a.setup / Math.SQRT2,
    minutes: 40,
  };
  return [
    learntLeaf(`setup:${own}`, `set-up of ${name}`, a.setup, (a.freedom ?? USUAL_FREEDOM).setup, settle),
    benchLeaf(facts, a),
    ...(side === 'intake' ? conversionLeaf(facts, own) : []),
    ...unknownConditions(facts, side).map((c): Leaf => ({
      id: `${c.id}:${own}`,
      label: `${c.what}, ${name}`,
      value: 0,
      spread: { shape: 'cases', of: c.of },
      source: 'nobody stated it; what is usual is common practice, no source',
      settle: { act: `ask ${c.what}, ${name}`, after: 0, minutes: 5 },
    })),
    ...(facts?.noPort
      ? [
          shareLeaf(`port:${own}`, `which port ${name} is of`, PORT_TO_PORT, {
            act: `ask which port ${name} is of`,
            after: 0,
            minutes: 5,
          }),
        ]
      : []),
    ...(sheet.extra ?? []),
  ];
}

function benchLeaf(facts: SheetFacts | undefined, a: Assumptions): Leaf {
  const { bench: freedom } = a.freedom ?? USUAL_FREEDOM;
  if (facts?.kind === 'claim')
    return learntLeaf(`source:${facts.bench}`, `what ${facts.source ?? 'its source'} reads off`, a.claim, freedom, {
      act: 'test it on your own bench',
      after: Math.hypot(a.setup, a.uncheckedBench),
      minutes: 60,
    });
  const id = `bench:${facts?.bench ?? 'own'}`;
  if (facts && !facts.own)
    return learntLeaf(id, `what ${facts.source ?? 'that bench'} reads off`, a.otherBench, freedom, {
      act: 'test it on your own bench',
      after: a.checkedBench,
      minutes: 60,
    });
  return facts?.checked
    ? learntLeaf(id, 'what the bench reads off', a.checkedBench, freedom)
    : learntLeaf(id, 'what the bench reads off', a.uncheckedBench, freedom, {
        act: 'check the bench with a plate',
        after: a.checkedBench,
        minutes: 15,
      });
}

/** Standard uncertainty of what the bench of a sheet reads off, a share. */
export const benchUncertainty = (facts: SheetFacts | undefined, a: Assumptions): number =>
  standardUncertainty(benchLeaf(facts, a).spread);

/** What of the difference between root and nozzle a port may leave out or add. Common practice, no source. */
const NO_NOZZLE = 0.3;

function conversionLeaf(facts: SheetFacts | undefined, own: string): Leaf[] {
  if (facts?.depression === undefined) return [];
  const off = Math.log1p(conversionError(facts.depression));
  if (Math.abs(off) <= 0.0005) return [];
  return [
    {
      id: `conversion:${own}`,
      label: 'what converting the depression by the root leaves out',
      // What the root leaves out is known, and taken off; how far a port is no nozzle is not.
      value: -off,
      spread: { shape: 'uniform', half: NO_NOZZLE * Math.abs(off) },
      source: 'root against an isentropic nozzle that draws from the room',
      settle: { act: 'test at 28 in of water', after: 0, minutes: 40 },
    },
  ];
}

/** Variance of a sheet against its bench: its set-up, which port it is of, what nobody stated of it. */
const ownVariance = (facts: SheetFacts | undefined, a: Assumptions): number =>
  a.setup ** 2 +
  (facts?.noPort ? PORT_TO_PORT ** 2 : 0) +
  unknownConditions(facts, 'intake').reduce((sum, { of }) => sum + standardUncertainty({ shape: 'cases', of }) ** 2, 0);

/**
 * What each sheet of one port counts, summing to 1: sheets of one bench share what it reads off, so that ten of them weigh
 * little more than one against another bench's. Generalised least squares (A. C. Aitken, Proc. R. Soc. Edinb. 55 (1936)
 * 42), in closed form for spreads that are shared within a bench.
 */
export function weightsOf(facts: readonly (SheetFacts | undefined)[], a: Assumptions): number[] {
  const own = facts.map((f) => 1 / ownVariance(f, a));
  const bench = facts.map((f) => benchLeaf(f, a).id);
  const inBench = new Map<string, number>();
  facts.forEach((_, i) => inBench.set(bench[i]!, (inBench.get(bench[i]!) ?? 0) + own[i]!));
  const share = facts.map((f, i) => {
    const all = inBench.get(bench[i]!)!;
    return own[i]! / all / (benchUncertainty(f, a) ** 2 + 1 / all);
  });
  const sum = share.reduce((s, w) => s + w, 0);
  return share.map((w) => w / sum);
}

/** How far two sheets of one port are expected to lie apart, a standard deviation as a share. */
export function expectedApart(one: SheetFacts | undefined, other: SheetFacts | undefined, a: Assumptions): number {
  const shared = benchLeaf(one, a).id === benchLeaf(other, a).id;
  const bench = shared ? 0 : benchUncertainty(one, a) ** 2 + benchUncertainty(other, a) ** 2;
  return Math.sqrt(bench + ownVariance(one, a) + ownVariance(other, a));
}

/** Variance of the weighted mean of the sheets of one port: set-ups by their weights, benches by the sum of theirs. */
function meanVariance(facts: readonly SheetFacts[], a: Assumptions, withBenches: boolean): number {
  const weights = weightsOf(facts, a);
  const byBench = new Map<string, { weight: number; variance: number }>();
  facts.forEach((f, i) => {
    const { id } = benchLeaf(f, a);
    const before = byBench.get(id)?.weight ?? 0;
    byBench.set(id, { weight: before + weights[i]!, variance: benchUncertainty(f, a) ** 2 });
  });
  const setUps = facts.reduce((sum, f, i) => sum + weights[i]! ** 2 * ownVariance(f, a), 0);
  const benches = [...byBench.values()].reduce((sum, b) => sum + b.weight ** 2 * b.variance, 0);
  return setUps + (withBenches ? benches : 0);
}

/**
 * What a claim and the mean of our tests of one port may lie apart though both are right. The claim is one test on another
 * bench; where all of ours are of that bench, and where its offset is known within `offset` (a standard deviation), benches
 * do not count.
 */
export function claimSpread(
  claim: SheetFacts,
  ours: readonly SheetFacts[],
  a: Assumptions,
  repeatability: number,
  offset?: number,
): ClaimSpread {
  const elsewhere: SheetFacts = { ...claim, own: false };
  const shared = ours.length > 0 && ours.every((f) => f.bench === claim.bench);
  const benches = !shared && offset === undefined;
  return {
    level: Math.hypot(
      Math.sqrt(ownVariance(elsewhere, a) + meanVariance(ours, a, benches)),
      benches ? benchUncertainty(elsewhere, a) : (offset ?? 0),
    ),
    row: Math.SQRT2 * repeatability,
    unstated: [claim, ...ours].some((f) => unknownConditions(f, 'intake').length > 0),
  };
}

/** What a verdict rests on: how each sheet was taken, and what that keeps one from saying. */
import type { Cap, Degree } from '../uncertainty/degree.js';
import type { FlowPoint } from '../flow/curve.js';
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, idealVelocity } from '../flow/reading.js';
import { inches } from '../quantity/units.js';
import type { Case } from '../uncertainty/leaf.js';
import type { PointResult, Side } from './sheet.js';

/** Share of the intake's flow under which an exhaust begins to hold a naturally aspirated engine back. Common practice, no source: 70 to 80 % is usual. */
export const WEAK_EXHAUST = 0.7;

/** How a sheet was taken, as far as it is known; SI. */
export interface SheetFacts {
  /** Id of the sheet; leaves are named by it. */
  readonly id: string;
  readonly kind: 'measured' | 'claim';
  /** Taken on our own bench, or at a bench nobody named. */
  readonly own: boolean;
  /** The bench or publication it comes from; sheets of one share what it reads off. */
  readonly bench: string;
  readonly source?: string;
  /** The bench was checked against a plate or a control head. */
  readonly checked: boolean;
  readonly depression?: number;
  /** Bore of the fixture. */
  readonly bore?: number;
  readonly entry: 'radius' | 'clay' | 'manifold' | 'bare' | 'unknown';
  readonly exhaustPipe: 'bare' | 'piped' | 'unknown';
  readonly valve: 'own' | 'other' | 'unknown';
  /** Intake valve the test was done with, where it was not the head's own. */
  readonly flowValve?: number;
  /** What was changed on the head after the test. */
  readonly changedSince: readonly string[];
  /** Half of the last figure written, m³/s. */
  readonly resolution: number;
  /** Nobody said which of the head's ports it is of. */
  readonly noPort?: boolean;
  /** Lifts whose reading broke its curve and was said to be right: asked no more. */
  readonly looked?: readonly number[];
}

/** How many sheets a port's figures are the mean of, and the two of them that lie furthest apart for how they were taken. */
export interface PooledFacts {
  readonly count: number;
  /** What benches that lie apart add to the mean, a standard deviation as a share. */
  readonly more?: number;
  readonly apart?: {
    /** Natural logarithm. */
    readonly by: number;
    /** In standard deviations of what set-ups and benches explain. */
    readonly times: number;
    /** What the two are called. */
    readonly names: readonly [string, string];
  };
}

/** Two sheets of one port further apart than set-ups and benches explain nineteen times in twenty, in standard deviations. */
export const SHEETS_APART = 2;

/** A fixture further from the engine's bore than this keeps from a sure word; than the second from any. */
export const BORE_NEAR = 0.01;
export const BORE_FAR = 0.1;
/** A row further than this from the lift that counts keeps from a sure word; than the second from any. */
export const ROW_NEAR = inches(0.11);
export const ROW_FAR = inches(0.2);

/** The row nearest to a lift, as a distance. */
export const nearestRow = (points: readonly Pick<FlowPoint, 'lift'>[], lift: number): number =>
  Math.min(...points.map((p) => Math.abs(p.lift - lift)));

/** A fact about the evidence that is said with the verdict, and what it keeps from being said. */
export type Evidence = Cap &
  (
    | {
        readonly code:
          | 'unknown pipe'
          | 'no flow'
          | 'one row'
          | 'no exhaust'
          | 'no area'
          | 'mean area'
          | 'stated area'
          | 'other valve'
          | 'fuel'
          | 'no bore';
      }
    | { readonly code: 'far row'; readonly off: number; readonly lift: number }
    | { readonly code: 'claim' | 'elsewhere'; readonly source: string | undefined }
    | { readonly code: 'other bore'; readonly fixture: number; readonly bore: number }
    | { readonly code: 'larger valve'; readonly used: number; readonly own: number }
    | { readonly code: 'pooled'; readonly count: number }
    | {
        readonly code: 'sheets apart';
        readonly count: number;
        readonly by: number;
        readonly names: readonly [string, string];
      }
    | { readonly code: 'changed'; readonly what: readonly string[] }
    /** The simulation decides; W, and what the rules of thumb alone would say. */
    | {
        readonly code: 'simulated';
        readonly power: number;
        readonly u: number;
        readonly rules: Degree;
        readonly odds: number | undefined;
      }
    /** A flow and a size that cannot both be: faster than the depression drives the air, or more than the valve passes. */
    | {
        readonly code: 'too fast';
        readonly flow: number;
        readonly area: number;
        readonly speed: number;
        readonly driven: number;
      }
    | { readonly code: 'past the valve'; readonly flow: number; readonly lift: number; readonly valve: number }
    /** No engine of its kind reaches the target: mean effective pressure, Pa. */
    | { readonly code: 'target'; readonly pressure: number }
    | { readonly code: 'mach index' | 'exhaust share'; readonly value: number }
  );

const BOTH_PROBABLE = { most: 'probably carries', least: 'probably short' } as const;
const NOTHING = { most: "can't be told", least: "can't be told" } as const;
const UP_PROBABLE = { most: 'probably carries' } as const;
/** Said, and nothing held back. */
const FREE = { most: 'carries' } as const;

/** What the rows of a port keep from being said of a head, at the lift that counts. */
export function rowsEvidence(
  points: readonly Pick<FlowPoint, 'lift'>[],
  lift: number,
  pooled: PooledFacts | undefined,
): Evidence[] {
  const found: Evidence[] = [];
  if (points.length === 1) found.push({ code: 'one row', ...BOTH_PROBABLE });
  const off = nearestRow(points, lift);
  if (off > ROW_NEAR) found.push({ code: 'far row', off, lift, ...(off > ROW_FAR ? NOTHING : BOTH_PROBABLE) });
  if (!pooled) return found;
  const { count, apart } = pooled;
  if (apart && apart.times > SHEETS_APART)
    found.push({ code: 'sheets apart', count, by: Math.expm1(apart.by), names: apart.names, ...BOTH_PROBABLE });
  else found.push({ code: 'pooled', count, ...FREE });
  return found;
}

/** What the way one sheet was taken keeps from being said of a head on an engine's bore. */
export function sheetEvidence(
  facts: SheetFacts | undefined,
  bore: number | undefined,
  ownValve: number | undefined,
): Evidence[] {
  const found: Evidence[] = [];
  if (!facts) return found;
  const { source } = facts;
  if (facts.kind === 'claim') found.push({ code: 'claim', source, ...UP_PROBABLE });
  else if (!facts.own) found.push({ code: 'elsewhere', source, ...FREE });
  if (bore === undefined) found.push({ code: 'no bore', ...UP_PROBABLE });
  else if (facts.bore !== undefined) {
    const share = facts.bore / bore - 1;
    const far = Math.abs(share) > BORE_FAR;
    // A larger fixture flatters, a smaller one does the head wrong.
    const held: Cap =
      share > 0
        ? { most: far ? "can't be told" : 'probably carries' }
        : { ...FREE, least: far ? "can't be told" : 'probably short' };
    if (Math.abs(share) > BORE_NEAR) found.push({ code: 'other bore', fixture: facts.bore, bore, ...held });
  }
  if (facts.valve === 'other') {
    const { flowValve: used } = facts;
    if (used === undefined) found.push({ code: 'other valve', ...UP_PROBABLE });
    else if (ownValve !== undefined && used > ownValve)
      found.push({ code: 'larger valve', used, own: ownValve, ...UP_PROBABLE });
  }
  if (facts.changedSince.length > 0) found.push({ code: 'changed', what: facts.changedSince, ...BOTH_PROBABLE });
  return found;
}

/**
 * A mean speed this many times what the depression drives is impossible at a least area: pressure recovered behind a waist
 * drives the air a little faster, not so much. Common practice, no source.
 */
const RECOVERED = 1.1;

/** Flows and sizes of one port that cannot both be. */
export function impossibleEvidence(
  points: readonly Pick<PointResult, 'lift' | 'flow' | 'aboveOne'>[],
  valve: number | undefined,
  /** Least area of the port, m², and its standard uncertainty as a share. */
  place: { readonly area: number; readonly u: number } | undefined,
): Evidence[] {
  const found: Evidence[] = [];
  const beyond = points.filter((p) => p.aboveOne === 'beyond its uncertainty');
  const [worst] = [...beyond].sort((a, b) => b.flow.value - a.flow.value);
  if (worst && valve !== undefined)
    found.push({ code: 'past the valve', flow: worst.flow.value, lift: worst.lift, valve, ...NOTHING });
  const flow = Math.max(0, ...points.map((p) => p.flow.value));
  if (place && flow > 0) {
    const driven = idealVelocity.compute({ depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });
    const speed = flow / place.area;
    if (speed > driven * (RECOVERED + 2 * place.u))
      found.push({ code: 'too fast', flow, area: place.area, speed, driven, ...NOTHING });
  }
  return found;
}

/** A mean inlet Mach index over this is far out of its band. */
export const FAR_MACH_INDEX = 1;

/** What the soft limits keep from being said until something stronger than they has spoken. */
export function softEvidence(facts: {
  readonly machIndex?: number | undefined;
  readonly exhaustShare?: number | undefined;
  readonly natural: boolean;
  /** Of the deciding runner's exhaust test; undefined where nothing says. */
  readonly pipe?: SheetFacts['exhaustPipe'] | undefined;
}): Evidence[] {
  const { machIndex, exhaustShare, natural } = facts;
  const held = { most: "can't be told" } as const;
  return [
    ...(machIndex !== undefined && machIndex > FAR_MACH_INDEX
      ? [{ code: 'mach index' as const, value: machIndex, ...held }]
      : []),
    ...(exhaustShare !== undefined && facts.pipe === 'unknown' ? [{ code: 'unknown pipe' as const, ...FREE }] : []),
    ...(exhaustShare === undefined
      ? [{ code: 'no exhaust' as const, ...UP_PROBABLE }]
      : natural && exhaustShare < WEAK_EXHAUST
        ? [{ code: 'exhaust share' as const, value: exhaustShare, ...FREE }]
        : []),
  ];
}

/** One thing nobody stated of a test: what it may be, and by how much each moves the flow (natural logarithm). */
export interface UnknownCondition {
  readonly id: 'depression' | 'bore' | 'valve' | 'entry';
  readonly what: string;
  readonly of: readonly Case[];
}

const inWater = (inH2O: number): number => 0.5 * Math.log(28 / inH2O);
/**
 * What tests whose condition nobody stated usually were, and what each does to the flow. Common practice, no source: nearly
 * everybody publishes at 28 in of water today, some at 25, old tables at 10; fixtures are the engine's bore or a larger
 * one; a larger valve or a bare entry is the exception.
 */
const UNKNOWN: readonly UnknownCondition[] = [
  {
    id: 'depression',
    what: 'at what depression it was tested',
    of: [
      { at: 0, share: 0.93 },
      { at: inWater(25), share: 0.05 },
      { at: inWater(10), share: 0.02 },
    ],
  },
  {
    id: 'bore',
    what: 'on what bore it was tested',
    of: [
      { at: -0.035, share: 0.3 },
      { at: 0, share: 0.6 },
      { at: 0.02, share: 0.1 },
    ],
  },
  {
    id: 'valve',
    what: 'with whose valve it was tested',
    of: [
      { at: -0.025, share: 0.2 },
      { at: 0, share: 0.8 },
    ],
  },
  {
    id: 'entry',
    what: 'what stood at its entry',
    of: [
      { at: 0, share: 0.8 },
      { at: 0.04, share: 0.2 },
    ],
  },
];

/** What nobody stated of how a sheet was taken, as far as it moves the flow of a side. */
export function unknownConditions(facts: SheetFacts | undefined, side: Side): readonly UnknownCondition[] {
  if (!facts) return [];
  const open: Readonly<Record<UnknownCondition['id'], boolean>> = {
    depression: facts.depression === undefined,
    bore: facts.bore === undefined,
    valve: facts.valve === 'unknown' && side === 'intake',
    entry: facts.entry === 'unknown' && side === 'intake',
  };
  return UNKNOWN.filter((c) => open[c.id]);
}

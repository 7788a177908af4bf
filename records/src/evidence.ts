/** Everything known of a head's flow at a stage, gathered in one place: which sheets speak for which of its ports. */
import { BORE_NEAR, evaluateSide, Refusal, type Side } from '@alluvium/core';
import type { WholeHead } from './api.js';
import type { Build } from './nouns/build.js';
import type { Sheet } from './nouns/sheet.js';
import { isAlike, valveOn } from './repeats.js';
import { changedSince, isOnPort, speaks, touchedPorts } from './select.js';
import { toCoreRows, toCoreSetup } from './toCore.js';

// ages[]!: one test at least speaks for a port.

/** What the gathering reads of a head. */
export type TestedHead = Pick<WholeHead, 'ports' | 'sheets' | 'measures' | 'operations'>;

/** The tests of one port. */
export interface PortTests {
  /** Null where nobody said which port it is. */
  readonly portId: string | null;
  /** Read as one, the newest first. */
  readonly sheets: readonly [Sheet, ...Sheet[]];
  /** Tests of the same port that are of something else: another notch, another bore, the head as it was before. Not read. */
  readonly others: readonly Sheet[];
}

/** Best flow of one side as the sheet says it, m³/s; Infinity where it cannot be read. */
function bestOf(sheet: Sheet, side: Side): number {
  try {
    return evaluateSide(toCoreSetup(sheet), toCoreRows(sheet), side).peak?.flow ?? Infinity;
  } catch (error) {
    if (error instanceof Refusal) return Infinity;
    throw error;
  }
}

/** The newest first; of one day, or without one, the one that flows least; never by the place in a list. */
function byAge(sheets: readonly Sheet[], side: Side): Sheet[] {
  const known = new Map<Sheet, number>();
  const best = (sheet: Sheet): number => {
    const flow = known.get(sheet) ?? bestOf(sheet, side);
    known.set(sheet, flow);
    return flow;
  };
  return [...sheets].sort(
    (a, b) => (b.date ?? '').localeCompare(a.date ?? '') || best(a) - best(b) || (a.id < b.id ? -1 : 1),
  );
}

/** Those for which something is least. */
function leastBy<T>(list: readonly T[], of: (item: T) => number): T[] {
  const least = Math.min(...list.map(of));
  return list.filter((item) => of(item) === least);
}

/** Of the tests of one port those that speak for it: the head as it is now, on the bore nearest the engine's, with its own valve. */
function chosenOf(whole: TestedHead, tests: readonly Sheet[], side: Side, build?: Pick<Build, 'bore'>): Sheet[] {
  const now = leastBy(tests, (s) => changedSince(whole, s, side).length);
  const own = leastBy(now, (s) => Number(valveOn(s.setup, side) === 'other'));
  const off = ({ setup }: Sheet) => Math.abs((setup.bore?.si ?? 0) / (build?.bore?.si ?? setup.bore?.si ?? 1) - 1);
  const known = own.filter((s) => s.setup.bore);
  const nearest = Math.min(...known.map(off));
  // A test nobody stated the bore of speaks with the others, and less surely.
  const bore = own.filter((s) => !s.setup.bore || off(s) <= nearest + BORE_NEAR);
  const ages = byAge(bore, side);
  return ages.filter((s) => isAlike(s, ages[0]!, side));
}

/** The port a sheet is of on one side. An exhaust nobody named is the one beside the sheet's intake. */
const portOf = (sheet: Sheet, side: Side): string | null =>
  side === 'intake'
    ? sheet.intakePortId
    : (sheet.exhaustPortId ?? (sheet.intakePortId === null ? null : `beside ${sheet.intakePortId}`));

/**
 * Every port of a stage that was flowed on a side, with the sheets that speak for it, in the order of the head's ports.
 * What was measured speaks before what is claimed; ports somebody touched before the head came do not speak. A test of a
 * port nobody named is one of each. The order of the sheets does not matter.
 */
export function portTests(whole: TestedHead, stageId: string, side: Side, build?: Pick<Build, 'bore'>): PortTests[] {
  const touched = touchedPorts(whole.ports);
  const all = whole.sheets.filter(
    (s) => s.stageId === stageId && speaks(s) && !isOnPort(s, touched) && s.rows.some((r) => r[side]),
  );
  const measured = all.filter((s) => s.kind === 'measured');
  const speaking = measured.length > 0 ? measured : all;
  const place = new Map(whole.ports.map((p, i) => [p.id, i]));
  const placeOf = (id: string) => place.get(id.replace(/^beside /, '')) ?? Infinity;
  const named = [...new Set(speaking.flatMap((s) => portOf(s, side) ?? []))].sort(
    (a, b) => placeOf(a) - placeOf(b) || (a < b ? -1 : 1),
  );
  const unnamed = speaking.filter((s) => portOf(s, side) === null);
  const groups = named.length > 0 ? named : unnamed.length > 0 ? [null] : [];
  return groups.flatMap((portId): PortTests[] => {
    const tests = speaking.filter((s) => portOf(s, side) === portId);
    const [first, ...rest] = chosenOf(whole, tests, side, build);
    if (!first) return [];
    const beside = portId === null ? [] : unnamed.filter((s) => isAlike(s, first, side) && isBoreOf(s, first));
    const read = new Set([first, ...rest]);
    return [
      {
        portId: portId?.startsWith('beside ') ? null : portId,
        sheets: [first, ...rest, ...byAge(beside, side)],
        others: tests.filter((s) => !read.has(s)),
      },
    ];
  });
}

const isBoreOf = ({ setup: a }: Sheet, { setup: b }: Sheet): boolean =>
  !a.bore || !b.bore || Math.abs(a.bore.si / b.bore.si - 1) <= BORE_NEAR;

/** Of several ports the one that flows least, as its newest sheet says. */
export function leastFlowing(ports: readonly PortTests[], side: Side): PortTests | undefined {
  const flows = ports.map((tests) => ({ tests, best: bestOf(tests.sheets[0], side) }));
  return flows.reduce<(typeof flows)[number] | undefined>((a, b) => (a && a.best <= b.best ? a : b), undefined)?.tests;
}

/** The port of a stage that flows least: the one every page shows unless another is asked for. */
export const leastPort = (
  whole: TestedHead,
  stageId: string,
  side: Side,
  build?: Pick<Build, 'bore'>,
): PortTests | undefined => leastFlowing(portTests(whole, stageId, side, build), side);

/** The sheet that speaks for a stage unless the user chose one: of the port that flows least; of an exhaust alone where no intake was flowed. */
export const pickSheet = (whole: TestedHead, stageId: string, build?: Pick<Build, 'bore'>): Sheet | undefined =>
  (leastPort(whole, stageId, 'intake', build) ?? leastPort(whole, stageId, 'exhaust', build))?.sheets[0];

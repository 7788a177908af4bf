/** One port tested more than once: which sheets may be taken together, and what they say as one. */
import type { Side } from '@alluvium/core';
import type { WholeHead } from './api.js';
import type { Sheet } from './nouns/sheet.js';
import { changedSince, speaks } from './select.js';

/**
 * What makes two tests of one port two tests of different things, besides what keeps sheets apart anyway. Written out, since
 * the table of a set-up's fields brings the schemas of all records with it; a test holds the two together.
 */
export const SEPARATING = [
  'entrySize',
  'entryShape',
  'plug',
  'plugReach',
  'springs',
  'intakeFlowValve',
  'exhaustFlowValve',
  'backCut',
  'shifted',
  'guides',
  'chamber',
  'notch',
  'notchToRing',
  'portKind',
  'gasket',
] as const satisfies readonly (keyof Sheet['setup'])[];
/** Whether the valve of one side is back-cut. */
const backCutOn = ({ backCut }: Sheet['setup'], side: Side): 'yes' | 'no' | 'unknown' =>
  backCut === 'intake only' || backCut === 'exhaust only' ? (backCut === `${side} only` ? 'yes' : 'no') : backCut;
const isSize = (v: unknown): v is { readonly si: number } => typeof v === 'object' && v !== null;
/** Whether both say of the same thing that it was different. What one of them does not say separates nothing. */
const differs = (a: Sheet['setup'], b: Sheet['setup'], field: (typeof SEPARATING)[number], side: Side): boolean => {
  // A head nobody says was shifted stood as it bolts on.
  if (field === 'shifted') return (a.shifted?.si ?? 0) !== (b.shifted?.si ?? 0);
  const [x, y] = field === 'backCut' ? [backCutOn(a, side), backCutOn(b, side)] : [a[field], b[field]];
  if (isSize(x) && isSize(y)) return x.si !== y.si;
  return ![x, y].some((v) => v === null || v === '' || v === 'unknown') && x !== y;
};

/** Whose valve one side was tested with: a stand-in named for the other side alone leaves this one its own. */
export const valveOn = (setup: Sheet['setup'], side: Side): Sheet['setup']['valve'] => {
  const other = side === 'intake' ? 'exhaust' : 'intake';
  return setup.valve === 'other' && setup[`${other}FlowValve`] && !setup[`${side}FlowValve`] ? 'own' : setup.valve;
};

/** Of one side of a head only: a stand-in exhaust valve does not make the intake another. */
const OF_SIDE: Readonly<Partial<Record<(typeof SEPARATING)[number], Side>>> = {
  intakeFlowValve: 'intake',
  exhaustFlowValve: 'exhaust',
  entrySize: 'intake',
  entryShape: 'intake',
};

/** What stands at the entry: a radius and clay do the same; nothing, or a manifold, does not. */
const entryKind = ({ entry }: Sheet['setup']): string => (entry === 'clay' ? 'radius' : entry);

/** Whether nothing known makes two tests of one side of a port, on any bench, tests of two different things. */
export function isAlike(a: Sheet, b: Sheet, side: Side): boolean {
  if (SEPARATING.some((f) => (OF_SIDE[f] ?? side) === side && differs(a.setup, b.setup, f, side))) return false;
  const apart = (x: string, y: string) => x !== y && x !== 'unknown' && y !== 'unknown';
  if (apart(valveOn(a.setup, side), valveOn(b.setup, side))) return false;
  return side === 'intake'
    ? !apart(entryKind(a.setup), entryKind(b.setup))
    : !apart(a.setup.exhaustPipe, b.setup.exhaustPipe);
}

const sizeOf = (v: { readonly si: number } | null): number => v?.si ?? 0;

/** Whether two sheets are one port tested twice by one bench, the head taken off between and nothing else changed. */
export const isRepeat = (a: Sheet, b: Sheet, side: Side = 'intake'): boolean =>
  a.stageId === b.stageId &&
  a.kind === 'measured' &&
  b.kind === 'measured' &&
  a.sourceId === b.sourceId &&
  a[`${side}PortId`] !== null &&
  a[`${side}PortId`] === b[`${side}PortId`] &&
  sizeOf(a.setup.bore) === sizeOf(b.setup.bore) &&
  (side === 'exhaust' ||
    (a.setup.entry === b.setup.entry && sizeOf(a.setup.entrySize) === sizeOf(b.setup.entrySize))) &&
  valveOn(a.setup, side) === valveOn(b.setup, side) &&
  sizeOf(a.setup[`${side}FlowValve`]) === sizeOf(b.setup[`${side}FlowValve`]) &&
  isAlike(a, b, side);

/** The sheet and every other of its port that was taken alike, with the head as it is now. */
export const repeatsOf = (
  whole: Pick<WholeHead, 'sheets' | 'measures' | 'operations'>,
  sheet: Sheet,
  side: Side = 'intake',
): readonly Sheet[] => [
  sheet,
  ...whole.sheets.filter(
    (s) =>
      s.id !== sheet.id &&
      speaks(s) &&
      isRepeat(s, sheet, side) &&
      changedSince(whole, s, side).length === changedSince(whole, sheet, side).length,
  ),
];

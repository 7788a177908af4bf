/** One port tested more than once: which sheets may be taken together, and what they say as one. */
import { meanLogDifference, pooledSheet, type PortValves, type SheetResult } from '@alluvium/core';
import type { WholeHead } from './api.js';
import type { Sheet } from './nouns/sheet.js';
import { changedSince, speaks } from './select.js';

// results[]!, sheets[]!, first!: repeats are two at least, one result each.

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
  'guides',
  'chamber',
  'notch',
  'notchToRing',
  'portKind',
  'gasket',
] as const satisfies readonly (keyof Sheet['setup'])[];
/** Whether both say of the same thing that it was different. What one of them does not say separates nothing. */
const differs = (a: Sheet['setup'], b: Sheet['setup'], field: (typeof SEPARATING)[number]): boolean => {
  const [x, y] = [a[field], b[field]];
  const isSize = (v: unknown): v is { readonly si: number } => typeof v === 'object' && v !== null;
  // A size that only one of them has is a valve or an entry of its own against the head's.
  if (isSize(x) || isSize(y)) return (isSize(x) ? x.si : 0) !== (isSize(y) ? y.si : 0);
  return ![x, y].some((v) => v === null || v === '' || v === 'unknown') && x !== y;
};

/** Whether two sheets are one port tested twice by one bench, the head taken off between and nothing else changed. */
export const isRepeat = (a: Sheet, b: Sheet): boolean =>
  a.stageId === b.stageId &&
  a.kind === 'measured' &&
  b.kind === 'measured' &&
  a.sourceId === b.sourceId &&
  a.intakePortId !== null &&
  a.intakePortId === b.intakePortId &&
  (a.setup.bore?.si ?? 0) === (b.setup.bore?.si ?? 0) &&
  a.setup.entry === b.setup.entry &&
  a.setup.valve === b.setup.valve &&
  !SEPARATING.some((field) => differs(a.setup, b.setup, field));

/** The sheet and every other of its port that was taken alike, with the head as it is now. */
export const repeatsOf = (whole: Pick<WholeHead, 'sheets' | 'measures'>, sheet: Sheet): readonly Sheet[] => [
  sheet,
  ...whole.sheets.filter(
    (s) =>
      s.id !== sheet.id &&
      speaks(s) &&
      isRepeat(s, sheet) &&
      changedSince(whole, s).length === changedSince(whole, sheet).length,
  ),
];

/** The results of one port's sheets as one; the first names it. A single one stays as it is. */
export function pooledResult(
  sheets: readonly Sheet[],
  results: readonly SheetResult[],
  valves: PortValves,
): SheetResult {
  const [first] = sheets;
  if (results.length === 1) return results[0]!;
  const exhaust = results.filter(
    (_, i) =>
      sheets[i]!.exhaustPortId === first!.exhaustPortId && sheets[i]!.setup.exhaustPipe === first!.setup.exhaustPipe,
  );
  return pooledSheet({ intake: results, exhaust }, valves, first!.id);
}

/** How far the sheets of one port lie apart on the intake side at most: the mean log difference of two of them. */
export function furthestApart(results: readonly SheetResult[]): number {
  let most = 0;
  results.forEach((a, i) =>
    results.slice(0, i).forEach((b) => {
      const apart = meanLogDifference(a.intake.points, b.intake.points);
      if (apart !== undefined) most = Math.max(most, Math.abs(apart));
    }),
  );
  return most;
}

import { SAME_LIFT, flowAt, flowDifference, flowGain, work, type Side, type Working } from '@alluvium/core';
import { sameExhaust } from './facts.js';
import type { CompareHead } from '../data/comparison.js';

// all[]!: the one before, from the second on.
// head.sheet!: the heads here were flowed.

export interface Cell {
  /** Flow at 28 in; undefined where the sheet does not reach. */
  readonly flow?: Working;
  readonly interpolated: boolean;
  /** Against the baseline, as flow and as a share of it; undefined for the baseline itself and where they cannot be compared. */
  readonly gain?: Working;
  readonly share?: Working;
  /** Why there is no difference. */
  readonly apart?: string;
}

export interface LiftRow {
  readonly lift: number;
  readonly watched: boolean;
  readonly isCam: boolean;
  readonly beyondCam: boolean;
  readonly cells: readonly Cell[];
}

const liftsOf = (head: CompareHead, side: Side): readonly number[] =>
  head.result?.[side].points.map((p) => p.lift) ?? [];

/** Lifts worth a row: those measured on any head, the watch lifts, the cam's own lift. */
export function rowLifts(
  heads: readonly CompareHead[],
  side: Side,
  watch: readonly number[],
  camLift: number | undefined,
): number[] {
  const all = [...heads.flatMap((h) => liftsOf(h, side)), ...watch, ...(camLift === undefined ? [] : [camLift])].sort(
    (a, b) => a - b,
  );
  const top = Math.max(0, ...heads.flatMap((h) => liftsOf(h, side)));
  return all.filter((l, i) => (i === 0 || l - all[i - 1]! > SAME_LIFT) && l <= top + SAME_LIFT);
}

const flowOf = (head: CompareHead, side: Side, lift: number) =>
  head.result && head.sheet && flowAt(head.result[side], head.sheet.id, side, lift);

/** The difference table: the first head is the baseline. */
export function liftRows(
  heads: readonly CompareHead[],
  side: Side,
  watch: readonly number[],
  camLift: number | undefined,
): LiftRow[] {
  const base = heads[0];
  const near = (a: number, b: number) => Math.abs(a - b) <= SAME_LIFT;
  return rowLifts(heads, side, watch, camLift).map((lift) => ({
    lift,
    watched: watch.some((w) => near(w, lift)),
    isCam: camLift !== undefined && near(camLift, lift),
    beyondCam: camLift !== undefined && lift > camLift + SAME_LIFT,
    cells: heads.map((head, i): Cell => {
      const own = flowOf(head, side, lift);
      if (!own) return { interpolated: false };
      if (i === 0 || !base) return own;
      if (side === 'exhaust' && !sameExhaust(head, base)) return { ...own, apart: head.sheet!.setup.exhaustPipe };
      const under = flowOf(base, side, lift);
      if (!under || under.flow.value <= 0) return own;
      const both = { other: own.flow, base: under.flow };
      return { ...own, gain: work(flowDifference, both), share: work(flowGain, both) };
    }),
  }));
}

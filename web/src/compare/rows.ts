import { SAME_LIFT, type FlowCurve, type Side, type Working } from '@alluvium/core';
import { sameExhaust } from './facts.js';
import type { CompareHead } from '../data/comparison.js';

export interface Cell {
  /** Flow at 28 in; undefined where the sheet does not reach. */
  readonly flow?: number;
  /** The working of a measured point; a value read between rows has none. */
  readonly working?: Working;
  readonly interpolated: boolean;
  /** Against the baseline; undefined for the baseline itself and where they cannot be compared. */
  readonly gain?: number;
  readonly share?: number;
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

const curveOf = (head: CompareHead, side: Side): FlowCurve | undefined => head.result?.[side].curve;

/** Lifts worth a row: those measured on any head, the watch lifts, the cam's own lift. */
export function rowLifts(
  heads: readonly CompareHead[],
  side: Side,
  watch: readonly number[],
  camLift: number | undefined,
): number[] {
  const all = [
    ...heads.flatMap((h) => curveOf(h, side)?.points.map((p) => p.lift) ?? []),
    ...watch,
    ...(camLift === undefined ? [] : [camLift]),
  ].sort((a, b) => a - b);
  const top = Math.max(0, ...heads.map((h) => curveOf(h, side)?.last.lift ?? 0));
  return all.filter((l, i) => (i === 0 || l - all[i - 1]! > SAME_LIFT) && l <= top + SAME_LIFT);
}

/** The difference table: the first head is the baseline. */
export function liftRows(
  heads: readonly CompareHead[],
  side: Side,
  watch: readonly number[],
  camLift: number | undefined,
): LiftRow[] {
  const base = heads[0];
  const baseCurve = base && curveOf(base, side);
  const near = (a: number, b: number) => Math.abs(a - b) <= SAME_LIFT;
  return rowLifts(heads, side, watch, camLift).map((lift) => ({
    lift,
    watched: watch.some((w) => near(w, lift)),
    isCam: camLift !== undefined && near(camLift, lift),
    beyondCam: camLift !== undefined && lift > camLift + SAME_LIFT,
    cells: heads.map((head, i): Cell => {
      const curve = curveOf(head, side);
      const flow = curve?.at(lift);
      if (flow === undefined) return { interpolated: false };
      const point = head.result![side].points.find((p) => near(p.lift, lift));
      const own = {
        flow,
        interpolated: point === undefined || !curve!.measuredAt(lift),
        ...(point ? { working: point.flow } : {}),
      };
      if (i === 0 || !base) return own;
      if (side === 'exhaust' && !sameExhaust(head, base)) return { ...own, apart: head.sheet!.setup.exhaustPipe };
      const under = baseCurve?.at(lift);
      return under === undefined ? own : { ...own, gain: flow - under, share: under > 0 ? flow / under - 1 : 0 };
    }),
  }));
}

/** Readings that break their curve and were looked at again: said to be right, they are asked about no more. */
import type { Side } from '@alluvium/core';
import type { Sheet } from './nouns/sheet.js';

const LOOKED = 'looked:';

/** What a reading that was looked at is kept under, with its figures: another figure is another reading. */
export const lookedKey = (side: Side, row: Sheet['rows'][number]): string =>
  `${LOOKED}${side}:${Math.round(row.lift.si * 1e6)}:${(row[side]?.pulls ?? []).map((p) => p.si.toPrecision(5)).join('/')}`.slice(
    0,
    120,
  );

export const isLookedKey = (key: string): boolean => key.startsWith(LOOKED);

/** Lifts (m) of a side whose readings were looked at and said to be right. */
export const lookedLifts = ({ rows, excused }: Pick<Sheet, 'rows' | 'excused'>, side: Side): number[] =>
  rows.filter((row) => row[side] && lookedKey(side, row) in excused).map((row) => row.lift.si);

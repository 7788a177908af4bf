import { SIDES, type SheetResult, type Side } from '@alluvium/core';
import type { FamilyLookup, Head, Sheet } from '@alluvium/records';
import { refDebounced } from '@vueuse/core';
import { computed, type ComputedRef } from 'vue';
import { useFamilyViews, type FamilyAsk } from './claims.js';

const SETTLES_MS = 300;
/** Lift ratios are asked for to so many decimals: what is typed on asks nothing again. */
const DIGITS = 3;
const keyOf = (side: Side, liftRatio: number): string => `${side} ${liftRatio.toFixed(DIGITS)}`;

/** What the heads of the library like this one have at the lifts of a sheet, once it is answered. */
export function useFamily(
  of: () => Head['class'],
  sheet: () => Pick<Sheet, 'setup'> | undefined,
  result: () => SheetResult | undefined,
): ComputedRef<FamilyLookup | undefined> {
  const asks = computed(() =>
    SIDES.flatMap((side) =>
      (result()?.[side].points ?? []).flatMap((p): FamilyAsk[] => {
        if (p.liftRatio === undefined) return [];
        const exhaustPipe = sheet()?.setup.exhaustPipe ?? 'unknown';
        const pipe = side === 'intake' || exhaustPipe === 'unknown' ? 'any' : exhaustPipe;
        return [{ side, pipe, liftRatio: Number(p.liftRatio.toFixed(DIGITS)) }];
      }),
    ),
  );
  // A lift that is still being typed is asked for once.
  const settled = refDebounced(asks, SETTLES_MS);
  const query = useFamilyViews(of, () => settled.value);
  return computed(() => {
    const answer = query.data.value;
    if (!answer) return undefined;
    const known = new Map(answer.asks.map((a, i) => [keyOf(a.side, a.liftRatio), answer.views[i]]));
    return (side, liftRatio) => known.get(keyOf(side, liftRatio));
  });
}

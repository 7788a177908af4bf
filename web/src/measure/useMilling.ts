import {
  chamberForRatio,
  compressionRatio,
  millingFor,
  millingRateFromPairs,
  noted,
  sunkVolume,
  topCutLeft,
  work,
  workIf,
  type Noted,
  type Quantity,
  type Side,
} from '@alluvium/core';
import type { CompressionParts, Head, MeasureItem } from '@alluvium/records';
import { computed, reactive } from 'vue';
import { tried } from '../parts/tried.js';
import { useSettings } from '../state/settings.js';

type SizeOf = (item: MeasureItem, side?: Side | null) => Noted<number> | undefined;

/** How much to mill for the chamber or the compression that is wanted, and what is left then. */
export function useMilling(head: () => Head, parts: () => CompressionParts['parts'], size: SizeOf) {
  const settings = useSettings();
  const plan = reactive<
    Record<'wantedVolume' | 'wantedRatio' | 'before' | 'after' | 'taken' | 'face' | 'sink', Quantity | null>
  >({
    wantedVolume: null,
    wantedRatio: null,
    before: null,
    after: null,
    taken: null,
    face: null,
    sink: null,
  });

  const face = computed(() =>
    tried(() =>
      plan.face
        ? undefined
        : workIf(millingRateFromPairs, { before: plan.before?.si, after: plan.after?.si, taken: plan.taken?.si }),
    ),
  );
  const faceArea = computed(() => (plan.face ? noted(plan.face.si, 'face area as typed') : face.value.working));
  const wanted = computed(() =>
    tried(() =>
      plan.wantedVolume ? undefined : workIf(chamberForRatio, { ...parts(), compression: plan.wantedRatio?.si }),
    ),
  );
  const target = computed(() => (plan.wantedVolume ? noted(plan.wantedVolume.si, 'as typed') : wanted.value.working));
  const sunk = computed(() => {
    const depth = plan.sink?.si;
    if (depth === undefined) return undefined;
    const { intakeValves, exhaustValves } = head();
    const of = (side: 'intake' | 'exhaust', valves: number) => {
      const diameter = size('valve diameter', side);
      return diameter === undefined ? 0 : work(sunkVolume, { diameter: diameter.value, depth, valves }).value;
    };
    return of('intake', intakeValves) + of('exhaust', exhaustValves);
  });
  const now = computed(() => {
    const chamber = size('chamber volume');
    if (chamber === undefined) return undefined;
    return sunk.value === undefined
      ? chamber
      : noted(
          chamber.value + sunk.value,
          `chamber found plus ${settings.say.number(sunk.value * 1e6, 2)} cc by sinking the valves`,
        );
  });
  const milling = computed(() => workIf(millingFor, { now: now.value, wanted: target.value, face: faceArea.value }));
  const cut = computed(() =>
    (['intake', 'exhaust'] as const).map((side) => ({
      side,
      working: workIf(topCutLeft, {
        width: size('top cut width', side),
        milled: milling.value,
        angle: size('top cut angle', side),
      }),
    })),
  );
  const after = computed(() =>
    target.value && milling.value ? workIf(compressionRatio, { ...parts(), chamber: target.value }) : undefined,
  );
  return { plan, face, wanted, target, milling, cut, after };
}
export type Milling = ReturnType<typeof useMilling>;

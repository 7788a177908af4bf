import type { Stage, WholeHead } from '@alluvium/records';
import { useQueryClient } from '@tanstack/vue-query';
import { computed, watch, type ComputedRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useWholeHead } from '../api/queries.js';
import { useComparison, type CompareHead } from './comparison.js';
import { useSettings } from './settings.js';

export interface HeadInHand {
  readonly whole: ComputedRef<WholeHead | undefined>;
  readonly stage: ComputedRef<Stage | undefined>;
  /** The head's own place in the lineup, if it has one. */
  readonly inLineup: ComputedRef<CompareHead | undefined>;
  readonly error: ComputedRef<string>;
  /** Puts another stage of the same head in hand. */
  readonly toStage: (id: string) => void;
  /** Puts what was just changed into the cached head, so that the page answers before the server does. */
  readonly patch: (change: (whole: WholeHead) => WholeHead) => void;
}

/**
 * The head a step works on: the one the address names, else the one last in hand, else the first of the lineup. The
 * stage is the address's, else the one compared, else the first.
 */
export function useHeadInHand(step: string, id: () => string): HeadInHand {
  const route = useRoute();
  const router = useRouter();
  const settings = useSettings();
  const client = useQueryClient();
  const { heads } = useComparison();
  const wanted = computed(() => id() || settings.headId || heads.value[0]?.whole.head.id || '');
  const query = useWholeHead(wanted);
  const whole = computed(() => query.data.value);
  const inLineup = computed(() => heads.value.find((h) => h.whole.head.id === whole.value?.head.id));
  const stage = computed(() => {
    const stages = whole.value?.stages ?? [];
    return (
      stages.find((s) => s.id === route.query.stage) ??
      stages.find((s) => s.id === inLineup.value?.stage.id) ??
      stages[0]
    );
  });
  watch(
    () => whole.value?.head.id,
    (found) => {
      if (found) settings.headId = found;
    },
  );
  // A head that was deleted since leaves the hand.
  watch(
    () => query.isError.value,
    (gone) => {
      if (gone && !id()) settings.headId = '';
    },
  );
  return {
    whole,
    stage,
    inLineup,
    error: computed(() => (query.isError.value ? String(query.error.value?.message) : '')),
    toStage: (stageId) =>
      void router.push({ name: step, params: { id: whole.value!.head.id }, query: { ...route.query, stage: stageId } }),
    patch: (change) => {
      client.setQueryData<WholeHead>(['head', wanted.value], (now) => now && change(now));
    },
  };
}

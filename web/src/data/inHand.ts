import type { Stage, WholeHead } from '@alluvium/records';
import { useQueryClient } from '@tanstack/vue-query';
import { computed, watch, type ComputedRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSettings } from '../state/settings.js';
import { ApiProblem } from './client.js';
import { useComparison, type CompareHead } from './comparison.js';
import { KEYS } from './keys.js';
import { standingOf, useWholeHead } from './queries.js';

// whole.value!: its stages are chosen from.

export interface HeadInHand {
  readonly whole: ComputedRef<WholeHead | undefined>;
  readonly stage: ComputedRef<Stage | undefined>;
  /** The head's own place in the lineup, if it has one. */
  readonly inLineup: ComputedRef<CompareHead | undefined>;
  /** Which head it is, or whether there is one, is not known yet. */
  readonly loading: ComputedRef<boolean>;
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
  const comparison = useComparison();
  const { heads } = comparison;
  const wanted = computed(() => id() || settings.headId || heads.value[0]?.whole.head.id || '');
  const query = useWholeHead(wanted);
  const standing = standingOf(query);
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
    { immediate: true },
  );
  // A head that was deleted since leaves the hand; one that cannot be asked for now does not.
  watch(
    () => query.error.value,
    (error) => {
      if (error instanceof ApiProblem && error.status === 404 && !id()) settings.headId = '';
    },
  );
  return {
    whole,
    stage,
    inLineup,
    loading: computed(() => standing.loading.value || (wanted.value === '' && comparison.loading.value)),
    error: computed(() => standing.error.value || (wanted.value === '' ? comparison.error.value : '')),
    toStage: (stageId) =>
      void router.push({ name: step, params: { id: whole.value!.head.id }, query: { ...route.query, stage: stageId } }),
    patch: (change) => {
      client.setQueryData<WholeHead>([...KEYS.head(wanted.value)], (now) => now && change(now));
    },
  };
}

import type { Split } from '@alluvium/core';
import { ledgerOf, type ChangeContext, type LedgerRow, type LossStages, type WholeHead } from '@alluvium/records';
import { computed, onScopeDispose, ref, shallowRef, watch, type ComputedRef } from 'vue';
import { useActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { useListOf } from '../data/queries.js';
import type { SplitAnswer } from './split.worker.js';

/** What gains are weighed with: the shop's figures, its sources, the cams of the build at hand. */
export function useChangeContext(): ComputedRef<ChangeContext> {
  const { active } = useActiveBuild();
  const judging = useJudging();
  const sources = useListOf('source');
  return computed(() => {
    const target = active.value?.target;
    return {
      ...judging.value,
      sources: sources.data.value ?? [],
      ...(target ? { cams: { intake: target.intakeCam, exhaust: target.exhaustCam } } : {}),
    };
  });
}

/** The ledger of the stages that led to the one in hand. */
export function useLedger(
  whole: () => WholeHead | undefined,
  stageId: () => string | undefined,
  context: () => ChangeContext,
): ComputedRef<readonly LedgerRow[]> {
  const { active } = useActiveBuild();
  return computed(() => {
    const [w, id] = [whole(), stageId()];
    if (!w || !id) return [];
    const { core, target } = active.value ?? {};
    return ledgerOf(w, id, context(), core && target ? { core, target } : undefined);
  });
}

/** A worker that is stopped with the page; a new question ends the one before. */
export function useSplit(question: () => LossStages | undefined) {
  const split = shallowRef<Split>();
  const busy = ref(false);
  const problem = ref('');
  let worker: Worker | undefined;
  const stop = () => {
    worker?.terminate();
    worker = undefined;
    busy.value = false;
  };
  watch(
    () => JSON.stringify(question() ?? null),
    () => {
      stop();
      split.value = undefined;
      problem.value = '';
      const asked = question();
      if (!asked) return;
      busy.value = true;
      worker = new Worker(new URL('./split.worker.ts', import.meta.url), { type: 'module' });
      worker.onmessage = ({ data }: MessageEvent<SplitAnswer>) => {
        if ('split' in data) split.value = data.split;
        else problem.value = data.problem;
        stop();
      };
      worker.onerror = (event) => {
        event.preventDefault();
        problem.value = 'The fit stopped: its worker could not be run.';
        stop();
      };
      worker.postMessage(JSON.parse(JSON.stringify(asked)));
    },
    { immediate: true },
  );
  onScopeDispose(stop);
  return { split, busy, problem };
}

import {
  budgetCarries,
  plainStations,
  type Floors,
  type MetalBudget,
  type StationBudget,
  type SurveyResult,
} from '@alluvium/core';
import { onBeforeUnmount, shallowRef, watch, computed, type ComputedRef } from 'vue';
import type { ActiveBuild } from '../data/build.js';

/** The metal budget of a survey, worked out in a worker; the last answer stands until the next is there. */
export function useBudget(
  survey: () => SurveyResult | undefined,
  floors: () => Floors,
  active: () => ActiveBuild | undefined,
): ComputedRef<MetalBudget | undefined> {
  const stations = shallowRef<readonly StationBudget[]>();
  const worker = new Worker(new URL('./budget.worker.ts', import.meta.url), { type: 'module' });
  let asked = 0;
  worker.onmessage = (event: MessageEvent<{ id: number; stations: readonly StationBudget[] }>) => {
    if (event.data.id === asked) stations.value = event.data.stations;
  };
  onBeforeUnmount(() => worker.terminate());
  watch(
    [survey, floors],
    ([now, least]) => {
      if (!now) return void (stations.value = undefined);
      // A plain copy: the page's own records are watched objects, which cannot be handed over.
      const plain = JSON.parse(JSON.stringify({ stations: plainStations(now), floors: least })) as object;
      worker.postMessage({ id: ++asked, ...plain });
    },
    { immediate: true },
  );
  return computed(() => {
    if (!stations.value) return undefined;
    const { core, target } = active() ?? {};
    return budgetCarries(stations.value, core && target ? { build: core, result: target } : undefined);
  });
}

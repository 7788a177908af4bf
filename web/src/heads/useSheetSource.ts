import { listed } from '@alluvium/core';
import { onBench, withStated, type Source } from '@alluvium/records';
import { computed, watch, type Ref } from 'vue';
import type { Draft } from '../data/form.js';
import { today } from '../data/today.js';

/** What the source of a sheet brings with it: its full scales by the day, and what it states of all its tests. */
export function useSheetSource(sources: () => readonly Source[], draft: Ref<Draft<'sheet'>>) {
  const bench = computed(() => sources().find((s) => s.id === draft.value.sourceId));
  const day = computed(() => draft.value.date ?? today());
  /** A bench that reads percent is read by its own full scales: those of the day, wherever the sheet has none of its own. */
  watch(
    () => [draft.value.sourceId, draft.value.setup.reads] as const,
    ([, reads]) => {
      const setup = draft.value.setup;
      if (reads !== 'percent' && reads !== 'differential') return;
      if (setup.scales === null && setup.ranges.length > 0) return;
      const there = bench.value?.scales.some((s) => s.since === setup.scales);
      if (!there && (bench.value || setup.scales !== null)) draft.value.setup = onBench(setup, bench.value, day.value);
    },
  );

  /** What the source states of all its tests and this sheet does not know: offered, never filled in by itself. */
  const offered = computed(() => {
    if (!bench.value || draft.value.kind !== 'claim') return undefined;
    const { setup, taken } = withStated(draft.value.setup, bench.value.stated);
    return taken.length > 0 ? { setup, text: `${bench.value.name} states of its tests: ${listed(taken)}.` } : undefined;
  });
  return { bench, day, offered };
}

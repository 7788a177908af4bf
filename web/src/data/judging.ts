import { assumptionsOf, type JudgingContext } from '@alluvium/records';
import { computed, type ComputedRef } from 'vue';
import { useSettings } from '../state/settings.js';
import { useAssumptions, useCalibrations } from './queries.js';

/** What every verdict is made with besides the head: the shop's own assumptions, which benches were checked, units. */
export function useJudging(): ComputedRef<JudgingContext> {
  const settings = useSettings();
  const assumptions = useAssumptions();
  const calibrations = useCalibrations();
  const own = computed(() => assumptionsOf(assumptions.data.value ?? []));
  const checked = computed(() => new Set((calibrations.data.value ?? []).map((c) => c.sourceId)));
  return computed(() => ({ assumptions: own.value, checked: checked.value, say: settings.say }));
}

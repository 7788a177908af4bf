import { assumptionsForBuild, assumptionsOf, type Build, type JudgingContext } from '@alluvium/records';
import { computed, type ComputedRef } from 'vue';
import { useSettings } from '../state/settings.js';
import { useActiveBuild } from './build.js';
import { useClaimStanding } from './claims.js';
import { useListOf } from './queries.js';

/**
 * What every verdict on a build is made with besides the head: the shop's own assumptions, what its tests say of set-ups and
 * benches, which benches were checked, units. The build at hand where none is named.
 */
export function useJudging(build?: () => Build): ComputedRef<JudgingContext> {
  const settings = useSettings();
  const assumptions = useListOf('assumption');
  const calibrations = useListOf('calibration');
  const factors = useListOf('ownfactor');
  const { active } = useActiveBuild();
  const plain = computed(() => assumptionsOf(assumptions.data.value ?? []));
  // The shop's own power per flow of such engines comes before the trade's.
  const own = computed(() => {
    const of = build ? build() : active.value?.build;
    return of ? assumptionsForBuild(plain.value, of, factors.data.value ?? []) : plain.value;
  });
  const standing = useClaimStanding();
  const checked = computed(() => new Set((calibrations.data.value ?? []).map((c) => c.sourceId)));
  return computed(() => ({
    assumptions: own.value,
    checked: checked.value,
    shop: standing.data.value?.shop,
    say: settings.say,
  }));
}

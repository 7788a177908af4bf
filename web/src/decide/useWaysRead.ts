import { mattersOf, rankOf, readWays, type WayRead } from '@alluvium/records';
import type { Ranked } from '@alluvium/core';
import { computed, type ComputedRef } from 'vue';
import { useActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { standingOf, useWays, type Standing } from '../data/queries.js';

export interface WaysAtHand extends Standing {
  readonly ways: ComputedRef<readonly WayRead[]>;
  readonly ranked: ComputedRef<Ranked>;
  /** They are here, be they none. */
  readonly here: ComputedRef<boolean>;
}

/** The ways of the build at hand, each with its price, power, odds and fit, and how often it comes first. */
export function useWaysRead(): WaysAtHand {
  const { active } = useActiveBuild();
  const judging = useJudging();
  const query = useWays(() => active.value?.build.id ?? '');
  const ways = computed(() => {
    const view = query.data.value;
    if (!active.value || !view) return [];
    const { build, core, target } = active.value;
    return readWays(view.ways, build, core, target, view.wholes, { ...judging.value, sources: view.sources });
  });
  const ranked = computed(() =>
    active.value ? rankOf(ways.value, mattersOf(active.value.build)) : { marks: [], wins: [] },
  );
  return { ways, ranked, here: computed(() => query.data.value !== undefined), ...standingOf(query) };
}

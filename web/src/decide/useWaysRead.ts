import type { Ranked } from '@alluvium/core';
import { fingerprint, mattersOf, rankOf, readWays, withTorque, type Build, type WayRead } from '@alluvium/records';
import { computed, type ComputedRef } from 'vue';
import { useActiveBuild, type ActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { standingOf, useWays, type Standing } from '../data/queries.js';
import { torqueOf, useTorqueStore } from './torque.js';

export interface WaysAtHand extends Standing {
  readonly ways: ComputedRef<readonly WayRead[]>;
  readonly ranked: ComputedRef<Ranked>;
  /** They are here, be they none. */
  readonly here: ComputedRef<boolean>;
}

/** What nothing of a way is read from: the weights, and which writing of the build it is. */
const withoutWeights = ({ matters: _matters, version: _version, ...engine }: Build) => fingerprint(engine);

/** The build at hand as the ways are read with it: the same thing while only weights are moved. */
export function useEngine(): ComputedRef<ActiveBuild | undefined> {
  const { active } = useActiveBuild();
  return computed<ActiveBuild | undefined>((before) => {
    const now = active.value;
    return before && now && withoutWeights(before.build) === withoutWeights(now.build) ? before : now;
  });
}

/** The ways of the build at hand, each with its price, power, odds and fit, and how often it comes first. */
export function useWaysRead(): WaysAtHand {
  const { active } = useActiveBuild();
  const engine = useEngine();
  const judging = useJudging();
  const store = useTorqueStore();
  const query = useWays(() => active.value?.build.id ?? '');
  const judged = computed(() => {
    const view = query.data.value;
    if (!engine.value || !view) return [];
    const { build, core, target } = engine.value;
    return readWays(view.ways, build, core, target, view.wholes, { ...judging.value, sources: view.sources });
  });
  const ways = computed(() =>
    engine.value ? withTorque(judged.value, torqueOf(store.runs, engine.value.build, judged.value)) : [],
  );
  const ranked = computed(() =>
    active.value ? rankOf(ways.value, mattersOf(active.value.build)) : { marks: [], wins: [] },
  );
  return { ways, ranked, here: computed(() => query.data.value !== undefined), ...standingOf(query) };
}

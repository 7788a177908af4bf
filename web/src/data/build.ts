import { evaluateTarget, type Assumptions, type Build as CoreBuild, type TargetResult } from '@alluvium/core';
import { assumptionsForBuild, assumptionsOf, toCoreBuild, type Build } from '@alluvium/records';
import { defineStore, storeToRefs } from 'pinia';
import { computed, type ComputedRef } from 'vue';
import { useSettings } from '../state/settings.js';
import { standingOf, useListOf } from './queries.js';

export interface ActiveBuild {
  readonly build: Build;
  readonly core: CoreBuild;
  readonly target?: TargetResult;
  /** Why the target cannot be computed (a cam that fits no lift curve, say). */
  readonly problem?: string;
}

/** A build with what follows from it; a target that makes no sense keeps its sentence. */
export function withTarget(build: Build, assumptions?: Assumptions): ActiveBuild {
  const core = toCoreBuild(build, assumptions);
  try {
    return { build, core, target: evaluateTarget(core) };
  } catch (error) {
    return { build, core, problem: (error as Error).message };
  }
}

export interface BuildAtHand {
  readonly active: ComputedRef<ActiveBuild | undefined>;
  readonly builds: ComputedRef<readonly Build[]>;
  readonly loading: ComputedRef<boolean>;
  readonly error: ComputedRef<string>;
}

const useBuildStore = defineStore('build', () => {
  const settings = useSettings();
  const query = useListOf('build');
  const builds = computed(() => query.data.value ?? []);
  const assumptions = useListOf('assumption');
  const own = computed(() => assumptionsOf(assumptions.data.value ?? []));
  const factors = useListOf('ownfactor');
  const active = computed(() => {
    const build =
      builds.value.find((b) => b.id === settings.buildId) ?? builds.value.find((b) => !b.archived) ?? builds.value[0];
    return build && withTarget(build, assumptionsForBuild(own.value, build, factors.data.value ?? []));
  });
  return { active, builds, ...standingOf(query) };
});

/** The build at hand: the one chosen, else the first there is. Its target is computed once for all who read it. */
export function useActiveBuild(): BuildAtHand {
  const { active, builds, loading, error } = storeToRefs(useBuildStore());
  return { active, builds, loading, error } as unknown as BuildAtHand;
}

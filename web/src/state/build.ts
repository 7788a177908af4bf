import { evaluateTarget, type Build as CoreBuild, type TargetResult } from '@alluvium/core';
import { toCoreBuild, type Build } from '@alluvium/records';
import { computed, type ComputedRef } from 'vue';
import { useBuilds } from '../api/queries.js';
import { useSettings } from './settings.js';

export interface ActiveBuild {
  readonly build: Build;
  readonly core: CoreBuild;
  readonly target?: TargetResult;
  /** Why the target cannot be computed (a cam that fits no lift curve, say). */
  readonly problem?: string;
}

/** A build with what follows from it; a target that makes no sense keeps its sentence. */
export function withTarget(build: Build): ActiveBuild {
  const core = toCoreBuild(build);
  try {
    return { build, core, target: evaluateTarget(core) };
  } catch (error) {
    return { build, core, problem: (error as Error).message };
  }
}

/** The build at hand: the one chosen, else the first there is. */
export function useActiveBuild(): {
  active: ComputedRef<ActiveBuild | undefined>;
  builds: ComputedRef<readonly Build[]>;
  loading: ComputedRef<boolean>;
} {
  const settings = useSettings();
  const query = useBuilds();
  const builds = computed(() => query.data.value ?? []);
  const active = computed(() => {
    const build = builds.value.find((b) => b.id === settings.buildId) ?? builds.value[0];
    return build && withTarget(build);
  });
  return { active, builds, loading: computed(() => query.isPending.value) };
}

import { evaluateTarget, numberOf, type PullPoint, type Working, Refusal } from '@alluvium/core';
import {
  evaluateHead,
  heldAgainst,
  peakBy,
  powerPerFlowOf,
  readPullOf,
  toCoreBuild,
  type HeadEvaluation,
  type Held,
  type Pull,
  type WholeHead,
} from '@alluvium/records';
import { computed, type ComputedRef } from 'vue';
import { useActiveBuild, type ActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { standingOf, usePulled, type Standing } from '../data/queries.js';
import { engineOf } from './usePullCurve.js';

/** Estimates are made for the air of a standard: J1349, which the power per flow of the trade is nearest to. */
export const COMMON = 'SAE J1349';

/** One pull, read: its peak by the common standard, and the head that was on the engine, judged. */
export interface PullRead {
  readonly pull: Pull;
  /** By the common standard; a sentence where that cannot be said. */
  readonly common: Working | string;
  /** Peak by the common standard where that can be said, else as stated, W. */
  readonly made: number | undefined;
  /** Rows by the same. */
  readonly points: readonly PullPoint[];
  readonly whole?: WholeHead | undefined;
  readonly evaluation?: HeadEvaluation | undefined;
  /** Power each cfm of the head made. */
  readonly factor?: Working | undefined;
}

/** Estimates of a pull's head beside what was made; none for a chassis dyno, or a head that is not known. */
export const estimatesOf = ({ made, evaluation, pull }: PullRead): Held[] =>
  made === undefined || !evaluation || pull.dyno !== 'engine dyno' ? [] : heldAgainst(made, evaluation);

export interface DynoAtHand extends Standing {
  readonly active: ComputedRef<ActiveBuild | undefined>;
  readonly pulls: ComputedRef<readonly PullRead[]>;
  readonly here: ComputedRef<boolean>;
}

/** The pulls of the build at hand, each with its head. */
export function useDyno(): DynoAtHand {
  const { active } = useActiveBuild();
  const judging = useJudging();
  const query = usePulled(() => active.value?.build.id ?? '');
  const read = (pull: Pull, a: ActiveBuild, wholes: readonly WholeHead[]): PullRead => {
    const common = peakBy(pull, COMMON, a.build);
    const { points, peakPower } = readPullOf(pull);
    const made = typeof common === 'string' ? peakPower?.power : common.value;
    const by = peakPower && made !== undefined ? made / peakPower.power : 1;
    const whole = wholes.find((w) => w.stages.some((s) => s.id === pull.stageId));
    const plain = {
      pull,
      common,
      made,
      points: points.map((p) => ({ ...p, power: p.power * by, torque: p.torque * by })),
      whole,
    };
    if (!whole || !pull.stageId || !a.target) return plain;
    try {
      // As it stood on the dyno, not as the build is today.
      const build = engineOf(a.build, pull);
      const core = toCoreBuild(build, judging.value.assumptions);
      const target = evaluateTarget(core);
      const evaluation = evaluateHead(build, core, target, whole, pull.stageId, null, judging.value);
      const factor =
        made === undefined ? undefined : powerPerFlowOf(pull, made, build, evaluation, numberOf(target.charge));
      return { ...plain, evaluation, factor };
    } catch (error) {
      if (error instanceof Refusal) return plain;
      throw error;
    }
  };
  const pulls = computed(() => {
    const [a, view] = [active.value, query.data.value];
    return a && view ? view.pulls.map((p) => read(p, a, view.wholes)) : [];
  });
  return { active, pulls, here: computed(() => query.data.value !== undefined), ...standingOf(query) };
}

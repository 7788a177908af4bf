import {
  evaluateHead,
  fingerprint,
  flowShare,
  plannedWhole,
  type Build,
  type WayRead,
  type WayTorque,
} from '@alluvium/records';
import { defineStore } from 'pinia';
import { computed, onScopeDispose, ref, shallowReactive, type ComputedRef } from 'vue';
import type { ActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { headVersions } from '../simulation/headVersions.js';
import { meanTorque } from '../simulation/meanTorque.js';
import { Cancelled, Pool } from '../simulation/pool.js';

// engine()!: ways are run only in an engine.
// w.evaluation!, w.way.stageId!: a way with a head has both.

/** A run, or why it could not be made; of exactly this engine with exactly this head. */
interface Run {
  readonly key: string;
  readonly torque?: WayTorque;
  readonly problem?: string;
}

/** Runs of the ways, kept while the page is open: the decision and its report read the same ones. */
export const useTorqueStore = defineStore('torque', () => ({ runs: shallowReactive(new Map<string, Run>()) }));

/** What a run was made of: the engine, and every record of the head that a sheet is read with. */
function keyOf(build: Build, { way, whole }: WayRead): string {
  const {
    matters: _m,
    version: _v,
    rates: _r,
    currency: _c,
    tax: _t,
    budget: _b,
    due: _d,
    note: _n,
    ...engine
  } = build;
  return fingerprint([engine, way.stageId, way.gain, way.gainBand, whole && headVersions(whole)]);
}

/** The torque of each way that was run as it stands now. */
export function torqueOf(
  runs: ReadonlyMap<string, Run>,
  build: Build,
  ways: readonly WayRead[],
): ReadonlyMap<string, WayTorque> {
  return new Map(
    ways.flatMap((w) => {
      const run = runs.get(w.way.id);
      return run?.torque && run.key === keyOf(build, w) ? [[w.way.id, run.torque] as const] : [];
    }),
  );
}

export interface TorqueRuns {
  readonly busy: Readonly<ReturnType<typeof ref<boolean>>>;
  /** Why a way could not be run. */
  readonly problems: ComputedRef<readonly string[]>;
  /** Runs every way in the engine; those that were run as they are stay. */
  readonly ask: () => Promise<void>;
  readonly stop: () => void;
}

/** Runs the ways in the engine when asked: mean torque over the speeds it works at, and what the flow's uncertainty makes of it. */
export function useTorqueRuns(engine: () => ActiveBuild | undefined, ways: () => readonly WayRead[]): TorqueRuns {
  const store = useTorqueStore();
  const judging = useJudging();
  const pool = new Pool();
  onScopeDispose(() => pool.close());
  const busy = ref(false);

  async function run(w: WayRead): Promise<Run> {
    const { build, core, target } = engine()!;
    const key = keyOf(build, w);
    if (!target || !w.judged || !w.evaluation || !w.way.stageId)
      return { key, problem: `${w.way.name}: no head, no run.` };
    const at = (whole: NonNullable<WayRead['judged']>) => {
      const evaluation =
        whole === w.judged
          ? w.evaluation!
          : evaluateHead(build, core, target, whole, w.way.stageId!, null, judging.value);
      return meanTorque(pool, { build, core, target }, whole, evaluation, judging.value);
    };
    const share = flowShare(w) ?? 0;
    const [value, more] = await Promise.all([
      at(w.judged),
      share > 0 ? at(plannedWhole(w.judged, w.way.stageId, share)) : undefined,
    ]);
    if (typeof value === 'string') return { key, problem: `${w.way.name}: ${value}` };
    return { key, torque: { value, u: typeof more === 'number' ? Math.abs(more - value) : 0 } };
  }
  async function ask(): Promise<void> {
    busy.value = true;
    try {
      await Promise.all(
        ways().map(async (w) => {
          const known = store.runs.get(w.way.id);
          if (known?.torque && known.key === keyOf(engine()!.build, w)) return;
          store.runs.set(w.way.id, await run(w));
        }),
      );
    } catch (error) {
      if (!(error instanceof Cancelled)) throw error;
    } finally {
      busy.value = false;
    }
  }
  const problems = computed(() => ways().flatMap((w) => store.runs.get(w.way.id)?.problem ?? []));
  return { busy, problems, ask, stop: () => pool.cancel() };
}

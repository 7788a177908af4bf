import { evaluateHead, type LedgerRow, type WholeHead } from '@alluvium/records';
import { onScopeDispose, ref, shallowReactive, watch } from 'vue';
import { useActiveBuild } from '../data/build.js';
import { meanTorque } from '../simulation/meanTorque.js';
import { Cancelled, Pool } from '../simulation/pool.js';
import { useChangeContext } from './useChangeData.js';
import { refusedBy } from '@alluvium/core';

// active.value!: the torque is asked for with a build at hand.
// rows()[]!: walked by its own length.

/** Mean torque of each flowed stage over the speeds the engine works at, by simulation, when asked for. */
export function useStageTorque(whole: () => WholeHead, rows: () => readonly LedgerRow[]) {
  const { active } = useActiveBuild();
  const context = useChangeContext();
  const pool = new Pool();
  onScopeDispose(() => pool.close());
  /** Torque by stage, or why the stage could not be run. */
  const torque = shallowReactive(new Map<string, number | string>());
  const busy = ref(false);
  watch(
    () => [active.value?.build, whole(), context.value] as const,
    () => {
      pool.cancel();
      torque.clear();
      busy.value = false;
    },
  );

  async function run(stageId: string): Promise<number | string> {
    const { build, core, target } = active.value!;
    if (!target) return active.value!.problem ?? '';
    const head = whole();
    const evaluation = evaluateHead(build, core, target, head, stageId, null, context.value);
    return meanTorque(pool, { build, core, target }, head, evaluation, context.value);
  }
  async function ask(): Promise<void> {
    busy.value = true;
    try {
      await Promise.all(
        rows().map(async ({ stage }) => {
          try {
            torque.set(stage.id, await run(stage.id));
          } catch (error) {
            if (error instanceof Cancelled) throw error;
            torque.set(stage.id, refusedBy(error).message);
          }
        }),
      );
    } catch (error) {
      if (!(error instanceof Cancelled)) throw error;
    } finally {
      busy.value = false;
    }
  }
  /** What a stage gained over the nearest one before it that could be run. */
  function gained(at: number): number | undefined {
    const own = torque.get(rows()[at]!.stage.id);
    if (typeof own !== 'number') return undefined;
    for (let i = at - 1; i >= 0; i--) {
      const before = torque.get(rows()[i]!.stage.id);
      if (typeof before === 'number') return own - before;
    }
    return undefined;
  }
  return { torque, busy, ask, gained, stop: () => pool.cancel() };
}

import { ref, shallowReactive, watch } from 'vue';
import { Cancelled, type Pool } from './pool.js';
import type { ReadyHead } from './ready.js';
import type { Answers, Job } from './simulation.worker.js';

/**
 * One question asked of every head at once; answers stay until a head or the engine changes. Stopping the pool ends it.
 */
export function useAsk<K extends Job['kind']>(
  pool: Pool,
  heads: () => readonly ReadyHead[],
  jobOf: (head: ReadyHead) => Extract<Job, { kind: K }>,
) {
  const answers = shallowReactive(new Map<string, Answers[K]>());
  const busy = ref(false);
  const problem = ref('');
  watch(
    () => JSON.stringify(heads().map((h) => [h.id, jobOf(h)])),
    () => answers.clear(),
  );
  async function ask(): Promise<void> {
    busy.value = true;
    problem.value = '';
    try {
      await Promise.all(heads().map(async (h) => void answers.set(h.id, await pool.ask<K>(jobOf(h), true))));
    } catch (e) {
      if (!(e instanceof Cancelled)) problem.value = (e as Error).message;
    } finally {
      busy.value = false;
    }
  }
  return { answers, busy, problem, ask };
}

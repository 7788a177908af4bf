import type { Inspection } from '@alluvium/records';
import { useQueryClient } from '@tanstack/vue-query';
import { useDebounceFn } from '@vueuse/core';
import { ApiProblem, save } from '../api/client.js';
import type { HeadInHand } from '../state/inHand.js';
import { useUndo } from '../state/undo.js';

export type Tick = Partial<Pick<Inspection, 'state' | 'note'>>;

/**
 * Ticks lines of a checklist: shown at once, written one after the other in the background. A tick the server refuses
 * is taken back and said.
 */
export function useTicks(hand: Pick<HeadInHand, 'whole' | 'patch'>) {
  const client = useQueryClient();
  const undo = useUndo();
  const settle = useDebounceFn(() => client.invalidateQueries({ queryKey: ['lineup'] }), 700);
  let last: Promise<void> = Promise.resolve();

  const now = (id: string) => hand.whole.value?.inspections.find((i) => i.id === id);
  const put = (id: string, change: Partial<Inspection>) =>
    hand.patch((whole) => ({
      ...whole,
      inspections: whole.inspections.map((i) => (i.id === id ? { ...i, ...change } : i)),
    }));

  async function write(id: string, change: Tick, before: Tick, what: string): Promise<void> {
    const record = now(id);
    if (!record) return;
    try {
      // The version is read when its turn comes: an earlier tick of the same line has moved it on.
      const answer = await save('inspection', { ...record, ...change });
      put(id, { version: answer.record.version });
      undo.did(what, answer.batch);
      void settle();
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      put(id, before);
      undo.announce(error.message);
      if (error.status === 409) await client.invalidateQueries({ queryKey: ['head'] });
    }
  }

  /** Sets state or note of one line; resolves when it is written. */
  function tick(inspection: Inspection, change: Tick, what: string): Promise<void> {
    const before = { state: inspection.state, note: inspection.note };
    put(inspection.id, change);
    last = last.then(() => write(inspection.id, change, before, what));
    return last;
  }
  return { tick };
}

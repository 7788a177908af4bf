import { replacement, type Extent, type Inspection } from '@alluvium/records';
import { useQueryClient } from '@tanstack/vue-query';
import { useDebounceFn } from '@vueuse/core';
import { ApiProblem, sendChange } from './client.js';
import { asOwn } from './feed.js';
import type { HeadInHand } from './inHand.js';
import { refresh } from './keys.js';
import { useUndo } from './undo.js';

// answer.records[]!: one tick was sent, and one record comes back.

export type Tick = Partial<Pick<Inspection, 'state' | 'note'>>;

/**
 * Ticks lines of a checklist: shown at once, written one after the other in the background. A tick the server refuses
 * is taken back and said. What hangs on the head is asked for anew once the ticking rests: sooner, an answer without the
 * latest ticks would be drawn over them.
 */
export function useTicks(hand: Pick<HeadInHand, 'whole' | 'patch'>) {
  const client = useQueryClient();
  const undo = useUndo();
  let last: Promise<void> = Promise.resolve();
  let touched: Extent = [];
  const settle = useDebounceFn(async () => {
    await last;
    const extent = touched;
    touched = [];
    await refresh(client, extent);
  }, 700);

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
      const answer = await asOwn(() => sendChange([replacement('inspection', { ...record, ...change })]));
      put(id, { version: answer.records[0]!.version });
      undo.did(what, answer.batch);
      touched = touched === 'all' || answer.touched === 'all' ? 'all' : [...touched, ...answer.touched];
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      put(id, before);
      undo.refused(error.message);
      if (error.status === 409) touched = 'all';
    }
    void settle();
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

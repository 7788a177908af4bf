import { defineStore } from 'pinia';
import { ref, shallowReactive } from 'vue';
import { ApiProblem, undoBatch } from '../api/client.js';
import { useRefresh } from '../api/queries.js';

export interface Done {
  readonly what: string;
  readonly batch: number;
}

/** What was changed on the server in this session, so that it can be taken back, and the line that says so. */
export const useUndo = defineStore('undo', () => {
  const done = shallowReactive<Done[]>([]);
  const undone = shallowReactive<Done[]>([]);
  const message = ref('');
  const offer = ref(false);
  const refresh = useRefresh();
  let timer: ReturnType<typeof setTimeout> | undefined;

  function announce(text: string, withUndo = false): void {
    message.value = text;
    offer.value = withUndo;
    clearTimeout(timer);
    timer = setTimeout(() => (message.value = ''), 9_000);
  }
  function did(what: string, batch: number | null): void {
    if (batch !== null) {
      done.push({ what, batch });
      undone.length = 0;
    }
    announce(what, batch !== null);
  }
  async function move(from: Done[], to: Done[], word: string): Promise<void> {
    const last = from.pop();
    if (!last) return announce(`Nothing to ${word}.`);
    try {
      const { batch } = await undoBatch(last.batch);
      to.push({ what: last.what, batch });
      announce(`${word === 'undo' ? 'Taken back' : 'Done again'}: ${last.what}`);
    } catch (error) {
      announce(error instanceof ApiProblem ? error.message : String(error));
    }
    await refresh();
  }
  const undo = () => move(done, undone, 'undo');
  const redo = () => move(undone, done, 'redo');
  const dismiss = () => (message.value = '');
  return { done, undone, message, offer, announce, did, undo, redo, dismiss };
});

import { useQueryClient } from '@tanstack/vue-query';
import { defineStore } from 'pinia';
import { ref, shallowReactive } from 'vue';
import { ApiProblem, undoBatch } from './client.js';
import { asOwn } from './feed.js';
import { refresh } from './keys.js';

/** Something that can be taken back: a batch on the server, or what was done in this page alone. */
export type Done =
  | { readonly what: string; readonly batch: number }
  | { readonly what: string; readonly back: () => void; readonly again: () => void };

const SHOWN_MS = 9_000;

/** What was done in this session, so that it can be taken back, and the line that says so. */
export const useUndo = defineStore('undo', () => {
  const done = shallowReactive<Done[]>([]);
  const undone = shallowReactive<Done[]>([]);
  const message = ref('');
  const offer = ref(false);
  /** The message is a refusal: it stays until it is read. */
  const failed = ref(false);
  const client = useQueryClient();
  let timer: ReturnType<typeof setTimeout> | undefined;

  function say(text: string, withUndo: boolean, refusal: boolean): void {
    message.value = text;
    offer.value = withUndo;
    failed.value = refusal;
    clearTimeout(timer);
    if (!refusal) timer = setTimeout(() => (message.value = ''), SHOWN_MS);
  }
  const announce = (text: string) => say(text, false, false);
  const refused = (text: string) => say(text, false, true);
  function keep(entry: Done): void {
    done.push(entry);
    undone.length = 0;
    say(entry.what, true, false);
  }
  function did(what: string, batch: number | null): void {
    if (batch === null) announce(what);
    else keep({ what, batch });
  }
  /** The same without a word: what saves itself says so where it is typed. */
  function didQuietly(what: string, batch: number | null): void {
    if (batch === null) return;
    done.push({ what, batch });
    undone.length = 0;
  }
  async function move(from: Done[], to: Done[], word: 'undo' | 'redo'): Promise<void> {
    const last = from.pop();
    if (!last) return announce(word === 'undo' ? 'There is nothing to undo.' : 'There is nothing to redo.');
    const says = `${word === 'undo' ? 'Undone' : 'Done again'}: ${last.what}`;
    if ('back' in last) {
      if (word === 'undo') last.back();
      else last.again();
      to.push(last);
      return announce(says);
    }
    try {
      const { batch, touched } = await asOwn(() => undoBatch(last.batch));
      to.push({ what: last.what, batch });
      announce(says);
      await refresh(client, touched);
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      // A server that is away may answer later: the way back stays open.
      if (error.unanswered) from.push(last);
      else void refresh(client, 'all');
      refused(error.message);
    }
  }
  return {
    done,
    undone,
    message,
    offer,
    failed,
    announce,
    refused,
    did,
    didQuietly,
    /** Keeps a way back for what was done in this page alone. */
    didHere: (what: string, back: () => void, again: () => void) => keep({ what, back, again }),
    undo: () => move(done, undone, 'undo'),
    redo: () => move(undone, done, 'redo'),
    dismiss: () => (message.value = ''),
  };
});

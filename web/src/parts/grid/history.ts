/** What a grid held before each act, to go back to and forth. */
import { computed, shallowRef } from 'vue';

const MOST = 200;

/** `put` is told what the grid is to hold. Typing on in one cell is one act. */
export function useHistory<T>(now: () => T, put: (held: T) => void) {
  const past = shallowRef<readonly T[]>([]);
  const ahead = shallowRef<readonly T[]>([]);
  let act = '';
  /** To be called before a change: keeps what stands, unless the act named goes on. */
  function before(name = ''): void {
    if (name === '' || name !== act) past.value = [...past.value.slice(1 - MOST), now()];
    act = name;
    ahead.value = [];
  }
  function step(from: typeof past, to: typeof past): void {
    const held = from.value.at(-1);
    if (held === undefined) return;
    from.value = from.value.slice(0, -1);
    to.value = [...to.value, now()];
    act = '';
    put(held);
  }
  return {
    before,
    forget(): void {
      past.value = [];
      ahead.value = [];
    },
    /** The act being done is over: what comes next is another. */
    over: () => (act = ''),
    undo: () => step(past, ahead),
    redo: () => step(ahead, past),
    canUndo: computed(() => past.value.length > 0),
    canRedo: computed(() => ahead.value.length > 0),
  };
}
export type History = ReturnType<typeof useHistory>;

import { readonly, ref } from 'vue';

const away = ref(false);
const damaged = ref(false);
const since = ref<Date>();
const waiting = new Set<() => void>();

/** Heard from every request and from the feed of changes: whether the server answers. */
export function heard(answered: boolean): void {
  if (away.value === !answered) return;
  away.value = !answered;
  since.value = answered ? undefined : new Date();
  if (answered) for (const act of [...waiting]) act();
}

/** Does something whenever the server is back after it was away; the answer stops it. */
export function onBack(act: () => void): () => void {
  waiting.add(act);
  return () => void waiting.delete(act);
}

/** The server serves nothing of its library: what it has is damaged. */
export const heardOfDamage = () => void (damaged.value = true);

/** Whether the server is away, and since when, or has a damaged library: said by the frame, and by every page that waits. */
export const useReach = () => ({ away: readonly(away), since: readonly(since), damaged: readonly(damaged) });

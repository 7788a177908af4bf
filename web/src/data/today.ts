import { ref } from 'vue';

const latest = ref('');
const written = (at: Date) =>
  `${at.getFullYear()}-${String(at.getMonth() + 1).padStart(2, '0')}-${String(at.getDate()).padStart(2, '0')}`;

/** Something was saved at this time: nothing new is dated before it, whatever this machine's clock says since. */
export function notBefore(at: string | null): void {
  if (at === null) return;
  const day = written(new Date(at));
  if (day > latest.value) latest.value = day;
}

/** Whether this machine's clock stands before the day of the last change. */
export const clockIsBehind = (): boolean => written(new Date()) < latest.value;

/** Today where the user is, as records write it, 2026-05-31; never before the day of the last change. */
export const today = (): string => (clockIsBehind() ? latest.value : written(new Date()));

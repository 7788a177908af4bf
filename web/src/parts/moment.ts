import type { Say } from '@alluvium/core';

const two = (n: number) => String(n).padStart(2, '0');

/** `14:05` on this machine's clock. */
export const clockWords = (at: Date): string => `${two(at.getHours())}:${two(at.getMinutes())}`;

/** A moment on this machine's clock, its day in the user's order: `31 May 2026, 14:05`. */
export function momentWords(iso: string, say: Say): string {
  const at = new Date(iso);
  return `${say.day(`${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`)}, ${clockWords(at)}`;
}

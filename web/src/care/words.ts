import type { Say } from '@alluvium/core';

/** Of an export that is not whole. */
export const missingPhotosWords = (count: number): string =>
  `Exported without ${count === 1 ? 'one photo, whose file is' : `${count} photos, whose files are`} spoilt or missing: see Backups.`;

/** A size of a file in the unit that suits it. */
export function sizeWords(bytes: number, say: Say): string {
  const units = ['bytes', 'kB', 'MB', 'GB', 'TB'];
  let value = bytes;
  let i = 0;
  for (; value >= 1000 && i < units.length - 1; i++) value /= 1000;
  return `${i === 0 || value >= 100 ? Math.round(value) : say.number(value, 1)} ${units[i]}`;
}

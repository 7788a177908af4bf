/** A moment as people of this machine's place write it. */
export const timeWords = (iso: string): string =>
  new Date(iso).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' });

/** A size of a file in the unit that suits it. */
export function sizeWords(bytes: number): string {
  const units = ['bytes', 'kB', 'MB', 'GB', 'TB'];
  let value = bytes;
  let i = 0;
  for (; value >= 1000 && i < units.length - 1; i++) value /= 1000;
  return `${i === 0 || value >= 100 ? Math.round(value) : value.toFixed(1)} ${units[i]}`;
}

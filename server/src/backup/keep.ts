import type { Manifest } from './manifest.js';

const DAYS = 7;
const WEEKS = 4;
/** The newest are kept whatever their age, those before an import or a restore among them. */
const NEWEST = 3;
const DAY = 86_400_000;

/** Which backups to keep: the newest three, the newest of each of the last seven days, and of each of the last four weeks. */
export function toKeep(all: readonly Manifest[], now: Date): Set<string> {
  const newestFirst = [...all].sort((a, b) => b.made.localeCompare(a.made));
  const kept = new Set(newestFirst.slice(0, NEWEST).map((m) => m.name));
  const one = (from: number, to: number) => {
    const found = newestFirst.find((m) => {
      const age = now.getTime() - Date.parse(m.made);
      return age >= from && age < to;
    });
    if (found) kept.add(found.name);
  };
  for (let d = 0; d < DAYS; d++) one(d * DAY, (d + 1) * DAY);
  for (let w = 0; w < WEEKS; w++) one(w * 7 * DAY, (w + 1) * 7 * DAY);
  // A clock that went backwards leaves backups of the future: they are never thrown away for it.
  for (const m of all) if (Date.parse(m.made) > now.getTime()) kept.add(m.name);
  return kept;
}

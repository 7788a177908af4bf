import type { Manifest } from './manifest.js';

/** The newest are kept whatever their age, those before an import or a restore among them. */
const NEWEST = 3;
const DAY_MS = 86_400_000;

/** Days since 1970 of the calendar on the wall. */
const dayOf = (at: Date): number => Math.round(Date.UTC(at.getFullYear(), at.getMonth(), at.getDate()) / DAY_MS);
/** Weeks begin on Monday; 1 January 1970 was a Thursday. */
const weekOf = (at: Date): number => Math.floor((dayOf(at) + 3) / 7);
const monthOf = (at: Date): number => 12 * at.getFullYear() + at.getMonth();

/** How many days, weeks and months with a backup keep their newest. */
const PERIODS: readonly (readonly [(at: Date) => number, number])[] = [
  [dayOf, 7],
  [weekOf, 4],
  [monthOf, 12],
];

/**
 * Which backups to keep: the newest three, then the newest of each of the last seven days, four weeks and twelve months
 * that have one. Periods are those of the calendar and are counted back from the newest backup, so that neither the time
 * of day nor a wrong clock moves them. A backup dated after `now` is kept and counts for nothing: the clock that wrote it
 * was wrong, or this one is.
 */
export function toKeep(all: readonly Pick<Manifest, 'name' | 'made'>[], now: Date): Set<string> {
  const dated = all.map(({ name, made }) => ({ name, made: new Date(made) }));
  const kept = new Set(dated.filter((b) => b.made > now).map((b) => b.name));
  const past = dated.filter((b) => b.made <= now).sort((a, b) => b.made.getTime() - a.made.getTime());
  for (const { name } of past.slice(0, NEWEST)) kept.add(name);
  for (const [periodOf, most] of PERIODS) {
    const seen = new Set<number>();
    for (const { name, made } of past) {
      const period = periodOf(made);
      if (seen.has(period)) continue;
      if (seen.size === most) break;
      seen.add(period);
      kept.add(name);
    }
  }
  return kept;
}

/** Copies of a whole database kept whatever their age. */
const COPIES = 2;
const COPY_DAYS = 30;

/** Name of a copy made before the schema moves on: `before-step-19-20261201T080000Z`. */
export const COPY_NAME = /^before-step-\d+-(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/;

/** Which of these folders are copies past their time: the newest two stay, any other for thirty days. */
export function copiesToDrop(names: readonly string[], now: Date): string[] {
  const copies = names
    .map((name) => ({ name, at: COPY_NAME.exec(name) }))
    .flatMap(({ name, at }) => {
      if (!at) return [];
      const [y, mo, d, h, m, s] = at.slice(1).map(Number) as [number, number, number, number, number, number];
      return [{ name, made: Date.UTC(y, mo - 1, d, h, m, s) }];
    })
    .sort((a, b) => b.made - a.made);
  return copies
    .slice(COPIES)
    .filter((c) => now.getTime() - c.made > COPY_DAYS * DAY_MS)
    .map((c) => c.name);
}

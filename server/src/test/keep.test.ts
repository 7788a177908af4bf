import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { copiesToDrop, toKeep } from '../backup/keep.js';
import { seeded } from './powercut.js';

const DAY = 86_400_000;
interface Backup {
  readonly name: string;
  readonly made: string;
}

/** Backups made one after another as a shop makes them, each followed by the rotation; what is there after each. */
function run(times: readonly Date[], clock: (at: Date) => Date = (at) => at): Backup[] {
  let there: Backup[] = [];
  for (const [i, at] of times.entries()) {
    const now = clock(at);
    there.push({ name: `alluvium-${i}`, made: now.toISOString() });
    const kept = toKeep(there, now);
    there = there.filter((b) => kept.has(b.name));
  }
  return there;
}
const daysAgo = (there: readonly Backup[], now: Date) =>
  there.map((b) => (now.getTime() - Date.parse(b.made)) / DAY).sort((a, b) => a - b);
const START = new Date(2023, 0, 2, 8).getTime();
const years = (perDay: number, jitter: () => number, keepDay: (day: number) => boolean = () => true): Date[] =>
  Array.from({ length: 3 * 365 }, (_, day) => day)
    .filter(keepDay)
    .flatMap((day) =>
      Array.from({ length: perDay }, (_, n) => new Date(START + day * DAY + n * 2 * 3_600_000 + jitter() * 3_600_000)),
    );

describe('which backups are kept, step by step over three years', () => {
  it.each([1, 2, 3, 4, 5])('%i a day: the newest three, seven days, four weeks, twelve months', (perDay) => {
    const times = years(perDay, seeded(perDay));
    const now = times.at(-1)!;
    const ages = daysAgo(run(times), now);
    // One of each of the last seven days, and nothing of them twice but of the newest.
    for (let d = 0; d < 7; d++)
      expect(
        ages.some((a) => Math.floor(a) === d || Math.ceil(a) === d),
        `day ${d}`,
      ).toBe(true);
    // Weeks and months end at different days, so a bound of each is what can be said.
    for (let w = 1; w < 4; w++)
      expect(
        ages.some((a) => a >= 7 * (w - 1) && a < 7 * (w + 1)),
        `week ${w}`,
      ).toBe(true);
    for (let m = 1; m < 12; m++)
      expect(
        ages.some((a) => a >= 30.5 * (m - 1) - 1 && a < 30.5 * (m + 1)),
        `month ${m}`,
      ).toBe(true);
    expect(ages.at(-1)).toBeGreaterThan(300);
    expect(ages.length).toBeGreaterThanOrEqual(20);
    expect(ages.length).toBeLessThanOrEqual(26);
  });
  it('with days and weeks in which nobody came, as many days, weeks and months that have one', () => {
    const draw = seeded(7);
    const times = years(2, draw, (day) => draw() < 0.6 && !(day % 365 > 180 && day % 365 < 215));
    const there = run(times);
    const months = new Set(there.map((b) => b.made.slice(0, 7)));
    expect(months.size).toBeGreaterThanOrEqual(12);
    expect(new Set(there.map((b) => b.made.slice(0, 10))).size).toBeGreaterThanOrEqual(15);
  });
  it('whatever the day of the end, no rotation removes more than one of each period and the fourth newest', () => {
    const times = years(3, seeded(3));
    let there: Backup[] = [];
    for (const [i, at] of times.entries()) {
      there.push({ name: `b${i}`, made: at.toISOString() });
      const kept = toKeep(there, at);
      expect(there.length - kept.size).toBeLessThanOrEqual(4);
      there = there.filter((b) => kept.has(b.name));
    }
  });
  it('a clock a year ahead for a day costs one day, one week and one month at most; what it wrote is kept', () => {
    const times = years(1, seeded(1));
    const wrong = times.length - 40;
    const there = run(times, (at) => (at === times[wrong] ? new Date(at.getTime() + 365 * DAY) : at));
    const sound = run(times);
    const lost = sound.filter((b) => !there.some((o) => o.name === b.name));
    expect(lost.length).toBeLessThanOrEqual(1);
    expect(there.map((b) => b.name)).toContain(`alluvium-${wrong}`);
  });
  it('for any ages: the newest always, none of the future lost, never more than twenty-six of the past', () => {
    const now = new Date('2026-06-30T12:00:00Z');
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -5 * DAY, max: 900 * DAY }), { maxLength: 80 }), (ages) => {
        const all = ages.map((age, i) => ({ name: `b${i}`, made: new Date(now.getTime() - age).toISOString() }));
        const kept = toKeep(all, now);
        const future = all.filter((m) => Date.parse(m.made) > now.getTime());
        expect(future.every((m) => kept.has(m.name))).toBe(true);
        expect(kept.size - future.length).toBeLessThanOrEqual(3 + 7 + 4 + 12);
        const newest = all.filter((m) => !future.includes(m)).sort((a, b) => b.made.localeCompare(a.made))[0];
        if (newest) expect(kept.has(newest.name)).toBe(true);
      }),
    );
  });
});

describe('copies made before the schema moved on', () => {
  const copy = (day: string, step = 19) => `before-step-${step}-${day.replaceAll('-', '')}T080000Z`;
  it('the last two stay whatever their age, any other for thirty days; nothing else is touched', () => {
    const now = new Date('2026-12-01T12:00:00Z');
    const names = [copy('2025-01-01', 15), copy('2025-06-01', 16), copy('2026-01-01', 17), copy('2026-02-01', 18)];
    expect(copiesToDrop([...names, 'pictures', 'before-step-9-mine', 'alluvium-x.json.gz'], now)).toEqual([
      copy('2025-06-01', 16),
      copy('2025-01-01', 15),
    ]);
    const fresh = [copy('2026-11-10'), copy('2026-11-20'), copy('2026-11-30'), copy('2026-10-30')];
    expect(copiesToDrop(fresh, now)).toEqual([copy('2026-10-30')]);
  });
});

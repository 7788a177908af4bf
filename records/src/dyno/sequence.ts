/** Pulls of one day and cell in their order: heat soak, swaps, and what a swap test would need. */
import {
  driftOf,
  meanOfPowers,
  meanOfPowersRead,
  noted,
  powerAt,
  PULL_REPEATABILITY,
  pullsWanted,
  swapOf,
  work,
  type Drift,
  type Swap,
  type Working,
} from '@alluvium/core';
import type { Pull } from '../nouns/dyno.js';
import { alike, meanOfAlike, readPullOf } from './pulls.js';

// powerAt()!: speeds that are shared.
// g[]!: a group begins with one.
// means[]!, list[]!: one for each pull.

/** Pulls of one engine, dyno, cell and standard in the order they were made. */
export function sequenceOf(pulls: readonly Pull[], of: Pull): Pull[] {
  return pulls
    .filter(
      (p) => p.buildId === of.buildId && p.dyno === of.dyno && p.cell === of.cell && p.correction === of.correction,
    )
    .sort(
      (a, b) => (a.date ?? '').localeCompare(b.date ?? '') || a.position - b.position || a.title.localeCompare(b.title),
    );
}

/** One pull's mean power over the speeds all of them reach, W; undefined where they share none. */
export function meansOf(pulls: readonly Pull[]): Working[] | undefined {
  const points = pulls.map((p) => readPullOf(p).points);
  const shared = meanOfPowers(points).points.map((p) => p.speed);
  if (shared.length === 0) return undefined;
  const note = `read at the ${shared.length} speeds all pulls reach`;
  return points.map((own) =>
    work(meanOfPowersRead, {
      values: noted(
        shared.map((speed) => powerAt(own, speed)!),
        note,
      ),
    }),
  );
}

/** How well a pull repeats, as a share: pooled over like pulls, else the usual. */
export function repeatabilityOf(pulls: readonly Pull[]): { readonly share: number; readonly measured: boolean } {
  const groups: Pull[][] = [];
  for (const p of pulls) {
    const own = groups.find((g) => alike(g[0]!, p));
    if (own) own.push(p);
    else groups.push([p]);
  }
  let squares = 0;
  let freedom = 0;
  for (const g of groups) {
    const { repeatability } = meanOfAlike(g);
    if (repeatability === undefined) continue;
    squares += (g.length - 1) * repeatability ** 2;
    freedom += g.length - 1;
  }
  return freedom > 0
    ? { share: Math.sqrt(squares / freedom), measured: true }
    : { share: PULL_REPEATABILITY, measured: false };
}

export interface Sequence {
  readonly pulls: readonly Pull[];
  /** Mean power of each over the speeds all reach, W. */
  readonly means: readonly Working[];
  readonly repeatability: number;
  readonly measured: boolean;
  /** Of the longest run of pulls of one head. */
  readonly drift?: Drift | undefined;
  /** Every two heads that were swapped, the later against the earlier. */
  readonly swaps: readonly { readonly a: string; readonly b: string; readonly swap: Swap }[];
}

/** What the order of the pulls says; undefined for fewer than two that share speeds. */
export function readSequence(pulls: readonly Pull[], of: Pull): Sequence | undefined {
  const list = sequenceOf(pulls, of);
  if (list.length < 2) return undefined;
  const means = meansOf(list);
  if (!means) return undefined;
  const { share, measured } = repeatabilityOf(list);
  const key = (p: Pull) => p.stageId ?? 'no head named';
  const ordered = list.map((p, i) => ({ what: key(p), value: means[i]!.value }));
  // The longest stretch of one head on one day.
  let best: number[] = [];
  let run: number[] = [];
  list.forEach((p, i) => {
    const before = list[i - 1];
    run = before && key(before) === key(p) && before.date === p.date ? [...run, means[i]!.value] : [means[i]!.value];
    if (run.length > best.length) best = run;
  });
  const kinds = [...new Set(ordered.map((o) => o.what))];
  const swaps = kinds.flatMap((b, j) =>
    kinds.slice(0, j).flatMap((a) => {
      // What was swapped on one day is compared on that day; else over the days, with whatever lay between.
      const days = new Set(
        list.filter((p) => key(p) === a && list.some((q) => key(q) === b && q.date === p.date)).map((p) => p.date),
      );
      const used = days.size > 0 ? ordered.filter((_, i) => days.has(list[i]!.date)) : ordered;
      const swap = swapOf(used, a, b, share, days.size === 1);
      return swap ? [{ a, b, swap }] : [];
    }),
  );
  return { pulls: list, means, repeatability: share, measured, drift: driftOf(best, share), swaps };
}

/** A swap test planned: pulls of each turn of A-B-A that would tell an expected difference. @throws Refusal for none. */
export const plannedSwap = (difference: number, repeatability: number): Working =>
  work(pullsWanted, { difference: Math.abs(difference), repeatability });

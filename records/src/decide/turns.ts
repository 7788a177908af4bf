/** What would have to change for another way to come first. */
import { inches, turnedRound, weighedMarks, type Criterion, type Scored } from '@alluvium/core';
import type { Build } from '../nouns/build.js';
import { criteriaOf, mattersOf, rankOf } from './matters.js';
import { flowOf, type WayRead } from './ways.js';

// ways[]!, known[]!, by()!, w.evaluation!: places of the lists themselves; those known were evaluated.

/** Whether a way comes first with one of its figures at another value, everything else as it stands. */
function firstWith(criteria: readonly Criterion[], ways: number, at: number, name: string, value: number): boolean {
  const moved = (s: Scored | undefined, i: number) => (i === at && s ? { ...s, value } : s);
  const tried = criteria.map((c) => (c.name === name ? { ...c, scores: c.scores.map(moved) } : c));
  const marks = weighedMarks(ways, tried);
  return marks.every((m, i) => i === at || (m ?? 0) <= (marks[at] ?? 0));
}

/** The nearest value between `now` and `far` at which it turns; undefined where it stands first already, or never does. */
function turnBetween(first: (value: number) => boolean, now: number, far: number): number | undefined {
  if (first(now) || !first(far)) return undefined;
  let [stands, turns] = [now, far];
  for (let i = 0; i < 40; i++) {
    const mid = (stands + turns) / 2;
    if (first(mid)) turns = mid;
    else stands = mid;
  }
  return turns;
}

/** How far the price of a way would have to fall for it to come first. */
export function priceToWin(ways: readonly WayRead[], matters: Build['matters'], at: number): number | undefined {
  const criteria = criteriaOf(ways, matters);
  const now = ways[at]!.cost.sum.value;
  const turn = turnBetween((v) => firstWith(criteria, ways.length, at, 'price', v), now, 0);
  return turn === undefined ? undefined : now - turn;
}

/** Flow is not looked for beyond half as much again. */
const MOST_FLOW = 0.5;

/** Intake flow a way would have to gain for its power to put it first, m³/s: power goes with flow. */
export function flowToWin(ways: readonly WayRead[], matters: Build['matters'], at: number): number | undefined {
  const { power } = ways[at]!;
  const own = flowOf(ways[at]!);
  if (!power || own === undefined) return undefined;
  const criteria = criteriaOf(ways, matters);
  const far = power.value * (1 + MOST_FLOW);
  const turn = turnBetween((v) => firstWith(criteria, ways.length, at, 'power', v), power.value, far);
  return turn === undefined ? undefined : own * (turn / power.value - 1);
}

/** Two ways whose order the two estimates of power see differently, and the exhaust flow that would settle it. */
export interface Disagreement {
  /** Stronger by peak flow. */
  readonly byPeak: WayRead;
  /** Stronger once derated by its exhaust. */
  readonly derated: WayRead;
  /** What the exhaust of the first would have to give more, m³/s. */
  readonly exhaust?: number;
}

export function disagreementOf(ways: readonly WayRead[]): Disagreement | undefined {
  const by = (w: WayRead, id: string) => w.evaluation?.match.schools.find((s) => s.id === id)?.power?.value;
  const known = ways.filter(
    (w) => !w.way.gain && by(w, 'peak-flow') !== undefined && by(w, 'ratio-derated') !== undefined,
  );
  const turned = turnedRound(
    known.map((w) => by(w, 'peak-flow')!),
    known.map((w) => by(w, 'ratio-derated')!),
  );
  if (!turned) return undefined;
  const [byPeak, derated] = [known[turned[0]]!, known[turned[1]]!];
  const exhaust = (w: WayRead) => w.evaluation!.match.exhaust?.best.flow;
  const [own, other] = [exhaust(byPeak), exhaust(derated)];
  return {
    byPeak,
    derated,
    ...(own !== undefined && other !== undefined && other > own ? { exhaust: other - own } : {}),
  };
}

/** The way that comes first most often; undefined where nothing counts. */
export function firstOf(ways: readonly WayRead[], wins: readonly number[]): WayRead | undefined {
  const most = Math.max(0, ...wins);
  return most > 0 ? ways[wins.indexOf(most)] : undefined;
}

/** Steps by which more lift is tried, and how many of them. */
export const LIFT_STEP = inches(0.02);
export const LIFT_STEPS = 4;

/** The first larger lift of the cam at which another way comes first; each lift is read anew by `at`. */
export async function liftToTurn(
  build: Build,
  now: WayRead | undefined,
  at: (lift: number) => Promise<readonly WayRead[]>,
): Promise<{ readonly lift: number; readonly first: WayRead } | undefined> {
  const lift = build.cam?.intakeLift.si;
  if (lift === undefined || !now) return undefined;
  for (let k = 1; k <= LIFT_STEPS; k++) {
    const tried = lift + k * LIFT_STEP;
    const ways = await at(tried);
    const first = firstOf(ways, rankOf(ways, mattersOf(build)).wins);
    if (first && first.way.id !== now.way.id) return { lift: tried, first };
  }
  return undefined;
}

/** A build whose cam lifts both valves so much more that the intake reaches `lift`. */
export function withLift(build: Build, lift: number): Build {
  const { cam } = build;
  if (!cam) return build;
  const more = lift - cam.intakeLift.si;
  const raised = (q: { si: number; typed: string }) => ({ ...q, si: q.si + more });
  return {
    ...build,
    cam: { ...cam, intakeLift: raised(cam.intakeLift), exhaustLift: cam.exhaustLift && raised(cam.exhaustLift) },
  };
}

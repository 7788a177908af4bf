/** What each assumption does to a head's torque over speed, and the range that follows. */
import { deviations, DRAWS, type Response } from '../uncertainty/propagate.js';
import { standardUncertainty } from '../uncertainty/leaf.js';
import { shareLeaf } from '../uncertainty/leaves.js';
import type { Seed } from './breathing.js';
import { runPoint } from './runPoint.js';
import { COARSE, type Running } from './model.js';
import { leafOfAssumed, valuesOf, type AssumedId, type SimulationSetup, type Values } from './setup.js';
import { FitStore, modelOf, type Sensitivity, type SweepPoint } from './sweep.js';
import { refusedBy } from '../refusal/refusal.js';

// find()!: everything has a sheet it rests on.
// known.at()!: there are some.

/** Speeds at which the assumptions are run: about a third of them, ends and target among them. */
export function sensitiveSpeeds(speeds: readonly number[], target: number): number[] {
  const keep = new Set([0, speeds.length - 1, nearest(speeds, target)]);
  for (let i = 0; i < speeds.length; i += 4) keep.add(i);
  return [...keep].sort((a, b) => a - b).map((i) => speeds[i]!);
}
const nearest = (list: readonly number[], to: number): number =>
  list.reduce((best, v, i) => (Math.abs(v - to) < Math.abs(list[best]! - to) ? i : best), 0);

/** What the assumptions do at one speed: all of them, or those that were run there. */
export interface FoundAt {
  readonly speed: number;
  readonly of: readonly Sensitivity[];
}

/**
 * What is known of a head's assumptions: `all` where every one was run, and the runner's ends wherever the sweep ran
 * them. Nothing before two speeds had all of them: a range of the runner alone would be too narrow.
 */
export function foundOver(
  all: readonly FoundAt[],
  runners: readonly Pick<SweepPoint, 'speed' | 'runner'>[],
): FoundAt[] {
  if (all.length < 2) return [];
  return [
    ...all,
    ...runners.flatMap(({ speed, runner }) =>
      runner && !all.some((f) => f.speed === speed) ? [{ speed, of: [runner] }] : [],
    ),
  ];
}

const TWO_MORE: Running = { ...COARSE, cycles: 2, least: 2 };

/** What was run at a speed before its ranges: the state to start from, and what the runner's ends do. */
export interface RunBefore {
  readonly seed?: Seed | undefined;
  readonly runner?: Sensitivity | undefined;
}

/**
 * Each assumption at both ends of its range, at one speed: runs of 30 mm against runs of 30 mm, a few cycles from the
 * settled state. Friction needs no run; the runner's length is taken from the sweep, which runs it on its own grid,
 * and settles anew where it was not.
 */
export function sensitivities(
  setup: SimulationSetup,
  speed: number,
  fits = new FitStore(),
  { seed, runner }: RunBefore = {},
): Sensitivity[] | string {
  const values = valuesOf(setup);
  const model = (v: Values) => modelOf({ setup, speed, values: v }, COARSE.cell, fits);
  try {
    const base = runPoint(model(values), speed, COARSE, seed);
    if (!base.point.ok) return base.point.reason;
    const settled = base.point;
    const warm = runPoint(model(values), speed, TWO_MORE, base.seed).point;
    if (!warm.ok) return warm.reason;
    const torqueOf = (v: Values, id: AssumedId): number => {
      if (id === 'friction') {
        const work = (settled.fmep * (v.friction / values.friction - 1) * settled.torque) / Math.max(1, settled.bmep);
        return settled.torque - work;
      }
      if (id === 'runnerLength') {
        const own = runPoint(model(v), speed, COARSE, base.seed).point;
        return own.ok ? own.torque : NaN;
      }
      const point = runPoint(model(v), speed, TWO_MORE, base.seed).point;
      return point.ok ? point.torque : NaN;
    };
    return setup.assumed
      .filter((a) => a.half > 0)
      .map((a) => {
        if (a.id === 'runnerLength' && runner) return runner;
        const from = a.id === 'friction' || a.id === 'runnerLength' ? settled.torque : warm.torque;
        const end = (turn: number) => torqueOf({ ...values, [a.id]: a.value + turn * a.half }, a.id) - from;
        return { id: a.id, low: end(-1), high: end(1) };
      });
  } catch (e) {
    return refusedBy(e).message;
  }
}

/** Sensitivities of a head, each at some speeds, as responses of its torque at any speeds: linear between. */
export function responsesAt(
  setup: SimulationSetup,
  found: readonly FoundAt[],
  speeds: readonly number[],
  torque: readonly number[],
): Response[] {
  const rising = [...found].sort((a, b) => a.speed - b.speed);
  if (rising.length === 0) return [];
  const assumed = setup.assumed.flatMap((a): Response[] => {
    if (a.half === 0) return [];
    const leaf = leafOfAssumed(a);
    const ends = a.half / standardUncertainty(leaf.spread);
    const side = (which: 'low' | 'high') => {
      const known = rising.flatMap(({ speed, of }) => {
        const value = of.find((s) => s.id === a.id)?.[which];
        return value !== undefined && Number.isFinite(value) ? [{ speed, value }] : [];
      });
      return speeds.map((speed) => (known.length > 0 ? between(known, speed) / ends : 0));
    };
    const low = side('low');
    const high = side('high');
    return [
      {
        leaf,
        change: speeds.map((_, k) => (high[k]! - low[k]!) / 2),
        sides: { low, high },
      },
    ];
  });
  return [
    ...assumed,
    {
      leaf: shareLeaf(
        `simulation:solution:${setup.assumed.find((x) => x.id === 'intakeSheet')!.leaf}`,
        'what the solution leaves open: cells, settling',
        SOLUTION,
        undefined,
        'docs/simulation.md: 15 mm cells against 5 mm',
      ),
      change: torque.map((t) => SOLUTION * Math.abs(t)),
    },
  ];
}
/** Of values at rising speeds: linear between, the end ones beyond. */
function between(known: readonly { readonly speed: number; readonly value: number }[], speed: number): number {
  const i = known.findIndex((k) => k.speed >= speed);
  if (i === -1) return known.at(-1)!.value;
  if (i === 0) return known[0]!.value;
  const [a, b] = [known[i - 1]!, known[i]!];
  const t = (speed - a.speed) / (b.speed - a.speed);
  return a.value * (1 - t) + b.value * t;
}

/** Standard uncertainty of a torque that is left by cells of 15 mm and by the end of settling, each head its own. */
const SOLUTION = 0.004;

export interface TorqueBand {
  readonly low: number;
  readonly high: number;
}

/** 95 % of what is believed, about each torque. */
export const bandOf = (torque: readonly number[], responses: readonly Response[]): TorqueBand[] =>
  bandOfDraws(torque, deviations(responses, torque.length));

/** The same of draws that are there already: by how much each torque is off in each. */
export function bandOfDraws(torque: readonly number[], draws: readonly Float64Array[]): TorqueBand[] {
  return draws.map((own, k) => {
    const sorted = own.slice().sort();
    return {
      low: torque[k]! + sorted[Math.floor(0.025 * DRAWS)]!,
      high: torque[k]! + sorted[Math.ceil(0.975 * DRAWS) - 1]!,
    };
  });
}

/** A head over engine speed: the curve, what each assumption does to it, the difference of two heads. */
import { shareAbove, deviations, moments, DRAWS, GRID, type Response } from '../uncertainty/propagate.js';
import { standardUncertainty } from '../uncertainty/leaf.js';
import { shareLeaf } from '../uncertainty/leaves.js';
import { runPoint, weighted, type SpeedPoint, type SpeedResult, type Seed, type Trace } from './breathing.js';
import { COARSE, LIVE, type Running } from './model.js';
import {
  atSpeed,
  engineModel,
  fitPorts,
  leafOfAssumed,
  valuesOf,
  type AssumedId,
  type CamAt,
  type Fits,
  type SimulationSetup,
  type Values,
} from './setup.js';

/** One point as plain JSON in and out: any worker can take it. */
export interface PointJob {
  readonly setup: SimulationSetup;
  readonly speed: number;
  readonly running?: Running;
  readonly values?: Values;
  readonly cam?: CamAt;
}

/** Valves already fitted, by setup and grid: a worker keeps the last few. */
export class FitStore {
  private readonly kept = new Map<string, Fits>();
  of(setup: SimulationSetup, cell: number): Fits {
    const key = `${cell} ${JSON.stringify(setup.ports)}`;
    const known = this.kept.get(key);
    if (known) return known;
    const fits = fitPorts(setup, cell);
    if (this.kept.size > 24) this.kept.clear();
    this.kept.set(key, fits);
    return fits;
  }
}

/** The engine of a job on a grid, with its back pressure at that speed. */
const modelOf = ({ setup, speed, values, cam }: PointJob, cell: number, fits: FitStore) =>
  atSpeed(setup, engineModel(setup, fits.of(setup, cell), values, cam), speed);

/** A few cycles of 30 mm come near the cycle's state at a quarter of the cost; the finer grid starts and settles from there. */
const FIRST: Running = { ...COARSE, cycles: 4, least: 4 };

/** Runs one point; one that cannot be run says why. `from` is the state of a like one to start from. */
export function solvePoint(job: PointJob, fits = new FitStore(), from?: Seed): { point: SpeedPoint; seed?: Seed } {
  const { speed, running = LIVE } = job;
  try {
    let seed = from;
    if (!seed && running.cell < COARSE.cell) {
      const first = runPoint(modelOf(job, COARSE.cell, fits), speed, FIRST);
      if (first.point.ok) seed = first.seed;
    }
    const { point, seed: end } = runPoint(modelOf(job, running.cell, fits), speed, running, seed);
    return { point, ...(end ? { seed: end } : {}) };
  } catch (e) {
    return { point: { speed, ok: false, reason: (e as Error).message } };
  }
}

/** A few cycles of 30 mm from a settled state like it. */
const LOOK: Running = { ...COARSE, cycles: 4, least: 4 };
/** A first look: settled on 30 mm, or a few cycles from the settled state of an engine that is nearly the same. */
export const lookAt = (
  job: Pick<PointJob, 'setup' | 'speed'>,
  fits: FitStore,
  from?: Seed,
): { point: SpeedPoint; seed?: Seed } => solvePoint({ ...job, running: from ? LOOK : COARSE }, fits, from);

/** The last cycle in full, of a settled point. */
export function traceOf(job: PointJob, fits = new FitStore()): Trace | string {
  const { speed, running = LIVE } = job;
  try {
    const { point, engine } = runPoint(modelOf(job, running.cell, fits), speed, running);
    if (!point.ok) return point.reason;
    const trace = engine!.emptyTrace();
    return engine!.cycle(trace) ?? trace;
  } catch (e) {
    return (e as Error).message;
  }
}

/** Places and weights of Gauss and Legendre on three points, over the range of the runner's length. */
const GAUSS: readonly (readonly [number, number])[] = [
  [-Math.sqrt(0.6), 5 / 18],
  [0, 8 / 18],
  [Math.sqrt(0.6), 5 / 18],
];

export interface SweepPoint {
  readonly speed: number;
  /** Mean over what is not known of the runner's length; the one length where it is known well. */
  readonly point: SpeedPoint;
  /** At the likeliest length alone. */
  readonly single?: SpeedResult;
}

/** A length known within this share is run alone. */
const WELL_KNOWN = 0.03;
const runnerOf = (setup: SimulationSetup) => setup.assumed.find((a) => a.id === 'runnerLength')!;
/** Whether the runner's length is known well enough to be run alone. */
export const runnerKnown = (setup: SimulationSetup): boolean =>
  runnerOf(setup).half < WELL_KNOWN * runnerOf(setup).value;

/**
 * One speed of a head. A runner's length that is only assumed is run at three lengths and averaged: a tenth of length
 * moves the filling by several per cent from speed to speed, and would be drawn as a property of the head.
 */
export function sweepPoint(setup: SimulationSetup, speed: number, fits = new FitStore(), running = LIVE): SweepPoint {
  const length = runnerOf(setup);
  const values = valuesOf(setup);
  if (runnerKnown(setup)) return { speed, point: solvePoint({ setup, speed, running, values }, fits).point };
  const middle = solvePoint({ setup, speed, running, values }, fits);
  const runs = GAUSS.map(([at]) =>
    at === 0
      ? middle.point
      : solvePoint(
          { setup, speed, running, values: { ...values, runnerLength: length.value + at * length.half } },
          fits,
          middle.seed,
        ).point,
  );
  const bad = runs.find((p) => !p.ok);
  if (bad) return { speed, point: bad };
  const good = runs as SpeedResult[];
  return {
    speed,
    point: weighted(
      good,
      GAUSS.map(([, w]) => w),
    ),
    single: good[1]!,
  };
}

/** What one assumption does to the torque at one speed, Nm: at the low and the high end of its range. */
export interface Sensitivity {
  readonly id: AssumedId;
  readonly low: number;
  readonly high: number;
}

const TWO_MORE: Running = { ...COARSE, cycles: 2, least: 2 };

/**
 * Each assumption at both ends of its range, at one speed: runs of 30 mm against runs of 30 mm, a few cycles from the
 * settled state. Friction needs no run; the runner's length settles anew and is run on its own grid.
 */
export function sensitivities(setup: SimulationSetup, speed: number, fits = new FitStore()): Sensitivity[] | string {
  const values = valuesOf(setup);
  const model = (v: Values) => modelOf({ setup, speed, values: v }, COARSE.cell, fits);
  try {
    const base = runPoint(model(values), speed, COARSE);
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
        const from = a.id === 'friction' || a.id === 'runnerLength' ? settled.torque : warm.torque;
        const end = (turn: number) => torqueOf({ ...values, [a.id]: a.value + turn * a.half }, a.id) - from;
        return { id: a.id, low: end(-1), high: end(1) };
      });
  } catch (e) {
    return (e as Error).message;
  }
}

/** Sensitivities of a head at some speeds, as responses of its torque at any speeds: linear between. */
export function responsesAt(
  setup: SimulationSetup,
  found: readonly { readonly speed: number; readonly of: readonly Sensitivity[] }[],
  speeds: readonly number[],
  torque: readonly number[],
): Response[] {
  const known = [...found].sort((a, b) => a.speed - b.speed);
  const between = (speed: number, of: (s: readonly Sensitivity[]) => number): number => {
    const i = known.findIndex((k) => k.speed >= speed);
    if (i === -1) return of(known.at(-1)!.of);
    if (i === 0) return of(known[0]!.of);
    const [a, b] = [known[i - 1]!, known[i]!];
    const t = (speed - a.speed) / (b.speed - a.speed);
    return of(a.of) * (1 - t) + of(b.of) * t;
  };
  if (known.length === 0) return [];
  const assumed = setup.assumed.flatMap((a): Response[] => {
    if (a.half === 0) return [];
    const leaf = leafOfAssumed(a);
    const ends = a.half / standardUncertainty(leaf.spread);
    const side = (which: 'low' | 'high') =>
      speeds.map((speed) => {
        const value = between(speed, (list) => list.find((s) => s.id === a.id)?.[which] ?? 0);
        return Number.isFinite(value) ? value / ends : 0;
      });
    const low = side('low');
    const high = side('high');
    return [
      {
        leaf,
        change: speeds.map((_, k) => (high[k]! - low[k]!) / 2),
        grid: GRID.map((z) => speeds.map((_, k) => (z < 0 ? -z * low[k]! : z * high[k]!))),
      },
    ];
  });
  const change = torque.map((t) => SOLUTION * Math.abs(t));
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
      change,
      grid: GRID.map((z) => change.map((c) => z * c)),
    },
  ];
}
/** Standard uncertainty of a torque that is left by cells of 15 mm and by the end of settling, each head its own. */
const SOLUTION = 0.004;

export interface TorqueBand {
  readonly low: number;
  readonly high: number;
}

/** 95 % of what is believed, about each torque. */
export function bandOf(torque: readonly number[], responses: readonly Response[]): TorqueBand[] {
  return deviations(responses, torque.length).map((draws, k) => {
    const sorted = draws.slice().sort();
    return {
      low: torque[k]! + sorted[Math.floor(0.025 * DRAWS)]!,
      high: torque[k]! + sorted[Math.ceil(0.975 * DRAWS) - 1]!,
    };
  });
}

/** Responses of B less those of A: what both share by name is one thing. */
export function differenceResponses(a: readonly Response[], b: readonly Response[]): Response[] {
  const ids = new Map([...a, ...b].map((r) => [r.leaf.id, r]));
  return [...ids.values()].map(({ leaf }) => {
    const of = (list: readonly Response[]) => list.find((r) => r.leaf.id === leaf.id);
    const [ra, rb] = [of(a), of(b)];
    const n = (ra ?? rb)!.change.length;
    const zero = new Array<number>(n).fill(0);
    const change = (rb?.change ?? zero).map((c, k) => c - (ra?.change[k] ?? 0));
    const grid = GRID.map((_, g) => (rb?.grid?.[g] ?? zero).map((c, k) => c - (ra?.grid?.[g]?.[k] ?? 0)));
    return { leaf, change, grid };
  });
}

export interface Difference {
  /** B less A at each speed, Nm, and its own band. */
  readonly torque: readonly number[];
  readonly band: readonly TorqueBand[];
  /** Odds that B's mean over the working speeds is the greater one, the mean and its standard uncertainty. */
  readonly odds: number;
  readonly mean: number;
  readonly u: number;
  /** The assumption that alone would turn the order soonest, where one within its range does. */
  readonly turns?: { readonly label: string; readonly id: string; readonly value: number };
  /** What each assumption does to the mean difference, for one standard uncertainty, greatest first. */
  readonly of: readonly {
    readonly id: string;
    readonly label: string;
    readonly change: number;
    /** What would make it known, where something does. */
    readonly act?: string | undefined;
  }[];
}

/** Two heads at the same speeds; `weights` sum to 1. */
export function differenceOf(
  a: { readonly torque: readonly number[]; readonly responses: readonly Response[] },
  b: { readonly torque: readonly number[]; readonly responses: readonly Response[] },
  weights: readonly number[],
): Difference {
  const torque = b.torque.map((t, k) => t - a.torque[k]!);
  const responses = differenceResponses(a.responses, b.responses);
  const draws = deviations(responses, torque.length);
  const mean = torque.reduce((s, t, k) => s + t * weights[k]!, 0);
  const means = new Float64Array(DRAWS);
  for (let k = 0; k < torque.length; k++) for (let d = 0; d < DRAWS; d++) means[d]! += weights[k]! * draws[k]![d]!;
  for (let d = 0; d < DRAWS; d++) means[d]! += mean;
  const weigh = (list: readonly number[]) => list.reduce((s, v, k) => s + v * weights[k]!, 0);
  const ends = Math.sqrt(3);
  const turning = responses
    .flatMap((r) => {
      // Each end of its range alone: does the order turn?
      const at = (z: number) => mean + weigh(r.grid![z < 0 ? 0 : GRID.length - 1]!) * (Math.abs(z) / 4);
      return [-ends, ends].flatMap((z) => {
        const value = at(z);
        if (value * mean >= 0) return [];
        const share = mean / (mean - value);
        return [
          {
            label: r.leaf.label,
            id: r.leaf.id,
            value: r.leaf.value + share * z * standardUncertainty(r.leaf.spread),
            share,
          },
        ];
      });
    })
    .sort((x, y) => x.share - y.share)[0];
  return {
    torque,
    band: bandOf(torque, responses),
    odds: shareAbove(means),
    ...moments(means),
    mean,
    ...(turning ? { turns: { label: turning.label, id: turning.id, value: turning.value } } : {}),
    of: responses
      .map((r) => ({ id: r.leaf.id, label: r.leaf.label, change: weigh(r.change), act: r.leaf.settle?.act }))
      .sort((x, y) => Math.abs(y.change) - Math.abs(x.change)),
  };
}

/** Weights of the speeds between two, nothing outside; they sum to 1. */
export function workingWeights(speeds: readonly number[], from: number, to: number): number[] {
  const inside: number[] = speeds.map((s) => (s >= from - 1e-6 && s <= to + 1e-6 ? 1 : 0));
  const sum = inside.reduce((a, b) => a + b, 0);
  return sum === 0 ? speeds.map(() => 1 / speeds.length) : inside.map((w) => w / sum);
}

/** Speeds of a sweep about the one the build asks for, rising: at most 250 rpm apart, the target among them. */
export function sweepSpeeds(target: number): number[] {
  const perMinute = target * 60;
  const step = Math.min(250, Math.max(25, Math.round((perMinute * 0.8) / 13 / 25) * 25));
  const up = Math.max(2, Math.round((0.18 * perMinute) / step));
  const down = Math.min(Math.round((0.58 * perMinute) / step), Math.floor((perMinute - step) / step));
  return Array.from({ length: down + up + 1 }, (_, i) => (perMinute + (i - down) * step) / 60);
}

/** Speeds a use works in, as shares of the target speed (common practice, no source). */
export const WORKING_SPEEDS: Readonly<Record<string, readonly [number, number]>> = {
  street: [0.5, 1],
  tow: [0.45, 0.85],
  drag: [0.78, 1.08],
  circuit: [0.7, 1.05],
  marine: [0.5, 1],
  work: [0.45, 0.9],
  other: [0.6, 1.05],
};

/** Speeds at which the assumptions are run: about a third of them, ends and target among them. */
export function sensitiveSpeeds(speeds: readonly number[], target: number): number[] {
  const keep = new Set([0, speeds.length - 1, nearest(speeds, target)]);
  for (let i = 0; i < speeds.length; i += 4) keep.add(i);
  return [...keep].sort((a, b) => a - b).map((i) => speeds[i]!);
}
const nearest = (list: readonly number[], to: number): number =>
  list.reduce((best, v, i) => (Math.abs(v - to) < Math.abs(list[best]! - to) ? i : best), 0);

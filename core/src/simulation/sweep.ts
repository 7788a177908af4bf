/** A head at one engine speed and over a sweep of them. */
import type { Seed } from './breathing.js';
import { failed, weighted, type SpeedPoint, type SpeedResult } from './point.js';
import { runPoint } from './runPoint.js';
import type { Trace } from './trace.js';
import { COARSE, LIVE, type Running } from './model.js';
import {
  atSpeed,
  engineModel,
  fitPorts,
  valuesOf,
  type AssumedId,
  type CamAt,
  type Fits,
  type SimulationSetup,
  type Values,
} from './setup.js';
import { refusedBy } from '../refusal/refusal.js';

// engine!: a point that stands has one.
// find()!: everybody assumes a runner.

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
export const modelOf = ({ setup, speed, values, cam }: PointJob, cell: number, fits: FitStore) =>
  atSpeed(setup, engineModel(setup, fits.of(setup, cell), values, cam), speed);

/** A few cycles of 30 mm come near the cycle's state at a quarter of the cost; the finer grid starts and settles from there. */
const FIRST: Running = { ...COARSE, cycles: 4, least: 4 };

/** A point that was run, and the state it ended in where it settled. */
export interface Settled {
  readonly point: SpeedPoint;
  readonly seed?: Seed;
}

/** Runs one point; one that cannot be run says why. `from` is the state of a like one to start from. */
export function solvePoint(job: PointJob, fits = new FitStore(), from?: Seed): Settled {
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
    return { point: failed(speed, refusedBy(e)) };
  }
}

/** A few cycles of 30 mm from a settled state like it. */
const LOOK: Running = { ...COARSE, cycles: 4, least: 4 };
/** A first look: settled on 30 mm, or a few cycles from the settled state of an engine that is nearly the same. */
export const lookAt = (job: Pick<PointJob, 'setup' | 'speed'>, fits: FitStore, from?: Seed): Settled =>
  solvePoint({ ...job, running: from ? LOOK : COARSE }, fits, from);

/** The last cycle in full, of a settled point. */
export function traceOf(job: PointJob, fits = new FitStore()): Trace | string {
  const { speed, running = LIVE } = job;
  try {
    const { point, engine } = runPoint(modelOf(job, running.cell, fits), speed, running);
    if (!point.ok) return point.reason;
    const trace = engine!.emptyTrace();
    return engine!.cycle(trace)?.message ?? trace;
  } catch (e) {
    return refusedBy(e).message;
  }
}

/** Places and weights of Gauss and Legendre on three points, over the range of the runner's length. */
const GAUSS: readonly (readonly [number, number])[] = [
  [-Math.sqrt(0.6), 5 / 18],
  [0, 8 / 18],
  [Math.sqrt(0.6), 5 / 18],
];

/** What one assumption does to the torque at one speed, Nm: at the low and the high end of its range. */
export interface Sensitivity {
  readonly id: AssumedId;
  readonly low: number;
  readonly high: number;
}

export interface SweepPoint {
  readonly speed: number;
  /** Mean over what is not known of the runner's length; the one length where it is known well. */
  readonly point: SpeedPoint;
  /** At the likeliest length alone, where it is not known well. */
  readonly single?: SpeedResult;
  /** What its ends do to the torque, by straight lines through the lengths that were run. */
  readonly runner?: Sensitivity;
}

/** A length known within this share is run alone. */
const WELL_KNOWN = 0.03;
const runnerOf = (setup: SimulationSetup) => setup.assumed.find((a) => a.id === 'runnerLength')!;
/** Whether the runner's length is known well enough to be run alone. */
export const runnerKnown = (setup: SimulationSetup): boolean =>
  runnerOf(setup).half < WELL_KNOWN * runnerOf(setup).value;

/**
 * One speed of a head. A runner's length that is only assumed is run at three lengths and averaged: a tenth of length
 * moves the filling by several per cent from speed to speed, and would be drawn as a property of the head. `middle` is
 * the likeliest length's point, where it was run already.
 */
export function sweepPoint(
  setup: SimulationSetup,
  speed: number,
  fits = new FitStore(),
  running = LIVE,
  middle: Settled = solvePoint({ setup, speed, running }, fits),
): SweepPoint {
  const length = runnerOf(setup);
  const values = valuesOf(setup);
  if (runnerKnown(setup) || !middle.point.ok) return { speed, point: middle.point };
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
  const [low, single, high] = good as [SpeedResult, SpeedResult, SpeedResult];
  const toEnd = 1 / GAUSS[2]![0];
  return {
    speed,
    point: weighted(
      good,
      GAUSS.map(([, w]) => w),
    ),
    single,
    runner: {
      id: 'runnerLength',
      low: toEnd * (low.torque - single.torque),
      high: toEnd * (high.torque - single.torque),
    },
  };
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

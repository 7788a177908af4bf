/** One speed, cycle after cycle until it repeats itself, or varies about a mean that stands. */
import { mean } from '../method/mean.js';
import { refusal, refusedBy } from '../refusal/refusal.js';
import { Engine, type Seed } from './breathing.js';
import type { EngineModel, Running } from './model.js';
import { failed, weighted, type SpeedPoint, type SpeedResult } from './point.js';

// cycles.at()!: one was run.

/** One speed, run until it repeats itself. Never throws for a state that fails: it says so. */
export function runPoint(
  model: EngineModel,
  speed: number,
  running: Running,
  seed?: Seed,
): { point: SpeedPoint; seed?: Seed; engine?: Engine } {
  let engine: Engine;
  try {
    engine = new Engine(model, speed, running, seed);
  } catch (e) {
    return { point: failed(speed, refusedBy(e)) };
  }
  const cycles: SpeedResult[] = [];
  for (let n = 1; n <= running.cycles; n++) {
    const why = engine.cycle();
    if (why) return { point: failed(speed, why) };
    const result = engine.result(n);
    if (!Number.isFinite(result.imep + result.volumetricEfficiency))
      return { point: failed(speed, refusal('cycleWithoutFigure')) };
    cycles.push(result);
    if (n < running.least) continue;
    if (settledBy(cycles, running.settled) && Math.abs(result.imbalance) < 1e-3)
      return { point: result, seed: engine.seed(), engine };
    if (wandersAbout(cycles, running.settled))
      return { point: meanCycle(cycles.slice(-2 * MANY)), seed: engine.seed(), engine };
  }
  if (running.cycles <= running.least) return { point: cycles.at(-1)!, seed: engine.seed(), engine };
  return { point: failed(speed, refusal('unsettled', running.cycles)) };
}

/** Cycles in each of two groups that are compared where the engine never repeats itself to the last figure. */
const MANY = 2;
/** Most that such cycles may differ by, as a share. */
const MOST_WANDER = 0.03;

/** Whether cycles vary about a mean that no longer moves: one group's against the next one's. */
function wandersAbout(cycles: readonly SpeedResult[], share: number): boolean {
  const last = cycles.slice(-2 * MANY);
  if (cycles.length < 2 * MANY + 1) return false;
  return (['volumetricEfficiency', 'imep'] as const).every((key) => {
    const all = last.map((c) => c[key]);
    const whole = Math.max(1e-3, Math.abs(mean(all)));
    return (
      Math.abs(mean(all.slice(0, MANY)) - mean(all.slice(MANY))) < 3 * share * whole &&
      Math.max(...all) - Math.min(...all) < MOST_WANDER * whole
    );
  });
}

/** The mean of several cycles, and by how much their torque differs. */
function meanCycle(cycles: readonly SpeedResult[]): SpeedResult {
  const { cycles: run, steps } = cycles.at(-1)!;
  const torques = cycles.map((c) => c.torque);
  const even = cycles.map(() => 1 / cycles.length);
  return { ...weighted(cycles, even), cycles: run, steps, wander: Math.max(...torques) - Math.min(...torques) };
}

/** Filling and work within a share of each other over the last two changes of cycle. */
function settledBy(values: readonly SpeedResult[], share: number): boolean {
  const last = values.slice(-3);
  if (last.length < 3) return false;
  const range = (of: (v: SpeedResult) => number) => {
    const all = last.map(of);
    return (Math.max(...all) - Math.min(...all)) / Math.max(Math.abs(of(last[2]!)), 1e-3);
  };
  return range((v) => v.volumetricEfficiency) < share && range((v) => v.imep) < share;
}

/** What a speed gave: the figures of its cycle, or why it could not be run. Plain JSON, as it crosses between workers. */
import type { Refusal } from '../refusal/refusal.js';

export interface SpeedResult {
  /** Turns a second. */
  readonly speed: number;
  readonly ok: true;
  readonly cycles: number;
  /** Air drawn in against the air that fills the displacement at the state around. */
  readonly volumetricEfficiency: number;
  /** Fresh charge still in the cylinder when both valves are shut, of what came in. */
  readonly trapping: number;
  /** Burned gas in the cylinder when both valves are shut. */
  readonly residual: number;
  /** Mean effective pressures, Pa: all strokes, gas exchange alone, friction, at the crank. */
  readonly imep: number;
  readonly pmep: number;
  readonly fmep: number;
  readonly bmep: number;
  readonly torque: number;
  readonly power: number;
  readonly peakPressure: number;
  /** Greatest Mach number on the intake's least area, of the kind that is highest. */
  readonly chokeMach: number;
  /** Share of the charge that ran back out of the cylinder into the intake. */
  readonly reversion: number;
  /** What does not close over the cycle, of the cylinder where it is most: mass and energy kept in it, as shares, signed. */
  readonly imbalance: number;
  readonly energyImbalance: number;
  /** Range of the torque from cycle to cycle where it never settles to one; 0 else, Nm. */
  readonly wander: number;
  readonly steps: number;
}

export interface SpeedFailure {
  readonly speed: number;
  readonly ok: false;
  /** What a program tells it by, and its sentence. */
  readonly code: string;
  readonly reason: string;
}
export type SpeedPoint = SpeedResult | SpeedFailure;

export const failed = (speed: number, why: Refusal): SpeedFailure => ({
  speed,
  ok: false,
  code: why.code,
  reason: why.message,
});

/** Every figure of several results at one speed by weights that sum to 1; the speed to the last bit: it is what a point is found by. */
export const weighted = (results: readonly SpeedResult[], weights: readonly number[]): SpeedResult =>
  Object.fromEntries(
    Object.entries(results[0]!).map(([key, value]) => [
      key,
      typeof value === 'number' && key !== 'speed'
        ? results.reduce((sum, r, i) => sum + weights[i]! * (r[key as keyof SpeedResult] as number), 0)
        : value,
    ]),
  ) as unknown as SpeedResult;

/** From the pressures of a simulated cycle to what the crank gives, step by step. */
import { powerFromTorque } from '../dyno/pull.js';
import { meanOfTorques } from '../method/statistics.js';
import { noted, work, type Given, type Method, type Working } from '../method/method.js';
import type { SpeedResult } from './point.js';

// used.at()!: there are some.

export const brakeMeanPressure: Method<{ indicated: number; friction: number; beside: number }> = {
  id: 'brake-mean-pressure',
  title: 'Mean effective pressure at the crank',
  formula: 'p_e = p_i - p_f + p_b',
  inputs: {
    indicated: { label: 'indicated mean effective pressure, all four strokes', symbol: 'p_i', kind: 'pressure' },
    friction: { label: 'friction mean effective pressure', symbol: 'p_f', kind: 'pressure' },
    beside: { label: 'nitrous less the compressor’s drive, as a pressure', symbol: 'p_b', kind: 'pressure' },
  },
  result: { label: 'brake mean effective pressure', symbol: 'p_e', kind: 'pressure' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §2.6.',
  compute: ({ indicated, friction, beside }) => indicated - friction + beside,
};

export const torqueOfPressure: Method<{ pressure: number; displacement: number }> = {
  id: 'torque-of-pressure',
  title: 'Torque of a mean effective pressure',
  formula: 'T = \\frac{p_e V}{4\\pi}',
  inputs: {
    pressure: { label: 'brake mean effective pressure', symbol: 'p_e', kind: 'pressure' },
    displacement: { label: 'displacement', symbol: 'V', kind: 'displacement' },
  },
  result: { label: 'torque', symbol: 'T', kind: 'torque' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §2.7; four-stroke engines.',
  compute: ({ pressure, displacement }) => (pressure * displacement) / (4 * Math.PI),
};

/** Torque and power of a simulated speed, down to the pressures the cycle gave; `displacement` is the whole engine's, m³. */
export function crankOf(result: SpeedResult, displacement: Given<number>): { torque: Working; power: Working } {
  const cycle = `from the simulated cycle at ${Math.round(result.speed * 60)} rpm: docs/simulation.md`;
  const torque = work(torqueOfPressure, {
    pressure: work(brakeMeanPressure, {
      indicated: noted(result.imep, cycle),
      friction: noted(result.fmep, 'Chen and Flynn’s friction at that peak pressure and speed'),
      beside: noted(result.bmep - result.imep + result.fmep, cycle),
    }),
    displacement,
  });
  return { torque, power: work(powerFromTorque, { torque, speed: noted(result.speed, 'simulated') }) };
}

/** Mean torque over the speeds of a range, each counted alike; all of them where none lies inside. */
export function meanTorque(results: readonly SpeedResult[], from: number, to: number): Working {
  const inside = results.filter((r) => r.speed >= from - 1e-6 && r.speed <= to + 1e-6);
  const used = inside.length > 0 ? inside : results;
  const [low, high] = [used[0]!, used.at(-1)!].map((r) => Math.round(r.speed * 60));
  return work(meanOfTorques, {
    values: noted(
      used.map((r) => r.torque),
      `simulated at ${used.length} speeds, ${low} to ${high} rpm`,
    ),
  });
}

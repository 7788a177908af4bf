/** What `evaluate --simulate` prints of a head: the curve over speed, its range, and everything it assumes. */
import {
  bandOf,
  FitStore,
  foundOver,
  responsesAt,
  sensitiveSpeeds,
  LIVE,
  sensitivities,
  simulatedPower,
  solvePoint,
  sweepPoint,
  sweepSpeeds,
  verdictBySimulation,
  type Build as CoreBuild,
  type TargetResult,
  refusedBy,
} from '@alluvium/core';
import { toSimulation, type Build, type JudgingContext, type SimulatedHead } from '@alluvium/records';
import { z } from 'zod';

const number = z.number();

export const SimulationReport = z.union([
  z.object({ problem: z.string() }),
  z.object({
    /** The verdict by the simulation, in the place of the rules of thumb; null where the speed wanted did not settle. */
    verdict: z.object({ degree: z.string(), odds: number }).nullable(),
    said: z.array(z.string()),
    assumed: z.array(z.object({ id: z.string(), label: z.string(), value: number, half: number, note: z.string() })),
    points: z.array(
      z.union([
        z.object({
          speed: number,
          torque: number,
          power: number,
          low: number,
          high: number,
          volumetricEfficiency: number,
          bmep: number,
          chokeMach: number,
          residual: number,
        }),
        z.object({ speed: number, failed: z.string() }),
      ]),
    ),
  }),
]);
export type SimulationReport = z.infer<typeof SimulationReport>;

export function simulationOf(
  build: Build,
  core: CoreBuild,
  target: TargetResult,
  head: SimulatedHead,
  baseline: SimulatedHead | undefined,
  context: JudgingContext,
): SimulationReport {
  let setup;
  try {
    setup = toSimulation(build, core, target, head, baseline, context);
  } catch (e) {
    return { problem: refusedBy(e).message };
  }
  const fits = new FitStore();
  const speeds = sweepSpeeds(core.speed);
  const swept = speeds.map((speed) => {
    const middle = solvePoint({ setup, speed }, fits);
    return { ...sweepPoint(setup, speed, fits, LIVE, middle), seed: middle.seed };
  });
  const good = swept.flatMap(({ point }) => (point.ok ? [point] : []));
  const asked = sensitiveSpeeds(speeds, core.speed);
  const run = swept
    .filter(({ speed }) => asked.includes(speed))
    .flatMap(({ speed, runner, seed }) => {
      const of = sensitivities(setup, speed, fits, { seed, runner });
      return typeof of === 'string' ? [] : [{ speed, of }];
    });
  const found = foundOver(run, swept);
  // A curve without a range would be printed as one that is sure to the last figure.
  if (found.length === 0) return { problem: 'The assumptions settled at too few speeds for a range.' };
  const band = bandOf(
    good.map((p) => p.torque),
    responsesAt(
      setup,
      found,
      good.map((p) => p.speed),
      good.map((p) => p.torque),
    ),
  );
  const wanted = good.find((p) => Math.abs(p.speed - core.speed) < 1e-6);
  const verdict =
    wanted && verdictBySimulation(head.evaluation.verdict, simulatedPower(setup, found, wanted), core.power);
  return {
    verdict: verdict ? { degree: verdict.degree, odds: verdict.odds! } : null,
    said: [...setup.said],
    assumed: setup.assumed.map(({ id, label, value, half, note }) => ({ id, label, value, half, note })),
    points: swept.map(({ speed, point }) => {
      if (!point.ok) return { speed, failed: point.reason };
      const { torque, power, volumetricEfficiency, bmep, chokeMach, residual } = point;
      const { low, high } = band[good.indexOf(point)]!;
      return { speed, torque, power, low, high, volumetricEfficiency: volumetricEfficiency, bmep, chokeMach, residual };
    }),
  };
}

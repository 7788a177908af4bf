/**
 * The simulation and nothing else, in a process of its own, as a worker of the page has it: reads engines and speeds on
 * its input; says how long their curves took, how long the ranges of them, s, and its memory, MB.
 */
import { performance } from 'node:perf_hooks';
import { text } from 'node:stream/consumers';
import {
  FitStore,
  LIVE,
  sensitiveSpeeds,
  sensitivities,
  solvePoint,
  sweepPoint,
  type SimulationSetup,
} from '@alluvium/core';

export interface Alone {
  readonly setups: readonly SimulationSetup[];
  readonly speeds: readonly number[];
}
export interface AloneFigures {
  readonly curves: number;
  readonly ranges: number;
  readonly memory: number;
}

const { setups, speeds } = JSON.parse(await text(process.stdin)) as Alone;
const fits = new FitStore();
const began = performance.now();
const curves = setups.map((setup) => speeds.map((speed) => ({ speed, end: solvePoint({ setup, speed }, fits) })));
const drawn = performance.now();
setups.forEach((setup, i) => {
  const all = sensitiveSpeeds(speeds, setup.speed);
  for (const { speed, end } of curves[i]!) {
    const { runner } = sweepPoint(setup, speed, fits, LIVE, end);
    if (all.includes(speed)) sensitivities(setup, speed, fits, { seed: end.seed, runner });
  }
});
const figures: AloneFigures = {
  curves: (drawn - began) / 1000,
  ranges: (performance.now() - drawn) / 1000,
  memory: process.memoryUsage().rss / 1e6,
};
console.log(JSON.stringify(figures));

/** The simulation and nothing else, in a process of its own: reads a setup on its input, says the memory it took, MB. */
import { text } from 'node:stream/consumers';
import { FitStore, sensitivities, solvePoint, sweepSpeeds, type SimulationSetup } from '@alluvium/core';

const setup = JSON.parse(await text(process.stdin)) as SimulationSetup;
const fits = new FitStore();
for (const speed of sweepSpeeds(setup.speed)) solvePoint({ setup, speed }, fits);
sensitivities(setup, setup.speed, fits);
console.log(process.memoryUsage().rss / 1e6);

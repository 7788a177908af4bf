/** The simulation's figures: the step of a pipe and its ends, a sweep, the ranges, a cam search, memory. */
import { performance } from 'node:perf_hooks';
import {
  atSpeed,
  camWanted,
  engineModel,
  evaluateTarget,
  FitStore,
  LIVE,
  runPoint,
  sensitivities,
  solvePoint,
  sweepSpeeds,
  type SimulationSetup,
} from '@alluvium/core';
import { evaluateHead, toCoreBuild, toSimulation, wholesOf, type Bundle } from '@alluvium/records';

type Report = (what: string, value: number, unit: string, given?: number) => void;

function demoSetup(bundle: Bundle): SimulationSetup {
  const build = bundle.builds.find((b) => b.id === 'slate-six')!;
  const core = toCoreBuild(build);
  const target = evaluateTarget(core);
  const whole = wholesOf(bundle).find((w) => w.head.id === 'longreach-212')!;
  const evaluation = evaluateHead(build, core, target, whole, 'longreach-received', null);
  const setup = toSimulation(build, core, target, { whole, evaluation }, undefined);
  // One kind of runner: the figure is of that.
  return { ...setup, ports: setup.ports.slice(0, 1) };
}

export function simulationFigures(bundle: Bundle, report: Report): void {
  const setup = demoSetup(bundle);
  const fits = new FitStore();
  const timed = <T>(run: () => T): [T, number] => {
    const began = performance.now();
    const result = run();
    return [result, performance.now() - began];
  };
  report('simulation: the sheets through the virtual bench', timed(() => fits.of(setup, LIVE.cell))[1], 'ms');
  fits.of(setup, 0.03);
  solvePoint({ setup, speed: setup.speed }, fits);
  report('simulation: the target speed', timed(() => solvePoint({ setup, speed: setup.speed }, fits))[1], 'ms', 250);
  const all = sweepSpeeds(setup.speed);
  const speeds = all.filter((_, i) => i % Math.ceil(all.length / 12) === 0 || all.length <= 12).slice(0, 12);
  const [, took] = timed(() => speeds.map((speed) => solvePoint({ setup, speed }, fits).point));
  report('simulation: twelve speeds of one head, one worker', ((took / speeds.length) * 12) / 1000, 's', 1);
  const model = atSpeed(setup, engineModel(setup, fits.of(setup, LIVE.cell)), setup.speed);
  const [{ point }, cold] = timed(() => runPoint(model, setup.speed, LIVE));
  if (point.ok) report('simulation: a whole step, two pipes, cylinder and plenum', (cold * 1000) / point.steps, 'µs');
  report('simulation: ranges at one speed', timed(() => sensitivities(setup, setup.speed, fits))[1], 'ms');
  const aim = { speeds: [0.6, 0.8, 1].map((share) => share * setup.speed) };
  report('simulation: the cam a head wants', timed(() => camWanted(setup, aim, fits))[1] / 1000, 's', 8);
  report('simulation: memory', process.memoryUsage().rss / 1e6, 'MB');
}

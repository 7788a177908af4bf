/** The simulation's figures: the step of a pipe and its ends, a sweep, the ranges, a cam search, memory. */
import { middleRound } from './machine.js';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { build } from 'vite';
import {
  atSpeed,
  camWanted,
  changedBy,
  ENGINE_GAS,
  engineModel,
  evaluateTarget,
  FitStore,
  gridOf,
  LIVE,
  lookAt,
  pipes,
  runPoint,
  sensitivities,
  solvePoint,
  sweepSpeeds,
  type SimulationSetup,
} from '@alluvium/core';
import { evaluateHead, toCoreBuild, toSimulation, wholesOf, type Bundle } from '@alluvium/records';

type Report = (what: string, value: number, unit: string, given?: number, factor?: number) => void;

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

const CELLS = 67;
const KERNEL_STEPS = 20_000;
/** Nanoseconds a cell of the kernel alone, here and built by the machine's own C compiler; undefined without one. */
function kernels(): { readonly here: number; readonly c: number | undefined } {
  const around = Array.from({ length: CELLS + 1 }, (_, i) => ({
    x: 0.015 * i,
    area: 1.2e-3 * (1 + 0.2 * Math.sin(0.3 * i)),
  }));
  const pipe = pipes.pipeOf(ENGINE_GAS, gridOf(around, 0.015), (x) => {
    const i = x / 0.015;
    return {
      p: 1e5 * (1 + 0.3 * Math.sin(0.11 * i)),
      T: 400 + 100 * Math.sin(0.2 * i),
      Y: 0.5 + 0.4 * Math.sin(0.07 * i),
    };
  });
  const { cells, area } = pipe.grid;
  const shut = (cell: number, face: number) => ({ mass: 0, push: pipe.p[cell]! * area[face]!, energy: 0, burned: 0 });
  const began = performance.now();
  for (let k = 0; k < KERNEL_STEPS; k++) {
    pipes.stepPipe(pipe, 0.8 * pipe.waveTime, shut(0, 0), shut(cells - 1, cells), 2);
    pipes.take(pipe);
  }
  const here = (1e6 * (performance.now() - began)) / KERNEL_STEPS / cells;
  const folder = mkdtempSync(join(tmpdir(), 'kernel-'));
  try {
    const made = spawnSync('cc', ['-O2', '-o', join(folder, 'step'), join(import.meta.dirname, 'step.c'), '-lm']);
    if (made.status !== 0) return { here, c: undefined };
    const { stdout } = spawnSync(join(folder, 'step'), [String(KERNEL_STEPS)], { encoding: 'utf8' });
    return { here, c: Number(stdout.split(' ')[0]) || undefined };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** What the simulation alone takes, bundled as the page's workers are and without what a tool carries along, MB. */
async function memoryAlone(setup: SimulationSetup): Promise<number> {
  const outDir = mkdtempSync(join(tmpdir(), 'simulation-'));
  try {
    await build({
      configFile: false,
      logLevel: 'error',
      root: import.meta.dirname,
      build: { ssr: 'alone.ts', outDir, emptyOutDir: true, target: 'node20' },
      ssr: { noExternal: true },
    });
    const ran = spawnSync(process.execPath, [join(outDir, 'alone.js')], {
      input: JSON.stringify(setup),
      encoding: 'utf8',
    });
    if (ran.status !== 0) throw new Error(ran.stderr);
    return Number(ran.stdout);
  } finally {
    rmSync(outDir, { recursive: true });
  }
}

export async function simulationFigures(bundle: Bundle, report: Report): Promise<void> {
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
  const { ms, factor } = middleRound(() => speeds.forEach((speed) => solvePoint({ setup, speed }, fits)));
  report('simulation: twelve speeds of one head, one worker', ((ms / speeds.length) * 12) / 1000, 's', 1, factor);
  const now = new Map(speeds.map((speed) => [speed, lookAt({ setup, speed }, fits).seed]));
  const then = changedBy(setup, { compression: setup.compression + 1 }).setup;
  const [, first] = timed(() => speeds.map((speed) => lookAt({ setup: then, speed }, fits, now.get(speed))));
  report('simulation: what-if, first curve of twelve speeds', (first / speeds.length) * 12, 'ms', 300);
  const model = atSpeed(setup, engineModel(setup, fits.of(setup, LIVE.cell)), setup.speed);
  const [{ point }, cold] = timed(() => runPoint(model, setup.speed, LIVE));
  if (point.ok) report('simulation: a whole step, two pipes, cylinder and plenum', (cold * 1000) / point.steps, 'µs');
  const { here, c } = kernels();
  report('simulation: the kernel of a pipe, a cell', here, 'ns');
  if (c !== undefined) report('simulation: the same over a build in C', here / c, '×');
  report('simulation: ranges at one speed', timed(() => sensitivities(setup, setup.speed, fits))[1], 'ms');
  const aim = { speeds: [0.6, 0.8, 1].map((share) => share * setup.speed) };
  report('simulation: the cam a head wants', timed(() => camWanted(setup, aim, fits))[1] / 1000, 's', 8);
  report('simulation: memory of a process that runs it alone', await memoryAlone(setup), 'MB', 150);
}

/** The simulation's figures: the step of a pipe and its ends, a sweep, the ranges, a cam search, memory. */
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { text } from 'node:stream/consumers';
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
import type { Alone, AloneFigures } from './alone.js';
import { middleRound, roundsOf } from './machine.js';

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

/** Bundles the simulation as the page's workers are, without what a tool carries along, and takes it away afterwards. */
async function withAlone(use: (run: (of: Alone) => Promise<AloneFigures>) => Promise<void>): Promise<void> {
  const outDir = mkdtempSync(join(tmpdir(), 'simulation-'));
  try {
    await build({
      configFile: false,
      logLevel: 'error',
      root: import.meta.dirname,
      build: { ssr: 'alone.ts', outDir, emptyOutDir: true, target: 'node20' },
      ssr: { noExternal: true },
    });
    await use(async (of) => {
      const child = spawn(process.execPath, [join(outDir, 'alone.js')], { stdio: ['pipe', 'pipe', 'inherit'] });
      child.stdin.end(JSON.stringify(of));
      return JSON.parse(await text(child.stdout)) as AloneFigures;
    });
  } finally {
    rmSync(outDir, { recursive: true });
  }
}

const HEADS = 6;
const SPEEDS = 24;
/** Six heads over 24 speeds on two workers: each takes three of the heads. */
async function lineup(
  setup: SimulationSetup,
  run: (of: Alone) => Promise<AloneFigures>,
  report: Report,
): Promise<void> {
  const setups = Array.from({ length: HEADS }, (_, i) => ({
    ...setup,
    ports: setup.ports.map((p) => ({
      ...p,
      intake: p.intake.map((q) => ({ ...q, flow: q.flow * (0.85 + 0.03 * i) })),
    })),
  }));
  const speeds = Array.from({ length: SPEEDS }, (_, i) => setup.speed * (0.42 + (0.76 * i) / (SPEEDS - 1)));
  const rounds = await roundsOf(async () => {
    const two = await Promise.all([0, 1].map((k) => run({ setups: setups.filter((_, i) => i % 2 === k), speeds })));
    return { curves: Math.max(...two.map((f) => f.curves)), ranges: Math.max(...two.map((f) => f.ranges)) };
  });
  const say = (what: 'curves' | 'ranges', given: number) => {
    const { result, factor } = middleRound(rounds, (f) => f[what]);
    report(`simulation: six heads at 24 speeds, two workers: ${what}`, result[what], 's', given, factor);
  };
  say('curves', 7);
  say('ranges', 15);
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
  const twelve = await roundsOf(() => timed(() => speeds.forEach((speed) => solvePoint({ setup, speed }, fits)))[1]);
  const { result: ms, factor } = middleRound(twelve, (took) => took);
  report('simulation: twelve speeds of one head, one worker', ((ms / speeds.length) * 12) / 1000, 's', 1, factor);
  const now = new Map(speeds.map((speed) => [speed, lookAt({ setup, speed }, fits).seed]));
  const then = changedBy(setup, { compression: setup.compression + 1 }).setup;
  const [, first] = timed(() => speeds.map((speed) => lookAt({ setup: then, speed }, fits, now.get(speed))));
  report('simulation: what-if, first curve of twelve speeds', (first / speeds.length) * 12, 'ms', 300);
  const model = atSpeed(setup, engineModel(setup, fits.of(setup, LIVE.cell)), setup.speed);
  const steps = await roundsOf(() => {
    const [{ point }, took] = timed(() => runPoint(model, setup.speed, LIVE));
    return point.ok ? (took * 1000) / point.steps : NaN;
  }, 5);
  const step = middleRound(steps, (µs) => µs);
  report('simulation: a whole step, two pipes, cylinder and plenum', step.result, 'µs', 8, step.factor);
  const { here, c } = kernels();
  report('simulation: the kernel of a pipe, a cell', here, 'ns');
  if (c !== undefined) report('simulation: the same over a build in C', here / c, '×');
  report('simulation: ranges at one speed', timed(() => sensitivities(setup, setup.speed, fits))[1], 'ms');
  const aim = { speeds: [0.6, 0.8, 1].map((share) => share * setup.speed) };
  report('simulation: the cam a head wants', timed(() => camWanted(setup, aim, fits))[1] / 1000, 's', 8);
  await withAlone(async (run) => {
    const { memory } = await run({ setups: [setup], speeds: all });
    report('simulation: memory of a process that runs it alone', memory, 'MB', 150);
    await lineup(setup, run, report);
  });
}

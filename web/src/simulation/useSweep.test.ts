// @vitest-environment happy-dom
import { readFileSync } from 'node:fs';
import { sensitiveSpeeds, sweepSpeeds, type Sensitivity, type SimulationSetup } from '@alluvium/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, shallowRef, type EffectScope } from 'vue';
import { demoEngine } from '../test/demoEngine.js';
import type { Job } from './simulation.worker.js';
import { useSweep } from './useSweep.js';

const { core, setup } = demoEngine(readFileSync('demo/bundle.json', 'utf8'));
const speeds = sweepSpeeds(core.speed);
const RUNNER: Sensitivity = { id: 'runnerLength', low: -4, high: 4 };

/** Every job in the order the workers were given them; they answer when they are let. */
let given: Job[] = [];
let answered: (() => void)[] = [];
class Answering {
  onmessage?: (event: { data: unknown }) => void;
  postMessage({ id, job }: { id: number; job: Job }): void {
    given.push(job);
    answered.push(() => this.onmessage?.({ data: { id, answer: answerOf(job) } }));
  }
  terminate(): void {
    this.onmessage = () => undefined;
  }
}
function answerOf(job: Job): unknown {
  const at = 'speed' in job ? { speed: job.speed, torque: 300, power: 3e5, ok: true } : {};
  if (job.kind === 'single') return { point: at, seed: { of: 'speed' in job && job.speed } };
  if (job.kind === 'sweep') return { speed: job.speed, point: at, single: at, runner: RUNNER };
  return [RUNNER, { id: 'friction', low: 6, high: -6 }];
}
const settle = async (most = Infinity) => {
  for (let n = 0; n < most && answered.length > 0; n++) {
    answered.shift()!();
    for (let i = 0; i < 6; i++) await Promise.resolve();
  }
};

describe('a sweep of the lineup', () => {
  let scope: EffectScope;
  const heads = shallowRef<{ id: string; setup: SimulationSetup }[]>([]);
  beforeEach(() => {
    [given, answered] = [[], []];
    heads.value = [
      { id: 'a', setup },
      { id: 'b', setup: { ...setup, compression: 11 } },
    ];
    vi.stubGlobal('Worker', Answering);
    vi.stubGlobal('navigator', { hardwareConcurrency: 2 });
    scope = effectScope();
  });
  afterEach(() => {
    scope.stop();
    vi.unstubAllGlobals();
  });
  const sweep = () =>
    scope.run(() =>
      useSweep(
        () => heads.value,
        () => speeds,
        () => core.speed,
      ),
    )!;

  it('runs every curve, the speed wanted first, then the ranges from where each curve ended', async () => {
    const s = sweep();
    await settle();
    const curves = given.filter((j) => j.kind === 'single');
    expect(curves).toHaveLength(2 * speeds.length);
    expect(given.slice(0, curves.length)).toEqual(curves);
    expect(curves.slice(0, 2).map((j) => j.speed)).toEqual([core.speed, core.speed]);
    const ranges = given.slice(curves.length);
    expect(ranges.filter((j) => j.kind === 'sweep')).toHaveLength(2 * speeds.length);
    const every = ranges.filter((j) => j.kind === 'sensitivities');
    expect(every).toHaveLength(2 * sensitiveSpeeds(speeds, core.speed).length);
    for (const job of every) expect(job.before).toEqual({ seed: { of: job.speed }, runner: RUNNER });
    expect(s.done.value).toBe(s.asked.value);
    for (const curve of s.curves.value) {
      expect(curve.whole).toBe(true);
      expect(curve.band).toHaveLength(speeds.length);
    }
  });
  it('stopped and gone on with, runs only what is missing; a head that changed is run again alone', async () => {
    const s = sweep();
    await settle(10);
    s.cancel();
    answered = [];
    expect(s.stopped.value).toBe(true);
    const before = given.filter((j) => j.kind === 'single').length - 2;
    given = [];
    void s.begin();
    await settle();
    expect(given.filter((j) => j.kind === 'single')).toHaveLength(2 * speeds.length - before);
    expect(s.stopped.value).toBe(false);
    given = [];
    heads.value = [heads.value[0]!, { id: 'b', setup: { ...setup, compression: 12 } }];
    for (let i = 0; i < 6; i++) await Promise.resolve();
    await settle();
    expect(given.length).toBeGreaterThan(0);
    expect(given.every((j) => 'setup' in j && j.setup.compression === 12)).toBe(true);
  });
});

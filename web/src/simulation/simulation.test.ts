import { horsepower, rpm, type SimulationSetup, type SpeedResult } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { cycleCsv, sweepCsv } from './exportSweep.js';
import { curveOf, type SweptHead } from './useSweep.js';

const point = (speed: number, torque: number): SpeedResult => ({
  speed,
  ok: true,
  cycles: 5,
  volumetricEfficiency: 0.9,
  trapping: 1,
  residual: 0.05,
  imep: 12e5,
  pmep: -3e4,
  fmep: 2e5,
  bmep: 10e5,
  torque,
  power: 2 * Math.PI * speed * torque,
  peakPressure: 60e5,
  chokeMach: 0.4,
  reversion: 0.02,
  imbalance: 1e-4,
  energyImbalance: 1e-4,
  wander: 0,
  steps: 100,
});
const setup = {
  assumed: [
    {
      id: 'intakeSheet',
      label: 'the intake’s sheet',
      value: 1,
      half: 0,
      kind: 'ratio',
      note: 'usual',
      leaf: 'sheet:x:intake',
    },
    {
      id: 'friction',
      label: 'friction, against the usual line',
      value: 1,
      half: 0.2,
      kind: 'ratio',
      note: 'usual',
      leaf: 'friction',
    },
  ],
  said: ['Combustion is the same.'],
} as unknown as SimulationSetup;
const speeds = [2000, 3000, 4000].map(rpm);
const head = (): SweptHead => ({
  id: 'a',
  setup,
  points: new Map(),
  single: new Map(),
  runner: new Map(),
  sensitive: new Map(),
  ends: new Map(),
});

describe('a curve as far as it was run', () => {
  it('takes the mean over the runner where it is there, else the single one; a failed point leaves a gap and its reason', () => {
    const h = head();
    h.single.set(speeds[0]!, point(speeds[0]!, 300));
    h.single.set(speeds[1]!, point(speeds[1]!, 310));
    h.points.set(speeds[1]!, point(speeds[1]!, 312));
    h.single.set(speeds[2]!, { speed: speeds[2]!, ok: false, code: 'unsettled', reason: 'It did not settle.' });
    const curve = curveOf(h, speeds);
    expect(curve.points.map((p) => p.torque)).toEqual([300, 312]);
    expect(curve.failed).toEqual([{ speed: speeds[2]!, reason: 'It did not settle.' }]);
    expect(curve.whole).toBe(false);
    expect(curve.band).toBeUndefined();
  });
  it('has a range once the assumptions were run at two speeds, and it holds the curve', () => {
    const h = head();
    for (const s of speeds) h.single.set(s, point(s, 300));
    h.sensitive.set(speeds[0]!, [{ id: 'friction', low: 10, high: -10 }]);
    h.sensitive.set(speeds[2]!, [{ id: 'friction', low: 20, high: -20 }]);
    const { band } = curveOf(h, speeds);
    // Uniform within ±10 and ±20 (95 % of it; between the two speeds half way), and the solution's own share beside it.
    [9.5, 14.25, 19].forEach((half, k) => {
      expect(band![k]!.high - 300).toBeGreaterThan(half - 0.3);
      expect(band![k]!.high - 300).toBeLessThan(half + 1.2);
    });
  });
});

/** Lines of a CSV, its mark and last line end taken off. */
const linesOf = (csv: string) => csv.replace('\uFEFF', '').trimEnd().split('\r\n');

describe('a curve’s range, before every assumption was run', () => {
  it('is not shown: the runner’s length alone would make one that is too narrow', () => {
    const h = head();
    for (const s of speeds) {
      h.points.set(s, point(s, 300));
      h.runner.set(s, { id: 'runnerLength', low: -3, high: 3 });
    }
    h.sensitive.set(speeds[0]!, [{ id: 'friction', low: 10, high: -10 }]);
    expect(curveOf(h, speeds).band).toBeUndefined();
    expect(curveOf(h, speeds).sensitive).toEqual([]);
    h.sensitive.set(speeds[2]!, [{ id: 'friction', low: 10, high: -10 }]);
    expect(curveOf(h, speeds).band).toHaveLength(speeds.length);
    expect(curveOf(h, speeds).sensitive).toHaveLength(speeds.length);
  });
});

describe('what is saved', () => {
  const h = head();
  for (const s of speeds) h.single.set(s, point(s, horsepower(100) / (2 * Math.PI * s)));
  it('a line a point, every assumption, everything said; text with a comma is quoted', () => {
    const lines = linesOf(sweepCsv([{ name: 'Head, one', setup, curve: curveOf(h, speeds) }]));
    expect(lines[0]).toMatch(/^head,speed_rpm,torque_Nm/);
    expect(lines[1]).toMatch(/^"Head, one",2000,/);
    expect(lines.filter((l) => l.startsWith('"Head, one",'))).toHaveLength(6);
    expect(lines).toContain('"Head, one","friction, against the usual line",1,0.2,usual');
  });
  it('a head named like a formula is not run as one', () => {
    const csv = sweepCsv([{ name: '=1+1', setup, curve: curveOf(h, speeds) }]);
    expect(csv).not.toMatch(/^=1\+1/m);
  });
  it('a cycle by crank angle in degrees', () => {
    const one = {
      angle: [0, Math.PI],
      lift: [
        [0, 1],
        [0, 0],
      ],
      flow: [
        [0, 0],
        [0, 0],
      ],
      pressure: [1e5, 2e5],
      volume: [1, 2],
      temperature: [300, 400],
      burned: [0, 1],
      port: [
        [1, 1],
        [1, 1],
      ],
      chokeMach: [0, 0.3],
      path: [[1], [1]],
      place: [0],
    };
    const lines = linesOf(cycleCsv([{ name: 'A', trace: one as never }]));
    expect(lines).toHaveLength(3);
    expect(lines[2]).toMatch(/^A,180,1,0,/);
  });
});

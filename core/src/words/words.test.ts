import { describe, expect, it } from 'vitest';
import { evaluateSheet } from '../evaluate/sheet.js';
import { believability, evaluateTarget, type Build } from '../evaluate/target.js';
import { flowCurve } from '../flow/curve.js';
import { isWorking, work, workIf, type Working } from '../method/method.js';
import { sayIn } from '../quantity/format.js';
import { celsius, cfm, degrees, horsepower, inches, inchesOfWater, millimetres, psi, rpm } from '../quantity/units.js';
import { CATALOGUE } from '../catalogue.js';
import { displacement } from '../engine/engine.js';
import type { Degree } from '../uncertainty/degree.js';
import { compareSetups, compareWords } from './compare.js';

const say = sayIn('inch');
const named = (letter: string, ...flows: number[]) => ({
  letter,
  curve: flowCurve(flows.map((q, i) => ({ lift: inches((i + 1) / 10), flow: cfm(q) })))!,
});
/** Sentences with ordinary blanks; on screen a figure keeps its unit on the line. */
const plain = (text: string | undefined) => text?.replaceAll('\u00a0', ' ');
const SIGMA = 0.005;

const DEGREES_OF_BELIEF = ['mild', 'ordinary', 'strong', 'race', 'extreme', 'unbelievable'];

describe('a comparison in words', () => {
  it('tells who leads where, who clears the target and who stops gaining', () => {
    const a = { ...named('A', 53, 106, 149, 172, 179, 180), degree: 'falls short' as const };
    const d = { ...named('D', 52, 100, 160, 195, 213, 221), degree: 'carries' as const };
    expect(plain(compareWords([a, d], inches(0.5), SIGMA, say))).toMatch(
      /^D leads from \.2\d\d up, by as much as 34 cfm\. Between \.\d+ and \.\d+ A is ahead by up to \d+ cfm\. Against the target: D carries; A falls short\./,
    );
  });
  it('says nothing of a cam where the build has none', () => {
    const a = named('A', 63, 120, 157, 172, 176, 179, 181);
    expect(plain(compareWords([a], inches(0.6), SIGMA, say))).toContain('gaining before the cam does: A at .400');
    const without = plain(compareWords([a], Infinity, SIGMA, say));
    expect(without).toContain('gains little beyond .400');
    expect(without).not.toMatch(/before the cam|longer cam/);
  });
  it('does not tell apart what the bench cannot', () => {
    const a = named('A', 53, 106, 149, 172);
    expect(plain(compareWords([a, { ...a, letter: 'B' }], Infinity, SIGMA, say))).toContain(
      'A and B are not told apart',
    );
  });
  it('knows one head, none, and says the degree of each as it was judged', () => {
    expect(plain(compareWords([], 1, SIGMA, say))).toBeUndefined();
    const of = (letter: string, degree?: Degree) => ({ ...named(letter, 60, 120, 180, 220), degree });
    expect(plain(compareWords([of('A')], Infinity, SIGMA, say))).not.toContain('target');
    expect(plain(compareWords([of('A', "can't be told")], Infinity, SIGMA, say))).toContain('A can’t be told');
    expect(
      plain(compareWords([of('A', 'carries'), of('B', 'carries'), of('C', 'probably short')], Infinity, SIGMA, say)),
    ).toContain('Against the target: A and B carry; C probably falls short.');
  });
  it('sorts set-ups into equal, unequal and unknown', () => {
    expect(
      compareSetups([
        { what: 'depression', values: ['28 in', '28 in'] },
        { what: 'exhaust', values: ['exhaust bare', 'exhaust piped'] },
        { what: 'valve', values: ['own valves', undefined] },
      ]),
    ).toEqual({
      equal: ['28 in'],
      unequal: [{ what: 'exhaust', values: ['exhaust bare', 'exhaust piped'] }],
      unknown: ['valve'],
    });
  });
});

describe('a sheet', () => {
  const setup = {
    reads: 'flow',
    depression: inchesOfWater(10),
    leak: { intake: cfm(2) },
    factor: 1.01,
    meterTemperature: celsius(30),
    portTemperature: celsius(20),
  } as const;
  it('is brought to 28 in step by step, and the working shows each step', () => {
    const { intake } = evaluateSheet(setup, [
      { lift: inches(0.3), intake: { pulls: [cfm(100), cfm(102)] } },
      { lift: inches(0.4), intake: { pulls: [cfm(120)] } },
    ]);
    const flow = intake.points[0]!.flow;
    const steps: string[] = [];
    for (let step: Working | undefined = flow; step; step = Object.values(step.given).find(isWorking))
      steps.push(step.method.id);
    expect(steps).toEqual([
      'depression-correction',
      'temperature-correction',
      'bench-factor',
      'leakage',
      'mean-of-pulls',
    ]);
    // By hand, the leak read through the same meter: (101 − 2) × 1.01 × √(293.15/303.15) × √2.8.
    expect(flow.value / cfm(1)).toBeCloseTo((101 - 2) * 1.01 * Math.sqrt(293.15 / 303.15) * Math.sqrt(2.8), 6);
    expect(intake.points[0]!.spread! / flow.value).toBeCloseTo(Math.SQRT2 / 101, 6);
  });
  it('says that an unknown depression was taken as 28 in', () => {
    const { intake } = evaluateSheet({ reads: 'flow' }, [{ lift: 0.01, intake: { pulls: [0.05] } }]);
    expect(intake.points[0]!.flow.given.depression).toMatchObject({ note: 'not stated; taken as 28 in' });
    expect(intake.points[0]!.flow.value).toBe(0.05);
  });
  it('of differences alone draws no curve', () => {
    expect(evaluateSheet({ reads: 'difference' }, [{ lift: 0.01, intake: { pulls: [0.05] } }]).intake.points).toEqual(
      [],
    );
  });
  it('a percent without its full scale is refused', () => {
    expect(() => evaluateSheet({ reads: 'percent' }, [{ lift: 0.01, intake: { pulls: [0.5] } }])).toThrow(/full scale/);
  });
  it('a missing row is missing, never zero', () => {
    const { intake, exhaust, ratios } = evaluateSheet({ reads: 'flow' }, [
      { lift: 0.005, intake: { pulls: [0.05] } },
      { lift: 0.01, intake: { pulls: [0.08] }, exhaust: { pulls: [0.06] } },
    ]);
    expect(intake.points).toHaveLength(2);
    expect(exhaust.points).toHaveLength(1);
    expect(ratios).toHaveLength(1);
  });
});

describe('a target', () => {
  const build: Build = {
    bore: millimetres(98),
    stroke: millimetres(93),
    cylinders: 6,
    fuel: 'petrol',
    induction: { kind: 'natural' },
    power: horsepower(290),
    speed: rpm(5600),
  };
  it('is told believable by mean effective pressure', () => {
    expect(evaluateTarget(build).believability).toBe('strong');
    expect(evaluateTarget({ ...build, power: horsepower(500) }).believability).toBe('unbelievable');
    expect(believability(psi(100), 1)).toBe('mild');
    expect(believability(psi(240), 1.6)).toBe('strong');
    // The best unboosted engines reach about 225 psi (common practice, no source): at the peak of torque, not of power.
    expect(believability(psi(225), 1, 'torque')).toBe('extreme');
    expect(believability(psi(225), 1, 'power')).toBe('unbelievable');
    for (const p of [110, 125, 158, 183, 208, 225, 309])
      expect(DEGREES_OF_BELIEF.indexOf(believability(psi(p), 1, 'torque'))).toBeLessThanOrEqual(
        DEGREES_OF_BELIEF.indexOf(believability(psi(p), 1, 'power')),
      );
  });
  it('boost lowers the flow each port must carry by the charge density', () => {
    const boosted = evaluateTarget({
      ...build,
      induction: { kind: 'boosted', pressureRatio: 1.5, chargeTemperature: 330, ambientTemperature: 300 },
    });
    expect(boosted.demand!.value * 1.5 * (300 / 330)).toBeCloseTo(evaluateTarget(build).demand!.value, 9);
  });
  it('nitrous makes part of the power without the port', () => {
    const shot = evaluateTarget({ ...build, induction: { kind: 'nitrous', power: horsepower(90) } });
    expect(shot.demand!.value / evaluateTarget(build).demand!.value).toBeCloseTo(200 / 290, 9);
    expect(() => evaluateTarget({ ...build, induction: { kind: 'nitrous', power: horsepower(300) } })).toThrow(
      /nitrous alone/,
    );
  });
  it('a cam that no curve can have is said so', () => {
    const cam = { intakeLift: inches(0.05), intakeDuration: degrees(224), rockerRatio: 1.5 };
    expect(() => evaluateTarget({ ...build, cam })).toThrow(/checking height/);
  });
});

describe('the catalogue', () => {
  const all = CATALOGUE.flatMap((c) => c.methods);
  it('names every method once, with formula, inputs and source', () => {
    expect(new Set(all.map((m) => m.id)).size).toBe(all.length);
    for (const m of all) {
      expect(m.formula.length, m.id).toBeGreaterThan(3);
      expect(m.source.length, m.id).toBeGreaterThan(5);
      expect(Object.keys(m.inputs).length, m.id).toBeGreaterThan(0);
    }
  });
  it('a working keeps what it was given, and gives no number where there is none', () => {
    const w = work(displacement, { cylinderVolume: { value: 0.0007, note: 'as typed' }, cylinders: 6 });
    expect(w.value).toBeCloseTo(0.0042, 12);
    expect(() => work(displacement, { cylinderVolume: Number.NaN, cylinders: 6 })).toThrow(/no answer/);
    expect(workIf(displacement, { cylinderVolume: undefined, cylinders: 6 })).toBeUndefined();
  });
});

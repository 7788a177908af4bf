import { readFileSync } from 'node:fs';
import { cfm, evaluateTarget, horsepower, horsepowerPerCfm, numberOf, rpm } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { airOf, alike, heldAgainst, learntOf, meanOfAlike, peakBy, powerPerFlowOf } from './pulls.js';
import { evaluateHead } from '../evaluateHead.js';
import { readBundle } from '../files/bundle.js';
import { splitTable } from '../files/csv.js';
import { readPullTable } from '../files/pullTable.js';
import { Pull } from '../nouns/dyno.js';
import { assumptionsOf } from '../assumptions.js';
import { Assumption } from '../nouns/assumption.js';
import { toCoreBuild } from '../toCore.js';
import { wholesOf } from '../wholes.js';

const read = (text: string, system: 'inch' | 'metric' = 'inch') => readPullTable(splitTable(text), system);
const hp = (q: { si: number } | null | undefined) => (q ? Math.round(q.si / horsepower(1)) : q);

describe('a dyno sheet', () => {
  it.each([
    ['hp and lb ft by heading', 'RPM,HP,TQ (lb ft)\n4000,220,289\n5000,270,284\n', [220, 270]],
    ['columns in another order', 'Torque [Nm];kW;Engine speed\n392;164,1;4000\n385;201,3;5000\n', [220, 270]],
    ['a row of units', 'rpm\tpower\ttorque\nrpm\tPS\tNm\n4000\t223\t392\n5000\t274\t385\n', [220, 270]],
    ['no headings', '4000\t220\t289\n5000\t270\t284\n', [220, 270]],
    ['power alone', 'rpm,power (hp)\n4000,220\n5000,270\n', [220, 270]],
    ['lines before the headings', 'Cell 2\nSlate Six, pull 3\nrpm,hp\n4000,220\n5000,270\n', [220, 270]],
    ['units in the cells', 'rpm,power\n4000,220 hp\n5000,270 hp\n', [220, 270]],
  ])('is read: %s', (_, text, expected) => {
    const { rows, problems } = read(text);
    expect(problems).toEqual([]);
    expect(rows.map((r) => hp(r.power))).toEqual(expected);
    expect(rows[0]!.speed.si).toBeCloseTo(rpm(4000), 9);
  });
  it('names what it left out and what it took for granted: no unit is silent', () => {
    const { notices } = read('rpm,power,A/F,Oil\n4000,164,12.8,99\n', 'metric');
    expect(notices).toEqual([
      'Left out: “Oil”.',
      'The column of power names no unit: it is read as kW.',
      'Air over fuel is read as petrol’s: 14.7 is lambda 1.',
    ]);
    expect(read('rpm,hp,hp\n4000,1,2\n').notices[0]).toContain('second column of power');
  });
  it('says by the line what cannot be read, and keeps the rest', () => {
    const { rows, problems } = read('rpm,hp\n4000,220\nfast,230\n4400,\n,240\n4600,-5\n4800,250\n');
    expect(rows.map((r) => hp(r.power))).toEqual([220, 250]);
    expect(problems.map((p) => p.line)).toEqual([3, 4, 5, 6]);
    expect(read('rpm,lambda\n4000,0.9\n').problems[0]!.message).toContain('no column of power or torque');
    expect(read('').problems).toHaveLength(1);
    expect(read('rpm,hp\n'.repeat(20_001)).problems[0]!.message).toContain('at most');
    expect(read(`rpm,hp\n${'x,y\n'.repeat(5000)}`).problems.length).toBeLessThanOrEqual(51);
  });
});

const { bundle } = readBundle(JSON.parse(readFileSync(new URL('../../../demo/bundle.json', import.meta.url), 'utf8')));
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const pull = (over: Partial<Record<keyof Pull, unknown>> = {}) =>
  Pull.parse({
    id: 'p',
    buildId: 'slate-six',
    stageId: 'longreach-received',
    title: 'pull 1',
    correction: 'SAE J607',
    pressure: '990 mbar',
    temperature: '25 °C',
    rows: [
      { speed: '5000 rpm', power: '280 hp' },
      { speed: '5600 rpm', power: '300 hp' },
    ],
    ...over,
  });
const head = () => {
  const whole = wholesOf(bundle).find((w) => w.head.id === 'longreach-212')!;
  const core = toCoreBuild(build);
  return evaluateHead(build, core, evaluateTarget(core), whole, 'longreach-received', null, {});
};

describe('a pull', () => {
  it('is brought to another standard where its air is known, and says why not where it is not', () => {
    const by = peakBy(pull(), 'SAE J1349', build);
    expect(typeof by === 'string' ? by : by.value / horsepower(1)).toBeCloseTo(300 / 1.04, 0);
    expect(peakBy(pull({ correction: null }), 'SAE J1349', build)).toContain('Nobody said');
    expect(peakBy(pull({ pressure: null }), 'SAE J1349', build)).toContain('Without barometer');
    expect(airOf(pull({ temperature: null }))).toBeUndefined();
  });
  it('is refused with figures no dyno reads', () => {
    const bad = (over: object) => Pull.safeParse({ ...pull(), ...over }).success;
    expect(bad({ rows: [] })).toBe(false);
    expect(bad({ pressure: '2 bar' })).toBe(false);
    expect(bad({ humidity: '140 %' })).toBe(false);
    expect(bad({ correction: 'best' })).toBe(false);
    expect(bad({ rows: [{ speed: '0 rpm', power: '10 hp' }] })).toBe(false);
    expect(bad({})).toBe(true);
  });
  it('is averaged with those of one head, dyno and standard only', () => {
    const b = pull({
      id: 'q',
      rows: [
        { speed: '5000 rpm', power: '284 hp' },
        { speed: '5600 rpm', power: '304 hp' },
      ],
    });
    expect(alike(pull(), b)).toBe(true);
    expect(alike(pull(), pull({ dyno: 'chassis dyno' }))).toBe(false);
    expect(alike(pull(), pull({ correction: 'observed' }))).toBe(false);
    const { points, repeatability } = meanOfAlike([pull(), b]);
    expect(points.map((p) => Math.round(p.power / horsepower(1)))).toEqual([282, 302]);
    expect(repeatability).toBeGreaterThan(0.005);
  });
  it('stands beside each estimate of its head, and teaches power per flow', () => {
    const e = head();
    const held = heldAgainst(horsepower(300), e);
    const byFlow = held.find((h) => h.id === 'peak-flow')!;
    expect(byFlow.off).toBeCloseTo(horsepower(300) / byFlow.estimate.value - 1, 12);
    const k = powerPerFlowOf(pull(), horsepower(300), build, e, 1)!;
    expect(k.value).toBeCloseTo(horsepower(300) / (6 * numberOf(e.match.flow!)), 3);
    expect(powerPerFlowOf(pull({ dyno: 'chassis dyno' }), horsepower(300), build, e, 1)).toBeUndefined();
    // Three pulls of one engine are one engine.
    const thrice = [0.27, 0.27, 0.27].map((f, i) => ({ pull: pull({ id: `p${i}` }), factor: horsepowerPerCfm(f) }));
    expect(learntOf(thrice)!.count).toBe(1);
    expect(learntOf([])).toBeUndefined();
  });
});

describe('the shop’s own power per flow', () => {
  it('is what a build without one of its own is judged by, and its note says so', () => {
    const own = (name: string, value: string) => Assumption.parse({ id: name, name, value });
    const assumptions = assumptionsOf([
      own('leastPowerPerFlow', '0.25 hp/cfm'),
      own('likelyPowerPerFlow', '0.27 hp/cfm'),
      own('mostPowerPerFlow', '0.29 hp/cfm'),
    ]);
    const usual = evaluateTarget(toCoreBuild(build));
    const target = evaluateTarget(toCoreBuild(build, assumptions));
    expect(target.demand!.value / cfm(1)).toBeCloseTo((usual.demand!.value / cfm(1)) * (0.257 / 0.27), 3);
    expect(target.demand!.given.powerPerFlow).toMatchObject({ note: 'the shop’s own' });
    const stated = { ...build, powerPerFlow: { si: horsepowerPerCfm(0.26), typed: '0.26 hp/cfm' } };
    expect(evaluateTarget(toCoreBuild(stated, assumptions)).powerPerFlow).toBeCloseTo(horsepowerPerCfm(0.26), 6);
  });
});

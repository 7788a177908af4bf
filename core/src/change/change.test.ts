import { describe, expect, it } from 'vitest';
import { dwellMean } from '../cam/dwell.js';
import { flowCurve, type FlowCurve } from '../flow/curve.js';
import { sayIn } from '../quantity/format.js';
import { torqueFromPower } from '../engine/engine.js';
import { cfm, cubicCentimetres, inches, millimetres, squareInches, squareInches as in2 } from '../quantity/units.js';
import { sunkVolume } from '../chamber/chamber.js';
import { deviation, mean } from '../method/mean.js';
import { budgetOfWorking } from '../uncertainty/working.js';
import {
  barredWords,
  changeRangeWords,
  cutReasonWords,
  cutStopWords,
  lookFirstWords,
  nextCutWords,
  scoreWords,
  stopWords,
  togetherWords,
  usualGainWords,
} from '../words/change.js';
import { forecastScore, gainAdded, gainPerHour, gainPerMoney, workCost } from './gain.js';
import { boreAsSeen, boreAxisMoved, boredTo, chamberAfter, notchRoom, valveRoomAfter } from './machining.js';
import { cutBook, nextCuts, openedCurve, openedPort, type CutFacts } from './nextCut.js';
import { stopState } from './stops.js';
import { nextSpecimen, specimensApart, usualGain } from './usual.js';
import { liftWindow } from './window.js';

const say = sayIn('inch');
const curveOf = (...flows: number[]): FlowCurve =>
  flowCurve(flows.map((q, i) => ({ lift: inches((i + 1) / 10), flow: cfm(q) })))!;

describe('what a stage cost and gave', () => {
  it('adds hours at the shop’s rate and parts', () => {
    expect(workCost.compute({ time: 2.5 * 3600, rate: 60, parts: 45 })).toBe(195);
    expect(() => workCost.compute({ time: -1, rate: 60, parts: 0 })).toThrow(/negative/);
  });
  it('gives a gain for each hour and for the money', () => {
    expect(gainPerHour.compute({ gain: cfm(12), time: 3 * 3600 }) * 3600).toBeCloseTo(cfm(4), 12);
    expect(gainPerMoney.compute({ gain: cfm(12), cost: 300 }) * 100).toBeCloseTo(cfm(4), 12);
    expect(() => gainPerHour.compute({ gain: 1, time: 0 })).toThrow('No hours');
    expect(() => gainPerMoney.compute({ gain: 1, cost: 0 })).toThrow('No cost');
  });
  it('adds small gains up: 5 here and 2 there', () => {
    expect(gainAdded.compute({ gains: [cfm(5), cfm(2), cfm(-1)] })).toBeCloseTo(cfm(6), 12);
  });
  it('turns a gain in power into torque at the speed: 5252 hp at 1 rpm is one lb ft each', () => {
    const torque = torqueFromPower.compute({ power: 10 * 745.69987, speed: 5252 / 60 });
    expect(torque / 1.3558179483).toBeCloseTo(10, 2);
  });
  it('scores a forecast in uncertainties of both', () => {
    expect(forecastScore.compute({ found: 12, forecast: 6, foundU: 3, forecastU: 4 })).toBeCloseTo(1.2, 12);
    expect(scoreWords(0.4)).toBe('came out as forecast');
    expect(scoreWords(-2.4)).toBe('short of its range');
    expect(scoreWords(1.5)).toContain('better than forecast');
  });
});

describe('what a kind of cut usually buys', () => {
  it('predicts the next from a few by t s √(1 + 1/n)', () => {
    // t(0.975, 4) = 2.776: table of critical values, NIST/SEMATECH e-Handbook 1.3.6.7.2.
    const values = [4, 5, 6, 7, 8].map(cfm);
    expect(nextSpecimen.compute({ values })).toBeCloseTo(2.776 * deviation(values)! * Math.sqrt(1.2), 5);
    expect(() => nextSpecimen.compute({ values: [1] })).toThrow('two values');
  });
  it('says nothing without cuts, no spread with one', () => {
    expect(usualGain([])).toBeUndefined();
    expect(usualGain([{ gain: 0.04, hours: 3600 }])).toEqual({ count: 1, gain: 0.04, hours: 3600 });
    expect(usualGainWords(usualGain([]), 'back-cut', say)).toContain('before and after a back-cut by itself');
    expect(usualGainWords(usualGain([{ gain: 0.04 }, { gain: 0.06, hours: 5400, cost: 95 }]), 'back-cut', say)).toMatch(
      /^2 of .*\+5\.0.%.*, 1\.5.h, cost 95 each\.$/,
    );
  });
  it('tells the specimen that stands 26 above the other three', () => {
    const four = [222, 224, 226, 250].map((v, i) => ({ specimen: i, value: cfm(v) }));
    const last = specimensApart(four)[3]!;
    expect(last.off).toBeCloseTo(cfm(26), 10);
    expect(last.outside).toBe(true);
    expect(specimensApart(four.slice(0, 2)).every((s) => s.outside === undefined)).toBe(true);
    expect(mean(four.slice(0, 3).map((s) => s.value))).toBeCloseTo(cfm(224), 10);
  });
});

describe('milling, sinking and bores that move', () => {
  it('brings a chamber of 121 cc to 110 by milling 11 cc off', () => {
    const face = cubicCentimetres(11) / inches(0.06);
    const left = chamberAfter.compute({ now: cubicCentimetres(121), sunk: 0, face, milled: inches(0.06) });
    expect(left).toBeCloseTo(cubicCentimetres(110), 12);
    expect(() => chamberAfter.compute({ now: 1e-5, sunk: 0, face: 1, milled: 1 })).toThrow('whole chamber');
  });
  it('gives back by sinking what the disc sweeps, and takes it from the room by milling', () => {
    const sunk = sunkVolume.compute({ diameter: inches(2), depth: inches(0.02), valves: 1 });
    const left = chamberAfter.compute({ now: cubicCentimetres(60), sunk, face: 0.006, milled: 0 });
    expect(left - cubicCentimetres(60)).toBeCloseTo((Math.PI / 4) * inches(2) ** 2 * inches(0.02), 14);
    const room = valveRoomAfter.compute({ room: inches(0.1), sunk: inches(0.02), milled: inches(0.03) });
    expect(room).toBeCloseTo(inches(0.09), 12);
  });
  it('moves the axis .020 when 60 over is taken as 50 and 10: 3.970 bored, 4.010 on the intake’s side', () => {
    const cut = { towards: inches(0.05), away: inches(0.01) };
    expect(boreAxisMoved.compute(cut)).toBeCloseTo(inches(0.02), 12);
    expect(boredTo.compute({ bore: inches(3.91), ...cut })).toBeCloseTo(inches(3.97), 12);
    expect(boreAsSeen.compute({ bore: inches(3.91), moved: inches(0.05) })).toBeCloseTo(inches(4.01), 12);
  });
  it('does not take a fixture of 3.970 shifted .050 for that bore: it reads as 4.070', () => {
    expect(boreAsSeen.compute({ bore: inches(3.97), moved: inches(0.05) })).toBeCloseTo(inches(4.07), 12);
  });
  it('stops a notch above the first ring', () => {
    const room = notchRoom.compute({ land: millimetres(6), deck: millimetres(0.2), margin: millimetres(1) });
    expect(room).toBeCloseTo(millimetres(5.2), 12);
    expect(() => notchRoom.compute({ land: 0.001, deck: 0, margin: 0.002 })).toThrow('no notch');
  });
});

describe('when to stop', () => {
  const wall = { limit: millimetres(3.5), way: 'down' as const };
  it('stops at a wall’s limit, and says when it is passed', () => {
    expect(stopState(wall)).toBe('open');
    expect(stopState({ ...wall, found: millimetres(5.2) })).toBe('under way');
    expect(stopState({ ...wall, found: millimetres(3.5) })).toBe('stop');
    expect(stopState({ ...wall, found: millimetres(3.4) })).toBe('passed');
    expect(stopWords('passed', '3.4 mm', '3.5 mm')).toBe('measured 3.4 mm, past its limit of 3.5 mm: stop');
  });
  it('is there once an opening has its size, and stops at its own limit', () => {
    const throat = { way: 'up' as const, wanted: millimetres(42), limit: millimetres(42.6) };
    expect(stopState({ ...throat, found: millimetres(41) })).toBe('under way');
    expect(stopState({ ...throat, found: millimetres(42) })).toBe('there');
    expect(stopState({ ...throat, found: millimetres(43) })).toBe('passed');
  });
});

describe('the window of lift that counts', () => {
  const curve = curveOf(50, 100, 150, 180, 190, 195);
  it('takes the cam where the sheets reach it, else a usual one as high as they go', () => {
    const low = liftWindow([curve])!;
    expect(low.own).toBe(false);
    expect(low.cam.maxLift).toBeCloseTo(inches(0.6), 12);
    expect(liftWindow([curve], low.cam)!.own).toBe(true);
    expect(liftWindow([curve, curveOf(50, 100)], low.cam)!.cam.maxLift).toBeCloseTo(inches(0.2), 12);
    expect(liftWindow([])).toBeUndefined();
  });
});

describe('the next cut', () => {
  const curve = curveOf(53, 106, 149, 172, 178, 180);
  const { cam } = liftWindow([curve])!;
  const valve = { diameter: inches(1.85), valves: 1 };
  const facts: CutFacts = {
    side: 'intake',
    curve,
    cam,
    valve,
    share: { value: 0.6, low: 0.5, high: 0.72 },
    lift: inches(0.4),
    natural: true,
    uneven: [],
  };
  it('gives back the curve itself for an opening no larger, and series flow for one of a known share', () => {
    const same = openedCurve(curve, valve, 'port', 1, 0.6, inches(0.4));
    expect(same.points.map((p) => p.flow)).toEqual(curve.points.map((p) => p.flow));
    // At the lift itself the loss of the port is 0.6 of the whole: 1/Q'² = 1/Q² (0.4 + 0.6/r²).
    const opened = openedCurve(curve, valve, 'port', 1.1, 0.6, inches(0.4));
    expect(opened.at(inches(0.4))!).toBeCloseTo(cfm(172) / Math.sqrt(0.4 + 0.6 / 1.21), 12);
    // Low lifts gain less of a larger port, more of a larger valve.
    const share = (part: 'port' | 'valve', lift: number) =>
      openedCurve(curve, valve, part, 1.1, 0.6, inches(0.4)).at(lift)! / curve.at(lift)!;
    expect(share('port', inches(0.1))).toBeLessThan(share('port', inches(0.4)));
    expect(share('valve', inches(0.1))).toBeGreaterThan(share('valve', inches(0.4)));
    expect(() => openedCurve(curve, valve, 'port', 1.1, 1, inches(0.4))).toThrow('between 0 and 1');
  });
  it('proposes the choke up to what the walls allow, with a range from what is left open of the share', () => {
    const [cut] = nextCuts({ ...facts, choke: in2(1.74), wanted: in2(2), largest: in2(1.87), spare: millimetres(1.2) });
    expect(cut!.operation).toBe('pinch opened');
    expect(cut!.barred).toBe(false);
    expect(cut!.most!.method).toBe(openedPort);
    const opened = openedCurve(curve, valve, 'port', 1.87 / 1.74, 0.6, inches(0.4));
    const gain = dwellMean.compute({ curve: opened, cam }) - dwellMean.compute({ curve, cam });
    expect(cut!.most!.value).toBeCloseTo(gain, 12);
    const budget = budgetOfWorking(cut!.most!, cutBook([facts]))!;
    expect(budget.u).toBeGreaterThan(0.02 * gain);
    expect(cutReasonWords(cut!.reasons[0]!, say)).toContain('opened to 1.87');
    expect(cut!.stops.map((s) => cutStopWords(s, say))[0]).toContain('.047');
  });
  it('proposes nothing past a wall’s limit', () => {
    const cuts = nextCuts({ ...facts, choke: in2(1.74), wanted: in2(2), largest: in2(1.74), spare: millimetres(-0.1) });
    expect(cuts[0]).toMatchObject({ operation: 'pinch opened', barred: true });
    expect(cuts[0]!.most).toBeUndefined();
    expect(nextCutWords(cuts, say)).toContain('walls are at their limit');
    expect(barredWords).toContain('Not advised');
  });
  it('reads a throat out of its band, a lazy low lift, an exhaust, dead spots and what was found on arrival', () => {
    const cuts = nextCuts({
      ...facts,
      side: 'exhaust',
      throat: 0.86,
      low: { lift: inches(0.2), coefficient: 0.62, best: 0.7, count: 6 },
      exhaustShare: 0.62,
      dead: 0.15,
      uneven: [
        { part: 'bowl', text: 'a ledge under the seat' },
        { part: 'flange', text: 'gasket stands in' },
      ],
      bowl: 0.93,
    });
    const names = cuts.map((c) => c.operation);
    for (const name of [
      'throat opened',
      'valve job',
      'short turn lowered',
      'roof raised',
      'bowl blend',
      'port matched',
    ])
      expect(names).toContain(name);
    const values = cuts.flatMap((c) => (c.most ? [c.most.value] : []));
    expect(values).toEqual([...values].sort((a, b) => b - a));
    expect(cuts.find((c) => c.operation === 'port matched')!.most).toBeUndefined();
    expect(lookFirstWords({ closure: 0.05, taper: { rate: 0.2, station: 0.03 } }, say)).toEqual([
      expect.stringMatching(/differ by 5\.0.%/),
      expect.stringContaining('at 30 mm'),
    ]);
    expect(lookFirstWords({ closure: -0.01 }, say)).toEqual([]);
    for (const c of cuts) for (const r of c.reasons) expect(cutReasonWords(r, say)).toMatch(/\.$/);
    for (const c of cuts) for (const s of c.stops) expect(cutStopWords(s, say)).toMatch(/\.$/);
  });
  it('speaks of a larger valve only when the valve decides, and of nothing when nothing is known', () => {
    expect(nextCuts(facts)).toEqual([]);
    expect(nextCutWords([], say)).toContain('Nothing');
    const [cut] = nextCuts({ ...facts, share: { value: 0.35, low: 0.25, high: 0.45 } });
    expect(cut!.operation).toBe('valve larger');
  });
  it('reads the window against the flow, and an early knee', () => {
    const cuts = nextCuts({ ...facts, windowFlow: cfm(210), knee: inches(0.4) });
    expect(cuts.map((c) => c.operation).sort()).toEqual(['pinch opened', 'short turn laid back']);
    const tight = nextCuts({ ...facts, windowFlow: cfm(181), knee: inches(0.4) });
    expect(tight.map((c) => c.operation)).toContain('window');
    expect(squareInches(1)).toBe(in2(1));
  });
});

describe('words of a change', () => {
  it('writes a range with its sign', () => {
    expect(changeRangeWords({ value: Math.log(1.071), low: Math.log(1.048), high: Math.log(1.099) }, say)).toMatch(
      /^\+7\.1.%, between \+4\.8.% and \+9\.9.%$/,
    );
  });
  it('says of two cuts in one stage that they cannot be told apart', () => {
    expect(togetherWords(['valve job', 'back-cut'])).toBe(
      'valve job and back-cut were made in one stage: these cannot be told apart.',
    );
  });
});

import { describe, expect, it } from 'vitest';
import {
  cameOutWords,
  correctionFactor,
  din70020,
  horsepower,
  horsepowerPerCfm,
  iso1585,
  j1349,
  j607,
  learntFactor,
  madePerFlow,
  meanOfPowers,
  numberOf,
  peakWords,
  powerAt,
  powerFromTorque,
  pullDoubtWords,
  sayIn,
  standardsApart,
  unknownAirWords,
  unknownStandardWords,
  random,
  normal,
  readPull,
  rpm,
  toStandard,
  torqueFromPower,
  vapourPressure,
  cfm,
} from '../index.js';

const spark = { fuel: 'petrol', boosted: false };
const celsius = (t: number) => t + 273.15;

describe('corrections', () => {
  it('are 1 in their own reference air', () => {
    expect(j1349.compute({ pressure: 99_000, temperature: 298 })).toBeCloseTo(1, 12);
    expect(j607.compute({ pressure: 29.92 * 3386.389, temperature: ((60 - 32) * 5) / 9 + 273.15 })).toBeCloseTo(1, 4);
    expect(din70020.compute({ pressure: 101_300, temperature: 293 })).toBeCloseTo(1, 12);
    expect(iso1585.compute({ pressure: 99_000, temperature: 298 })).toBeCloseTo(1, 12);
  });
  it('agree with figures worked by hand: J1349 and ISO 1585 at 970 mbar and 30 °C', () => {
    expect(j1349.compute({ pressure: 97_000, temperature: celsius(30) })).toBeCloseTo(1.0344, 3);
    expect(iso1585.compute({ pressure: 97_000, temperature: celsius(30) })).toBeCloseTo(1.0351, 3);
  });
  it('J607 lies 4.0 % above J1349 at 990 mbar and 25 °C, 3.5 % at 970 and 30', () => {
    const over = (pressure: number, temperature: number) =>
      j607.compute({ pressure, temperature }) / j1349.compute({ pressure, temperature });
    expect(over(99_000, celsius(25))).toBeCloseTo(1.04, 2);
    expect(over(97_000, celsius(30))).toBeCloseTo(1.035, 2);
  });
  it('take the vapour out of the pressure: 23.4 mbar saturated at 20 °C (steam tables)', () => {
    expect(vapourPressure.compute({ temperature: celsius(20), humidity: 1 }) / 2339).toBeCloseTo(1, 2);
    const dry = numberOf(correctionFactor('SAE J1349', { pressure: 99_000, temperature: celsius(30) }, spark));
    const damp = numberOf(
      correctionFactor('SAE J1349', { pressure: 99_000, temperature: celsius(30), humidity: 0.6 }, spark),
    );
    expect(damp).toBeGreaterThan(dry + 0.02);
  });
  it('turn into one another and back, whatever the air', () => {
    const air = { pressure: 98_200, temperature: celsius(18) };
    const there = toStandard(horsepower(300), 'SAE J607', 'SAE J1349', air, spark);
    expect(there.value).toBeLessThan(horsepower(300));
    const back = toStandard(there.value, 'SAE J1349', 'SAE J607', air, spark);
    expect(back.value).toBeCloseTo(horsepower(300), 6);
    expect(toStandard(horsepower(300), 'ISO 1585', 'ISO 1585', undefined, spark).value).toBe(horsepower(300));
  });
  it.each([
    ['no air', 'SAE J1349', undefined, spark, /Without barometer/],
    ['a diesel', 'ISO 1585', { pressure: 99_000, temperature: 298 }, { fuel: 'diesel', boosted: true }, /diesel/],
    ['boost', 'SAE J1349', { pressure: 99_000, temperature: 298 }, { fuel: 'petrol', boosted: true }, /boosted/],
    ['damp air by DIN', 'DIN 70020', { pressure: 99_000, temperature: 298, humidity: 0.5 }, spark, /total or the dry/],
    ['thin air by ISO', 'ISO 1585', { pressure: 80_000, temperature: 298 }, spark, /more than 7 %/],
  ] as const)('are refused where they do not hold or nobody is sure: %s', (_, to, air, engine, words) => {
    expect(() => correctionFactor(to, air, engine)).toThrow(words);
  });
});

describe('a pull', () => {
  const row = (speed: number, hp: number, torque?: number) => ({
    speed: rpm(speed),
    power: horsepower(hp),
    ...(torque === undefined ? {} : { torque }),
  });
  it('has power and torque at each speed, whichever was read (P = 2π N T)', () => {
    const torque = torqueFromPower.compute({ power: horsepower(250), speed: rpm(5000) });
    expect(powerFromTorque.compute({ torque, speed: rpm(5000) })).toBeCloseTo(horsepower(250), 6);
    const { points, peakPower, peakTorque } = readPull([row(5600, 290), { speed: rpm(5000), torque }, row(4000, 230)]);
    expect(points.map((p) => Math.round(p.power / horsepower(1)))).toEqual([230, 250, 290]);
    expect(peakPower!.speed).toBe(rpm(5600));
    expect(peakTorque!.speed).toBe(rpm(4000));
  });
  it('asks about a row whose power and torque disagree, and about a speed that stands twice', () => {
    const torque = torqueFromPower.compute({ power: horsepower(250), speed: rpm(5000) });
    const read = readPull([row(5000, 250, torque), row(5200, 260, torque * 1.2), row(5200, 261), row(5400, 0 + 265)]);
    expect(read.disagree.map((d) => d.row)).toEqual([1]);
    expect(read.twice).toEqual([2]);
    expect(readPull([{ speed: rpm(5000) }, { speed: 0, power: 1 }])).toEqual({ points: [], disagree: [], twice: [] });
  });
  it('is read between its rows, and nowhere else', () => {
    const { points } = readPull([row(4000, 200), row(5000, 260)]);
    expect(powerAt(points, rpm(4500))! / horsepower(1)).toBeCloseTo(230, 9);
    expect(powerAt(points, rpm(4000))! / horsepower(1)).toBeCloseTo(200, 9);
    expect(powerAt(points, rpm(3999))).toBeUndefined();
    expect(powerAt(points, rpm(5001))).toBeUndefined();
  });
  it('and the next ones have a mean and a repeatability: 198, 200 and 202 lie 1 % apart', () => {
    const pulls = [198, 200, 202].map((hp) => readPull([row(4000, hp), row(5000, hp * 1.2)]).points);
    const { points, repeatability } = meanOfPowers(pulls);
    expect(points[0]!.power / horsepower(1)).toBeCloseTo(200, 9);
    expect(repeatability).toBeCloseTo(0.01, 6);
    expect(meanOfPowers([pulls[0]!]).repeatability).toBeUndefined();
    expect(meanOfPowers([])).toEqual({ points: [], repeatability: undefined, shares: [] });
  });
});

describe('a pull in words', () => {
  const say = sayIn('inch');
  const plain = (text: string) => text.replaceAll('\u00a0', ' ');
  const torque = torqueFromPower.compute({ power: horsepower(250), speed: rpm(5000) });
  const rows = [
    { speed: rpm(5000), power: horsepower(250), torque: torque * 1.1 },
    { speed: rpm(5000), power: horsepower(251) },
    { speed: rpm(4000), power: horsepower(230) },
  ];
  it('says its peaks, by whom they are, and asks about what does not belong together', () => {
    const read = readPull(rows);
    expect(plain(peakWords(read, 'SAE J607', say))).toBe('250 hp at 5000 rpm, by SAE J607; 302 lb ft at 4000 rpm.');
    expect(peakWords(read, null, say)).toContain('nobody says by which standard');
    expect(peakWords(readPull([]), null, say)).toBe('');
    expect(pullDoubtWords(read, rows, say).map(plain)).toEqual([
      'At 5000 rpm the power reads 250 hp and the torque makes 275 hp: which is right? Power is taken.',
      '5000 rpm stands twice; the first is taken.',
    ]);
  });
  it('offers both readings where no standard is named, and says whether an estimate held', () => {
    const airs = standardsApart(undefined, spark)!;
    expect(plain(unknownStandardWords(horsepower(260), airs, say))).toBe(
      'If it is SAE J607, SAE J1349 would say about 250 hp to 251 hp; if it is J1349 already, 260 hp.',
    );
    expect(
      plain(
        unknownStandardWords(
          horsepower(260),
          standardsApart({ pressure: 99_000, temperature: celsius(25) }, spark),
          say,
        ),
      ),
    ).toBe('If it is SAE J607, SAE J1349 would say about 250 hp; if it is J1349 already, 260 hp.');
    expect(plain(unknownAirWords(horsepower(260), 'SAE J607', airs, say))).toBe(
      'J607 lies 3.4 % to 4.0 % above J1349 in the air most cells see: by J1349 it would be about 250 hp to 251 hp.',
    );
    expect(unknownAirWords(horsepower(260), 'DIN 70020', airs, say)).toBe('');
    // A boosted engine or a diesel has neither standard's plain form.
    for (const engine of [
      { ...spark, boosted: true },
      { ...spark, fuel: 'diesel' },
    ]) {
      expect(standardsApart(undefined, engine)).toBeUndefined();
      expect(unknownStandardWords(horsepower(260), standardsApart(undefined, engine), say)).toContain('nobody can say');
    }
    expect(plain(cameOutWords(-0.05, horsepower(300), horsepower(9), say))).toBe('made −5 %, in its range');
    expect(plain(cameOutWords(0.1, horsepower(300), horsepower(9), say))).toBe('made +10 %, out of its range');
    expect(plain(cameOutWords(0.1, 1, undefined, say))).toBe('made +10 %');
  });
});

describe('the shop’s own power per flow', () => {
  it('of one pull: 480 hp through eight ports of 217 cfm is 0.2765 hp/cfm', () => {
    expect(madePerFlow(horsepower(480), cfm(217), 8, 1).value / horsepowerPerCfm(1)).toBeCloseTo(0.2765, 4);
  });
  it('begins at the usual one and ends at the shop’s', () => {
    expect(learntFactor([])).toBeUndefined();
    const k = horsepowerPerCfm(0.27);
    const one = learntFactor([k])!;
    const many = learntFactor(Array.from({ length: 50 }, () => k))!;
    expect(one.factor.value / horsepowerPerCfm(1)).toBeCloseTo((2 * 0.257 + 0.27) / 3, 6);
    expect(many.factor.value / horsepowerPerCfm(1)).toBeCloseTo(0.27, 2);
    expect(many.u).toBeLessThan(one.u);
  });
  it('tells how far the next engine lies: within two deviations 90 to 99 times in 100, over 400 shops', () => {
    const uniform = random(7);
    const draw = () => normal(uniform);
    let within = 0;
    let all = 0;
    for (let shop = 0; shop < 400; shop++) {
      // What a shop's engines make lies about a level of its own.
      const level = 0.257 + 0.006 * draw();
      const engine = () => horsepowerPerCfm(level + 0.007 * draw());
      const learnt = learntFactor(Array.from({ length: 2 + (shop % 9) }, engine))!;
      all++;
      if (Math.abs(engine() - learnt.factor.value) < 2 * learnt.u) within++;
    }
    expect(within / all).toBeGreaterThan(0.9);
    expect(within / all).toBeLessThan(0.99);
  });
});

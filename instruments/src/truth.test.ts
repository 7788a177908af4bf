/** The whole way from the stand-in's stream to the sheet, against the truth behind it. */
import {
  cfm,
  depressionVerdict,
  evaluateSide,
  inches,
  inchesOfWater,
  rangeAdvice,
  deviation,
  steadiness,
  type Sample,
  type Side,
} from '@alluvium/core';
import { BenchSetup, RawReading, Sheet, sheetSetup, toCoreRows, toCoreSetup, withReadings } from '@alluvium/records';
import { describe, expect, it } from 'vitest';
import {
  IDEAL_TRAITS,
  RANGES,
  RATE,
  STAND_INS,
  USUAL_TRAITS,
  World,
  stand,
  trueFlow,
  type BenchTraits,
} from './index.js';

const LIFTS = [0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6];
const figure = (si: number, digits: number) => `${(si * 100).toFixed(digits)} %`;

/** Runs a side as the page does: open, wait until steady, take the right range, record; then writes the sheet. */
function record(traits: BenchTraits, side: Side, port: number, pulls = 1, seed = 1) {
  const world = new World(traits, seed);
  const samples: Record<'percent' | 'depression', Sample[]> = { percent: [], depression: [] };
  let now = 0;
  const me = stand(
    STAND_INS.bench,
    world,
    (line) => {
      const { say, at, values } = JSON.parse(line);
      if (say !== 'sample') return;
      samples.percent.push({ at: at / 1000, value: values.percent });
      samples.depression.push({ at: at / 1000, value: values.depression });
    },
    () => {},
  );
  const order = (command: object) => me.take(JSON.stringify(command));
  const wait = (seconds: number) => {
    for (let i = 0; i < seconds * RATE; i++) {
      world.pass(1 / RATE);
      me.tick((now += 1000 / RATE));
    }
  };
  world.head = { ...world.head, port };
  order({ do: 'stream', on: true });
  order({ do: 'direction', to: side });
  const ranges = RANGES.map((r) => ({ name: r.name, fullScale: r[side] }));

  // The leak test: valve shut, lowest range, read when steady.
  order({ do: 'range', to: 'half' });
  wait(8);
  const leak = steadiness(samples.percent.slice(-2 * RATE)).mean * RANGES[0]![side];
  const setup = BenchSetup.parse({
    depression: '28 inH2O',
    bore: 'unknown',
    leakTest: 'done',
    leaks: leak > 0 ? [{ side, depression: '28 inH2O', flow: `${(leak / cfm(1)).toFixed(2)} cfm` }] : [],
    reads: 'percent',
    ranges: RANGES.map((r) => ({
      name: r.name,
      intake: `${(r.intake / cfm(1)).toFixed(1)} cfm`,
      exhaust: `${(r.exhaust / cfm(1)).toFixed(1)} cfm`,
    })),
  });
  let sheet = Sheet.parse({ id: 's', stageId: 'x', title: 'T', setup: sheetSetup(setup, undefined), rows: [] });
  const readings: RawReading[] = [];
  for (let pull = 0; pull < pulls; pull++)
    for (const lift of LIFTS) {
      world.liftWanted = inches(lift);
      wait(6);
      for (let tries = 0; tries < 4; tries++) {
        const share = samples.percent.at(-1)!.value;
        const full = ranges.find((r) => r.name === world.range)!.fullScale;
        const advice = rangeAdvice(share * full, ranges, world.range);
        if (advice.go === 'stay' || !advice.to) break;
        order({ do: 'range', to: advice.to.name });
        wait(4);
      }
      // As an operator would: not before it is steady, and not for ever.
      let state = steadiness(samples.percent);
      for (let tries = 0; tries < 6 && state.state !== 'steady'; tries++) {
        wait(2);
        state = steadiness(samples.percent);
      }
      const pressure = steadiness(samples.depression).mean;
      expect(depressionVerdict(inchesOfWater(28), pressure)).not.toBe('refused');
      readings.push(
        RawReading.parse({
          id: `r${readings.length}`,
          sessionId: 'x',
          setup: 0,
          number: port,
          side,
          lift: `${lift.toFixed(3)} in`,
          pull,
          percent: figure(state.mean, 3),
          range: world.range,
          depression: `${(pressure / 249.089).toFixed(2)} inH2O`,
          spread: state.spread / state.mean,
          noisy: state.state !== 'steady',
          at: new Date(now).toISOString(),
        }),
      );
      sheet = withReadings(sheet, readings, readings.at(-1)!);
    }
  return {
    sheet,
    readings,
    points: evaluateSide(toCoreSetup(sheet), toCoreRows(sheet), side).points,
    truth: (lift: number) => trueFlow(world.head, side, lift),
  };
}

describe('recorded against the truth', () => {
  it.each([
    ['intake', 3],
    ['exhaust', 3],
    ['intake', 1],
    ['intake', 6],
  ] as const)('clean: every point of the %s of port %i within 0.5 %%', (side, port) => {
    const { points, truth } = record(IDEAL_TRAITS, side, port);
    expect(points).toHaveLength(LIFTS.length);
    for (const p of points) expect(Math.abs(p.flow.value / truth(p.lift) - 1)).toBeLessThan(0.005);
  });

  it('noisy, leaking, warming, surging: the mean of five pulls lies within its stated spread', () => {
    const { points, truth, readings } = record({ ...USUAL_TRAITS, drift: 0 }, 'intake', 3, 5, 11);
    for (const p of points) {
      const pulls = readings.filter((r) => Math.abs(r.lift.si - p.lift) < 1e-6);
      // What a reading says of itself: the scatter of its samples; the figure's own steps come on top.
      const stated = Math.max(...pulls.map((r) => r.spread!)) * p.flow.value + cfm(0.05);
      expect(Math.abs(p.flow.value - truth(p.lift))).toBeLessThan(stated);
      expect(p.spread!).toBeLessThan(stated);
    }
  });

  it('a leak that is not tested shows: the sheet reads high by just that much', () => {
    const leaking = record({ ...IDEAL_TRAITS, leak: cfm(3) }, 'intake', 3);
    const bare = { ...leaking.sheet, setup: { ...leaking.sheet.setup, intakeLeak: null } };
    const [first] = evaluateSide(toCoreSetup(bare), toCoreRows(bare), 'intake').points;
    expect((first!.flow.value - leaking.truth(first!.lift)) / cfm(1)).toBeCloseTo(3, 0);
    expect(Math.abs(leaking.points[0]!.flow.value / leaking.truth(first!.lift) - 1)).toBeLessThan(0.005);
  });

  it('a blower too small: corrected by the depression read, still within 0.5 %', () => {
    const small = record({ ...IDEAL_TRAITS, blower: { pressure: inchesOfWater(56), flow: cfm(215) } }, 'intake', 3);
    const off = small.readings.filter((r) => r.depression!.si < 0.995 * inchesOfWater(28));
    expect(off.length).toBeGreaterThan(1);
    for (const p of small.points) expect(Math.abs(p.flow.value / small.truth(p.lift) - 1)).toBeLessThan(0.005);
  });

  it('the same seed records the same, another seed does not', () => {
    const values = (seed: number) => record(USUAL_TRAITS, 'intake', 3, 1, seed).readings.map((r) => r.percent!.si);
    expect(values(5)).toEqual(values(5));
    expect(values(5)).not.toEqual(values(6));
    expect(deviation(values(5))).toBeGreaterThan(0);
  });
});

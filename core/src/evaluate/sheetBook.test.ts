import { describe, expect, it } from 'vitest';
import {
  USUAL_ASSUMPTIONS as A,
  budgetOfWorking,
  camProfile,
  evaluateSheet,
  evaluateTarget,
  expectedApart,
  flowDifference,
  horsepower,
  horsepowerPerCfm,
  inches,
  inchesOfWater,
  joined,
  judgeHead,
  matchHead,
  meanLogDifference,
  overCam,
  pooledSheet,
  rpm,
  sheetBook,
  sheetsOf,
  targetBook,
  withSeat,
  work,
  cfm,
  type Build,
  type Runner,
  type SheetFacts,
  type SheetResult,
  type SheetRow,
} from '../index.js';

const setup = { reads: 'flow', depression: inchesOfWater(28) } as const;
/** Flow that rises in a straight line with lift, so that what a zero does is known: 4 cfm for each .010 in. */
const line = (times = 1, lifts = [0.1, 0.2, 0.3, 0.4, 0.5]): SheetRow[] =>
  lifts.map((l) => ({
    lift: inches(l),
    intake: { pulls: [cfm(400 * l * times)] },
    exhaust: { pulls: [cfm(300 * l * times)] },
  }));
const facts = (id: string, more: Partial<SheetFacts> = {}): SheetFacts => ({
  id,
  kind: 'measured',
  own: true,
  bench: 'own',
  checked: true,
  depression: inchesOfWater(28),
  bore: inches(4),
  entry: 'radius',
  exhaustPipe: 'piped',
  valve: 'own',
  changedSince: [],
  resolution: 0,
  ...more,
});
const runner = (id: string, rows = line(), more: Partial<SheetFacts> = {}): Runner => ({
  name: id,
  sheet: evaluateSheet(setup, rows, {}, id),
  facts: facts(id, more),
});
const ENGINE: Build = {
  bore: inches(4),
  stroke: inches(3),
  cylinders: 8,
  fuel: 'petrol',
  induction: { kind: 'natural' },
  power: horsepower(320),
  speed: rpm(5600),
};
const bookOf = (r: Runner, side: 'intake' | 'exhaust' = 'intake') => sheetBook(sheetsOf(r, side), side);
const zero = A.liftZero / Math.sqrt(3);

describe('how sure a row is', () => {
  it('is its own reading, the set-up, the bench and the zero of its lift, in quadrature (JCGM 100:2008, 5.1.2)', () => {
    const r = runner('a');
    const point = r.sheet.intake.points[2]!;
    const slope = cfm(400) / inches(1);
    const expected = Math.hypot(point.flow.value * Math.hypot(A.repeatability, A.setup, A.checkedBench), slope * zero);
    const budget = budgetOfWorking(point.flow, bookOf(r))!;
    expect(budget.u / expected).toBeCloseTo(1, 4);
    expect(budget.shares.reduce((sum, s) => sum + s.share, 0)).toBeCloseTo(1, 6);
    expect(budget.shares.map((s) => s.leaf.id).sort()).toEqual(
      ['bench:own', 'row:a:intake:7620', 'setup:a', 'zero:a'].sort(),
    );
  });
  it('by five pulls is known better than by one', () => {
    const rows = line().map((row) => ({ ...row, intake: { pulls: Array(5).fill(row.intake!.pulls[0]!) as number[] } }));
    const row = (r: Runner) =>
      budgetOfWorking(r.sheet.intake.points[2]!.flow, bookOf(r))!.shares.find((s) => s.leaf.id.startsWith('row:'))!
        .change;
    expect(row(runner('a', rows)) / row(runner('a'))).toBeCloseTo(1 / Math.sqrt(5), 4);
  });
  it('alone on its sheet it has no slope, and its zero says nothing', () => {
    const r = runner('a', line(1, [0.4]));
    const ids = budgetOfWorking(r.sheet.intake.points[0]!.flow, bookOf(r))!.shares.map((s) => s.leaf.id);
    expect(ids.some((id) => id.startsWith('zero:'))).toBe(false);
    expect(ids).toContain('setup:a');
  });
});

describe('how sure a figure made of rows is', () => {
  it('a difference of two heads on one bench: what the bench reads off cancels but for their difference', () => {
    const a = runner('a');
    const b = runner('b', line(1.3));
    const [p, q] = [a.sheet.intake.points[3]!.flow, b.sheet.intake.points[3]!.flow];
    const gain = work(flowDifference, { other: q, base: p });
    const budget = budgetOfWorking(gain, joined(bookOf(a), bookOf(b)))!;
    const bench = budget.shares.find((s) => s.leaf.id === 'bench:own');
    expect(Math.abs(bench?.change ?? 0) / (gain.value * A.checkedBench)).toBeCloseTo(1, 3);
    const own = Math.hypot(A.setup, A.repeatability);
    const slope = cfm(400) / inches(1);
    expect(budget.u).toBeCloseTo(
      Math.hypot(own * p.value, own * q.value, slope * zero, 1.3 * slope * zero, gain.value * A.checkedBench),
      7,
    );
  });
  it('exhaust over intake: one bench for both cancels, the two set-ups do not', () => {
    const r = runner('a');
    const ratio = r.sheet.ratios[3]!.ratio;
    const book = joined(bookOf(r, 'intake'), bookOf(r, 'exhaust'));
    const budget = budgetOfWorking(ratio, book)!;
    expect(budget.shares.some((s) => s.leaf.id === 'bench:own')).toBe(false);
    expect(budget.shares.map((s) => s.leaf.id)).toEqual(expect.arrayContaining(['setup:a', 'setup:a:exhaust']));
    const each = Math.hypot(A.setup, A.repeatability, zero / inches(0.4));
    expect(budget.u / (0.75 * Math.SQRT2 * each)).toBeCloseTo(1, 3);
  });
  it('a mean over the cam: what all rows share counts whole, each row by its part, and the guess below the first is said', () => {
    const cam = camProfile({ maxLift: inches(0.5), duration: (250 * Math.PI) / 180, rockerRatio: 1.5 });
    const r = runner('a');
    const mean = overCam(r.sheet.intake.curve!, cam.maxLift, cam).mean!;
    const made = sheetBook(sheetsOf(r, 'intake'), 'intake', { cam }).made.get('mean:a:intake')!;
    const of = (id: string) => made.filter((m) => m.leaf.id.startsWith(id)).reduce((s, m) => s + m.change, 0);
    expect(of('setup:') / (mean.value * A.setup)).toBeCloseTo(1, 4);
    // The rows' own parts add up to the whole where all are moved together, but for the stretch led on to zero.
    expect(of('row:') / (mean.value * A.repeatability)).toBeCloseTo(1, 2);
    expect(of('below:')).toBeGreaterThan(0);
  });
  it('a coefficient: the seat’s leaves with the flow’s, the zero of the lift once', () => {
    const valve = { diameter: inches(1.94), valves: 1 };
    const sheet = evaluateSheet(setup, line(), { intake: valve }, 'a');
    const r = { ...runner('a'), sheet };
    const budget = budgetOfWorking(sheet.intake.points[3]!.coefficients.curtain!, withSeat(bookOf(r), valve))!;
    const ids = budget.shares.map((s) => s.leaf.id);
    expect(ids).toContain('valve');
    expect(ids).toContain('zero:a');
    expect(ids).not.toContain('lift');
  });
});

describe('sheets of one port taken as one', () => {
  const first = evaluateSheet(setup, line(), {}, 'a');
  const again = evaluateSheet(setup, line(1.02, [0.2, 0.3, 0.4, 0.5, 0.6]), {}, 'b');
  const test = (result: SheetResult, id: string) => ({ result, facts: facts(id) });
  const pooled = pooledSheet({ intake: [test(first, 'a'), test(again, 'b')], exhaust: [test(first, 'a')] }, {}, 'a');

  it('are their mean at each lift; where one does not reach, the other is brought to the level of both', () => {
    const flows = pooled.intake.points.map((p) => [Math.round(p.lift / inches(0.001)), p.flow.value / cfm(1)] as const);
    expect(flows.map(([lift]) => lift)).toEqual([100, 200, 300, 400, 500, 600]);
    // The lone rows go with the mean, 1 % over the one and 1 % under the other, so that the curve has no step.
    expect(flows[0]![1]).toBeCloseTo(40 * 1.01, 9);
    expect(flows[3]![1]).toBeCloseTo((160 + 163.2) / 2, 9);
    expect(flows[5]![1]).toBeCloseTo((244.8 * 1.01) / 1.02, 9);
    expect(pooled.exhaust.points).toHaveLength(5);
    expect(meanLogDifference(again.intake.points, first.intake.points)).toBeCloseTo(Math.log(1.02), 9);
  });
  it('halve the variance of what each set-up and reading does; the bench is the same one', () => {
    const tests = [
      { name: 'a', sheet: first, facts: facts('a') },
      { name: 'b', sheet: evaluateSheet(setup, line(), {}, 'b'), facts: facts('b') },
    ];
    const both: Runner = {
      name: 'port 1',
      sheet: pooledSheet({ intake: tests.map((t) => test(t.sheet, t.name)), exhaust: [test(first, 'a')] }, {}, 'a'),
      facts: facts('a'),
      tests,
    };
    const point = both.sheet.intake.points[3]!.flow;
    const budget = budgetOfWorking(point, bookOf(both))!;
    const slope = cfm(400) / inches(1);
    const own = Math.hypot(point.value * A.setup, point.value * A.repeatability, slope * zero) / Math.SQRT2;
    expect(budget.u / Math.hypot(own, point.value * A.checkedBench)).toBeCloseTo(1, 4);
  });
  it('do what the act “test it again” promised of the verdict', () => {
    const build: Build = { ...ENGINE, power: horsepower(405), powerPerFlow: horsepowerPerCfm(0.257) };
    const target = evaluateTarget(build);
    const one = runner('a');
    const judged = (r: Runner) => judgeHead(build, target, {}, matchHead(build, target, {}, [r]));
    const before = judged(one);
    const act = before.settling.find((s) => s.settle.act === 'take a off and test it again')!;
    const tests = [one, runner('b')].map(({ name, sheet, facts: f }) => ({ name, sheet, ...(f ? { facts: f } : {}) }));
    const sheet = pooledSheet(
      { intake: tests.map((t) => test(t.sheet, t.name)), exhaust: [test(one.sheet, 'a')] },
      {},
      'a',
    );
    const after = judged({ ...one, sheet, tests });
    expect(after.margin!.u).toBeLessThan(before.margin!.u);
    // A second test also repeats the readings, so that it does a little more than its set-up alone promises.
    expect(after.margin!.u).toBeLessThanOrEqual(act.after * 1.01);
    expect(after.margin!.u / act.after).toBeGreaterThan(0.9);
    expect(after.evidence.map((e) => e.code)).not.toContain('pooled');
  });
  it('further apart than two set-ups explain are said, and nothing sure is said of them', () => {
    const build: Build = { ...ENGINE, power: horsepower(200), speed: rpm(4500) };
    const target = evaluateTarget(build);
    const judged = (by: number) => {
      const times = by / expectedApart(facts('a'), facts('b'), A);
      const r: Runner = { ...runner('a'), pooled: { count: 2, apart: { by, times, names: ['one', 'other'] } } };
      return judgeHead(build, target, { pinch: 2e-3 }, matchHead(build, target, { pinch: 2e-3 }, [r]));
    };
    expect(judged(0.01).evidence.map((e) => e.code)).toContain('pooled');
    expect(judged(0.01).degree).toBe('carries');
    expect(judged(0.08).evidence.find((e) => e.code === 'sheets apart')).toMatchObject({ count: 2 });
    expect(judged(0.08).degree).toBe('probably carries');
  });
});

describe('how sure a target’s figures are', () => {
  const build: Build = { ...ENGINE, resolution: { bore: inches(0.0005), stroke: inches(0.0005) } };
  it('flow asked of a port is as unsure as power per flow: the triangle from 0.24 to 0.28', () => {
    const target = evaluateTarget(build);
    const budget = budgetOfWorking(target.demand!, targetBook(build, target))!;
    const [a, b, c] = [0.24, 0.257, 0.28];
    const u = Math.sqrt((a * a + b * b + c * c - a * b - a * c - b * c) / 18) / 0.257;
    expect(budget.u / target.demand!.value / u).toBeCloseTo(1, 2);
    expect(budget.shares.map((s) => s.leaf.id)).toEqual(['k']);
  });
  it('a displacement is as sure as its bore and stroke were written', () => {
    const target = evaluateTarget(build);
    const half = inches(0.0005) / Math.sqrt(3);
    const expected = target.displacement.value * Math.hypot((2 * half) / inches(4), half / inches(3));
    expect(budgetOfWorking(target.displacement, targetBook(build, target))!.u / expected).toBeCloseTo(1, 4);
    expect(budgetOfWorking(target.torque, targetBook(build, target))).toBeUndefined();
  });
  it('of boosted and nitrous engines rests on the charge and on what the nitrous adds', () => {
    const ids = (induction: Build['induction']) => {
      const own = { ...build, induction };
      const target = evaluateTarget(own);
      return budgetOfWorking(target.demand!, targetBook(own, target))!.shares.map((s) => s.leaf.id);
    };
    expect(ids({ kind: 'boosted', pressureRatio: 1.5, chargeTemperature: 320, ambientTemperature: 293 })).toContain(
      'charge',
    );
    expect(ids({ kind: 'nitrous', power: horsepower(100) })).toContain('nitrous');
  });
});

import fc from 'fast-check';
import { Matrix, inverse } from 'ml-matrix';
import { Refusal } from '../refusal/refusal.js';
import { describe, expect, it } from 'vitest';
import {
  USUAL_REPEATABILITY,
  cfm,
  chanceOfAtLeast,
  claimDoubts,
  claimQuestions,
  comparableSizes,
  countsBeyond,
  cubicInches,
  feetPerSecond,
  flowCurve,
  flowLikeness,
  gainWords,
  gainsOf,
  horsepower,
  horsepowerPerCfm,
  inches,
  isWorking,
  evaluateSheet,
  evaluateTarget,
  inchesOfWater,
  judgeHead,
  judgeReport,
  matchHead,
  likeness,
  listed,
  millimetres,
  nearestRunner,
  noted,
  repeatabilityOf,
  reportWords,
  rpm,
  runnerWords,
  sameOrDifferent,
  sameWords,
  sayIn,
  sideBySide,
  sourceOffsets,
  squareInches,
  type Build,
  type OffsetData,
} from '../index.js';

const say = sayIn('inch');
const LIFTS = [0.1, 0.2, 0.3, 0.4, 0.5].map(inches);
const curveOf = (...flows: number[]) => flowCurve(flows.map((q, i) => ({ lift: LIFTS[i]!, flow: cfm(q) })))!;
const base = curveOf(56, 112, 154, 178, 186);

describe('repeatability of a bench', () => {
  it('pools the scatter of every point pulled more than once', () => {
    // Two pulls ±1 % about their mean: s = √2 %, at each of twelve points.
    const pulls = Array.from({ length: 12 }, () => [99, 101]);
    const found = repeatabilityOf([...pulls, [150]]);
    expect(isWorking(found) && found.value).toBeCloseTo(0.01 * Math.SQRT2, 9);
  });
  it('is the usual one, said so, while there are too few pulls', () => {
    const found = repeatabilityOf([[99, 101], [50], [0, 0]]);
    expect(found).toMatchObject({ value: USUAL_REPEATABILITY, note: expect.stringContaining('1 repeated pulls') });
  });
});

describe('publications side by side', () => {
  it('lie apart by their range over their mean; a table that does not reach a lift is left out there', () => {
    const rows = sideBySide([base, curveOf(57, 115, 158, 183)], LIFTS);
    expect(rows).toHaveLength(4);
    expect(rows[3]!.spread!.value).toBeCloseTo(5 / 180.5, 9);
    expect(sideBySide([base], LIFTS)).toEqual([]);
    expect(sideBySide([base, flowCurve(base.points.slice(3))!], LIFTS)[0]!.lift).toBe(LIFTS[3]);
  });
  it('a table lies nearest to the runner it was taken from, its source’s offset taken off', () => {
    const worse = curveOf(54, 108, 147, 170, 178);
    const runners = [
      { name: 'port 1', curve: worse },
      { name: 'port 3', curve: base },
    ];
    const table = base.points.map((p) => ({ ...p, flow: p.flow * 1.03 }));
    const best = nearestRunner(table, runners, 0.005, Math.log(1.03))!;
    expect(best).toMatchObject({ told: true, fits: [{ name: 'port 3', rank: 1 }, { name: 'port 1' }] });
    expect(best.fits[0]!.apart).toBeCloseTo(0, 9);
    expect(runnerWords(best, say)).toMatch(/nearest to port 3, the best of the 2 runners.*port 1 flows 4\.2\s%\sless/);
    const low = nearestRunner(worse.points, runners, 0.005)!;
    expect(runnerWords(low, say)).toContain('nearest to port 1, the worst of the 2');
    const between = base.points.map((p, i) => ({ ...p, flow: (p.flow + worse.points[i]!.flow) / 2 }));
    expect(runnerWords(nearestRunner(between, runners, 0.005)!, say)).toContain('cannot be told which');
    expect(nearestRunner(table, [runners[0]!], 0.005)).toBeUndefined();
    expect(nearestRunner(table.slice(0, 2), runners, 0.005)).toBeUndefined();
  });
});

describe('same or different', () => {
  // Binomial tables, n = 12, p = 0.05: cumulative 0.5404 to nought, 0.8816 to one, 0.9804 to two.
  it('knows how often chance passes a limit: handbook tables of the binomial', () => {
    expect(chanceOfAtLeast(1, 12, 0.05)).toBeCloseTo(1 - 0.5404, 4);
    expect(chanceOfAtLeast(2, 12, 0.05)).toBeCloseTo(1 - 0.8816, 4);
    expect(chanceOfAtLeast(3, 12, 0.05)).toBeCloseTo(1 - 0.9804, 4);
    expect(chanceOfAtLeast(0, 12, 0.05)).toBe(1);
  });
  const name = (lift: number) => say.of(lift, 'lift');
  const held = (other: typeof base) => flowLikeness(base, other, LIFTS, 0.005, 'intake', name);
  it('one point beyond the limit does not tell two curves apart, a shifted curve does', () => {
    const limit = countsBeyond(0.005);
    const once = held(curveOf(56, 112, 154 * (1 + 1.5 * limit), 178, 186));
    expect(once.points.filter((p) => p.counts)).toHaveLength(1);
    expect(once.toldApart).toBe(false);
    expect(held(curveOf(57.5, 115, 158, 183, 191)).toldApart).toBe(true);
    expect(held(base)).toMatchObject({ toldApart: false, mean: 0 });
    // Half the curve up, half down: the mean is nought, yet too many points count for chance.
    expect(held(curveOf(59, 118, 154, 170, 177)).toldApart).toBe(true);
    expect(flowLikeness(base, base, [], 0.005, 'intake', name)).toEqual({ points: [], toldApart: false });
  });
  it('gives the three strongest reasons, of different kinds first', () => {
    const verdict = sameOrDifferent(
      [
        likeness('intake throat', 'valve job', 'length', 0.041, 0.043, millimetres(0.25)),
        likeness('intake valve diameter', 'valve job', 'length', 0.047, 0.0474, millimetres(0.1)),
        likeness('chamber volume', 'chamber', 'volume', 66e-6, 66.5e-6, 1e-6),
        likeness('intake pinch', 'port', 'area', 1.1e-3, 1.19e-3, 2e-5),
      ],
      { intake: held(curveOf(60, 120, 163, 188, 196)) },
    );
    expect(verdict).toMatchObject({ verdict: 'different', looked: 9, counting: 8 });
    expect(verdict.reasons.map((r) => r.group)).toEqual(['valve job', 'intake flow', 'port']);
    const words = sameWords(verdict, { a: 'A', b: 'B' }, say);
    expect(words).toMatch(/^Different: intake throat \(1\.614\sin against 1\.693\sin, 8\.0 times the repeatability/);
  });
  it('“not told apart” and “nothing to compare” are answers', () => {
    const alike = sameOrDifferent([likeness('throat', 'valve job', 'length', 0.041, 0.0411, 0.00025)], {
      intake: held(base),
    });
    expect(alike.verdict).toBe('not told apart');
    expect(sameWords(alike, { a: 'A', b: 'B' }, say)).toContain('does not make them the same casting');
    const none = sameOrDifferent([], {});
    expect(sameWords(none, { a: 'A', b: 'B' }, say)).toContain('Nothing was measured on both A and B');
    expect(() => likeness('x', 'sizes', 'length', 1, 2, 0)).toThrow(Refusal);
  });
  it('a curve above the other without one point that counts is told apart by its mean alone, and says so', () => {
    const quiet = { points: [], mean: 0.03, toldApart: true };
    const verdict = sameOrDifferent([likeness('throat', 'valve job', 'length', 1, 1, 1)], { intake: quiet });
    expect(sameWords(verdict, { a: 'A', b: 'B' }, say)).toContain('over its whole length');
  });
  it('sizes of another stage or port cannot be compared, an unknown instrument is a reservation', () => {
    const stated = { stage: 'as received', port: undefined, instrument: undefined };
    expect(comparableSizes(stated, { stage: 'as received', port: 'port 3', instrument: 'bore gauge' })).toMatchObject({
      may: 'reserved',
      sentence: 'They can be compared with a reservation: port and instrument are not known for both.',
    });
    const other = comparableSizes(
      { stage: 'as received', port: 'port 1', instrument: 'calipers' },
      { stage: 'bowl blend', port: 'port 1', instrument: 'bore gauge' },
    );
    expect(other.sentence).toBe('They cannot be compared: stage differs.');
    expect(other.aspects[2]!.state).toBe('same');
  });
});

describe('a claimed power', () => {
  const engine: Build = {
    displacement: cubicInches(256.8),
    cylinders: 6,
    fuel: 'petrol',
    induction: { kind: 'natural' },
    power: horsepower(290),
    speed: rpm(5600),
  };
  const sheet = evaluateSheet(
    { reads: 'flow', depression: inchesOfWater(28) },
    [57, 115, 158, 183, 196].map((q, i) => ({
      lift: LIFTS[i]!,
      intake: { pulls: [cfm(q)] },
      exhaust: { pulls: [cfm(0.75 * q)] },
    })),
  );
  const judged = (power: number, change: Partial<Build> = {}, flowed = true, choke?: number) => {
    const build = { ...engine, ...change, power: horsepower(power) };
    const target = evaluateTarget(build);
    const geometry = { pinch: squareInches(2.1) };
    const runners = flowed ? [{ name: 'port 1', sheet }] : [];
    const match = matchHead(build, target, geometry, runners);
    const verdict = judgeHead(build, target, geometry, match);
    const of = choke === undefined ? undefined : noted(squareInches(choke), 'pinch');
    return { verdict, result: judgeReport(build, target, match, verdict, of) };
  };
  it('is held against flow and BMEP: 290 hp of 196 cfm × 6 is 0.2466 hp each', () => {
    const { result } = judged(290);
    expect(result.powerPerFlow!.value / horsepowerPerCfm(1)).toBeCloseTo(290 / (196 * 6), 9);
    // BMEP = 150.8 T/V, T = 5252 hp/rpm (method of the trade, exact by definition): 272.0 lb ft, 159.7 psi.
    expect(result.bmep.value / 6894.757).toBeCloseTo((150.8 * ((290 * 5252) / 5600)) / 256.8, 0);
    expect(result).toMatchObject({ verdict: 'believable', band: 'strong' });
    expect(reportWords(result, say)).toMatch(/^Believable: BMEP 160\spsi is that of a strong engine; each cfm/);
  });
  it('is said with the degree every other page says: 435 hp on 197 cfm of eight cylinders falls short in both', () => {
    const eight = evaluateSheet({ reads: 'flow', depression: inchesOfWater(28) }, [
      { lift: LIFTS[3]!, intake: { pulls: [cfm(180)] }, exhaust: { pulls: [cfm(140)] } },
      { lift: LIFTS[4]!, intake: { pulls: [cfm(197)] }, exhaust: { pulls: [cfm(150)] } },
    ]);
    const build = { ...engine, displacement: cubicInches(400), cylinders: 8, power: horsepower(435) };
    const target = evaluateTarget(build);
    const runners = [{ name: 'port 1', sheet: eight }];
    const match = matchHead(build, target, { pinch: squareInches(2.6) }, runners);
    const verdict = judgeHead(build, target, { pinch: squareInches(2.6) }, match);
    const result = judgeReport(build, target, match, verdict);
    expect(result.degree).toBe(verdict.degree);
    expect(['falls short', 'probably short']).toContain(result.degree);
    expect(result.verdict).toBe('not believable');
  });
  it('takes what nitrous adds off, as the target does', () => {
    const { result } = judged(350, { induction: { kind: 'nitrous', power: horsepower(60) } });
    expect(result.powerPerFlow!.value / horsepowerPerCfm(1)).toBeCloseTo(290 / (196 * 6), 9);
    expect(result.verdict).toBe('believable');
  });
  it('more than the flow can carry is not believable; a choke too small is a stretch; without a flow it is not judged', () => {
    expect(judged(400).result).toMatchObject({ verdict: 'not believable', degree: 'falls short' });
    expect(judged(200).result).toMatchObject({ degree: 'carries' });
    const choked = judged(270, {}, true, 1.6).result;
    // 0.00353 rpm S B²/A = 0.00353 × 5600 × (4 × 42.8/π) / 1.6 in² = 673 ft/s, whatever bore and stroke make 42.8 in³.
    expect(choked.velocity!.value / feetPerSecond(1)).toBeCloseTo(673, -1);
    expect(choked).toMatchObject({ tooFast: true });
    expect(choked.verdict).not.toBe('believable');
    expect(reportWords(choked, say)).toContain('beyond what ports are usually run at');
    expect(reportWords(judged(290, {}, false).result, say)).toMatch(/^Not judged by this head/);
  });
});

describe('which head to test next', () => {
  // Source 1 shares two points with our bench, source 2 two with source 1; source 3 shares none.
  const data: OffsetData = {
    point: [0, 0, 1, 1, 2, 2, 3, 3, 4],
    source: [0, 1, 0, 1, 1, 2, 1, 2, 3],
    logFlow: new Float64Array(9),
    sources: 4,
    own: 0,
  };
  it('ties a loose source first; the errors it promises are those of a dense solution of the net with it', () => {
    const sigma = 0.01;
    const gains = gainsOf(
      data,
      [
        { key: 'sharp', points: [2, 3] },
        { key: 'tie', points: [4] },
        { key: 'idle', points: [] },
      ],
      sigma,
    );
    expect(gains.map((g) => g.key)).toEqual(['tie', 'sharp']);
    expect(gains[0]).toMatchObject({ ties: [3], sharpens: [] });
    /** Standard errors of sources 1 and 2 from the whole design matrix, by ml-matrix. */
    const dense = (rows: readonly [point: number, source: number][]) => {
      const x = Matrix.zeros(rows.length, 6);
      rows.forEach(([p, s], i) => {
        x.set(i, p, 1);
        if (s > 0) x.set(i, 3 + s, 1);
      });
      const c = inverse(x.transpose().mmul(x));
      return [4, 5].map((k) => sigma * Math.sqrt(c.get(k, k)));
    };
    const now: [number, number][] = [
      [0, 0],
      [0, 1],
      [1, 0],
      [1, 1],
      [2, 1],
      [2, 2],
      [3, 1],
      [3, 2],
    ];
    const before = dense(now);
    const after = dense([...now, [2, 0], [3, 0]]);
    const of = (source: number) => gains[1]!.sharpens.find((s) => s.source === source)!;
    [1, 2].forEach((s, i) => {
      expect(of(s).before).toBeCloseTo(before[i]!, 12);
      expect(of(s).after).toBeCloseTo(after[i]!, 12);
    });
    expect(gains[1]!.sharpens[0]!.source).toBe(2);
    const names = ['Bench', 'Room', 'Shop', 'Flyer'];
    expect(gainWords(gains[0]!, 'That head', (i) => names[i]!, say)).toBe(
      'That head, tested now on your own bench, would tie Flyer to your bench.',
    );
    expect(gainWords(gains[1]!, 'That head', (i) => names[i]!, say)).toMatch(/sharpen Shop from ±\d\.\d\s%\sto/);
  });
});

describe('any net of sources', () => {
  /** Nets of up to six sources over up to twelve points, each seen by some of them. */
  const net = fc
    .array(fc.uniqueArray(fc.integer({ min: 0, max: 5 }), { minLength: 1, maxLength: 4 }), {
      minLength: 1,
      maxLength: 12,
    })
    .map((points): OffsetData => {
      const rows = points.flatMap((sources, point) => sources.map((source) => ({ point, source })));
      return {
        point: rows.map((r) => r.point),
        source: rows.map((r) => r.source),
        logFlow: rows.map((r) => 5 + 0.01 * r.source),
        sources: 6,
        own: 0,
      };
    });
  it('a test of ours never makes an error larger, and ties what it touches', () => {
    fc.assert(
      fc.property(net, fc.nat(11), (data, chosen) => {
        const point = chosen % (Math.max(...Array.from(data.point)) + 1);
        const seen = Array.from(data.source).filter((_, i) => data.point[i] === point);
        const tied = sourceOffsets(data, { threshold: Infinity }).offsets;
        for (const gain of gainsOf(data, [{ key: 'x', points: [point] }], 0.01)) {
          for (const s of gain.sharpens) expect(s.after).toBeLessThan(s.before);
          for (const s of gain.ties) expect(tied[s]!.tied && tied[s]!.shared > 0).toBe(false);
          if (gain.ties.length > 0) expect(seen.some((s) => gain.ties.includes(s))).toBe(true);
        }
      }),
    );
  });
  it('without scatter every tied source has the offset it was given', () => {
    fc.assert(
      fc.property(net, (data) => {
        for (const o of sourceOffsets(data).offsets) {
          if (o.tied) expect(o.offset).toBeCloseTo(0.01 * o.source, 9);
          else expect(o).toMatchObject({ offset: 0, error: Infinity });
        }
      }),
    );
  });
});

describe('what is asked about a claim', () => {
  it('a lift beyond half the valve, an exhaust that flows more than the intake', () => {
    const valve = { diameter: inches(1.85), valves: 1 };
    const { intake, exhaust } = evaluateSheet(
      { reads: 'flow' },
      [0.3, 0.6, 1.2].map((l) => ({
        lift: inches(l),
        intake: { pulls: [cfm(150)] },
        exhaust: { pulls: [cfm(l > 0.5 ? 160 : 120)] },
      })),
      { intake: valve, exhaust: valve },
    );
    const doubts = claimDoubts({ intake: intake.points, exhaust: exhaust.points });
    expect(doubts.beyondValve).toEqual([inches(1.2)]);
    expect(doubts.exhaustAhead).toEqual([inches(0.6), inches(1.2)]);
    expect(claimQuestions(doubts, say)).toEqual([
      expect.stringMatching(/^Lift 1\.200 lies beyond half/),
      expect.stringMatching(/^At \.600 and 1\.200 the exhaust/),
    ]);
    expect(claimQuestions(claimDoubts({ intake: [], exhaust: [] }), say)).toEqual([]);
  });
  it('lists are written as they are spoken', () => {
    expect([listed([]), listed(['a']), listed(['a', 'b', 'c'])]).toEqual(['', 'a', 'a, b and c']);
  });
});

import { describe, expect, it } from 'vitest';
import {
  bestsOf,
  cfm,
  claimUncertainty,
  claimWords,
  coefficientOfPlace,
  comparable,
  createBand,
  ENOUGH_HEADS,
  evaluateSide,
  flowCurve,
  inches,
  inchesOfWater,
  judgeClaim,
  millimetres,
  offsetCorrection,
  sayIn,
  settleWords,
  squareInches,
  throughWords,
  tightest,
  usualBest,
  verdictOf,
  work,
  type BandPoint,
  type Conditions,
} from '../index.js';

const say = sayIn('inch');
const plain = (s: string) => s.replaceAll('\u00a0', ' ');
const known: Conditions = {
  depression: inchesOfWater(28),
  bore: 0.098,
  entry: 'radius',
  exhaustPipe: 'bare',
  valve: 'own',
  port: 'port 3',
};

describe('the rule book', () => {
  it('lets like be compared freely, and converts a depression', () => {
    expect(comparable(known, known, 'intake')).toMatchObject({
      may: 'freely',
      sentence: 'They can be compared as they are.',
    });
    const ten = comparable(known, { ...known, depression: inchesOfWater(10) }, 'intake');
    expect(ten).toMatchObject({ may: 'freely', sentence: 'They can be compared once brought to one depression.' });
  });
  it.each([
    ['bore', { bore: 0.1048 }, 'intake'],
    ['entry', { entry: 'manifold' }, 'intake'],
    ['pipe', { exhaustPipe: 'piped' }, 'exhaust'],
    ['valves', { valve: 'other' }, 'intake'],
    ['port', { port: 'port 1' }, 'intake'],
  ] as const)('a different %s cannot be converted', (what, change, side) => {
    const { may, sentence } = comparable(known, { ...known, ...change }, side);
    expect(may).toBe('not');
    expect(sentence).toBe(`They cannot be compared: ${what} differs.`);
  });
  it('the pipe says nothing of the intake, nor the entry of the exhaust', () => {
    expect(comparable(known, { ...known, exhaustPipe: 'piped' }, 'intake').may).toBe('freely');
    expect(comparable(known, { ...known, entry: 'clay' }, 'exhaust').may).toBe('freely');
  });
  it('unknown stays unknown: compared with a reservation that names it', () => {
    const { may, sentence } = comparable(known, { ...known, depression: undefined, bore: undefined }, 'intake');
    expect(may).toBe('reserved');
    expect(sentence).toContain('depression and bore are not known for both');
  });
});

/** The worked valve of the method: 2.08 in, 45°, throat 1.88 in. */
const valve = {
  diameter: inches(2.08),
  throat: inches(1.88),
  stem: inches(0.34),
  seatWidth: millimetres(1.5),
  seatAngle: Math.PI / 4,
  valves: 1,
};
const claim = (flows: Record<string, number>) =>
  evaluateSide(
    { reads: 'flow', depression: inchesOfWater(28) },
    Object.entries(flows).map(([lift, q]) => ({ lift: inches(Number(lift)), intake: { pulls: [cfm(q)] } })),
    'intake',
    valve,
  ).points;
const measured = flowCurve(
  [0.1, 0.2, 0.3, 0.4, 0.5].map((l, i) => ({ lift: inches(l), flow: cfm([62, 125, 180, 220, 240][i]!) })),
)!;
const bandOf = (points: readonly BandPoint[]) => {
  const band = createBand();
  for (const p of points) band.add(bestsOf([p]));
  return band;
};
/** Two benches of 1.8 % each and two set-ups of half a percent; repeats of half a percent. */
const SPREAD = { level: Math.hypot(0.018, 0.018, 0.005, 0.005), row: 0.005 * Math.SQRT2 };
const facts = (flows: Record<string, number>, more: object = {}) => ({
  points: claim(flows),
  measured,
  may: 'freely' as const,
  band: createBand().at,
  spread: SPREAD,
  ...more,
});

describe('a claimed point', () => {
  it('has the coefficients of the method: 270 cfm at .400 on 2.08 in is 0.708 on the curtain, 261 is 0.684', () => {
    const [a] = claim({ 0.4: 270 });
    const [b] = claim({ 0.4: 261 });
    expect(a!.coefficients.curtain!.value).toBeCloseTo(0.708, 3);
    // The method rounds 0.6845 down.
    expect(Math.abs(b!.coefficients.curtain!.value - 0.684)).toBeLessThan(0.001);
  });
  it('no valve passes more than its minimum area can', () => {
    const {
      points: [p],
    } = judgeClaim(facts({ 0.1: 130 }));
    expect(claim({ 0.1: 130 })[0]!.coefficients.minimum!.value).toBeGreaterThan(1);
    expect(p!.verdict).toBe('impossible');
  });
  it('on an assumed seat a coefficient just above 1 is a question to the figures, not an impossibility', () => {
    // 1.65 and 1.77 in valves, 63 and 55 cfm at .100, measured on our own bench: 1.07 to 1.14 on an assumed seat.
    for (const [d, q] of [
      [1.65, 55],
      [1.77, 63],
    ] as const) {
      const [p] = evaluateSide(
        { reads: 'flow', depression: inchesOfWater(28) },
        [{ lift: inches(0.1), intake: { pulls: [cfm(q)] } }],
        'intake',
        { diameter: inches(d), valves: 1 },
      ).points;
      expect(p!.aboveOne === undefined || p!.aboveOne === 'within its uncertainty').toBe(true);
      expect(judgeClaim({ ...facts({}), points: [p!] }).points[0]!.verdict).not.toBe('impossible');
    }
  });
  it('a waist that would run faster than the depression drives is beyond the usual, never impossible', () => {
    const {
      points: [p],
    } = judgeClaim(facts({ 0.5: 240 }, { places: [{ name: 'pinch', area: squareInches(1.5) }] }));
    expect(p).toMatchObject({ verdict: 'holds', tooFast: true });
    const words = claimWords(
      judgeClaim(facts({ 0.5: 240 }, { places: [{ name: 'pinch', area: squareInches(1.5) }] })),
      'holds',
      say,
    );
    expect(plain(words)).toMatch(
      /^Agrees .* At \.500 the air at the tightest place would run at \d+ ft\/s, beyond the usual/,
    );
    expect(
      judgeClaim(facts({ 0.5: 240 }, { places: [{ name: 'pinch', area: squareInches(2.2) }] })).points[0]!.tooFast,
    ).toBe(false);
  });
  it('the tightest of the places known speaks: a window smaller than the pinch', () => {
    const places = [
      { name: 'pinch', area: squareInches(2.2) },
      { name: 'window', area: squareInches(1.5) },
    ];
    expect(tightest(places)!.name).toBe('window');
    expect(tightest([])).toBeUndefined();
    const {
      points: [p],
    } = judgeClaim(facts({ 0.5: 240 }, { places }));
    expect(p).toMatchObject({ tooFast: true, speed: { given: { area: { note: 'window' } } } });
    // Through 1.5 in² at the ideal 145.9 cfm per in² of 28 in (√(2Δp/ρ) in air of 1.225 kg/m³): 218.8 cfm.
    const {
      points: [all],
    } = judgeClaim(facts({ 0.5: 218.6 }, { places }));
    expect(all!.tooFast).toBe(false);
    expect(coefficientOfPlace(squareInches(1.5), squareInches(2))).toBe(0.75);
  });
  it('read through what its source reads off on other heads, a high claim may hold', () => {
    const source = { offset: Math.log(1.08), spread: { level: 0.008, row: SPREAD.row } };
    const judged = judgeClaim(facts({ 0.2: 135, 0.3: 194.4, 0.4: 237.6 }, { source }));
    expect(verdictOf(judged)).toBe('high');
    expect(judged.points[0]!.through!.error.value).toBeCloseTo(0, 9);
    expect(judged.points[0]!.through!.uncertainty.value).toBeCloseTo(1.96 * Math.hypot(0.008, SPREAD.row), 6);
    expect(throughWords(judged, 3, say)).toMatch(/on 3 other heads it holds, .*the source reads off, not this head/);
    const still = judgeClaim(facts({ 0.2: 147, 0.3: 211, 0.4: 258 }, { source }));
    expect(throughWords(still, 1, say)).toMatch(/on 1 other head it is still 8\.\d\s% high/);
    const fair = judgeClaim(facts({ 0.2: 125, 0.3: 180 }, { source: { ...source, offset: 0.001 } }));
    expect(throughWords(fair, 2, say)).toContain('holds as well');
    expect(throughWords(judgeClaim(facts({ 0.2: 130 })), 1, say)).toBe('');
  });
  it('a row holds within what benches, set-ups and pulls differ by', () => {
    const { points } = judgeClaim(facts({ 0.2: 125.5, 0.3: 192, 0.4: 205 }));
    expect(points.map((p) => p.verdict)).toEqual(['holds', 'high', 'low']);
    // 1.96 standard deviations of two benches (1.8 %), two set-ups and two pulls (half a percent each).
    expect(points[0]!.uncertainty.value).toBeCloseTo(1.96 * Math.sqrt(2 * (0.018 ** 2 + 0.005 ** 2 + 0.005 ** 2)), 9);
    expect(work(claimUncertainty, { level: 0.03, row: 0.04 }).value).toBeCloseTo(0.098, 9);
  });
  it('is not held against a test that cannot be compared, nor against nothing', () => {
    expect(judgeClaim(facts({ 0.3: 190 }, { may: 'not' })).points[0]!.verdict).toBe('not comparable');
    expect(judgeClaim(facts({ 0.3: 190 }, { measured: undefined })).points[0]!.verdict).toBe(
      'nothing to hold it against',
    );
    expect(judgeClaim(facts({ 0.6: 240 })).points[0]!.verdict).toBe('nothing to hold it against');
  });
  it('stands in the band of all measured heads at its lift ratio', () => {
    const ratio = 0.4 / 2.08;
    const library = Array.from({ length: ENOUGH_HEADS }, (_, i) => ({
      liftRatio: ratio + 0.01 * (i % 2),
      coefficient: 0.5 + 0.02 * i,
      head: `h${i}`,
    })).sort((a, b) => a.liftRatio - b.liftRatio);
    expect(bandOf(library).at(ratio, 0.55)).toMatchObject({ heads: 5, best: 0.58, usual: false, percentile: 0.6 });
    expect(judgeClaim(facts({ 0.4: 270 }, { band: bandOf(library).at })).points[0]!.verdict).toBe(
      'beyond anything measured',
    );
    expect(judgeClaim(facts({ 0.4: 222 }, { band: bandOf(library).at })).points[0]!.verdict).toBe('holds');
    // With too few heads of its own the library does not speak, and says so.
    expect(bandOf(library.slice(1)).at(ratio, 0.55)).toMatchObject({ heads: 4, usual: true });
    expect(usualBest(0.01)).toBe(0.82);
    expect(usualBest(0.225)).toBeCloseTo(0.63, 9);
    expect(usualBest(0.9)).toBe(0.38);
  });
  it('a grave point speaks for the claim; else all its lifts together', () => {
    expect(verdictOf(judgeClaim(facts({ 0.1: 130, 0.3: 190 })))).toBe('impossible');
    expect(verdictOf(judgeClaim(facts({ 0.3: 190, 0.4: 205 })))).toBe('holds');
    expect(verdictOf(judgeClaim(facts({ 0.3: 190 }, { may: 'not' })))).toBe('not comparable');
    expect(verdictOf({ points: [] })).toBeUndefined();
  });
});

describe('the claim as a whole, in words', () => {
  const off = (by: (lift: number) => number, lifts = [0.1, 0.2, 0.3, 0.4, 0.5]) =>
    judgeClaim(facts(Object.fromEntries(lifts.map((l) => [l, (measured.at(inches(l))! / cfm(1)) * (1 + by(l))]))));
  const words = (by: (lift: number) => number, lifts?: number[]) => {
    const judged = off(by, lifts);
    return plain(claimWords(judged, verdictOf(judged), say));
  };
  it('what benches explain agrees, whatever one row says', () => {
    expect(words(() => 0.03)).toBe(
      'Agrees as benches do: 3.0 % high on average, where two benches may differ by 5.4 %.',
    );
    expect(words((l) => (Math.round(l * 10) % 2 ? 0.02 : -0.02))).toMatch(/^Agrees as benches do/);
  });
  it('a level beyond benches is said with how much', () => {
    expect(words(() => 0.08)).toBe('Over-claims 8.0 %, much the same at every lift; two benches may differ by 5.4 %.');
    expect(words(() => -0.08)).toMatch(/^Reads low by 8.0 %, much the same at every lift/);
  });
  it('an error that grows or shrinks is said from end to end', () => {
    expect(words((l) => 0.02 + 0.18 * l)).toBe(
      'Over-claims 4 to 11 %, growing with lift; two benches may differ by 5.4 %.',
    );
    expect(words((l) => 0.13 - 0.2 * l)).toMatch(/^Over-claims 3 to 11 %, shrinking with lift/);
  });
  it('one that changes sign is judged where an engine’s air goes', () => {
    expect(words((l) => 0.1 - 0.3 * l)).toBe(
      'Low from .400 up, where it counts, by as much as 5 %; high below, by as much as 7 %.',
    );
    expect(verdictOf(off((l) => 0.1 - 0.3 * l))).toBe('low');
  });
  it('a row of ours in question is named first, and nothing is held against it', () => {
    const judged = judgeClaim(facts({ 0.2: 126, 0.3: 150, 0.4: 221 }, { doubted: [inches(0.3)] }));
    expect(judged.points.map((p) => p.verdict)).toEqual(['holds', 'own reading in question', 'holds']);
    expect(judged.whole!.count).toBe(2);
    expect(claimWords(judged, verdictOf(judged), say, { lifts: [inches(0.3)], title: 'Ours' })).toMatch(
      /^Look at your own reading first: \.300 of “Ours” breaks its curve.* Agrees as benches do/,
    );
    const alone = judgeClaim(facts({ 0.3: 150 }, { doubted: [inches(0.3)] }));
    expect(verdictOf(alone)).toBe('own reading in question');
  });
  it('what a pipe is worth is added to what was measured bare', () => {
    const converts = { by: Math.log(1.08), note: 'from 5 ports' };
    const judged = judgeClaim(facts({ 0.2: 135, 0.3: 194.4, 0.4: 237.6 }, { converts }));
    expect(judged.whole!.level).toBeCloseTo(0, 9);
    expect(verdictOf(judged)).toBe('holds');
    expect(judged.points[0]!.measured! / cfm(1)).toBeCloseTo(135, 6);
  });
  it('is said in words', () => {
    expect(claimWords({ points: [] }, undefined, say)).toBe('It claims no flow here.');
    const impossible = judgeClaim(facts({ 0.1: 130 }));
    expect(claimWords(impossible, 'impossible', say)).toContain('no valve of this size');
    const fast = judgeClaim(facts({ 0.5: 240 }, { places: [{ name: 'pinch', area: squareInches(1.5) }] }));
    expect(claimWords(fast, 'holds', say)).toContain('beyond the usual');
    expect(settleWords('high', ['the bore'], 'port 3', true)).toContain('Ask the source for the bore');
    expect(settleWords('high', [], 'port 3', true)).toContain('control head');
    expect(settleWords('nothing to hold it against', [], 'port 3', false)).toContain('Test port 3');
    expect(settleWords('holds', [], undefined, true)).toBe('');
  });
});

describe('read through an offset', () => {
  it('a source that reads 3 % high is brought down by it', () => {
    const { value } = work(offsetCorrection, { flow: cfm(206), offset: Math.log(1.03) });
    expect(value / cfm(1)).toBeCloseTo(200, 9);
  });
});

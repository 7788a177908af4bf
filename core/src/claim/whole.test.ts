/** The whole test against one that knows what the worlds are made of. Everything here is drawn in this file. */
import { random } from '../uncertainty/random.js';
import { describe, expect, it } from 'vitest';
import { claimSpread, judgeWhole, USUAL_ASSUMPTIONS, type SheetFacts } from '../index.js';

/**
 * Common practice, no source: good benches agree on a control head within 3.5 %, nineteen times in twenty; a head set up again
 * reads half a percent off, a pull as much.
 */
const WORLD = { bench: 0.035 / 1.96, setup: 0.005, pull: 0.005 };
const LIFTS = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6].map((l) => l * 0.0254);
const TRIALS = Number(process.env.CLAIMS ?? 2_000);

const facts = (bench: string): SheetFacts => ({
  id: bench,
  kind: 'measured',
  own: bench === 'ours',
  bench,
  checked: false,
  depression: 6974.5,
  bore: 0.1,
  entry: 'radius',
  exhaustPipe: 'bare',
  valve: 'own',
  changedSince: [],
  resolution: 0,
});
/** A shop that has taken enough heads off and on again to know its set-ups. */
const shop = { ...USUAL_ASSUMPTIONS, setup: 0.0055, freedom: { setup: 40, bench: 5 } };
const spread = claimSpread(facts('theirs'), [facts('ours')], shop, WORLD.pull);

function normals(seed: number): () => number {
  const draw = random(seed);
  return () => Math.sqrt(-2 * Math.log(1 - draw())) * Math.cos(2 * Math.PI * draw());
}

/** Share of claims of heads over-claimed by `by` that are accused: by us, and by a test that knows the spreads. */
function accused(by: (i: number) => number, seed: number): { ours: number; ideal: number } {
  const z = normals(seed);
  let [ours, ideal] = [0, 0];
  for (let t = 0; t < TRIALS; t++) {
    const level = WORLD.bench * z() - WORLD.bench * z() + WORLD.setup * z() - WORLD.setup * z();
    const rows = LIFTS.map((lift, i) => ({ lift, off: Math.log1p(by(i)) + level + WORLD.pull * (z() - z()) }));
    if (judgeWhole(rows, spread)!.verdict !== 'holds') ours++;
    const mean = rows.reduce((s, r) => s + r.off, 0) / rows.length;
    const known = Math.sqrt(2 * (WORLD.bench ** 2 + WORLD.setup ** 2 + WORLD.pull ** 2 / rows.length));
    if (Math.abs(mean) > 1.96 * known) ideal++;
  }
  return { ours: ours / TRIALS, ideal: ideal / TRIALS };
}

describe('a claim judged by one test over its lifts', () => {
  it('accuses few honest claims', () => {
    expect(accused(() => 0, 11).ours).toBeLessThanOrEqual(0.07);
  });
  it.each([0.08, -0.08, 0.12])('finds claims off by %f as an ideal test does', (by) => {
    const { ours, ideal } = accused(() => by, 12);
    expect(ideal).toBeGreaterThan(0.78);
    expect(ours).toBeGreaterThan(ideal - 0.03);
  });
  it('finds one that grows with lift and is right in the middle, which a level alone does not', () => {
    const { ours, ideal } = accused((i) => 0.03 * (i - 2.5), 13);
    expect(ours).toBeGreaterThan(0.95);
    expect(ideal).toBeLessThan(0.15);
  });
});

describe('what a claim and our own tests may lie apart', () => {
  const level = (ours: SheetFacts[], offset?: number, claim = facts('theirs')) =>
    claimSpread(claim, ours, USUAL_ASSUMPTIONS, 0.005, offset).level;
  const { setup, otherBench, uncheckedBench, checkedBench } = USUAL_ASSUMPTIONS;
  it('two benches and two set-ups', () => {
    expect(level([facts('ours')])).toBeCloseTo(Math.hypot(setup, setup, otherBench, uncheckedBench), 9);
  });
  it('less by our own tests repeated, no less for the bench; less by a checked bench', () => {
    const again = [facts('ours'), { ...facts('ours'), id: 'again' }];
    expect(level(again)).toBeCloseTo(Math.hypot(setup, setup / Math.SQRT2, otherBench, uncheckedBench), 9);
    expect(level([{ ...facts('ours'), checked: true }])).toBeCloseTo(
      Math.hypot(setup, setup, otherBench, checkedBench),
      9,
    );
  });
  it('no bench at all on one bench, or where its offset is known', () => {
    expect(level([facts('ours')], undefined, facts('ours'))).toBeCloseTo(Math.hypot(setup, setup), 9);
    expect(level([facts('ours')], 0.004)).toBeCloseTo(Math.hypot(setup, setup, 0.004), 9);
  });
});

import { evaluateSheet, evaluateTarget, judgeHead, matchHead, type Build } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { CFM, HP, INCH, numbers } from './test/numbers.js';

/**
 * Calibration of the odds: truth is drawn, sheets are made of it by a generator of this file that uses nothing of the
 * program, and of all heads said to carry with so many in a hundred, so many must carry. `npm run proof` does ten thousand.
 */
const HEADS = Number(process.env.ODDS_HEADS ?? 1000);

interface World {
  /** Power per flow, hp/cfm: least, likeliest, most. */
  readonly k: readonly [number, number, number];
  readonly setup: number;
  readonly row: number;
  readonly bench: number;
}
/** What the program takes as usual. */
const AS_ASSUMED: World = { k: [0.24, 0.257, 0.28], setup: 0.01, row: 0.005, bench: 0.02 };

/** Stated odds and outcome of one made-up head. */
function head(random: ReturnType<typeof numbers>, world: World): { odds: number; carries: boolean } {
  const { uniform, normal, triangular } = random;
  const bore = (3.6 + 0.8 * uniform()) * INCH;
  const stroke = (3.2 + 0.8 * uniform()) * INCH;
  const cylinders = uniform() < 0.5 ? 6 : 8;
  const lift = (0.4 + 0.2 * uniform()) * INCH;
  const top = (170 + 120 * uniform()) * CFM;
  const rise = (0.12 + 0.06 * uniform()) * INCH;
  const flow = (l: number) => top * Math.tanh(l / (1.6 * rise));
  const speed = (5000 + 2500 * uniform()) / 60;
  const peakPiston = 1.618 * (1 + 0.03 * (2 * uniform() - 1));
  const velocity = 613 * 0.3048 * (1 + 0.05 * (2 * uniform() - 1));
  // Sizes about where the area just suffices, and powers about what the flow carries; both reach well beyond what is
  // uncertain of them, so that their edges tell nothing the program could not know.
  const area = ((peakPiston * 2 * stroke * speed * (Math.PI / 4) * bore ** 2) / velocity) * (0.82 + 0.5 * uniform());
  const k = (triangular(...world.k) * HP) / CFM;
  const power = ((0.257 * HP) / CFM) * flow(lift) * cylinders * (0.78 + 0.44 * uniform());
  const carries =
    k * flow(lift) * cylinders > power && velocity * area > peakPiston * 2 * stroke * speed * (Math.PI / 4) * bore ** 2;

  const zero = 0.002 * INCH * (2 * uniform() - 1);
  const common = world.setup * normal() + world.bench * normal();
  const rows = Array.from({ length: 7 }, (_, i) => {
    const at = 0.1 * (i + 1) * INCH;
    // The dial says `at`; the valve stands where its zero put it.
    return {
      lift: at,
      intake: { pulls: [flow(at + zero) * Math.exp(common + world.row * normal())] },
      exhaust: { pulls: [0.75 * flow(at)] },
    };
  });
  const build: Build = {
    bore,
    stroke,
    cylinders,
    fuel: 'petrol',
    induction: { kind: 'natural' },
    power,
    speed,
    cam: { intakeLift: lift, rockerRatio: 1.5 },
  };
  const target = evaluateTarget(build);
  const geometry = { pinch: area * (1 + 0.02 * normal()) };
  const runners = [
    {
      name: 'port 1',
      sheet: evaluateSheet({ reads: 'flow', depression: 28 * 249.089 }, rows),
      geometry,
    },
  ];
  const match = matchHead(build, target, geometry, runners);
  return { odds: judgeHead(build, target, geometry, match).odds!, carries };
}

/** By tenths of stated odds: how many, what was stated on average, what came out. */
function bins(world: World, seed: number) {
  const random = numbers(seed);
  const all = Array.from({ length: 10 }, () => ({ n: 0, stated: 0, carried: 0 }));
  for (let i = 0; i < HEADS; i++) {
    const { odds, carries } = head(random, world);
    const bin = all[Math.min(9, Math.floor(odds * 10))]!;
    bin.n++;
    bin.stated += odds;
    if (carries) bin.carried++;
  }
  return all.filter((b) => b.n > 0).map((b) => ({ n: b.n, stated: b.stated / b.n, came: b.carried / b.n }));
}

/** Five points, and what chance adds to a bin of that size, three deviations of it. */
const allowed = (b: { n: number; stated: number }) =>
  b.n >= 500 ? 0.05 : 0.05 + 3 * Math.sqrt(Math.max(0.05, b.stated * (1 - b.stated)) / b.n);

describe(`odds of ${HEADS} made-up heads`, () => {
  it('come true as often as they say', () => {
    const found = bins(AS_ASSUMED, 20261126);
    for (const b of found.filter((x) => x.n >= 25))
      expect(Math.abs(b.came - b.stated), JSON.stringify(b)).toBeLessThan(allowed(b));
    // All bins at once: Brier's calibration term of sound odds is nearly nothing.
    const off = found.reduce((s, b) => s + b.n * (b.came - b.stated) ** 2, 0) / HEADS;
    expect(off).toBeLessThan(0.002);
  }, 600_000);
  it('do not when the world is another than assumed: a factor 6 % lower and benches three times as far apart', () => {
    const found = bins({ k: [0.225, 0.241, 0.262], setup: 0.03, row: 0.015, bench: 0.06 }, 20261126);
    const off = found.reduce((s, b) => s + b.n * (b.came - b.stated) ** 2, 0) / HEADS;
    expect(off).toBeGreaterThan(0.01);
    expect(found.some((b) => b.n >= 25 && Math.abs(b.came - b.stated) > allowed(b))).toBe(true);
  }, 600_000);
});

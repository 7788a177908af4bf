import {
  DEGREES,
  cfm,
  squareInches,
  evaluateTarget,
  evidenceWords,
  matchWords,
  normalShare,
  oddsBetter,
  sayIn,
  shareLeaf,
  simulatedPower,
  verdictBySimulation,
  type SimulatedPower,
} from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import demo from '../../demo/bundle.json' with { type: 'json' };
import { evaluateHead } from './evaluateHead.js';
import { readBundle } from './files/bundle.js';
import { toSimulation } from './simulation.js';
import { toCoreBuild } from './toCore.js';
import { wholesOf } from './wholes.js';

const { bundle } = readBundle(demo);
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const core = toCoreBuild(build);
const target = evaluateTarget(core);
const judged = (headId: string, stageId: string) => {
  const whole = wholesOf(bundle).find((w) => w.head.id === headId)!;
  return { whole, evaluation: evaluateHead(build, core, target, whole, stageId, null, { sources: bundle.sources }) };
};
const a = judged('corrow-417', '417-received');
const b = judged('longreach-212', 'longreach-received');
/** A power with one thing unknown of it: normal, of standard uncertainty `u`, a share. */
const made = (power: number, u: number, id = 'simulation:test'): SimulatedPower => ({
  speed: core.speed,
  power,
  of: [{ leaf: shareLeaf(id, 'one thing', u, undefined, 'a test'), change: [u] }],
});
const by = (of: typeof a, power: SimulatedPower, wanted = core.power) =>
  verdictBySimulation(of.evaluation.verdict, power, wanted);

describe('where a head’s best flow passes', () => {
  it('has a speed over the short turn and in the throat, and stands against the window rule', () => {
    const { match } = b.evaluation;
    const flow = match.intake!.best.flow;
    expect(match.windowSpeed!.value * squareInches(1)).toBeGreaterThan(0);
    const window = flow / match.windowSpeed!.value;
    expect(match.againstWindow!.value).toBeCloseTo(flow / match.windowFlow!.value - 1, 12);
    expect(match.windowFlow!.value / window / (cfm(100) / squareInches(1))).toBeCloseTo(1, 9);
    // A throat is narrower than its valve and wider than nothing.
    const throat = flow / match.throatSpeed!.value;
    expect(throat).toBeGreaterThan(squareInches(1));
    expect(throat).toBeLessThan(squareInches(4));
  });
});

describe('a verdict once the engine was simulated', () => {
  it('has the odds of a normal margin: Φ(ln(made/wanted)/u)', () => {
    for (const share of [0.9, 0.97, 1, 1.04, 1.12]) {
      const { odds, margin } = by(a, made(share * core.power, 0.05));
      expect(odds).toBeCloseTo(normalShare(Math.log(share) / 0.05), 2);
      expect(margin!.mean).toBeCloseTo(Math.log(share), 3);
      expect(margin!.u).toBeCloseTo(0.05, 2);
    }
  });
  it('takes the place of the rules, says so, and keeps what the evidence holds back', () => {
    const strong = by(a, made(1.5 * core.power, 0.05));
    expect(strong.odds).toBeGreaterThan(0.99);
    const caps = a.evaluation.verdict.evidence.map((e) => DEGREES.indexOf(e.most));
    expect(DEGREES.indexOf(strong.degree)).toBe(Math.min(4, ...caps));
    expect(strong.byRules).toBe(a.evaluation.verdict);
    const said = evidenceWords(strong.evidence.at(-1)!, sayIn('inch'));
    expect(said.replace(/\u00a0/g, ' ')).toMatch(
      /^By the simulation of this engine: 435 hp ± 22 hp .* rules of thumb alone say: /,
    );
  });
  it('is said first, the flow after it as what it is: no head falls short with flow to spare in one breath', () => {
    const verdict = by(b, made(0.8 * core.power, 0.03));
    const [first, second] = matchWords(b.evaluation.match, verdict, target, core.speed, undefined, sayIn('inch'));
    expect(first).toMatch(/^(Falls short|Probably short).*\. By the simulation of this engine: 232/);
    expect(second).toMatch(/^By its flow: .* to spare/);
  });
  it('what two heads share cancels; two that were judged by different methods are compared by the rules', () => {
    const [one, two] = [made(1.02 * core.power, 0.1), made(core.power, 0.1)];
    expect(oddsBetter(by(a, one), by(b, two))).toBe(1);
    const apart = oddsBetter(by(a, one), by(b, made(core.power, 0.1, 'simulation:other')))!;
    expect(apart).toBeCloseTo(normalShare(Math.log(1.02) / (0.1 * Math.SQRT2)), 1);
    expect(oddsBetter(by(a, one), b.evaluation.verdict)).toBe(oddsBetter(a.evaluation.verdict, b.evaluation.verdict));
  });
  it('turns where an assumption would have to lie for it, and asks for what would make that known', () => {
    const setup = toSimulation(build, core, target, b, undefined);
    const found = [0.6, 1].map((share) => ({
      speed: share * core.speed,
      of: [
        { id: 'runnerLength' as const, low: 8, high: -12 },
        { id: 'friction' as const, low: 14, high: -14 },
      ],
    }));
    const torque = core.power / (2 * Math.PI * core.speed);
    const point = { speed: core.speed, torque, power: 1.01 * core.power } as Parameters<typeof simulatedPower>[2];
    const verdict = by(b, simulatedPower(setup, found, point));
    expect(verdict.flips.map((f) => f.leaf.label)).toContain('friction against the usual line');
    expect(verdict.settling.map((s) => s.settle.act)).toContain('measure the runner’s length');
    for (const s of verdict.settling) expect(s.after).toBeLessThan(s.before);
  });
});

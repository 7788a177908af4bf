import { readFileSync } from 'node:fs';
import { cubicInches, evaluateTarget, FitStore, inches, numberOf, testBench, LIVE } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { evaluateHead } from './evaluateHead.js';
import { readBundle } from './files/bundle.js';
import { Build } from './nouns/build.js';
import { pipeworkOf, toSimulation, type SimulatedHead } from './simulation.js';
import { toCoreBuild } from './toCore.js';
import { wholesOf } from './wholes.js';

const { bundle } = readBundle(JSON.parse(readFileSync(new URL('../../demo/bundle.json', import.meta.url), 'utf8')));
const engine = (id: string) => bundle.builds.find((b) => b.id === id)!;
function headOf(build: Build, headId: string, stageId: string): SimulatedHead {
  const core = toCoreBuild(build);
  const whole = wholesOf(bundle).find((w) => w.head.id === headId)!;
  return {
    whole,
    evaluation: evaluateHead(build, core, evaluateTarget(core), whole, stageId, null, { sources: bundle.sources }),
  };
}
const setupOf = (build: Build, head: SimulatedHead, baseline = head) => {
  const core = toCoreBuild(build);
  return toSimulation(build, core, evaluateTarget(core), head, baseline);
};

describe('a head as the simulation takes it', () => {
  const slate = engine('slate-six');
  const early = headOf(slate, 'corrow-417', '417-received');
  it('has the flows of its sheet, its port as surveyed, and two kinds where two ports differ', () => {
    const setup = setupOf(slate, early);
    expect(setup.ports).toHaveLength(2);
    expect(setup.said.join(' ')).toContain('Two kinds of port');
    for (const port of setup.ports) {
      expect(port.intake.length).toBeGreaterThan(3);
      expect(port.exhaust!.length).toBeGreaterThan(3);
      expect(port.intakePort[0]!.x).toBe(0);
      // From the valve outwards on the other side.
      expect(port.exhaustPort[0]!.x).toBe(0);
    }
    const weaker = Math.max(...setup.ports[0]!.intake.map((p) => p.flow));
    expect(Math.max(...setup.ports[1]!.intake.map((p) => p.flow))).toBeGreaterThan(1.02 * weaker);
  });
  it('the virtual bench gives its sheets back', () => {
    const setup = setupOf(slate, early);
    const test = testBench(setup, new FitStore().of(setup, LIVE.cell));
    expect(test.full).toEqual([]);
    expect(test.worst).toBeLessThan(3e-3);
  });
  it('has the compression its own chamber makes of the one stated with the first head', () => {
    const late = headOf(slate, 'corrow-522', '522-received');
    const setup = setupOf(slate, late, early);
    const core = toCoreBuild(slate);
    const swept = numberOf(evaluateTarget(core).cylinderVolume);
    // Both chambers were poured: the clearance differs by what they differ.
    expect(setupOf(slate, early).compression).toBe(core.compression);
    expect(setup.compression).toBeGreaterThan(core.compression!);
    expect(setup.compression).toBeLessThan(1 + swept / (swept / (core.compression! - 1) - cubicInches(0.5)));
    expect(setup.said.join(' ')).toMatch(/Its chamber makes \d+\.\d:1/);
  });
  it('takes the pipes a build states, and says of the others that they are assumed', () => {
    const stated = Build.parse({ ...slate, runnerLength: '12 in', plenumVolume: '3.1 L' });
    expect(pipeworkOf(stated).runnerLength).toBeCloseTo(inches(12), 9);
    const of = (b: Build, id: string) => setupOf(b, early).assumed.find((a) => a.id === id)!;
    expect(of(stated, 'runnerLength').value).toBeCloseTo(inches(12), 9);
    expect(of(stated, 'runnerLength').note).toBe('stated for this build');
    expect(of(stated, 'runnerLength').half).toBeLessThan(of(slate, 'runnerLength').half);
    expect(of(slate, 'runnerLength').note).toContain('common practice, no source');
  });
  it('takes a manifold’s flow in series with the port’s, and says so', () => {
    const restricted = Build.parse({ ...slate, manifoldFlow: '260 cfm' });
    const most = (b: Build) => Math.max(...setupOf(b, early).ports[0]!.intake.map((p) => p.flow));
    const [port, manifold] = [most(slate), restricted.manifoldFlow!.si];
    // Two losses in series: 1/Q² = 1/Q₁² + 1/Q₂².
    expect(most(restricted) / (1 / Math.hypot(1 / port, 1 / manifold))).toBeCloseTo(1, 9);
    expect(setupOf(restricted, early).said.join(' ')).toContain('in series');
  });
  it('sheets are each head’s own, everything else is one thing for both', () => {
    const late = headOf(slate, 'corrow-522', '522-received');
    const [a, b] = [setupOf(slate, early), setupOf(slate, late, early)];
    const shared = a.assumed.filter((x) => b.assumed.some((y) => y.leaf === x.leaf)).map((x) => x.id);
    expect(shared).toContain('friction');
    expect(shared).not.toContain('intakeSheet');
  });
  it('is refused with a sentence where nothing was flowed', () => {
    const bare = {
      whole: early.whole,
      evaluation: { ...early.evaluation, match: { ...early.evaluation.match, reaches: [] } },
    };
    expect(() => setupOf(slate, bare)).toThrow('Nothing was flowed at this stage.');
  });
});

it('a pipe’s size that cannot be is told at its field', () => {
  const found = Build.safeParse({ ...engine('slate-six'), runnerLength: '9 m', backPressure: '0 psi' });
  expect(found.error!.issues.map((i) => i.path[0]).sort()).toEqual(['backPressure', 'runnerLength']);
});

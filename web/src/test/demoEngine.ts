import { evaluateTarget } from '@alluvium/core';
import { evaluateHead, readBundle, toCoreBuild, toSimulation, wholesOf } from '@alluvium/records';

/** The demo's plain engine with one of its heads, as the simulation is given it; `demo` is the text of demo/bundle.json. */
export function demoEngine(demo: string) {
  const { bundle } = readBundle(JSON.parse(demo));
  const build = bundle.builds.find((b) => b.id === 'slate-six')!;
  const core = toCoreBuild(build);
  const target = evaluateTarget(core);
  const whole = wholesOf(bundle).find((w) => w.head.id === 'longreach-212')!;
  const evaluation = evaluateHead(build, core, target, whole, 'longreach-received', null);
  const setup = toSimulation(build, core, target, { whole, evaluation }, undefined);
  return { build, core, target, whole, evaluation, setup };
}

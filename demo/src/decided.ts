/** What the shop decided, kept as the program itself keeps it. */
import { evaluateTarget, sayIn } from '@alluvium/core';
import {
  assumptionsOf,
  decisionContent,
  mattersOf,
  rankOf,
  readBundle,
  readWays,
  toCoreBuild,
  waysWords,
  wholesOf,
} from '@alluvium/records';
import type { Json } from './tables.js';

/** Figures as they are kept: nine of them, alike on every machine. */
const rounded = (content: object): Json =>
  JSON.parse(JSON.stringify(content), (_, v: unknown) =>
    typeof v === 'number' ? Number(v.toPrecision(9)) : v,
  ) as Json;

/** What a decision for one way of a build rests on, in the scenario as it stands. */
export function decidedContent(scenario: object, buildId: string, wayId: string): Json {
  const { bundle } = readBundle(scenario);
  const build = bundle.builds.find((b) => b.id === buildId)!;
  const assumptions = assumptionsOf(bundle.assumptions);
  const core = toCoreBuild(build, assumptions);
  const say = sayIn('inch');
  const ways = readWays(
    bundle.ways.filter((w) => w.buildId === buildId).sort((a, b) => a.position - b.position),
    build,
    core,
    evaluateTarget(core),
    wholesOf(bundle),
    { assumptions, sources: bundle.sources, checked: new Set(bundle.calibrations.map((c) => c.sourceId)), say },
  );
  const ranked = rankOf(ways, mattersOf(build));
  const chosen = ways.find((w) => w.way.id === wayId)!.way.name;
  return rounded(decisionContent(ways, build, ranked, chosen, waysWords(ways, build, ranked, say)));
}

import { evaluateTarget, sayIn, type Build as CoreBuild, type Style, type TargetResult, Refusal } from '@alluvium/core';
import {
  assumptionsForBuild,
  assumptionsOf,
  mattersOf,
  rankOf,
  readWays,
  reportOf,
  toCoreBuild,
  waysWords,
  withTorque,
  type Assumption,
  type Build,
  type Decision,
  type Letterhead,
  type OwnFactor,
  type ReportDocument,
  type ReportOptions,
  type WayTorque,
  type WaysView,
} from '@alluvium/records';

/** Everything a report is printed from. */
export interface ReportOrder {
  readonly build: Build;
  readonly view: WaysView;
  readonly assumptions: readonly Assumption[];
  readonly ownFactors: readonly OwnFactor[];
  readonly checked: ReadonlySet<string>;
  readonly decision: Decision | undefined;
  readonly letterhead: Letterhead | undefined;
  readonly options: ReportOptions;
  readonly style: Style;
  readonly date: string;
  /** Torque as the page that asks ran it, by way. */
  readonly torque: ReadonlyMap<string, WayTorque>;
}

/** Computes the ways of a build and writes its report. A target that makes no sense leaves their power unknown. */
export function reportFor(order: ReportOrder): ReportDocument {
  const { build, view, decision, options, date } = order;
  const say = sayIn(order.style);
  const assumptions = assumptionsForBuild(assumptionsOf(order.assumptions), build, order.ownFactors);
  const core = toCoreBuild(build, assumptions);
  const target = targetOf(core);
  const context = { assumptions, checked: order.checked, say, sources: view.sources };
  const ways = withTorque(readWays(view.ways, build, core, target, view.wholes, context), order.torque);
  const ranked = rankOf(ways, mattersOf(build));
  const words = waysWords(ways, build, ranked, say);
  return reportOf({ build, ways, ranked, decision, words, say, date }, options);
}

function targetOf(core: CoreBuild): TargetResult | undefined {
  try {
    return evaluateTarget(core);
  } catch (error) {
    if (error instanceof Refusal) return undefined;
    throw error;
  }
}

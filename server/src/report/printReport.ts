import { evaluateTarget, sayIn, type System } from '@alluvium/core';
import {
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
  type ReportOptions,
  type WayTorque,
  type WaysView,
} from '@alluvium/records';
import { pdfOf } from './pdf.js';

/** Everything a report is printed from. */
export interface ReportOrder {
  readonly build: Build;
  readonly view: WaysView;
  readonly assumptions: readonly Assumption[];
  readonly checked: ReadonlySet<string>;
  readonly decision: Decision | undefined;
  readonly letterhead: Letterhead | undefined;
  readonly options: ReportOptions;
  readonly system: System;
  readonly date: string;
  /** Torque as the page that asks ran it, by way. */
  readonly torque: ReadonlyMap<string, WayTorque>;
}

/** Computes the ways of a build and prints its report. @throws RangeError where the target makes no sense. */
export function printReport(order: ReportOrder): Promise<Uint8Array> {
  const { build, view, decision, letterhead, options, date } = order;
  const say = sayIn(order.system);
  const assumptions = assumptionsOf(order.assumptions);
  const core = toCoreBuild(build, assumptions);
  const target = evaluateTarget(core);
  const context = { assumptions, checked: order.checked, say, sources: view.sources };
  const ways = withTorque(readWays(view.ways, build, core, target, view.wholes, context), order.torque);
  const ranked = rankOf(ways, mattersOf(build));
  const words = waysWords(ways, build, ranked, say);
  return pdfOf(reportOf({ build, target, ways, ranked, decision, words, say, date }, options), letterhead);
}

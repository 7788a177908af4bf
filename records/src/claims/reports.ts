/** Powers claimed of engines with a head, held against what the head can breathe. */
import {
  evaluateTarget,
  judgeReport,
  noted,
  reportWords,
  tightest,
  type Assumptions,
  type Build as CoreBuild,
  type ReportResult,
  type Say,
  type TargetResult,
  Refusal,
} from '@alluvium/core';
import { judgeStage, type JudgingContext } from '../evaluateHead.js';
import type { Build } from '../nouns/build.js';
import type { Report } from '../nouns/claim.js';
import { portTests } from '../evidence.js';
import { measuresAt } from '../select.js';
import { toCoreBuild } from '../toCore.js';
import { knownPlaces, type NetHead } from './judge.js';

// report.displacement!, report.cylinders!: looked for in front of it.

export interface JudgedReport {
  readonly report: Report;
  readonly result: ReportResult;
  readonly words: string;
  /** What was held against what, where something had to be taken on trust. */
  readonly reservations: readonly string[];
}

/** The engine of a report with the claimed power as its target: a build's, else as much as the report says of it. */
function claimedEngine(
  report: Report,
  build: Build | undefined,
  assumptions: Assumptions | undefined,
): { core: CoreBuild; target: TargetResult } {
  const claimed = { power: report.power.si, speed: report.speed.si };
  const known: CoreBuild = build
    ? { ...toCoreBuild(build, assumptions), ...claimed }
    : {
        displacement: report.displacement!.si,
        cylinders: report.cylinders!,
        fuel: 'petrol',
        induction: { kind: 'natural' },
        ...claimed,
      };
  try {
    return { core: known, target: evaluateTarget(known) };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    // A cam no curve can have, nitrous beyond the power claimed: the engine without them still says how large it is.
    const { cam: _cam, ...rest } = known;
    const core: CoreBuild = { ...rest, induction: { kind: 'natural' } };
    return { core, target: evaluateTarget(core) };
  }
}

/** Every report of a head, held against the flow measured at its stage. `own` is the bench that measures. */
export const judgedReports = (
  head: NetHead,
  builds: readonly Build[],
  own: string | undefined,
  say: Say,
  context: JudgingContext = {},
): JudgedReport[] =>
  (head.reports ?? []).flatMap((report): JudgedReport[] => {
    const build = builds.find((b) => b.id === report.buildId);
    if (report.buildId !== null && !build) return [];
    const { core, target } = claimedEngine(report, build, context.assumptions);
    const reservations: string[] = [];
    const sheets = head.sheets.filter((s) => s.kind === 'measured' && (!own || s.sourceId === own));
    const ports = portTests({ ...head, sheets }, report.stageId, 'intake', build);
    const { match, verdict } = judgeStage(core, target, head, report.stageId, ports, { ...context, say }, { build });
    if (match.intake && target.usefulLift === undefined)
      reservations.push('No cam is known: the peak of the sheet is taken, which the engine may not open to.');
    if (report.taken === 'chassis dyno')
      reservations.push(
        'Taken at the wheels: the crank makes more, so the claim asks for more air than is reckoned here.',
      );
    if (report.taken === 'reckoned') reservations.push('It was reckoned, not measured.');
    if (report.taken === 'unknown') reservations.push('Nobody says how the power was taken.');
    const place = tightest(
      knownPlaces(
        head,
        report.stageId,
        'intake',
        null,
        measuresAt(head, report.stageId).filter((m) => m.sourceId === null),
      ),
    );
    const result = judgeReport(core, target, match, verdict, place && noted(place.area, place.name));
    return [{ report, result, words: reportWords(result, say), reservations }];
  });

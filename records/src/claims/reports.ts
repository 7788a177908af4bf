/** Powers claimed of engines with a head, held against what the head can breathe. */
import {
  cylinderVolume,
  evaluateTarget,
  judgeReport,
  noted,
  peakWithin,
  reportWords,
  tightest,
  work,
  type Given,
  type ReportResult,
  type Say,
} from '@alluvium/core';
import { evaluated } from './evaluated.js';
import type { Build } from '../nouns/build.js';
import type { Report } from '../nouns/claim.js';
import { measuresAt, pickSheet, touchedPorts } from '../select.js';
import { toCoreBuild } from '../toCore.js';
import { knownPlaces, type NetHead } from './judge.js';

export interface JudgedReport {
  readonly report: Report;
  readonly result: ReportResult;
  readonly words: string;
  /** What was held against what, where something had to be taken on trust. */
  readonly reservations: readonly string[];
}

/** Engine of a build as far as a report needs it; undefined when the build's own figures have no answer. */
function engineOf(build: Build) {
  const core = toCoreBuild(build);
  try {
    const target = evaluateTarget(core);
    return {
      core,
      volume: target.cylinderVolume as Given<number>,
      charge: target.charge,
      piston: target.pistonRatio,
      lift: core.cam?.intakeLift,
    };
  } catch {
    return {
      core,
      volume: work(cylinderVolume, { bore: core.bore, stroke: core.stroke }) as Given<number>,
      charge: noted(1, 'the charge of this build is not known') as Given<number>,
      piston: undefined,
      lift: undefined,
    };
  }
}

/** Every report of a head, held against the flow measured at its stage. `own` is the bench that measures. */
export const judgedReports = (
  head: NetHead,
  builds: readonly Build[],
  own: string | undefined,
  say: Say,
): JudgedReport[] =>
  (head.reports ?? []).flatMap((report): JudgedReport[] => {
    const build = builds.find((b) => b.id === report.buildId);
    if (report.buildId !== null && !build) return [];
    const engine = build && engineOf(build);
    const cylinders = build?.cylinders ?? report.cylinders!;
    const reservations: string[] = [];
    const touched = touchedPorts(head.ports);
    const sheet = pickSheet(
      head.sheets.filter((s) => s.kind === 'measured' && (!own || s.sourceId === own) && s.rows.some((r) => r.intake)),
      report.stageId,
      build,
      touched,
    );
    const curve = sheet && evaluated(head, sheet).intake.curve;
    if (curve && engine?.lift === undefined)
      reservations.push('No cam is known: the peak of the sheet is taken, which the engine may not open to.');
    if (report.taken === 'chassis dyno')
      reservations.push(
        'Taken at the wheels: the crank makes more, so the claim asks for more air than is reckoned here.',
      );
    if (report.taken === 'reckoned') reservations.push('It was reckoned, not measured.');
    if (report.taken === 'unknown') reservations.push('Nobody says how the power was taken.');
    const best = curve && peakWithin(curve, engine?.lift ?? curve.last.lift);
    const place = tightest(
      knownPlaces(
        head,
        report.stageId,
        'intake',
        null,
        measuresAt(head, report.stageId).filter((m) => m.sourceId === null),
      ),
    );
    const result = judgeReport({
      power: report.power.si,
      speed: report.speed.si,
      cylinders,
      cylinderVolume: engine?.volume ?? noted(report.displacement!.si / cylinders, 'displacement over cylinders'),
      charge: engine?.charge ?? noted(1, 'nobody says that it was boosted'),
      flow: best && noted(best.flow, `${sheet!.title}, at ${say.of(best.lift, 'lift')}`),
      choke: place && noted(place.area, place.name),
      bore: engine?.core.bore,
      stroke: engine?.core.stroke,
      pistonRatio: engine?.piston,
    });
    return [{ report, result, words: reportWords(result, say), reservations }];
  });

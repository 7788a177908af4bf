import {
  evaluateSheet,
  judgeHead,
  matchHead,
  USUAL_ASSUMPTIONS,
  type ArrivalResult,
  type Assumptions,
  type Build as CoreBuild,
  type HeadVerdict,
  type MatchResult,
  type Runner,
  type Say,
  type SheetResult,
  type TargetResult,
} from '@alluvium/core';
import type { WholeHead } from './api.js';
import { arrivalAt } from './arrival/arrival.js';
import type { Build } from './nouns/build.js';
import type { Stage } from './nouns/head.js';
import type { Measure } from './nouns/measure.js';
import type { Sheet } from './nouns/sheet.js';
import { setupFrom } from './setups.js';
import { changedSince, isOnPort, measuresAt, pickSheet, portName, sisterSheets, touchedPorts } from './select.js';
import { toCoreRows, toCoreSetup, toHeadGeometry, toPortValve, toSheetFacts, type EvidenceContext } from './toCore.js';

/** One sheet with the sizes of its stage, read by core. The screens and `evaluate` both go through here. */
export function evaluateSheetOf(
  whole: Pick<WholeHead, 'head' | 'stages' | 'measures'>,
  sheet: Sheet,
  measures: readonly Measure[] = measuresAt(whole, sheet.stageId),
): SheetResult {
  const intake = toPortValve(whole.head, measures, 'intake', sheet.intakePortId);
  const exhaust = toPortValve(whole.head, measures, 'exhaust', sheet.exhaustPortId);
  return evaluateSheet(toCoreSetup(sheet), toCoreRows(sheet), {
    ...(intake ? { intake } : {}),
    ...(exhaust ? { exhaust } : {}),
  });
}

export interface HeadEvaluation {
  readonly stage: Stage;
  readonly measures: readonly Measure[];
  /** Undefined when nothing was flowed at this stage. */
  readonly sheet?: Sheet;
  readonly result?: SheetResult;
  readonly match: MatchResult;
  /** What may be said of it against the target, and how sure that is. */
  readonly verdict: HeadVerdict;
  /** What arrival found against the head, at this stage and for this build. */
  readonly arrival: ArrivalResult;
  /** Ports flowed at this stage that somebody touched before the head came, and what was done to them. */
  readonly leftOut: readonly { readonly port: string; readonly reason: string }[];
}

/** What a verdict is made with besides the head's own records. */
export interface JudgingContext extends EvidenceContext {
  readonly assumptions?: Assumptions;
  /** Units in which leaves are named. */
  readonly say?: Say;
}

/** Runners as they serve the engine: where a cylinder has several intake ports, those of one cylinder are one. */
function byCylinder(
  { head, ports }: Pick<WholeHead, 'head' | 'ports'>,
  tested: readonly { readonly sheet: Sheet; readonly runner: Runner }[],
): Runner[] {
  const each = head.intakePorts ?? 1;
  if (each === 1) return tested.map((t) => t.runner);
  const cylinder = (s: Sheet) => {
    const number = ports.find((p) => p.id === s.intakePortId)?.number;
    return number === undefined ? s.id : String(Math.ceil(number / each));
  };
  const groups = new Map<string, Runner[]>();
  for (const t of tested) groups.set(cylinder(t.sheet), [...(groups.get(cylinder(t.sheet)) ?? []), t.runner]);
  return [...groups.values()].map(([first, ...beside]) => ({
    ...first!,
    name: [first!, ...beside].map((r) => r.name).join(' + '),
    beside,
  }));
}

/** What judging reads of a head. */
export type FlowedHead = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'sheets' | 'measures'>;

/** A stage of a head against an engine by one sheet and its sister runners; without a sheet by its sizes alone. */
export function judgeStage(
  core: CoreBuild,
  target: TargetResult,
  whole: FlowedHead,
  stageId: string,
  sheet: Sheet | undefined,
  context: JudgingContext = {},
): Pick<HeadEvaluation, 'measures' | 'sheet' | 'result' | 'match' | 'verdict'> {
  const touched = touchedPorts(whole.ports);
  const measures = measuresAt(whole, stageId).filter(
    (m) => m.portId === null || !touched.has(m.portId) || m.portId === sheet?.intakePortId,
  );
  const geometry = toHeadGeometry(whole.head, measures, sheet?.intakePortId);
  const runner = (s: Sheet, result: SheetResult): Runner => ({
    name: portName(whole.ports, s.intakePortId) ?? s.title,
    sheet: result,
    geometry: toHeadGeometry(whole.head, measures, s.intakePortId),
    facts: toSheetFacts(s, changedSince(whole, s), context),
  });
  const result = sheet && evaluateSheetOf(whole, sheet, measures);
  const tested =
    sheet && result
      ? [
          { sheet, runner: runner(sheet, result) },
          ...sisterSheets(whole.sheets, sheet, touched).map((s) => ({
            sheet: s,
            runner: runner(s, evaluateSheetOf(whole, s, measures)),
          })),
        ]
      : [];
  const runners = byCylinder(whole, tested);
  const match = matchHead(core, target, geometry, runners);
  const { assumptions: usual = USUAL_ASSUMPTIONS, say } = context;
  const assumptions = {
    ...usual,
    setup: setupFrom(whole.sheets, usual.setup, (s) => evaluateSheetOf(whole, s, measures)),
  };
  const lift = say && ((l: number) => say.of(l, 'lift'));
  const verdict = judgeHead(core, target, geometry, match, assumptions, lift);
  return { measures, match, verdict, ...(sheet && result ? { sheet, result } : {}) };
}

/** A head at a stage against a build, by the sheet chosen or the one the program picks, with its sister runners. */
export function evaluateHead(
  build: Build,
  core: CoreBuild,
  target: TargetResult,
  whole: WholeHead,
  stageId: string,
  sheetId: string | null,
  context: JudgingContext = {},
): HeadEvaluation {
  const touched = touchedPorts(whole.ports);
  const sheet =
    (sheetId ? whole.sheets.find((s) => s.id === sheetId) : undefined) ??
    pickSheet(whole.sheets, stageId, build, touched);
  const own = new Set([sheet?.intakePortId, sheet?.exhaustPortId]);
  return {
    stage: whole.stages.find((s) => s.id === stageId)!,
    arrival: arrivalAt(whole, stageId, build.id),
    leftOut: whole.ports
      .filter((p) => touched.has(p.id) && !own.has(p.id))
      .filter((p) => whole.sheets.some((s) => s.stageId === stageId && isOnPort(s, new Set([p.id]))))
      .map((p) => ({ port: `${p.side} ${portName(whole.ports, p.id)!}`, reason: p.touched })),
    ...judgeStage(core, target, whole, stageId, sheet, context),
  };
}

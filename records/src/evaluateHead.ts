import {
  evaluateSheet,
  matchHead,
  type ArrivalResult,
  type Build as CoreBuild,
  type MatchResult,
  type SheetResult,
  type TargetResult,
} from '@alluvium/core';
import type { WholeHead } from './api.js';
import { arrivalAt } from './arrival/arrival.js';
import type { Build } from './nouns/build.js';
import type { Stage } from './nouns/head.js';
import type { Measure } from './nouns/measure.js';
import type { Sheet } from './nouns/sheet.js';
import { isOnPort, measuresAt, pickSheet, portName, sisterSheets, touchedPorts } from './select.js';
import { toCoreRows, toCoreSetup, toHeadGeometry, toPortValve } from './toCore.js';

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
  /** What arrival found against the head, at this stage and for this build. */
  readonly arrival: ArrivalResult;
  /** Ports flowed at this stage that somebody touched before the head came, and what was done to them. */
  readonly leftOut: readonly { readonly port: string; readonly reason: string }[];
}

/** A head at a stage against a build, by the sheet chosen or the one the program picks, with its sister runners. */
export function evaluateHead(
  build: Build,
  core: CoreBuild,
  target: TargetResult,
  whole: WholeHead,
  stageId: string,
  sheetId: string | null,
): HeadEvaluation {
  const stage = whole.stages.find((s) => s.id === stageId)!;
  const touched = touchedPorts(whole.ports);
  const sheet =
    (sheetId ? whole.sheets.find((s) => s.id === sheetId) : undefined) ??
    pickSheet(whole.sheets, stageId, build, touched);
  const measures = measuresAt(whole, stageId).filter(
    (m) => m.portId === null || !touched.has(m.portId) || m.portId === sheet?.intakePortId,
  );
  const own = new Set([sheet?.intakePortId, sheet?.exhaustPortId]);
  const leftOut = whole.ports
    .filter((p) => touched.has(p.id) && !own.has(p.id))
    .filter((p) => whole.sheets.some((s) => s.stageId === stageId && isOnPort(s, new Set([p.id]))))
    .map((p) => ({ port: `${p.side} ${portName(whole.ports, p.id)!}`, reason: p.touched }));
  const arrival = arrivalAt(whole, stageId, build.id);
  const geometry = toHeadGeometry(whole.head, measures, sheet?.intakePortId);
  if (!sheet) return { stage, measures, arrival, leftOut, match: matchHead(core, target, geometry, []) };
  const result = evaluateSheetOf(whole, sheet, measures);
  const name = (s: Sheet) => portName(whole.ports, s.intakePortId) ?? s.title;
  const runners = [
    { name: name(sheet), sheet: result },
    ...sisterSheets(whole.sheets, sheet, touched).map((s) => ({
      name: name(s),
      sheet: evaluateSheetOf(whole, s, measures),
    })),
  ];
  return { stage, measures, sheet, result, arrival, leftOut, match: matchHead(core, target, geometry, runners) };
}

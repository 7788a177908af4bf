import {
  evaluateSheet,
  matchHead,
  type Build as CoreBuild,
  type MatchResult,
  type SheetResult,
  type TargetResult,
} from '@alluvium/core';
import type { WholeHead } from './api.js';
import type { Build } from './nouns/build.js';
import type { Measure, Stage } from './nouns/head.js';
import type { Sheet } from './nouns/sheet.js';
import { measuresAt, pickSheet, portName, sisterSheets } from './select.js';
import { toCoreRows, toCoreSetup, toHeadGeometry, toPortValve } from './toCore.js';

/** One sheet with the sizes of its stage, read by core. The screens and `evaluate` both go through here. */
export function evaluateSheetOf(
  whole: WholeHead,
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
  const measures = measuresAt(whole, stageId);
  const sheet =
    (sheetId ? whole.sheets.find((s) => s.id === sheetId) : undefined) ?? pickSheet(whole.sheets, stageId, build);
  const geometry = toHeadGeometry(whole.head, measures, sheet?.intakePortId);
  if (!sheet) return { stage, measures, match: matchHead(core, target, geometry, []) };
  const result = evaluateSheetOf(whole, sheet, measures);
  const name = (s: Sheet) => portName(whole.ports, s.intakePortId) ?? s.title;
  const runners = [
    { name: name(sheet), sheet: result },
    ...sisterSheets(whole.sheets, sheet).map((s) => ({ name: name(s), sheet: evaluateSheetOf(whole, s, measures) })),
  ];
  return { stage, measures, sheet, result, match: matchHead(core, target, geometry, runners) };
}

/** The stages of a side as the split into valve and port reads them. */
import {
  USUAL_ASSUMPTIONS,
  evaluateSurvey,
  standardFlow,
  USUAL_SPLIT,
  type Side,
  type SplitAssumptions,
  type SplitStage,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { portIdOf } from '../claims/conditions.js';
import type { Stage } from '../nouns/head.js';
import type { Sheet } from '../nouns/sheet.js';
import { toCoreSections } from '../sections.js';
import { lineage, measuresAt, surveyAt } from '../select.js';
import { measured, toCoreReading, toCoreSetup, toPortValve } from '../toCore.js';
import { flowedSheets, isCredited, readOf, sheetOfSide, stagePair, type ChangeContext } from './stageGain.js';

// found.at()!: there is one.

export interface LossStages {
  readonly stages: readonly Stage[];
  readonly input: readonly SplitStage[];
  /** Where the share of the loss is asked: the row nearest to a quarter of the valve, where curtain and throat are about alike. */
  readonly lift: number;
  readonly assumptions: SplitAssumptions;
}

/** Least area of a side at a stage, m²: as surveyed there, else the pinch measured. */
export function chokeAt(whole: WholeHead, stageId: string, side: Side, portId: string | null): number | undefined {
  const survey = surveyAt(whole, stageId, side, portId);
  const pinch = measured(measuresAt(whole, stageId), 'pinch', side, portId);
  const surveyed = survey && evaluateSurvey(toCoreSections(survey)).choke?.area.value;
  // A size taken at this very stage speaks before a survey of an earlier one.
  const fresh = whole.measures.some((m) => m.stageId === stageId && m.item === 'pinch' && m.side === side);
  return survey?.stageId === stageId || !fresh ? (surveyed ?? pinch) : pinch;
}

/** Flow of a side with the valve out at 28 in, m³/s. */
export function valveOutFlow(sheet: Sheet, side: Side): number | undefined {
  const reading = sheet.valveOut[side];
  return reading ? standardFlow(toCoreReading(sheet, reading, side), toCoreSetup(sheet), side).value : undefined;
}

/**
 * The stages that led to one and were flowed alike, in the order they were cut, with what the fit needs of each.
 * Undefined where the valve's size or a curve is missing at the stage itself.
 */
export function lossStages(
  whole: WholeHead,
  stageId: string,
  side: Side,
  context: ChangeContext = {},
): LossStages | undefined {
  const taken: { stage: Stage; sheet: Sheet }[] = [];
  // From the stage asked for backwards, as long as each was tested like the next.
  for (const stage of lineage(whole.stages, stageId)) {
    if (flowedSheets(whole.sheets, stage.id, side).length === 0) continue;
    const pair = stagePair(whole, stage, side, context);
    const sheet = taken.length === 0 ? sheetOfSide(whole, stage.id, side, context) : undefined;
    if (sheet) taken.unshift({ stage, sheet });
    if (!pair || !isCredited(pair)) break;
    taken.unshift({ stage: pair.before, sheet: pair.a });
  }
  const a = context.assumptions ?? USUAL_ASSUMPTIONS;
  const found = taken.flatMap(({ stage, sheet }) => {
    const { result, sheets } = readOf(whole, sheet, side);
    const portId = portIdOf(sheet, side);
    const valve = toPortValve(whole.head, measuresAt(whole, stage.id), side, portId);
    if (!valve || !result.curve) return [];
    const outs = sheets.flatMap((s) => valveOutFlow(s, side) ?? []);
    return [
      {
        stage,
        input: {
          points: result.points.map((p) => ({ lift: p.lift, flow: p.flow.value })).filter((p) => p.lift > 0),
          valve,
          choke: chokeAt(whole, stage.id, side, portId),
          valveOut: outs.at(-1),
        },
      },
    ];
  });
  if (found.length === 0 || found.at(-1)!.stage.id !== stageId) return undefined;
  const { points, valve } = found.at(-1)!.input;
  const off = (lift: number) => Math.abs(lift - valve.diameter / 4);
  return {
    stages: found.map((f) => f.stage),
    input: found.map((f) => f.input),
    lift: points.reduce((best, p) => (off(p.lift) < off(best) ? p.lift : best), Infinity),
    assumptions: { ...USUAL_SPLIT, row: a.repeatability, zero: a.liftZero },
  };
}

/** What a stage gained on a side over the one it came from, where the test was the same. */
import {
  budgetOfWorking,
  comparable,
  flowAt,
  flowDifference,
  flowGain,
  joined,
  liftWindow,
  meanOf,
  overCam,
  work,
  type CamProfile,
  type Comparison,
  type LeafBook,
  type LiftWindow,
  type Side,
  type SideResult,
  type Working,
} from '@alluvium/core';
import { booksOf } from '../books.js';
import { conditionsOf, portIdOf } from '../claims/conditions.js';
import { pooledResult, type FlowedHead, type JudgingContext } from '../evaluateHead.js';
import type { Stage } from '../nouns/head.js';
import type { Sheet } from '../nouns/sheet.js';
import { leastPort } from '../evidence.js';
import { repeatsOf } from '../repeats.js';
import { lineage, measuresAt, portName, speaks } from '../select.js';

// gains[]!: the one before, from the second on.
// []!, means[]!: two of each, before and after.

/** What gains are weighed with besides the head: how sure things are, and the cams of the build at hand. */
export interface ChangeContext extends JudgingContext {
  readonly cams?: { readonly [S in Side]?: CamProfile | undefined };
}

/** One lift before and after. */
export interface LiftGain {
  readonly lift: number;
  readonly before: Working;
  readonly after: Working;
  readonly interpolated: boolean;
  readonly gain: Working;
  readonly share: Working;
  /** Beyond twice its uncertainty. */
  readonly counts: boolean;
  /** What was noted of this row after the cut. */
  readonly note: string;
}

/** One side of a stage against the stage before, on one port. */
export interface StageGain {
  readonly side: Side;
  readonly before: { readonly stage: Stage; readonly sheet: Sheet; readonly result: SideResult };
  readonly after: { readonly stage: Stage; readonly sheet: Sheet; readonly result: SideResult };
  readonly port: string | undefined;
  readonly comparison: Comparison;
  /** Whether anything may be credited: the test did not change with the head. */
  readonly credited: boolean;
  /** Stages between that were not flowed: what they did stands in this gain too. */
  readonly together: readonly Stage[];
  readonly lifts: readonly LiftGain[];
  readonly window?: LiftWindow;
  /** Gain of the mean flow over the window, as a flow and as a share; missing without credit. */
  readonly gain?: Working;
  readonly share?: Working;
  /** Gain of the best flow within the window. */
  readonly best?: Working;
  readonly counts: boolean;
  readonly book: LeafBook;
}

/** What an uncertainty of a working is: 0 where nothing it rests on has one. */
export const uncertaintyIn = (working: Working, book: LeafBook): number => budgetOfWorking(working, book)?.u ?? 0;

/** Measured sheets of a side at a stage that hold flows, the newest last. */
export const flowedSheets = (sheets: readonly Sheet[], stageId: string, side: Side): Sheet[] =>
  sheets.filter(
    (s) => s.stageId === stageId && s.kind === 'measured' && speaks(s) && s.rows.filter((r) => r[side]).length > 1,
  );

/** How a sheet was taken, its bench among it. */
export const testOf = (
  whole: Pick<FlowedHead, 'ports'>,
  sheet: Sheet,
  side: Side,
  { sources = [] }: JudgingContext,
) => ({
  ...conditionsOf(sheet, whole.ports, side),
  bench: sources.find((s) => s.id === sheet.sourceId)?.name ?? sheet.sourceId ?? 'our own bench',
});

const MAY = { not: 0, reserved: 1, freely: 2 } as const;

/** The nearest stage before that was flowed on this side, and the unflowed ones passed over. */
function flowedBefore(whole: FlowedHead, stage: Stage, side: Side): { before: Stage; between: Stage[] } | undefined {
  const between: Stage[] = [];
  for (const before of lineage(whole.stages, stage.id).slice(1)) {
    if (flowedSheets(whole.sheets, before.id, side).length > 0) return { before, between: between.reverse() };
    between.push(before);
  }
  return undefined;
}

/** A stage beside the one it is held against, each by the sheet that speaks for it. */
export interface StagePair {
  readonly before: Stage;
  /** Stages between that were not flowed. */
  readonly between: readonly Stage[];
  /** Sheets of the stage before and of the stage itself. */
  readonly a: Sheet;
  readonly b: Sheet;
  readonly comparison: Comparison;
}

/** The sheets of a stage and of the flowed one before it that are most alike in how they were taken; of equals the newest. */
export function stagePair(
  whole: FlowedHead,
  stage: Stage,
  side: Side,
  context: JudgingContext = {},
): StagePair | undefined {
  const from = flowedBefore(whole, stage, side);
  if (!from) return undefined;
  let best: StagePair | undefined;
  const rank = ({ a, b, comparison }: StagePair): number =>
    3 * MAY[comparison.may] + Number(portIdOf(a, side) !== null && portIdOf(a, side) === portIdOf(b, side));
  for (const b of flowedSheets(whole.sheets, stage.id, side))
    for (const a of flowedSheets(whole.sheets, from.before.id, side)) {
      const comparison = comparable(testOf(whole, a, side, context), testOf(whole, b, side, context), side);
      const found = { ...from, a, b, comparison };
      if (!best || rank(found) >= rank(best)) best = found;
    }
  return best;
}

/** Whether a gain may be credited: nothing of the test changed with the head. */
export const isCredited = ({ comparison }: Pick<StagePair, 'comparison'>): boolean => comparison.may !== 'not';

/** The sheet that speaks for a side at a stage: the one its gain is read from, else the one the program picks. */
export function sheetOfSide(
  whole: FlowedHead,
  stageId: string,
  side: Side,
  context: ChangeContext = {},
): Sheet | undefined {
  const stage = whole.stages.find((s) => s.id === stageId);
  const paired = stage && stagePair(whole, stage, side, context)?.b;
  return paired ?? leastPort(whole, stageId, side)?.sheets[0];
}

/** A sheet with its repeats, read as one. */
export function readOf(whole: FlowedHead, sheet: Sheet, side: Side) {
  const sheets = repeatsOf(whole, sheet, side) as readonly [Sheet, ...Sheet[]];
  const none: readonly Sheet[] = [];
  const tests = side === 'intake' ? { intake: sheets, exhaust: none } : { intake: none, exhaust: sheets };
  return { sheets, result: pooledResult(whole, tests, {}, measuresAt(whole, sheet.stageId))[side] };
}

/** What a stage gained on a side; undefined where one of the two was not flowed. */
export function stageGain(
  whole: FlowedHead,
  stage: Stage,
  side: Side,
  context: ChangeContext = {},
): StageGain | undefined {
  const pair = stagePair(whole, stage, side, context);
  if (!pair) return undefined;
  const { a, b, comparison } = pair;
  const [before, after] = [readOf(whole, a, side), readOf(whole, b, side)];
  const curves = [before.result.curve, after.result.curve];
  if (!curves[0] || !curves[1]) return undefined;
  const window = liftWindow([curves[0], curves[1]], context.cams?.[side]);
  const lifts = [...new Set([...before.result.points, ...after.result.points].map((p) => p.lift))].sort(
    (x, y) => x - y,
  );
  const asked = { [side]: { lifts, cam: window?.cam } };
  const book = joined(
    booksOf(whole, before.sheets, context, asked).flow,
    booksOf(whole, after.sheets, context, asked).flow,
  );
  const credited = isCredited(pair);
  const sure = (w: Working) => Math.abs(w.value) > 2 * uncertaintyIn(w, book);
  const gains = lifts.flatMap((lift): LiftGain[] => {
    const [x, y] = [flowAt(before.result, a.id, side, lift), flowAt(after.result, b.id, side, lift)];
    if (!x || !y || x.flow.value <= 0) return [];
    const both = { other: y.flow, base: x.flow };
    const gain = work(flowDifference, both);
    return [
      {
        lift,
        before: x.flow,
        after: y.flow,
        interpolated: x.interpolated || y.interpolated,
        gain,
        share: work(flowGain, both),
        counts: credited && sure(gain),
        note: b.rows.find((r) => Math.abs(r.lift.si - lift) < 1e-6)?.note ?? '',
      },
    ];
  });
  // Two rows closer than a reading of the dial are one lift.
  const rows = gains.filter((g, i) => i === 0 || g.lift - gains[i - 1]!.lift > 1e-5);
  const means = window && [curves[0], curves[1]].map((c) => overCam(c, window.cam.maxLift, window.cam));
  const ends = means?.map((m, i) => m.mean && { ...m.mean, leaf: meanOf([a.id, b.id][i]!, side) });
  const both = ends?.[0] && ends[1] && credited ? { base: ends[0], other: ends[1] } : undefined;
  const bests = means && [
    flowAt(before.result, a.id, side, means[0]!.best.lift)?.flow,
    flowAt(after.result, b.id, side, means[1]!.best.lift)?.flow,
  ];
  const gain = both && work(flowDifference, both);
  return {
    side,
    before: { stage: pair.before, sheet: a, result: before.result },
    after: { stage, sheet: b, result: after.result },
    port: portName(whole.ports, portIdOf(b, side)),
    comparison,
    credited,
    together: pair.between,
    lifts: rows,
    ...(window ? { window } : {}),
    ...(gain ? { gain, share: work(flowGain, both) } : {}),
    ...(credited && bests?.[0] && bests[1] ? { best: work(flowDifference, { base: bests[0], other: bests[1] }) } : {}),
    counts: gain !== undefined && sure(gain),
    book,
  };
}

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
  type PortValves,
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
import { furthestApart, pooledResult, repeatsOf } from './repeats.js';
import { setupFrom } from './setups.js';
import {
  changedSince,
  exhaustSheets,
  isOnPort,
  measuresAt,
  pickSheet,
  portName,
  sisterSheets,
  touchedPorts,
} from './select.js';
import { toCoreRows, toCoreSetup, toHeadGeometry, toPortValve, toSheetFacts, type EvidenceContext } from './toCore.js';

// first!, tested[]!: what is judged was tested.
// sheets[]!: one for each.
// find()!, portName()!: stages and ports of the head itself.

/** One sheet with the sizes of its stage, read by core. The screens and `evaluate` both go through here. */
export function evaluateSheetOf(
  whole: Pick<WholeHead, 'head' | 'stages' | 'measures'>,
  sheet: Sheet,
  measures: readonly Measure[] = measuresAt(whole, sheet.stageId),
): SheetResult {
  return evaluateSheet(toCoreSetup(sheet), toCoreRows(sheet), valvesOf(whole, sheet, measures), sheet.id);
}

/** The valves of the ports a sheet was read on. */
export function valvesOf(whole: Pick<WholeHead, 'head'>, sheet: Sheet, measures: readonly Measure[]): PortValves {
  const intake = toPortValve(whole.head, measures, 'intake', sheet.intakePortId);
  const exhaust = toPortValve(whole.head, measures, 'exhaust', sheet.exhaustPortId);
  return { ...(intake ? { intake } : {}), ...(exhaust ? { exhaust } : {}) };
}

export interface HeadEvaluation {
  readonly stage: Stage;
  readonly measures: readonly Measure[];
  /** Undefined when nothing was flowed at this stage. */
  readonly sheet?: Sheet;
  /** The sheets of its port that are read as one, `sheet` first. */
  readonly pooled: readonly Sheet[];
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

/** One port of a head as it was tested, with the records its name is read from. */
interface Tested {
  readonly of: Pick<WholeHead, 'head' | 'ports'>;
  readonly sheet: Sheet;
  readonly runner: Runner;
}

/** Runners as they serve the engine: where a cylinder has several intake ports, those of one cylinder are one. */
function byCylinder(tested: readonly Tested[]): Runner[] {
  const groups = new Map<string, Runner[]>();
  for (const { of, sheet, runner } of tested) {
    const each = of.head.intakePorts ?? 1;
    const number = of.ports.find((p) => p.id === sheet.intakePortId)?.number;
    const cylinder = each === 1 || number === undefined ? sheet.id : `${of.head.id} ${Math.ceil(number / each)}`;
    groups.set(cylinder, [...(groups.get(cylinder) ?? []), runner]);
  }
  return [...groups.values()].map(([first, ...beside]) =>
    beside.length === 0 ? first! : { ...first!, name: [first!, ...beside].map((r) => r.name).join(' + '), beside },
  );
}

/** What judging reads of a head. */
export type FlowedHead = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'sheets' | 'measures'>;

/** What is taken of uncertainties for one head: the shop's figures, and set-ups as its own repeated sheets say. */
export const assumptionsFor = (
  whole: FlowedHead,
  { assumptions = USUAL_ASSUMPTIONS }: JudgingContext,
  measures?: readonly Measure[],
): Assumptions => ({
  ...assumptions,
  setup: setupFrom(whole.sheets, assumptions.setup, (s) => evaluateSheetOf(whole, s, measures)),
});

/** One port as a runner, by one sheet or the mean of several (the first names it). */
function runnerOf(whole: FlowedHead, sheets: readonly Sheet[], measures: readonly Measure[], context: JudgingContext) {
  const [sheet] = sheets as [Sheet];
  const name = portName(whole.ports, sheet.intakePortId) ?? sheet.title;
  const results = sheets.map((s) => evaluateSheetOf(whole, s, measures));
  const facts = (s: Sheet) => toSheetFacts(s, changedSince(whole, s), context);
  const runner: Runner = {
    name,
    sheet: pooledResult(sheets, results, valvesOf(whole, sheet, measures)),
    geometry: toHeadGeometry(whole.head, measures, sheet.intakePortId),
    facts: { ...facts(sheet), ...(sheets.length > 1 ? { pooled: sheets.length, apart: furthestApart(results) } : {}) },
    ...(sheets.length > 1
      ? {
          tests: results.map((result, i) => ({
            name: `${name}, ${sheets[i]!.title}`,
            sheet: result,
            facts: facts(sheets[i]!),
          })),
        }
      : {}),
  };
  return { sheet, runner };
}

/** The other ports of the bench's run, those tested more than once each as one. */
function sisterGroups(whole: FlowedHead, sheet: Sheet, touched: ReadonlySet<string>): (readonly Sheet[])[] {
  const groups: (readonly Sheet[])[] = [];
  for (const s of sisterSheets(whole.sheets, sheet, touched))
    if (!groups.some((g) => g.includes(s))) groups.push(repeatsOf(whole, s));
  return groups;
}

/** A head, and the other one of its engine where it has one. */
export type PairedHead = FlowedHead & { readonly pair?: WholeHead['pair'] };

/** What speaks for the other head of a pair: the furthest of its stages that was flowed. */
export function pairSheet(
  { pair }: PairedHead,
  build?: Pick<Build, 'bore'>,
): { readonly pair: FlowedHead; readonly stage: Stage; readonly sheet: Sheet } | undefined {
  if (!pair) return undefined;
  for (const stage of pair.stages.toReversed()) {
    const sheet = pickSheet(pair.sheets, stage.id, build, touchedPorts(pair.ports));
    if (sheet) return { pair, stage, sheet };
  }
  return undefined;
}

/** Every runner of one head that its sheets of a stage speak for, the port of `pooled` first. */
function testedOf(
  whole: FlowedHead,
  pooled: readonly Sheet[],
  measures: readonly Measure[],
  context: JudgingContext,
): Tested[] {
  const [sheet] = pooled;
  if (!sheet) return [];
  const touched = touchedPorts(whole.ports);
  return [pooled, ...sisterGroups(whole, sheet, touched)]
    .map((sheets) => ({ of: whole, ...runnerOf(whole, sheets, measures, context) }))
    .map((tested) => ({ ...tested, runner: withExhaust(whole, tested, touched, measures, context) }));
}

/**
 * A runner with the exhaust of its head: its own sheet's, else the least of those flowed at the stage in the same set-up,
 * as the least runner decides. With it comes the pipe it was flowed through.
 */
function withExhaust(
  whole: FlowedHead,
  { sheet, runner }: Pick<Tested, 'sheet' | 'runner'>,
  touched: ReadonlySet<string>,
  measures: readonly Measure[],
  context: JudgingContext,
): Runner {
  if (runner.sheet.exhaust.peak) return runner;
  const found = exhaustSheets(whole.sheets, sheet, touched)
    .flatMap((from) => {
      const { exhaust } = evaluateSheetOf(whole, from, measures);
      return exhaust.peak ? [{ from, exhaust, best: exhaust.peak.flow }] : [];
    })
    .sort((a, b) => a.best - b.best)[0];
  if (!found) return runner;
  const { exhaustPipe } = toSheetFacts(found.from, changedSince(whole, found.from), context);
  return {
    ...runner,
    sheet: { ...runner.sheet, exhaust: found.exhaust },
    ...(runner.facts ? { facts: { ...runner.facts, exhaustPipe } } : {}),
  };
}

/** Sizes at a stage without those of ports somebody touched, unless it is the port in hand. */
function judgedSizes(whole: FlowedHead, stageId: string, sheet: Sheet | undefined): Measure[] {
  const touched = touchedPorts(whole.ports);
  return measuresAt(whole, stageId).filter(
    (m) => m.portId === null || !touched.has(m.portId) || m.portId === sheet?.intakePortId,
  );
}

/** The runners of the other head of a pair, called by its name: two heads of one engine are judged by the worst port of either. */
function pairRunners(whole: PairedHead, context: JudgingContext): Tested[] {
  const found = pairSheet(whole);
  if (!found) return [];
  const { pair, stage, sheet } = found;
  return testedOf(pair, repeatsOf(pair, sheet), judgedSizes(pair, stage.id, sheet), context).map((t) => ({
    ...t,
    runner: { ...t.runner, name: `${pair.head.name}: ${t.runner.name}` },
  }));
}

/**
 * A stage of a head against an engine by the sheets of one port (read as one, the first names it) and its sister runners;
 * without a sheet by its sizes alone.
 */
export function judgeStage(
  core: CoreBuild,
  target: TargetResult,
  whole: PairedHead,
  stageId: string,
  pooled: readonly Sheet[],
  context: JudgingContext = {},
): Pick<HeadEvaluation, 'measures' | 'sheet' | 'pooled' | 'result' | 'match' | 'verdict'> {
  const [sheet] = pooled;
  const measures = judgedSizes(whole, stageId, sheet);
  const geometry = toHeadGeometry(whole.head, measures, sheet?.intakePortId);
  const tested = testedOf(whole, pooled, measures, context);
  const runners = byCylinder(tested.length > 0 ? [...tested, ...pairRunners(whole, context)] : []);
  const match = matchHead(core, target, geometry, runners);
  const { say } = context;
  const assumptions = assumptionsFor(whole, context, measures);
  const lift = say && ((l: number) => say.of(l, 'lift'));
  const verdict = judgeHead(core, target, geometry, match, assumptions, lift);
  return { measures, pooled, match, verdict, ...(sheet ? { sheet, result: tested[0]!.runner.sheet } : {}) };
}

/**
 * A head at a stage against a build, with its sister runners: by the sheet chosen, else by all of the port the program
 * picks that were taken alike.
 */
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
  const chosen = sheetId ? whole.sheets.find((s) => s.id === sheetId) : undefined;
  const sheet = chosen ?? pickSheet(whole.sheets, stageId, build, touched);
  const pooled = chosen ? [chosen] : sheet ? repeatsOf(whole, sheet) : [];
  const own = new Set([sheet?.intakePortId, sheet?.exhaustPortId]);
  return {
    stage: whole.stages.find((s) => s.id === stageId)!,
    arrival: arrivalAt(whole, stageId, build.id),
    leftOut: whole.ports
      .filter((p) => touched.has(p.id) && !own.has(p.id))
      .filter((p) => whole.sheets.some((s) => s.stageId === stageId && isOnPort(s, new Set([p.id]))))
      .map((p) => ({ port: `${p.side} ${portName(whole.ports, p.id)!}`, reason: p.touched })),
    ...judgeStage(core, target, whole, stageId, pooled, context),
  };
}

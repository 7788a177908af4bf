import {
  apartOf,
  evaluateSheet,
  judgeHead,
  matchHead,
  pooledSheet,
  USUAL_ASSUMPTIONS,
  type ArrivalResult,
  type Assumptions,
  type BenchContrast,
  type Build as CoreBuild,
  type HeadVerdict,
  type MatchResult,
  type PortValves,
  type Runner,
  type Say,
  type Side,
  type SheetResult,
  type TargetResult,
} from '@alluvium/core';
import type { WholeHead } from './api.js';
import { arrivalAt } from './arrival/arrival.js';
import type { Build } from './nouns/build.js';
import type { Stage } from './nouns/head.js';
import type { Measure } from './nouns/measure.js';
import type { Sheet } from './nouns/sheet.js';
import { leastFlowing, pickSheet, portTests, type PortTests } from './evidence.js';
import { isRepeat } from './repeats.js';
import { changedSince, isOnPort, measuresAt, portName, sisterSheets, touchedPorts } from './select.js';
import {
  benchContrast,
  benchesApart,
  repeatsTally,
  spreadsFrom,
  withShop,
  type HeadShares,
  type ShopSpreads,
  type Tally,
  type TestedPort,
} from './setups.js';
import { sheetName } from './sheetName.js';
import {
  measured,
  toCoreRows,
  toCoreSetup,
  toHeadGeometry,
  toPortValve,
  toSheetFacts,
  type EvidenceContext,
} from './toCore.js';

// first!, tests[]!: what is judged was tested.
// find()!, portName()!: stages, sheets and ports of the head itself.

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
  /** What all tests of the shop say of set-ups and benches. */
  readonly shop?: ShopSpreads | undefined;
  /** Units in which leaves are named. */
  readonly say?: Say;
}

/** One port of a head as it was tested, with the records its name is read from. */
interface Tested {
  readonly of: Pick<WholeHead, 'head' | 'ports'>;
  readonly sheets: PortTests['sheets'];
  readonly runner: Runner;
}

/** Runners as they serve the engine: where a cylinder has several intake ports, those of one cylinder are one. */
function byCylinder(tested: readonly Tested[]): Runner[] {
  const groups = new Map<string, Runner[]>();
  for (const {
    of,
    sheets: [sheet],
    runner,
  } of tested) {
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
export type FlowedHead = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'sheets' | 'measures' | 'operations'>;

/** Ports of a head that were measured more than once at a stage. */
const testedAgain = (whole: FlowedHead, context: EvidenceContext): TestedPort[] =>
  whole.stages.flatMap((stage) =>
    portTests(whole, stage.id, 'intake').flatMap(({ sheets }) =>
      sheets.length > 1 && sheets.some((s) => s.kind === 'measured')
        ? [{ tests: testsOfPort(whole, sheets, context), isRepeat }]
        : [],
    ),
  );

/** What one head's tests say of set-ups and benches, so that it adds up over a shop. */
export function spreadsOf(whole: FlowedHead): {
  readonly repeats: Tally;
  readonly contrasts: readonly BenchContrast[];
  readonly shares: HeadShares;
} {
  const ports = testedAgain(whole, {});
  return {
    repeats: repeatsTally(ports),
    contrasts: ports.flatMap((port) => benchContrast(port) ?? []),
    shares: sharesOf(whole),
  };
}

/** What was measured of a head at the last of its stages that was: its exhaust's share, the speed at its least area. */
function sharesOf(whole: FlowedHead): HeadShares {
  const measuredOnly = { ...whole, sheets: whole.sheets.filter((s) => s.kind === 'measured') };
  for (const stage of whole.stages.toReversed()) {
    const sheet = pickSheet(measuredOnly, stage.id);
    if (!sheet) continue;
    const { intake, exhaust } = evaluateSheetOf(whole, sheet);
    const best = intake.peak?.flow;
    if (!best) continue;
    const found = measuresAt(whole, stage.id).filter((m) => m.sourceId === null);
    const area = measured(found, 'pinch', 'intake', sheet.intakePortId);
    return {
      class: whole.head.class,
      ...(exhaust.peak && exhaust.peak.flow > 0 ? { exhaust: Math.log(exhaust.peak.flow / best) } : {}),
      ...(area ? { speed: Math.log(best / area) } : {}),
    };
  }
  return { class: whole.head.class };
}

/**
 * What is taken of uncertainties for one head: the shop's figures, with set-ups and benches as all of its tests say; as the
 * head's own say, where the shop's are not at hand.
 */
export const assumptionsFor = (whole: FlowedHead, context: JudgingContext): Assumptions => {
  const usual = context.assumptions ?? USUAL_ASSUMPTIONS;
  return context.shop
    ? withShop(usual, context.shop, whole.head.class)
    : spreadsFrom(testedAgain(whole, context), usual);
};

/** Sheets with what they say and how they were taken. */
const testsOfPort = (
  whole: FlowedHead,
  sheets: readonly Sheet[],
  context: EvidenceContext,
  measures?: readonly Measure[],
) =>
  sheets.map((sheet) => ({
    sheet,
    result: evaluateSheetOf(whole, sheet, measures),
    facts: toSheetFacts(sheet, changedSince(whole, sheet, 'intake'), context),
  }));

/** What sheets of one port say as one on both sides: intakes of one list, exhausts of another. The first of either names it. */
export function pooledResult(
  whole: FlowedHead,
  tests: Readonly<Record<Side, readonly Sheet[]>>,
  context: JudgingContext,
  measures?: readonly Measure[],
  assumptions: Assumptions = assumptionsFor(whole, context),
): SheetResult {
  const all = [...new Set([...tests.intake, ...tests.exhaust])];
  const [first] = all as [Sheet, ...Sheet[]];
  if (all.length === 1 && tests.intake.length === 1) return evaluateSheetOf(whole, first, measures);
  const of = (sheets: readonly Sheet[]) => testsOfPort(whole, sheets, context, measures);
  const valves = { ...valvesOf(whole, first, measures ?? measuresAt(whole, first.stageId)) };
  return pooledSheet({ intake: of(tests.intake), exhaust: of(tests.exhaust) }, valves, first.id, assumptions);
}

/** One port as a runner, by the sheets that speak for it (the first names it), with the exhaust of its head. */
function runnerOf(
  whole: FlowedHead,
  { sheets }: PortTests,
  exhausts: readonly PortTests[],
  measures: readonly Measure[],
  context: JudgingContext,
  assumptions: Assumptions,
): Tested {
  const [sheet] = sheets;
  const name = portName(whole.ports, sheet.intakePortId) ?? sheet.title;
  const tests = testsOfPort(whole, sheets, context, measures);
  const exhaust = exhaustOf(sheets, exhausts);
  const result = pooledResult(whole, { intake: sheets, exhaust }, context, measures, assumptions);
  // By the shop's figures: what these tests themselves say of set-ups and benches would excuse any distance.
  const apart = apartOf(tests, 'intake', context.assumptions ?? USUAL_ASSUMPTIONS);
  const nameOf = (id: string) =>
    sheetName(
      sheets.find((s) => s.id === id)!,
      whole.ports,
      context.sources ?? [],
    );
  const facts = { ...tests[0]!.facts, ...(exhaust[0] ? { exhaustPipe: exhaust[0].setup.exhaustPipe } : {}) };
  const runner: Runner = {
    name,
    sheet: result,
    geometry: toHeadGeometry(whole.head, measures, sheet.intakePortId),
    facts,
    ...(tests.length > 1
      ? {
          tests: tests.map((t) => ({ name: `${name}, ${t.sheet.title}`, sheet: t.result, facts: t.facts })),
          pooled: {
            count: tests.length,
            more: benchesApart(tests, context.assumptions ?? USUAL_ASSUMPTIONS),
            ...(apart
              ? { apart: { by: apart.by, times: apart.times, names: [nameOf(apart.ids[0]), nameOf(apart.ids[1])] } }
              : {}),
          },
        }
      : {}),
  };
  return { of: whole, sheets, runner };
}

/**
 * The exhaust sheets of a runner: those of an exhaust its own sheets flowed, else of the one that flows least at the stage,
 * as the least runner decides. A usual visit to the bench flows two intakes and one exhaust.
 */
const exhaustOf = (sheets: readonly Sheet[], exhausts: readonly PortTests[]): readonly Sheet[] =>
  (exhausts.find((e) => e.sheets.some((s) => sheets.includes(s))) ?? leastFlowing(exhausts, 'exhaust'))?.sheets ?? [];

/** A head, and the other one of its engine where it has one. */
export type PairedHead = FlowedHead & { readonly pair?: WholeHead['pair'] };

/** What speaks for the other head of a pair: the furthest of its stages that was flowed. */
export function pairSheet(
  { pair }: PairedHead,
  build?: Pick<Build, 'bore'>,
): { readonly pair: FlowedHead; readonly stage: Stage; readonly sheet: Sheet } | undefined {
  if (!pair) return undefined;
  for (const stage of pair.stages.toReversed()) {
    const sheet = pickSheet(pair, stage.id, build);
    if (sheet) return { pair, stage, sheet };
  }
  return undefined;
}

/** Sizes at a stage without those of ports somebody touched, unless it is the port in hand. */
function judgedSizes(whole: FlowedHead, stageId: string, sheet: Sheet | undefined): Measure[] {
  const touched = touchedPorts(whole.ports);
  return measuresAt(whole, stageId).filter(
    (m) => m.portId === null || !touched.has(m.portId) || m.portId === sheet?.intakePortId,
  );
}

/** The runners of the other head of a pair, called by its name: two heads of one engine are judged by the worst port of either. */
function pairRunners(whole: PairedHead, build: Pick<Build, 'bore'> | undefined, context: JudgingContext): Tested[] {
  const found = pairSheet(whole, build);
  if (!found) return [];
  const { pair, stage, sheet } = found;
  return testedOf(
    pair,
    portTests(pair, stage.id, 'intake', build),
    stage.id,
    build,
    judgedSizes(pair, stage.id, sheet),
    context,
    assumptionsFor(pair, context),
  ).map((t) => ({ ...t, runner: { ...t.runner, name: `${pair.head.name}: ${t.runner.name}` } }));
}

/** Every runner of a head at a stage. */
function testedOf(
  whole: FlowedHead,
  ports: readonly PortTests[],
  stageId: string,
  build: Pick<Build, 'bore'> | undefined,
  measures: readonly Measure[],
  context: JudgingContext,
  assumptions: Assumptions,
): Tested[] {
  // An exhaust of another kind of test (a claim beside a measured intake) is not this runner's.
  const kinds = new Set(ports.flatMap((p) => p.sheets.map((s) => s.kind)));
  const exhausts = portTests(
    { ...whole, sheets: whole.sheets.filter((s) => kinds.has(s.kind)) },
    stageId,
    'exhaust',
    build,
  );
  return ports.map((port) => runnerOf(whole, port, exhausts, measures, context, assumptions));
}

/** What judging a stage gives. */
export type JudgedStage = Pick<HeadEvaluation, 'measures' | 'sheet' | 'pooled' | 'result' | 'match' | 'verdict'>;

/**
 * A stage of a head against an engine by the tests of its ports; without one by its sizes alone. The sheet named is of the
 * port that decides, or of `chosen`.
 */
export function judgeStage(
  core: CoreBuild,
  target: TargetResult,
  whole: PairedHead,
  stageId: string,
  ports: readonly PortTests[],
  context: JudgingContext = {},
  { build, chosen }: { readonly build?: Pick<Build, 'bore'> | undefined; readonly chosen?: Sheet | undefined } = {},
): JudgedStage {
  const measures = judgedSizes(whole, stageId, chosen ?? ports[0]?.sheets[0]);
  const assumptions = assumptionsFor(whole, context);
  const own = testedOf(whole, ports, stageId, build, measures, context, assumptions);
  const runners = byCylinder(own.length > 0 ? [...own, ...pairRunners(whole, build, context)] : []);
  const geometry = toHeadGeometry(whole.head, measures, (chosen ?? ports[0]?.sheets[0])?.intakePortId);
  const match = matchHead(core, target, geometry, runners);
  const { say } = context;
  const lift = say && ((l: number) => say.of(l, 'lift'));
  const verdict = judgeHead(core, target, geometry, match, assumptions, lift);
  const shown =
    own.find((t) => (chosen ? t.sheets[0] === chosen : t.sheets[0].id === match.deciding?.facts?.id)) ?? own[0];
  return {
    measures,
    match,
    verdict,
    pooled: shown?.sheets ?? [],
    ...(shown ? { sheet: shown.sheets[0], result: shown.runner.sheet } : {}),
  };
}

/** The tests of a stage's ports where the user chose a sheet: it alone for its port, the others by those taken like it. */
function testsWith(whole: FlowedHead, chosen: Sheet, build: Pick<Build, 'bore'>): PortTests[] {
  const alike = sisterSheets(whole.sheets, chosen);
  return [
    { portId: chosen.intakePortId, sheets: [chosen], others: [] },
    ...portTests({ ...whole, sheets: alike }, chosen.stageId, 'intake', build),
  ];
}

/**
 * A head at a stage against a build: by the sheet chosen and its sister runners, else by every port of the stage, each by
 * all the tests that speak for it.
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
  const intakes = chosen ? testsWith(whole, chosen, build) : portTests(whole, stageId, 'intake', build);
  // Of a stage whose exhaust alone was flowed, that is shown.
  const ports = intakes.length > 0 ? intakes : portTests(whole, stageId, 'exhaust', build);
  const judged = judgeStage(core, target, whole, stageId, ports, context, { build, chosen });
  const own = new Set([judged.sheet?.intakePortId, judged.sheet?.exhaustPortId]);
  return {
    stage: whole.stages.find((s) => s.id === stageId)!,
    arrival: arrivalAt(whole, stageId, build.id),
    leftOut: whole.ports
      .filter((p) => touched.has(p.id) && !own.has(p.id))
      .filter((p) => whole.sheets.some((s) => s.stageId === stageId && isOnPort(s, new Set([p.id]))))
      .map((p) => ({ port: `${p.side} ${portName(whole.ports, p.id)!}`, reason: p.touched })),
    ...judged,
  };
}

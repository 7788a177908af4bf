/** What a source says of a head against what the bench found, geometry allows and the library has seen. */
import {
  SIDES,
  claimDoubts,
  claimQuestions,
  claimSpread,
  claimWords,
  comparable,
  evaluateSurvey,
  judgeClaim,
  nearestRunner,
  numberOf,
  runnerWords,
  settleWords,
  throughWords,
  usualBest,
  type Assumptions,
  verdictOf,
  type BandLookup,
  type BandView,
  type ClaimedPoint,
  type ClaimSpread,
  type Comparison,
  type Given,
  type KnownPlace,
  type PointResult,
  type PointVerdict,
  type RunnerVerdict,
  type Say,
  type Side,
  type WholeClaim,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { assumptionsFor, pooledResult, type JudgingContext } from '../evaluateHead.js';
import { evaluated } from './evaluated.js';
import type { PipeEffect } from './pipe.js';
import type { Build } from '../nouns/build.js';
import type { Measure } from '../nouns/measure.js';
import type { Sheet } from '../nouns/sheet.js';
import { toCoreSections } from '../sections.js';
import { leastPort } from '../evidence.js';
import { isOnPort, measuresAt, portName, speaks, surveyAt, touchedPorts } from '../select.js';
import { measured, toSheetFacts } from '../toCore.js';
import { conditionsOf, portIdOf } from './conditions.js';

// portName()!: a port of the head itself.
// found!.curve!, points[]!: a doubt is of a row of that curve.
// tests[]!: one at least.

/** What judging claims reads of a head; surveys are read where they come along. */
export type NetHead = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'sheets' | 'measures' | 'operations'> &
  Partial<Pick<WholeHead, 'surveys' | 'reports'>>;

/** What a source reads off on other heads than the one in question: natural logarithm, half of its 95 % interval, and how many shared heads say so. */
export interface SourceReading {
  readonly offset: number;
  readonly half: number;
  readonly heads: number;
}

/** Which exhaust tests a band is of; every intake test is of `any`. */
export const BAND_PIPES = ['any', 'bare', 'piped'] as const;
export type BandPipe = (typeof BAND_PIPES)[number];

/** What every claim is held against besides its own head. */
export interface ClaimContext {
  /** What the library has seen of a side; of exhausts tested bare or piped alone where that is known. */
  readonly band: (side: Side, pipe: BandPipe) => BandLookup;
  /** The source that is our own bench. */
  readonly own: string | undefined;
  readonly repeatability: Given<number>;
  readonly say: Say;
  /** What tests are known to: the shop's own figures, who its sources are, which benches were checked. */
  readonly judging?: JudgingContext | undefined;
  /** What a pipe is worth, from the shop's ports that were tested both ways. */
  readonly pipe?: PipeEffect | undefined;
  /** The engine at hand: of sheets that serve alike, the one on its bore is taken. */
  readonly build?: Pick<Build, 'bore'> | undefined;
  /** Read through: what each source reads off, from other heads. Left out while the net is being solved. */
  readonly sourceReads?: (sourceId: string, side: Side) => SourceReading | undefined;
}

/**
 * What a claim and our tests of one port may lie apart though both are right. A claim is one test on one bench unlike ours;
 * `read` is what the net says of its source: then neither bench counts, but how well that is known.
 */
function spreadOf(
  assumptions: Assumptions,
  claim: Sheet,
  against: readonly Sheet[],
  { judging, repeatability }: ClaimContext,
  read?: SourceReading,
): ClaimSpread {
  const facts = (sheet: Sheet) => toSheetFacts(sheet, [], judging);
  return claimSpread(
    { ...facts(claim), kind: 'measured' },
    against.map(facts),
    assumptions,
    numberOf(repeatability),
    read && read.half / 1.96,
  );
}

/** Areas of a port known at its tight places: as measured, and the least section of its survey. */
export function knownPlaces(
  head: NetHead,
  stageId: string,
  side: Side,
  portId: string | null,
  measures: readonly Measure[],
): KnownPlace[] {
  const places = (['pinch', 'window'] as const).flatMap((item) => {
    const area = measured(measures, item, side, portId);
    return area === undefined ? [] : [{ name: item, area }];
  });
  const survey = head.surveys && surveyAt({ stages: head.stages, surveys: head.surveys }, stageId, side, portId);
  const choke = survey && evaluateSurvey(toCoreSections(survey)).choke;
  return choke ? [...places, { name: 'least section', area: choke.area.value }] : places;
}

export interface JudgedClaim {
  readonly sheet: Sheet;
  readonly side: Side;
  /** The measured sheet it is held against; undefined when there is none. */
  readonly against?: Sheet;
  readonly comparison?: Comparison;
  readonly points: readonly ClaimedPoint[];
  /** All rows by one test, as claimed and once the source's offset is taken off. */
  readonly whole?: WholeClaim;
  readonly through?: WholeClaim;
  /** The claim and the sheet it is held against as they stand, point by point. */
  readonly claimed: readonly PointResult[];
  readonly measured: readonly PointResult[];
  readonly places: readonly KnownPlace[];
  readonly verdict: PointVerdict | undefined;
  readonly words: string;
  /** What reading it through its source's offset says; empty where nothing can be said. */
  readonly throughWords: string;
  /** Which runner seems to be the one published. */
  readonly runner?: { readonly verdict: RunnerVerdict; readonly words: string };
  /** What is asked about it. */
  readonly questions: readonly string[];
  /** What to measure next. */
  readonly next: string;
}

/** Sheets of our own bench with a figure on a side; of every bench while no source is named as our own. */
const ownSheets = (head: NetHead, side: Side, own: string | undefined): Sheet[] =>
  head.sheets.filter(
    (s) => s.kind === 'measured' && speaks(s) && (!own || s.sourceId === own) && s.rows.some((r) => r[side]),
  );

/**
 * Our tests a claim is held against: of those that differ least from how it was tested, the ones of the port that flows least.
 * They are read as one; the first names them.
 */
function nearestOwn(head: NetHead, claim: Sheet, side: Side, context: ClaimContext): readonly Sheet[] {
  const { own, build } = context;
  const stated = conditionsOf(claim, head.ports, side);
  const held = ownSheets(head, side, own)
    .filter((s) => s.stageId === claim.stageId)
    .map((sheet) => ({
      sheet,
      differs: comparable(stated, conditionsOf(sheet, head.ports, side), side).aspects.filter(
        (a) => a.state === 'differs',
      ).length,
    }));
  const least = Math.min(...held.map((h) => h.differs));
  const nearest = held.filter((h) => h.differs === least).map((h) => h.sheet);
  return leastPort({ ...head, sheets: nearest }, claim.stageId, side, build)?.sheets ?? [];
}

/** A piped exhaust is held against piped ones; where a claim does not say, against all. */
const bandPipe = (sheet: Sheet, side: Side): BandPipe =>
  side === 'intake' || sheet.setup.exhaustPipe === 'unknown' ? 'any' : sheet.setup.exhaustPipe;

/** A coefficient that judging a head's claims looks up in the band. */
export interface BandAsk {
  readonly side: Side;
  readonly pipe: BandPipe;
  readonly liftRatio: number;
  readonly coefficient: number;
}

const isJudged = (sheet: Sheet, side: Side): boolean =>
  sheet.kind === 'claim' && sheet.setup.reads !== 'difference' && sheet.rows.some((r) => r[side]);

/** Everything judging the claims of a head looks up in the band: asked for in one go where the library is elsewhere. */
export const bandAsks = (head: NetHead, sides: readonly Side[] = SIDES): BandAsk[] =>
  sides.flatMap((side) =>
    head.sheets
      .filter((s) => isJudged(s, side))
      .flatMap((sheet) =>
        evaluated(head, sheet)[side].points.flatMap((p): BandAsk[] =>
          p.coefficients.curtain && p.liftRatio !== undefined
            ? [{ side, pipe: bandPipe(sheet, side), liftRatio: p.liftRatio, coefficient: p.coefficients.curtain.value }]
            : [],
        ),
      ),
  );

const askKey = (a: BandAsk): string => `${a.side} ${a.pipe} ${a.liftRatio} ${a.coefficient}`;

/** The band as it was answered; what was not asked for is held against the usual one. */
export function answeredBand(asks: readonly BandAsk[], views: readonly BandView[]): ClaimContext['band'] {
  const known = new Map(asks.map((a, i) => [askKey(a), views[i]]));
  return (side, pipe) => (liftRatio, coefficient) =>
    known.get(askKey({ side, pipe, liftRatio, coefficient })) ?? {
      heads: 0,
      best: usualBest(liftRatio),
      usual: true,
    };
}

/** Our sheets of the other runners taken as `against` was, itself among them: one a port. */
function runnersBeside(head: NetHead, side: Side, own: string | undefined, against: Sheet): Sheet[] {
  const touched = touchedPorts(head.ports);
  const alike = ownSheets(head, side, own).filter(
    (s) =>
      s.stageId === against.stageId &&
      portIdOf(s, side) !== null &&
      !isOnPort(s, touched) &&
      (s.setup.bore?.si ?? 0) === (against.setup.bore?.si ?? 0) &&
      s.setup.exhaustPipe === against.setup.exhaustPipe,
  );
  return alike.filter((s, i) => alike.findIndex((o) => portIdOf(o, side) === portIdOf(s, side)) === i);
}

/** The claim's way of testing beside ours: what keeps them apart, unless the only thing is a pipe whose worth is known. */
function comparisonOf(head: NetHead, claim: Sheet, ours: Sheet, side: Side, pipe: PipeEffect | undefined) {
  const [theirs, here] = [conditionsOf(claim, head.ports, side), conditionsOf(ours, head.ports, side)];
  const comparison = comparable(theirs, here, side, { pipe: pipe !== undefined });
  const converted =
    pipe && comparison.aspects.some((a) => a.what === 'pipe' && a.state === 'convertible') ? pipe : undefined;
  return {
    comparison,
    converts: converted && {
      by: theirs.exhaustPipe === 'piped' ? converted.by : -converted.by,
      spread: converted.spread,
      note: `from ${converted.pairs} ports tested bare and piped`,
    },
  };
}

/**
 * Every claim on one side of a head, held against what was measured at its stage. A claim of a depression or bore nobody
 * stated is compared with a reservation; one that differs is not compared.
 */
export function judgedClaims(head: NetHead, side: Side, context: ClaimContext): JudgedClaim[] {
  return head.sheets.filter((s) => isJudged(s, side)).map((sheet) => judgedClaim(head, sheet, side, context));
}

function judgedClaim(head: NetHead, sheet: Sheet, side: Side, context: ClaimContext): JudgedClaim {
  const { band, own, repeatability, say } = context;
  const tests = nearestOwn(head, sheet, side, context);
  const [against] = tests;
  const { comparison, converts } = against ? comparisonOf(head, sheet, against, side, context.pipe) : {};
  const measures = measuresAt(head, sheet.stageId).filter((m) => m.sourceId === null);
  const whole = evaluated(head, sheet);
  const claimed = whole[side].points;
  const assumptions = assumptionsFor(head, context.judging ?? {});
  const found = against && foundOf(head, tests, side, context, assumptions);
  const places = knownPlaces(head, sheet.stageId, side, portIdOf(sheet, side), measures);
  const may = comparison?.may ?? 'reserved';
  const source = may === 'not' || sheet.sourceId === null ? undefined : context.sourceReads?.(sheet.sourceId, side);
  const wider = (spread: ClaimSpread): ClaimSpread =>
    converts ? { ...spread, level: Math.hypot(spread.level, converts.spread) } : spread;
  const doubted = tests.length === 1 ? (found?.doubts ?? []).map((d) => found!.curve!.points[d.index]!.lift) : [];
  const judged = judgeClaim({
    points: claimed,
    measured: found?.curve,
    may,
    band: band(side, bandPipe(sheet, side)),
    places,
    spread: wider(spreadOf(assumptions, sheet, tests, context)),
    source: source && { offset: source.offset, spread: wider(spreadOf(assumptions, sheet, tests, context, source)) },
    converts,
    doubted,
  });
  const verdict = verdictOf(judged);
  const unknown = comparison?.aspects.filter((a) => a.state === 'unknown').map((a) => `the ${a.what}`) ?? [];
  const port = portName(head.ports, head.ports.find((p) => p.side === side)?.id ?? null);
  const fit =
    against && may !== 'not'
      ? nearestRunner(
          claimed.map((p) => ({ lift: p.lift, flow: p.flow.value })),
          runnersBeside(head, side, own, against).flatMap((s) => {
            const { curve } = evaluated(head, s)[side];
            return curve ? [{ name: portName(head.ports, portIdOf(s, side))!, curve }] : [];
          }),
          numberOf(repeatability),
          source?.offset,
        )
      : undefined;
  return {
    sheet,
    side,
    ...judged,
    claimed,
    measured: found?.points ?? [],
    places,
    verdict,
    words: claimWords(judged, verdict, say, against && { lifts: doubted, title: against.title }),
    throughWords: source ? throughWords(judged, source.heads, say) : '',
    questions: claimQuestions(claimDoubts({ intake: whole.intake.points, exhaust: whole.exhaust.points }), say),
    next: settleWords(verdict, unknown, port, against !== undefined),
    ...(against ? { against } : {}),
    ...(comparison ? { comparison } : {}),
    ...(fit ? { runner: { verdict: fit, words: runnerWords(fit, say) } } : {}),
  };
}

/** One side of our tests of a port, read as one. */
const foundOf = (
  head: NetHead,
  tests: readonly Sheet[],
  side: Side,
  { judging }: ClaimContext,
  assumptions: Assumptions,
) =>
  tests.length === 1
    ? evaluated(head, tests[0]!)[side]
    : pooledResult(head, { intake: tests, exhaust: tests }, judging ?? {}, undefined, assumptions)[side];

/** Verdicts that no other bench explains. */
export const isGrave = (verdict: string | undefined): boolean =>
  verdict === 'impossible' || verdict === 'beyond anything measured';

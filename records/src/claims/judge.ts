/** What a source says of a head against what the bench found, geometry allows and the library has seen. */
import {
  SIDES,
  claimDoubts,
  claimQuestions,
  claimWords,
  comparable,
  evaluateSurvey,
  judgeClaim,
  nearestRunner,
  numberOf,
  runnerWords,
  settleWords,
  throughWords,
  trendOf,
  usualBest,
  verdictOf,
  type BandLookup,
  type BandView,
  type ClaimedPoint,
  type Comparison,
  type Given,
  type KnownPlace,
  type PointResult,
  type PointVerdict,
  type RunnerVerdict,
  type Say,
  type Side,
  type Trend,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { evaluated } from './evaluated.js';
import type { Build } from '../nouns/build.js';
import type { Measure } from '../nouns/measure.js';
import type { Sheet } from '../nouns/sheet.js';
import { toCoreSections } from '../sections.js';
import { leastPort } from '../evidence.js';
import { isOnPort, measuresAt, portName, speaks, surveyAt, touchedPorts } from '../select.js';
import { measured } from '../toCore.js';
import { conditionsOf, portIdOf } from './conditions.js';

// portName()!: a port of the head itself.

/** What judging claims reads of a head; surveys are read where they come along. */
export type NetHead = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'sheets' | 'measures'> &
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
  /** The engine at hand: of sheets that serve alike, the one on its bore is taken. */
  readonly build?: Pick<Build, 'bore'> | undefined;
  /** Read through: what each source reads off, from other heads. Left out while the net is being solved. */
  readonly sourceReads?: (sourceId: string, side: Side) => SourceReading | undefined;
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
  /** The claim and the sheet it is held against as they stand, point by point. */
  readonly claimed: readonly PointResult[];
  readonly measured: readonly PointResult[];
  readonly places: readonly KnownPlace[];
  readonly verdict: PointVerdict | undefined;
  readonly trend: Trend | undefined;
  readonly words: string;
  /** What reading it through its source's offset says; empty where nothing can be said. */
  readonly through: string;
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

/** Our sheet a claim is held against: of those that differ least from how it was tested, the one that speaks for the stage. */
function nearestOwn(head: NetHead, claim: Sheet, side: Side, { own, build }: ClaimContext): Sheet | undefined {
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
  return leastPort({ ...head, sheets: nearest }, claim.stageId, side, build)?.sheets[0];
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

/**
 * Every claim on one side of a head, held against what was measured at its stage. A claim of a depression or bore nobody
 * stated is compared with a reservation; one that differs is not compared.
 */
export function judgedClaims(head: NetHead, side: Side, context: ClaimContext): JudgedClaim[] {
  const { band, own, repeatability, say } = context;
  const sigma = numberOf(repeatability);
  return head.sheets
    .filter((s) => isJudged(s, side))
    .map((sheet) => {
      const against = nearestOwn(head, sheet, side, context);
      const comparison =
        against && comparable(conditionsOf(sheet, head.ports, side), conditionsOf(against, head.ports, side), side);
      const measures = measuresAt(head, sheet.stageId).filter((m) => m.sourceId === null);
      const whole = evaluated(head, sheet);
      const claimed = whole[side].points;
      const found = against && evaluated(head, against)[side];
      const places = knownPlaces(head, sheet.stageId, side, portIdOf(sheet, side), measures);
      const may = comparison?.may ?? 'reserved';
      const source = sheet.sourceId === null ? undefined : context.sourceReads?.(sheet.sourceId, side);
      const points = judgeClaim({
        points: claimed,
        measured: found?.curve,
        may,
        band: band(side, bandPipe(sheet, side)),
        places,
        repeatability,
        source: may === 'not' ? undefined : source,
      });
      const verdict = verdictOf(points);
      const trend = trendOf(points);
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
              sigma,
              source?.offset,
            )
          : undefined;
      return {
        sheet,
        side,
        points,
        claimed,
        measured: found?.points ?? [],
        places,
        verdict,
        trend,
        words: claimWords(points, verdict, trend, say),
        through: source ? throughWords(points, source.heads, say) : '',
        questions: claimQuestions(claimDoubts({ intake: whole.intake.points, exhaust: whole.exhaust.points }), say),
        next: settleWords(verdict, unknown, port, against !== undefined),
        ...(against ? { against } : {}),
        ...(comparison ? { comparison } : {}),
        ...(fit ? { runner: { verdict: fit, words: runnerWords(fit, say) } } : {}),
      };
    });
}

/** Verdicts that no other bench explains. */
export const isGrave = (verdict: string | undefined): boolean =>
  verdict === 'impossible' || verdict === 'beyond anything measured';

/** What a claimed point is worth: seen from the valve, from the port's least area, from all measured heads, from the bench. */
import type { BandLookup, BandView } from './band.js';
import { SAME_LIFT, type FlowCurve } from '../flow/curve.js';
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, idealVelocity } from '../flow/reading.js';
import { COMMON_PRACTICE, noted, work, type Method, type Working } from '../method/method.js';
import type { PointResult } from '../evaluate/sheet.js';
import { sectionSpeed } from '../head/ratios.js';
import type { Comparability } from './comparable.js';
import { offsetCorrection } from './offsets.js';
import { judgeWhole, type ClaimSpread, type WholeClaim } from './whole.js';
import { refusal } from '../refusal/refusal.js';

// source!, found!, curtain!: looked for in front of it.

/** How far good benches differ from each other; a claim must pass the best ever seen by more. Common practice, no source. */
export const BETWEEN_BENCHES = 0.05;

export const claimError: Method<{ claimed: number; measured: number }> = {
  id: 'claim-error',
  title: 'How far a claim reads from the bench',
  formula: 'e = \\frac{Q_{claimed}}{Q} - 1',
  inputs: {
    claimed: { label: 'claimed, at the common depression', symbol: 'Q_{claimed}', kind: 'flow' },
    measured: { label: 'measured, at the common depression', symbol: 'Q', kind: 'flow' },
  },
  result: { label: 'error', symbol: 'e', kind: 'percent' },
  source: 'Relative difference.',
  compute: ({ claimed, measured }) => {
    if (measured <= 0) throw refusal('notAboveZero', 'measured flow');
    return claimed / measured - 1;
  },
};

export const claimUncertainty: Method<{ level: number; row: number }> = {
  id: 'claim-uncertainty',
  title: 'How far a claimed figure may read off and still hold',
  formula: 'u = 1.96\\,\\sqrt{s_b^2 + s_r^2}',
  inputs: {
    level: {
      label: 'what both benches and set-ups read off, one standard deviation',
      symbol: 's_b',
      kind: 'percent',
    },
    row: { label: 'one row against the others, one standard deviation', symbol: 's_r', kind: 'percent' },
  },
  result: { label: 'uncertainty', symbol: 'u', kind: 'percent' },
  source: `JCGM 100:2008, 5.1.2 and 6.3.3. What benches differ by: ${COMMON_PRACTICE} Control heads agree within 3.5 %, nineteen times in twenty.`,
  compute: ({ level, row }) => 1.96 * Math.hypot(level, row),
};

export type PointVerdict =
  | 'impossible'
  | 'beyond anything measured'
  | 'high'
  | 'low'
  | 'holds'
  | 'not comparable'
  | 'own reading in question'
  | 'nothing to hold it against';

/** No other bench explains these: one such point speaks for the claim. */
const GRAVE: readonly PointVerdict[] = ['impossible', 'beyond anything measured'];
/** What is said of a claim none of which could be compared. */
const REST: readonly PointVerdict[] = ['not comparable', 'own reading in question', 'nothing to hold it against'];

export interface ClaimedPoint {
  readonly lift: number;
  readonly verdict: PointVerdict;
  readonly flow: Working;
  readonly measured?: number;
  readonly error?: Working;
  readonly uncertainty: Working;
  readonly band?: BandView;
  /** Mean speed at the tightest place of the port that is known. */
  readonly speed?: Working;
  /** Whether that speed passes what the depression alone drives: beyond the usual, since pressure recovered behind a waist helps. */
  readonly tooFast: boolean;
  /** How far it reads off once read through its source's offset, and how far it may and still hold. */
  readonly through?: { readonly error: Working; readonly uncertainty: Working };
}

/** A place of the port whose area is known: the pinch, the window over the short turn, the least section of a survey. */
export interface KnownPlace {
  readonly name: string;
  /** m². */
  readonly area: number;
}

/** The tightest of the places known. */
export const tightest = (places: readonly KnownPlace[]): KnownPlace | undefined =>
  places.reduce<KnownPlace | undefined>((least, p) => (least && least.area <= p.area ? least : p), undefined);

/**
 * The coefficient on the minimum valve area (m²) at which the air at the tightest place would run as fast as the depression
 * alone drives it. Above it a claim is beyond the usual: where pressure recovers behind a waist it may run faster, and
 * the bound is the valve's.
 */
export const coefficientOfPlace = (place: number, minimumArea: number): number => place / minimumArea;

export interface ClaimFacts {
  readonly points: readonly PointResult[];
  /** What our bench measured of the same head and stage. */
  readonly measured?: FlowCurve | undefined;
  readonly may: Comparability;
  /** What the library has seen at a lift ratio. */
  readonly band: BandLookup;
  /** Areas of the port known at its tight places. */
  readonly places?: readonly KnownPlace[];
  /** What the two may lie apart though both are right. */
  readonly spread: ClaimSpread;
  /** What the source reads off on other heads than this one, a natural logarithm; the spread once that is taken off. */
  readonly source?: { readonly offset: number; readonly spread: ClaimSpread } | undefined;
  /** What the other way of testing is worth, where it is known from pairs: natural logarithm to add to what was measured. */
  readonly converts?: { readonly by: number; readonly note: string } | undefined;
  /** Lifts (m) of our own rows that are in question: nothing is held against them. */
  readonly doubted?: readonly number[];
}

export interface JudgedPoints {
  readonly points: readonly ClaimedPoint[];
  /** All rows by one test; undefined where nothing could be compared. */
  readonly whole?: WholeClaim;
  /** The same once the source's offset is taken off. */
  readonly through?: WholeClaim;
}

export const measuredConverted: Method<{ flow: number; by: number }> = {
  id: 'measured-converted',
  title: 'What was measured, as it would read tested the claim’s way',
  formula: 'Q = Q_m\\,e^{d}',
  inputs: {
    flow: { label: 'measured', symbol: 'Q_m', kind: 'flow' },
    by: { label: 'what the other way of testing is worth, natural logarithm', symbol: 'd', kind: 'ratio' },
  },
  result: { label: 'measured, converted', symbol: 'Q', kind: 'flow' },
  source: 'The mean of the shop’s own ports that were tested both ways.',
  caution: 'A mean over other ports: what they differ by is in the ±.',
  compute: ({ flow, by }) => flow * Math.exp(by),
};

/** Holds every point of a claim against geometry, the library and the bench, and the whole of it against the bench. */
export function judgeClaim(facts: ClaimFacts): JudgedPoints {
  const { spread, source, converts } = facts;
  const uncertaintyOf = (of: ClaimSpread, note: string) =>
    work(claimUncertainty, { level: noted(of.level, note), row: of.row });
  const uncertainty = uncertaintyOf(spread, 'as claimed, no offset taken off');
  const wider = source && uncertaintyOf(source.spread, 'from other heads of this source');
  const place = tightest(facts.places ?? []);
  const ideal = idealVelocity.compute({ depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });
  const points = facts.points.map((p): ClaimedPoint => {
    const { curtain } = p.coefficients;
    const speed = place && work(sectionSpeed, { flow: p.flow, area: noted(place.area, place.name) });
    const tooFast = speed !== undefined && speed.value > ideal;
    const band = curtain && p.liftRatio !== undefined ? facts.band(p.liftRatio, curtain.value) : undefined;
    const read = facts.measured?.at(p.lift);
    const found =
      read !== undefined && read > 0
        ? converts
          ? work(measuredConverted, { flow: read, by: noted(converts.by, converts.note) })
          : read
        : undefined;
    const measured = typeof found === 'object' ? found.value : found;
    const error = found !== undefined ? work(claimError, { claimed: p.flow, measured: found }) : undefined;
    const through =
      wider && error
        ? {
            error: work(claimError, {
              claimed: work(offsetCorrection, {
                flow: p.flow,
                offset: noted(source!.offset, 'of this source, from other heads'),
              }),
              measured: found!,
            }),
            uncertainty: wider,
          }
        : undefined;
    const doubted = (facts.doubted ?? []).some((lift) => Math.abs(lift - p.lift) < SAME_LIFT);
    const verdict = ((): PointVerdict => {
      if (p.aboveOne === 'beyond its uncertainty') return 'impossible';
      if (band && curtain!.value > band.best * (1 + Math.hypot(2 * Math.SQRT2 * spread.row, BETWEEN_BENCHES)))
        return 'beyond anything measured';
      if (!error) return 'nothing to hold it against';
      if (facts.may === 'not') return 'not comparable';
      if (doubted) return 'own reading in question';
      if (Math.abs(error.value) <= uncertainty.value) return 'holds';
      return error.value > 0 ? 'high' : 'low';
    })();
    return {
      lift: p.lift,
      verdict,
      flow: p.flow,
      uncertainty,
      tooFast,
      ...(measured === undefined ? {} : { measured }),
      ...(error ? { error } : {}),
      ...(band ? { band } : {}),
      ...(speed ? { speed } : {}),
      ...(through ? { through } : {}),
    };
  });
  const rows = points.flatMap((p) =>
    p.error && p.error.value > -1 && p.verdict !== 'not comparable' && p.verdict !== 'own reading in question'
      ? [{ lift: p.lift, off: Math.log1p(p.error.value) }]
      : [],
  );
  if (facts.may === 'not') return { points };
  const whole = judgeWhole(rows, spread);
  const through =
    source &&
    judgeWhole(
      rows.map((r) => ({ ...r, off: r.off - source.offset })),
      source.spread,
    );
  return { points, ...(whole ? { whole } : {}), ...(through ? { through } : {}) };
}

/** The verdict on a claim: a grave point speaks for all of it, else the test over all lifts. Undefined without a point. */
export function verdictOf({ points, whole }: JudgedPoints): PointVerdict | undefined {
  const has = (v: PointVerdict) => points.some((p) => p.verdict === v);
  return GRAVE.find(has) ?? whole?.verdict ?? REST.find(has);
}

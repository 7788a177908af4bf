/** What a claimed point is worth: seen from the valve, from the port's least area, from all measured heads, from the bench. */
import type { BandLookup, BandView } from './band.js';
import { countsBeyond } from '../flow/compare.js';
import type { FlowCurve } from '../flow/curve.js';
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, idealVelocity } from '../flow/reading.js';
import { mean } from '../method/mean.js';
import { noted, work, type Given, type Method, type Working } from '../method/method.js';
import type { PointResult } from '../evaluate/sheet.js';
import { slopeOf } from '../bench/steady.js';
import { sectionSpeed } from '../head/ratios.js';
import type { Comparability } from './comparable.js';
import { offsetCorrection } from './offsets.js';
import { refusal } from '../refusal/refusal.js';

// source!, measured!, curtain!: looked for in front of it.

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

export const claimUncertainty: Method<{ repeatability: number; offset: number }> = {
  id: 'claim-uncertainty',
  title: 'How far a claim may read off and still hold',
  formula: 'u = \\sqrt{(2\\sqrt{2}\\,\\sigma)^2 + h^2}',
  inputs: {
    repeatability: { label: 'repeatability of a bench', symbol: '\\sigma', kind: 'percent' },
    offset: { label: 'half of the 95 % interval of the source’s offset', symbol: 'h', kind: 'percent' },
  },
  result: { label: 'uncertainty', symbol: 'u', kind: 'percent' },
  source:
    'Two readings of one head differ by 2√2 σ at most, nineteen times in twenty (JCGM 100:2008, 5.1.2 and 6.3.3).',
  compute: ({ repeatability, offset }) => Math.hypot(countsBeyond(repeatability), offset),
};

export type PointVerdict =
  | 'impossible'
  | 'beyond anything measured'
  | 'high'
  | 'low'
  | 'holds'
  | 'not comparable'
  | 'nothing to hold it against';

/** How grave each is: the gravest point speaks for the claim. */
const GRAVITY: readonly PointVerdict[] = [
  'impossible',
  'beyond anything measured',
  'high',
  'low',
  'not comparable',
  'nothing to hold it against',
  'holds',
];

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
  readonly repeatability: Given<number>;
  /** What the source reads off on other heads than this one: natural logarithm, and half of its 95 % interval. */
  readonly source?: { readonly offset: number; readonly half: number } | undefined;
}

/** Holds every point of a claim against geometry, the library and the bench. */
export function judgeClaim(facts: ClaimFacts): ClaimedPoint[] {
  const { repeatability, source } = facts;
  const uncertainty = work(claimUncertainty, { repeatability, offset: noted(0, 'as claimed, no offset taken off') });
  const wider =
    source && Number.isFinite(source.half)
      ? work(claimUncertainty, { repeatability, offset: noted(source.half, 'from other heads of this source') })
      : undefined;
  const place = tightest(facts.places ?? []);
  const ideal = idealVelocity.compute({ depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });
  return facts.points.map((p) => {
    const { curtain } = p.coefficients;
    const speed = place && work(sectionSpeed, { flow: p.flow, area: noted(place.area, place.name) });
    const tooFast = speed !== undefined && speed.value > ideal;
    const band = curtain && p.liftRatio !== undefined ? facts.band(p.liftRatio, curtain.value) : undefined;
    const measured = facts.measured?.at(p.lift);
    const error = measured !== undefined && measured > 0 ? work(claimError, { claimed: p.flow, measured }) : undefined;
    const through =
      wider && error
        ? {
            error: work(claimError, {
              claimed: work(offsetCorrection, {
                flow: p.flow,
                offset: noted(source!.offset, 'of this source, from other heads'),
              }),
              measured: measured!,
            }),
            uncertainty: wider,
          }
        : undefined;
    const verdict = ((): PointVerdict => {
      if (p.aboveOne === 'beyond its uncertainty') return 'impossible';
      if (band && curtain!.value > band.best * (1 + Math.hypot(uncertainty.value, BETWEEN_BENCHES)))
        return 'beyond anything measured';
      if (!error) return 'nothing to hold it against';
      if (facts.may === 'not') return 'not comparable';
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
}

/** The gravest verdict of a claim; undefined for a claim without a point. */
export const verdictOf = (points: readonly ClaimedPoint[]): PointVerdict | undefined =>
  GRAVITY.find((v) => points.some((p) => p.verdict === v));

export interface Trend {
  readonly count: number;
  /** Mean error. */
  readonly mean: number;
  /** Change of the error over the span of lifts compared. */
  readonly drift: number;
  /** `offset`: much the same everywhere. `grows`, `shrinks`: with lift. `scatters`: neither. */
  readonly shape: 'holds' | 'offset' | 'grows' | 'shrinks' | 'scatters';
}

/** How the error of a claim goes with lift: a source that reads high everywhere is another matter than one that flatters the top. */
export function trendOf(points: readonly ClaimedPoint[]): Trend | undefined {
  const live = points.flatMap((p) => (p.error ? [{ lift: p.lift, error: p.error.value }] : []));
  if (live.length < 3) return undefined;
  const n = live.length;
  const level = mean(live.map((p) => p.error));
  const at = mean(live.map((p) => p.lift));
  const across = live.reduce((s, p) => s + (p.lift - at) ** 2, 0);
  const slope = slopeOf(live.map((p) => ({ at: p.lift, value: p.error })));
  const left = Math.sqrt(
    live.reduce((s, p) => s + (p.error - level - slope * (p.lift - at)) ** 2, 0) / Math.max(1, n - 2),
  );
  const span = Math.max(...live.map((p) => p.lift)) - Math.min(...live.map((p) => p.lift));
  const drift = slope * span;
  const u = points[0]!.uncertainty.value;
  const sure = Math.abs(slope) > (2 * left) / Math.sqrt(across);
  const shape = live.every((p) => Math.abs(p.error) <= u)
    ? 'holds'
    : sure && Math.abs(drift) > u
      ? drift > 0
        ? 'grows'
        : 'shrinks'
      : Math.abs(level) > (2 * left) / Math.sqrt(n) && Math.abs(level) > u / 2
        ? 'offset'
        : 'scatters';
  return { count: n, mean: level, drift, shape };
}

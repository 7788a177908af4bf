import { inches } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

/** A cam lobe as its card states it; lifts in m, angles in rad of crankshaft. */
export interface CamFigures {
  /** Lift at the valve. */
  readonly maxLift: number;
  /** Duration between the two points where the tappet stands at `height`. */
  readonly duration: number;
  /** Checking height at the tappet; .050 in unless stated. */
  readonly height?: number;
  /** A second pair, when the card states one. */
  readonly second?: { readonly height: number; readonly duration: number };
  /** Valve lift per tappet lift; 1 when heights are taken at the valve. */
  readonly rockerRatio: number;
}

/**
 * Valve lift over crank angle, symmetric about the nose:
 *
 *   y(θ) = y_max (1 − |θ/T|^m)³ for |θ| < T, else 0
 *
 * The cube makes lift, velocity and acceleration start from zero at both ends (C²), and m ≥ 2 keeps the nose smooth.
 * T follows from the duration at the checking height. With a second checking height m follows too, in closed form;
 * without it m is 2.5, which puts the seat-to-seat and .200 in durations where usual tappet cams have them
 * (common practice, no source).
 */
export interface CamProfile {
  readonly maxLift: number;
  /** Half the seat-to-seat duration T. */
  readonly halfDuration: number;
  readonly fullness: number;
  /** Valve lift at an angle from the nose. */
  readonly liftAt: (angle: number) => number;
  /** Share of the lift event the valve spends above a lift, 1 at zero lift, 0 at maximum lift. */
  readonly shareAbove: (lift: number) => number;
}

export const CHECKING_HEIGHT = inches(0.05);
const USUAL_FULLNESS = 2.5;
const LEAST_FULLNESS = 2;
const MOST_FULLNESS = 8;

/** |θ/T|^m at which the lift is this share of maximum. */
const openness = (share: number): number => 1 - Math.cbrt(Math.min(1, Math.max(0, share)));

/** @throws Refusal with a sentence when the figures fit no cam of the family. */
export function camProfile(cam: CamFigures): CamProfile {
  const tappetMax = cam.maxLift / cam.rockerRatio;
  const height = cam.height ?? CHECKING_HEIGHT;
  if (!(tappetMax > height)) throw refusal('camUnderHeight');
  if (!(cam.duration > 0 && cam.duration < 2 * Math.PI)) throw refusal('durationOutOfReach');
  const a = openness(height / tappetMax);
  let fullness = USUAL_FULLNESS;
  if (cam.second) {
    const { height: h2, duration: d2 } = cam.second;
    if (!(tappetMax > h2)) throw refusal('camUnderSecondHeight');
    if ((h2 - height) * (d2 - cam.duration) >= 0) throw refusal('durationsSwapped');
    fullness = Math.log(a / openness(h2 / tappetMax)) / Math.log(cam.duration / d2);
    if (!(fullness >= LEAST_FULLNESS && fullness <= MOST_FULLNESS)) {
      throw refusal('durationsAtOdds');
    }
  }
  const halfDuration = cam.duration / 2 / a ** (1 / fullness);
  return {
    maxLift: cam.maxLift,
    halfDuration,
    fullness,
    liftAt: (angle) => {
      const u = Math.abs(angle) / halfDuration;
      return u >= 1 ? 0 : cam.maxLift * (1 - u ** fullness) ** 3;
    },
    shareAbove: (lift) => openness(lift / cam.maxLift) ** (1 / fullness),
  };
}

/** Crank angles (rad after top dead centre of the gas exchange) of valve opening and closing at the checking height. */
export function valveEvents(centreline: number, duration: number): { opens: number; closes: number } {
  return { opens: centreline - duration / 2, closes: centreline + duration / 2 };
}

/** Centreline of the exhaust lobe, rad before top dead centre: twice the lobe separation less the intake centreline. */
export const exhaustCentreline = (lobeSeparation: number, intakeCentreline: number): number =>
  2 * lobeSeparation - intakeCentreline;

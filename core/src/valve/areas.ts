import type { Method } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

/** Sizes of one valve and its seat; m and rad. */
export interface ValveGeometry {
  /** Head diameter D. */
  readonly diameter: number;
  /** Width of the seat contact, along the seat's face, as it is measured. */
  readonly seatWidth?: number;
  /** Seat angle β from the head's plane. */
  readonly seatAngle?: number;
  /** Least diameter under the seat. */
  readonly throat?: number;
  readonly stem?: number;
}

/** Assumed where a seat was not measured: 45°, width 1.5 mm, throat 90 % and stem 8 mm. Common practice, no source. */
export const USUAL_SEAT = { angle: Math.PI / 4, width: 0.0015, throatRatio: 0.9, stem: 0.008 } as const;

export const curtainArea: Method<{ diameter: number; lift: number; valves: number }> = {
  id: 'curtain-area',
  title: 'Curtain area',
  formula: 'A_c = n_v\\,\\pi D L',
  inputs: {
    diameter: { label: 'valve diameter', symbol: 'D', kind: 'length' },
    lift: { label: 'lift', symbol: 'L', kind: 'lift' },
    valves: { label: 'valves on this port', symbol: 'n_v', kind: 'count' },
  },
  result: { label: 'curtain area', symbol: 'A_c', kind: 'area' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §6.3.',
  compute: ({ diameter, lift, valves }) => valves * Math.PI * diameter * lift,
};

export const valveDiscArea: Method<{ diameter: number; valves: number }> = {
  id: 'valve-disc-area',
  title: 'Valve disc area',
  formula: 'A_v = n_v\\,\\frac{\\pi D^2}{4}',
  inputs: {
    diameter: { label: 'valve diameter', symbol: 'D', kind: 'length' },
    valves: { label: 'valves on this port', symbol: 'n_v', kind: 'count' },
  },
  result: { label: 'valve disc area', symbol: 'A_v', kind: 'area' },
  source: 'Plane geometry.',
  compute: ({ diameter, valves }) => (valves * Math.PI * diameter ** 2) / 4,
};

export const throatArea: Method<{ throat: number; stem: number; valves: number }> = {
  id: 'throat-area',
  title: 'Throat area less the stem',
  formula: 'A_t = n_v\\,\\frac{\\pi}{4}(D_t^2 - D_s^2)',
  inputs: {
    throat: { label: 'throat diameter', symbol: 'D_t', kind: 'length' },
    stem: { label: 'stem diameter', symbol: 'D_s', kind: 'length' },
    valves: { label: 'valves on this port', symbol: 'n_v', kind: 'count' },
  },
  result: { label: 'throat area', symbol: 'A_t', kind: 'area' },
  source: 'Plane geometry.',
  compute: ({ throat, stem, valves }) => {
    if (stem >= throat) throw refusal('stemFillsThroat');
    return (valves * Math.PI * (throat ** 2 - stem ** 2)) / 4;
  },
};

/** Heywood's w: the seat's width square to the valve's axis, of which D − 2w is the seat's inner diameter. */
export const radialSeatWidth = (face: number, angle: number): number => face * Math.cos(angle);

/**
 * The three stages of the minimum area: near the seat the conical frustum square to it, then the slant side of a cone
 * from the seat's inner edge, then the throat less the stem, which no stage passes. `seatWidth` is along the face. Returns the
 * area of one valve and the stage, 1 to 3.
 */
export function minimumAreaOfValve(v: {
  lift: number;
  diameter: number;
  seatWidth: number;
  seatAngle: number;
  throat: number;
  stem: number;
}): { area: number; stage: 1 | 2 | 3 } {
  const { lift: L, diameter: D, seatAngle: b, throat: Dp, stem: Ds } = v;
  const w = radialSeatWidth(v.seatWidth, b);
  if (Ds >= Dp) throw refusal('stemFillsThroat');
  if (2 * w >= D) throw refusal('seatOverValve');
  const portArea = (Math.PI / 4) * (Dp ** 2 - Ds ** 2);
  const Dm = D - w;
  const limit1 = w === 0 ? 0 : w / (Math.sin(b) * Math.cos(b));
  const reach = ((Dp ** 2 - Ds ** 2) / (4 * Dm)) ** 2 - w ** 2;
  const limit2 = Math.sqrt(Math.max(0, reach)) + w * Math.tan(b);
  const opening =
    L <= limit1
      ? { area: Math.PI * L * Math.cos(b) * (D - 2 * w + (L / 2) * Math.sin(2 * b)), stage: 1 as const }
      : L <= limit2
        ? { area: Math.PI * Dm * Math.hypot(L - w * Math.tan(b), w), stage: 2 as const }
        : undefined;
  return opening && opening.area < portArea ? opening : { area: portArea, stage: 3 };
}

export const minimumArea: Method<{
  lift: number;
  diameter: number;
  seatWidth: number;
  seatAngle: number;
  throat: number;
  stem: number;
  valves: number;
}> = {
  id: 'minimum-area',
  title: 'Minimum flow area of the valve, in three stages',
  formula: `A = \\begin{cases}
\\pi L\\cos\\beta\\left(D - 2w + \\tfrac{L}{2}\\sin 2\\beta\\right) & L \\le \\frac{w}{\\sin\\beta\\cos\\beta}\\\\
\\pi D_m\\sqrt{(L - w\\tan\\beta)^2 + w^2} & \\text{then}\\\\
\\frac{\\pi}{4}(D_p^2 - D_s^2) & L > \\sqrt{\\left(\\frac{D_p^2 - D_s^2}{4D_m}\\right)^2 - w^2} + w\\tan\\beta
\\end{cases},\\quad w = w_f\\cos\\beta`,
  inputs: {
    lift: { label: 'lift', symbol: 'L', kind: 'lift' },
    diameter: { label: 'valve diameter', symbol: 'D', kind: 'length' },
    seatWidth: { label: 'seat width along its face', symbol: 'w_f', kind: 'length' },
    seatAngle: { label: 'seat angle', symbol: '\\beta', kind: 'angle' },
    throat: { label: 'throat diameter', symbol: 'D_p', kind: 'length' },
    stem: { label: 'stem diameter', symbol: 'D_s', kind: 'length' },
    valves: { label: 'valves on this port', symbol: 'n_v', kind: 'count' },
  },
  result: { label: 'minimum area', symbol: 'A', kind: 'area' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §6.3, eqs. 6.7 to 6.9.',
  caution: 'The formula leaves out the chamber wall: a valve crowded by the bore has less.',
  compute: ({ valves, ...one }) => valves * minimumAreaOfValve(one).area,
};

const coefficientOn = (
  id: string,
  area: string,
  caution: string,
): Method<{ flow: number; area: number; velocity: number }> => ({
  id,
  title: `Discharge coefficient on ${area}`,
  formula: 'C = \\frac{Q}{A\\,v}',
  inputs: {
    flow: { label: 'flow at the common depression', symbol: 'Q', kind: 'flow' },
    area: { label: area, symbol: 'A', kind: 'area' },
    velocity: { label: 'ideal velocity at that depression', symbol: 'v', kind: 'velocity' },
  },
  result: { label: `discharge coefficient on ${area}`, symbol: 'C', kind: 'ratio' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §6.3.',
  caution,
  compute: ({ flow, area: a, velocity }) => flow / (a * velocity),
});

export const curtainCoefficient = coefficientOn(
  'curtain-coefficient',
  'curtain area',
  'Falls with lift on every head; compare heads at the same L/D.',
);
export const discCoefficient = coefficientOn(
  'disc-coefficient',
  'valve disc area',
  'Rises with lift; its peak compares heads of unlike valve size.',
);
export const throatCoefficient = coefficientOn(
  'throat-coefficient',
  'throat area',
  'Meaningful at high lift, where the throat is the least area.',
);
export const minimumAreaCoefficient = coefficientOn(
  'minimum-area-coefficient',
  'minimum area',
  'Cannot pass 1: a figure above it is no flow through that valve. Near 0.9 at low lift and 0.6 to 0.7 at high lift is usual (Heywood, from memory).',
);

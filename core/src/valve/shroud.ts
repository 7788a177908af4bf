/** Shrouding: how near the bore wall crowds a valve all round, at each lift. */
import type { Method } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

/** One valve in its bore; m and rad. Coordinates from the bore's centre in the deck's plane. */
export interface ShroudedValve {
  readonly diameter: number;
  readonly x: number;
  readonly y: number;
  /** Lean of the valve's axis from the bore's, and the direction (from the x axis) in which it moves as it opens. */
  readonly inclination: number;
  readonly leanTowards: number;
}

export interface Bore {
  readonly diameter: number;
  /** Offset boring moves the axis. */
  readonly x: number;
  readonly y: number;
  /** Extra radius where the bore's edge was relieved, over the arc facing the valve; reaches down by `depth`. */
  readonly relief: number;
  readonly reliefDepth: number;
}

export interface ShroudAtLift {
  readonly lift: number;
  /** Least gap between valve edge and wall, and the direction in which it is. */
  readonly leastGap: number;
  readonly towards: number;
  /** Share of the valve's circumference whose gap is less than the lift. */
  readonly crowded: number;
  /** Gap at each of the even directions round the valve. */
  readonly gaps: readonly number[];
}

/** Where a valve's centre is once it opened: one that leans moves sideways. */
export function valveCentreAt(valve: ShroudedValve, lift: number): { readonly x: number; readonly y: number } {
  const shift = lift * Math.sin(valve.inclination);
  return { x: valve.x + shift * Math.cos(valve.leanTowards), y: valve.y + shift * Math.sin(valve.leanTowards) };
}

/** What the relieved edge gives at a lift: nothing once the valve's edge is deeper than it reaches. */
export const reliefAt = (valve: ShroudedValve, bore: Bore, lift: number): number =>
  lift * Math.cos(valve.inclination) <= bore.reliefDepth ? bore.relief : 0;

/** Directions round the valve that are looked at. */
export const SHROUD_STEPS = 360;

/**
 * Gap from the valve's edge to the bore wall along each direction out from the valve's centre, at one lift. A leaning
 * valve moves sideways as it opens. A relieved edge counts while the valve's edge is no deeper than it reaches.
 * @throws Refusal when the valve's centre lies outside the bore.
 */
export function shroudAt(valve: ShroudedValve, bore: Bore, lift: number, steps = SHROUD_STEPS): ShroudAtLift {
  const centre = valveCentreAt(valve, lift);
  const [cx, cy] = [centre.x - bore.x, centre.y - bore.y];
  const radius = bore.diameter / 2 + reliefAt(valve, bore, lift);
  if (Math.hypot(cx, cy) >= radius) throw refusal('valveOutsideBore');
  const gaps = Array.from({ length: steps }, (_, i) => {
    const angle = (2 * Math.PI * i) / steps;
    const [ux, uy] = [Math.cos(angle), Math.sin(angle)];
    // Distance from the valve's centre to the bore circle along this direction.
    const b = cx * ux + cy * uy;
    const wall = -b + Math.sqrt(b * b - (cx * cx + cy * cy - radius * radius));
    return wall - valve.diameter / 2;
  });
  let at = 0;
  gaps.forEach((g, i) => {
    if (g < gaps[at]!) at = i;
  });
  return {
    lift,
    leastGap: gaps[at]!,
    towards: (2 * Math.PI * at) / steps,
    crowded: gaps.filter((g) => g < lift).length / steps,
    gaps,
  };
}

export const concentricGap: Method<{ bore: number; valve: number; offset: number }> = {
  id: 'least-wall-gap',
  title: 'Least gap between valve and bore wall',
  formula: 'g = \\frac{B - D}{2} - e',
  inputs: {
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    valve: { label: 'valve diameter', symbol: 'D', kind: 'length' },
    offset: { label: 'valve centre off bore centre', symbol: 'e', kind: 'length' },
  },
  result: { label: 'least gap', symbol: 'g', kind: 'length' },
  source: 'Plane geometry.',
  compute: ({ bore, valve, offset }) => (bore - valve) / 2 - offset,
};

export const offsetFromGap: Method<{ bore: number; valve: number; gap: number }> = {
  id: 'offset-from-gap',
  title: 'How far a valve stands off the bore’s centre, by the gap beside it',
  formula: 'e = \\frac{B - D}{2} - g',
  inputs: {
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    valve: { label: 'valve diameter', symbol: 'D', kind: 'length' },
    gap: { label: 'least gap from edge to wall, measured', symbol: 'g', kind: 'length' },
  },
  result: { label: 'valve centre off bore centre', symbol: 'e', kind: 'length' },
  source: 'Plane geometry.',
  caution: 'Taken in the bore the gap was measured in; a bore of another size has another gap.',
  compute: ({ bore, valve, gap }) => {
    const offset = (bore - valve) / 2 - gap;
    if (offset < -1e-4) throw refusal('gapOverCentre');
    return Math.max(0, offset);
  },
};

export const crowdedShare: Method<{ bore: number; valve: number; offset: number; lift: number }> = {
  id: 'crowded-share',
  title: 'Share of the curtain that the wall crowds',
  formula:
    's = \\frac{1}{\\pi}\\arccos\\frac{R^2 - e^2 - d^2}{2 e d},\\quad R = \\tfrac{B}{2},\\; d = \\tfrac{D}{2} + L',
  inputs: {
    bore: { label: 'bore at the valve’s edge', symbol: 'B', kind: 'length' },
    valve: { label: 'valve diameter', symbol: 'D', kind: 'length' },
    offset: { label: 'valve centre off bore centre at this lift', symbol: 'e', kind: 'length' },
    lift: { label: 'lift', symbol: 'L', kind: 'lift' },
  },
  result: { label: 'edge with a gap less than the lift', symbol: 's', kind: 'percent' },
  source: 'Plane geometry (law of cosines).',
  caution: 'A share of the edge, not of the flow: what it costs is measured with two fixtures.',
  compute: ({ bore, valve, offset, lift }) => {
    const [R, d] = [bore / 2, valve / 2 + lift];
    if (offset < 1e-12) return d > R ? 1 : 0;
    const c = (R * R - offset * offset - d * d) / (2 * offset * d);
    return Math.acos(Math.max(-1, Math.min(1, c))) / Math.PI;
  },
};

export const measuredShrouding: Method<{ wide: number; narrow: number }> = {
  id: 'measured-shrouding',
  title: 'Flow lost to the smaller bore',
  formula: '\\lambda = \\frac{Q_{wide} - Q_{narrow}}{Q_{wide}}',
  inputs: {
    wide: { label: 'flow in the larger bore', symbol: 'Q_{wide}', kind: 'flow' },
    narrow: { label: 'flow in the smaller bore', symbol: 'Q_{narrow}', kind: 'flow' },
  },
  result: { label: 'lost', symbol: '\\lambda', kind: 'percent' },
  source: 'Definition.',
  compute: ({ wide, narrow }) => (wide - narrow) / wide,
};

/** A velocity map: pitot readings on a grid across one place of a port. */
import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { REFERENCE_DENSITY } from '../flow/reading.js';
import { inside, type Point } from '../section/shape.js';
import { refusal } from '../refusal/refusal.js';

// byVelocity.at()!: a map has cells.

export const pitotVelocity: Method<{ pressure: number; density: number }> = {
  id: 'pitot-velocity',
  title: 'Velocity from a pitot',
  formula: 'v = \\sqrt{\\frac{2\\,\\Delta p}{\\rho}}',
  inputs: {
    pressure: { label: 'pitot pressure over static', symbol: '\\Delta p', kind: 'depression' },
    density: { label: 'air density', symbol: '\\rho', kind: 'density' },
  },
  result: { label: 'velocity', symbol: 'v', kind: 'velocity' },
  source: 'Bernoulli; V[ft/min] = 4005√(inH2O) in standard air (ASHRAE Handbook, Fundamentals).',
  caution: 'A probe across the flow, or in air that turns back, reads low or nothing.',
  compute: ({ pressure, density }) => Math.sqrt((2 * Math.max(0, pressure)) / density),
};

/** Weighted mean; the weights are areas. */
const mean = (values: readonly number[], areas: readonly number[]): number =>
  values.reduce((s, v, i) => s + v * areas[i]!, 0) / areas.reduce((s, a) => s + a, 0);

export const meanVelocity: Method<{ velocities: readonly number[]; areas: readonly number[] }> = {
  id: 'mean-velocity',
  title: 'Mean velocity of a map',
  formula: '\\bar{v} = \\frac{\\sum v_i A_i}{\\sum A_i}',
  inputs: {
    velocities: { label: 'velocities', symbol: 'v_i', kind: 'velocity' },
    areas: { label: 'area each stands for', symbol: 'A_i', kind: 'area' },
  },
  result: { label: 'mean velocity', symbol: '\\bar{v}', kind: 'velocity' },
  source: 'Weighted mean.',
  compute: ({ velocities, areas }) => mean(velocities, areas),
};

export const uniformityIndex: Method<{ velocities: readonly number[]; areas: readonly number[] }> = {
  id: 'uniformity-index',
  title: 'Uniformity of a map',
  formula: '\\gamma = 1 - \\frac{\\sum |v_i - \\bar{v}|\\,A_i}{2\\,\\bar{v}\\sum A_i}',
  inputs: {
    velocities: { label: 'velocities', symbol: 'v_i', kind: 'velocity' },
    areas: { label: 'area each stands for', symbol: 'A_i', kind: 'area' },
  },
  result: { label: 'uniformity', symbol: '\\gamma', kind: 'ratio' },
  source: 'H. Weltens et al., SAE Paper 930780 (1993), from memory: 1 is even flow, 0 all of it through one point.',
  compute: ({ velocities, areas }) => {
    const v = mean(velocities, areas);
    if (v <= 0) throw refusal('mapWithoutAir');
    const total = areas.reduce((s, a) => s + a, 0);
    return 1 - velocities.reduce((s, x, i) => s + Math.abs(x - v) * areas[i]!, 0) / (2 * v * total);
  },
};

export const mapFlow: Method<{ velocity: number; area: number }> = {
  id: 'map-flow',
  title: 'Flow a map adds up to',
  formula: 'Q = \\bar{v}\\,A',
  inputs: {
    velocity: { label: 'mean velocity', symbol: '\\bar{v}', kind: 'velocity' },
    area: { label: 'area of the section', symbol: 'A', kind: 'area' },
  },
  result: { label: 'flow of the map', symbol: 'Q', kind: 'flow' },
  source: 'Continuity; 0.4167 turns ft/s and in² into cfm.',
  compute: ({ velocity, area }) => velocity * area,
};

export const mapClosure: Method<{ map: number; bench: number }> = {
  id: 'map-closure',
  title: 'Map against bench',
  formula: 'c = \\frac{Q_{map}}{Q_{bench}} - 1',
  inputs: {
    map: { label: 'flow of the map', symbol: 'Q_{map}', kind: 'flow' },
    bench: { label: 'flow of the bench at that lift and depression', symbol: 'Q_{bench}', kind: 'flow' },
  },
  result: { label: 'map over bench', symbol: 'c', kind: 'percent' },
  source: `${COMMON_PRACTICE} Within about 10 % a map by hand is good.`,
  compute: ({ map, bench }) => map / bench - 1,
};

/** One cell of a map: how fast (m/s), how far it bounced either way, and the area it stands for (m², or 1 without one). */
export interface MapCell {
  readonly row: number;
  readonly column: number;
  readonly velocity: number;
  readonly bounce: number;
  readonly area: number;
}

/** Velocity of one reading from its least and greatest pressure (Pa), and half of what lies between. */
export function cellVelocity(
  low: number,
  high: number,
  density = REFERENCE_DENSITY,
): { velocity: number; bounce: number } {
  const a = pitotVelocity.compute({ pressure: low, density });
  const b = pitotVelocity.compute({ pressure: high, density });
  return { velocity: (a + b) / 2, bounce: Math.abs(b - a) / 2 };
}

/**
 * Area of each cell of a grid laid over an outline (m), rows from the roof down, columns from left: the share of its
 * fine points inside the outline. Cells wholly outside have none.
 */
export function cellAreas(outline: readonly Point[], rows: number, columns: number): number[][] {
  const xs = outline.map((p) => p[0]);
  const ys = outline.map((p) => p[1]);
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const [w, h] = [(right - left) / columns, (high - low) / rows];
  const FINE = 24;
  return Array.from({ length: rows }, (_, r) =>
    Array.from({ length: columns }, (_, c) => {
      let hits = 0;
      for (let i = 0; i < FINE; i++)
        for (let j = 0; j < FINE; j++)
          if (inside([left + (c + (i + 0.5) / FINE) * w, high - (r + (j + 0.5) / FINE) * h], outline)) hits++;
      return (hits / FINE ** 2) * w * h;
    }),
  );
}

/** A cell slower than this share of the mean is dead. Common practice, no source. */
export const DEAD = 0.35;

export interface MapReading {
  readonly cells: readonly MapCell[];
  readonly fastest: MapCell;
  readonly slowest: MapCell;
  readonly dead: readonly MapCell[];
  readonly velocities: readonly number[];
  readonly areas: readonly number[];
}

/** What a map shows; undefined with fewer than two cells read. */
export function readMap(cells: readonly MapCell[]): MapReading | undefined {
  const live = cells.filter((c) => c.area > 0);
  if (live.length < 2) return undefined;
  const velocities = live.map((c) => c.velocity);
  const areas = live.map((c) => c.area);
  const middle = mean(velocities, areas);
  const byVelocity = [...live].sort((a, b) => a.velocity - b.velocity);
  return {
    cells: live,
    velocities,
    areas,
    fastest: byVelocity.at(-1)!,
    slowest: byVelocity[0]!,
    dead: live.filter((c) => c.velocity < DEAD * middle),
  };
}

/** The cam a head wants: where its two lobes should stand, for a stated aim. */
import { cholesky, solveFactored } from '../claim/cholesky.js';
import { degrees } from '../quantity/units.js';
import { COARSE, LIVE } from './model.js';
import type { CamAt, SimulationSetup } from './setup.js';
import { solvePoint, type FitStore } from './sweep.js';

/** What is sought: mean torque over some speeds, or power at one. */
export interface CamAim {
  /** Speeds it is sought over, weighted alike. */
  readonly speeds: readonly number[];
}

export interface CamFound {
  readonly at: CamAt;
  /** Mean torque there and on the cam the build has, Nm, on the finer grid. */
  readonly torque: number;
  readonly now: number;
  /** The best lies on the edge of what was searched. */
  readonly edge: boolean;
  /** How many cams were run. */
  readonly run: number;
  /** The surface that was fitted, for the picture: each cam run and its torque on the coarse grid. */
  readonly cams: readonly (CamAt & { readonly torque: number })[];
}

const BOUNDS = { lobeSeparation: [degrees(98), degrees(120)], intakeCentreline: [degrees(94), degrees(120)] } as const;
/** No finer than this is printed: the optimum is flat. */
export const CAM_FINENESS = degrees(3);

/** Fourteen cams over the bounds: corners, edges and middle, and five between. */
function design(): CamAt[] {
  const [l0, l1] = BOUNDS.lobeSeparation;
  const [c0, c1] = BOUNDS.intakeCentreline;
  const at = (x: number, y: number): CamAt => ({
    lobeSeparation: l0 + x * (l1 - l0),
    intakeCentreline: c0 + y * (c1 - c0),
  });
  const grid = [0, 0.5, 1].flatMap((x) => [0, 0.5, 1].map((y) => at(x, y)));
  return [...grid, at(0.25, 0.25), at(0.75, 0.25), at(0.25, 0.75), at(0.75, 0.75), at(0.5, 0.25)];
}

/** 1, x, y, x², xy, y². */
const basis = (x: number, y: number): number[] => [1, x, y, x * x, x * y, y * y];

/** Least squares of z over that basis, by the normal equations. */
function quadratic(points: readonly (readonly [x: number, y: number, z: number])[]): Float64Array {
  const n = 6;
  const normal = new Float64Array(n * n);
  const right = new Float64Array(n);
  for (const [x, y, z] of points) {
    const b = basis(x, y);
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) normal[i * n + j]! += b[i]! * b[j]!;
      right[i]! += b[i]! * z;
    }
  }
  cholesky(normal, n);
  return solveFactored(normal, n, right);
}

/**
 * Coarse runs over the bounds, a quadratic through them, and the best of a few confirmed on the finer grid (a coarse
 * surface alone leans towards late centrelines). A sentence where too few cams could be run.
 */
export function camWanted(setup: SimulationSetup, aim: CamAim, fits: FitStore): CamFound | string {
  const mean = (cam: CamAt, running = COARSE): number => {
    let sum = 0;
    for (const speed of aim.speeds) {
      const { point } = solvePoint({ setup, speed, cam, running }, fits);
      if (!point.ok) return NaN;
      sum += point.torque / aim.speeds.length;
    }
    return sum;
  };
  const cams = design()
    .map((cam) => ({ ...cam, torque: mean(cam) }))
    .filter((c) => Number.isFinite(c.torque));
  if (cams.length < 8) return 'Too few of the cams could be run to tell one from another.';
  const [l0, l1] = BOUNDS.lobeSeparation;
  const [c0, c1] = BOUNDS.intakeCentreline;
  const b = quadratic(
    cams.map((c) => [(c.lobeSeparation - l0) / (l1 - l0), (c.intakeCentreline - c0) / (c1 - c0), c.torque]),
  );
  const surface: { at: CamAt; z: number; edge: boolean }[] = [];
  for (let i = 0; i <= 22; i++)
    for (let j = 0; j <= 26; j++) {
      const [x, y] = [i / 22, j / 26];
      surface.push({
        at: { lobeSeparation: l0 + x * (l1 - l0), intakeCentreline: c0 + y * (c1 - c0) },
        z: basis(x, y).reduce((sum, f, k) => sum + f * b[k]!, 0),
        edge: i === 0 || i === 22 || j === 0 || j === 26,
      });
    }
  surface.sort((p, q) => q.z - p.z);
  const apart = (p: CamAt, q: CamAt) =>
    Math.hypot(p.lobeSeparation - q.lobeSeparation, p.intakeCentreline - q.intakeCentreline);
  const chosen: { at: CamAt; edge: boolean }[] = [];
  const best = [...cams].sort((p, q) => q.torque - p.torque)[0]!;
  for (const p of [...surface, { at: best, edge: false }])
    if (chosen.length < 3 && chosen.every((c) => apart(c.at, p.at) > CAM_FINENESS)) chosen.push(p);
  const confirmed = [
    ...chosen,
    { at: { lobeSeparation: best.lobeSeparation, intakeCentreline: best.intakeCentreline }, edge: false },
  ]
    .map((c) => ({ ...c, torque: mean(c.at, LIVE) }))
    .filter((c) => Number.isFinite(c.torque))
    .sort((p, q) => q.torque - p.torque)[0];
  const now = mean(setup.cam, LIVE);
  if (!confirmed || !Number.isFinite(now)) return 'The best cams did not settle on the finer grid.';
  const onEdge =
    Math.min(confirmed.at.lobeSeparation - l0, l1 - confirmed.at.lobeSeparation) < degrees(1) ||
    Math.min(confirmed.at.intakeCentreline - c0, c1 - confirmed.at.intakeCentreline) < degrees(1);
  return { at: confirmed.at, torque: confirmed.torque, now, edge: onEdge, run: cams.length + 5, cams };
}

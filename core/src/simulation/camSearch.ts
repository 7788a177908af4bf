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

/** Mean torque over the bounds by the quadratic through the cams that were run. */
function surfaceThrough(cams: CamFound['cams']): (cam: CamAt) => number {
  const [l0, l1] = BOUNDS.lobeSeparation;
  const [c0, c1] = BOUNDS.intakeCentreline;
  const place = (c: CamAt) => [(c.lobeSeparation - l0) / (l1 - l0), (c.intakeCentreline - c0) / (c1 - c0)] as const;
  const b = quadratic(cams.map((c) => [...place(c), c.torque]));
  return (cam) => basis(...place(cam)).reduce((sum, f, k) => sum + f * b[k]!, 0);
}
/** The bounds in steps of a degree. */
const EVERY_CAM: readonly (CamAt & { readonly edge: boolean })[] = Array.from({ length: 23 * 27 }, (_, n) => {
  const [i, j] = [Math.floor(n / 27), n % 27];
  return {
    lobeSeparation: BOUNDS.lobeSeparation[0] + degrees(i),
    intakeCentreline: BOUNDS.intakeCentreline[0] + degrees(j),
    edge: i === 0 || i === 22 || j === 0 || j === 26,
  };
});

/** One cam for a test of two heads: what each gives up on it of its own best, Nm. */
export interface FairCam {
  readonly at: CamAt;
  readonly losses: readonly [a: number, b: number];
  /** What lies between the two on their own cams, B less A, Nm. */
  readonly difference: number;
  /** What one cam adds of itself is less than half of that. */
  readonly tells: boolean;
}

/** The cam on which the head that gives up more gives up least, by both surfaces. */
export function fairCam(a: CamFound, b: CamFound): FairCam {
  const both = [a, b].map((found) => {
    const of = surfaceThrough(found.cams);
    const best = Math.max(...EVERY_CAM.map(of));
    return (cam: CamAt) => best - of(cam);
  }) as [(cam: CamAt) => number, (cam: CamAt) => number];
  const losses = (cam: CamAt) => [both[0](cam), both[1](cam)] as const;
  const { lobeSeparation, intakeCentreline } = EVERY_CAM.reduce((x, y) =>
    Math.max(...losses(y)) < Math.max(...losses(x)) ? y : x,
  );
  const at = { lobeSeparation, intakeCentreline };
  const found = losses(at);
  const difference = b.torque - a.torque;
  return { at, losses: found, difference, tells: Math.abs(found[1] - found[0]) < Math.abs(difference) / 2 };
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
  const torqueAt = surfaceThrough(cams);
  const surface = EVERY_CAM.map(({ edge, ...at }) => ({ at, z: torqueAt(at), edge }));
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

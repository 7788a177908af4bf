/** The cam a head wants: where its two lobes should stand, for a stated aim. */
import { cholesky, solveFactored } from '../method/cholesky.js';
import { SIDES, type Side } from '../evaluate/sheet.js';
import { degrees, inches } from '../quantity/units.js';
import { liftOf } from './valveTable.js';
import { cylinderVolumeAt } from './cylinder.js';
import { COARSE, LIVE } from './model.js';
import type { CamAt, SimulationSetup } from './setup.js';
import { solvePoint, type FitStore } from './sweep.js';

/** What stays as it is while the lobes move: nothing, the intake's centreline, or how far the cam is advanced. */
export type CamHold = 'nothing' | 'centreline' | 'advance';

export interface CamAim {
  /** Speeds whose mean torque is sought, turns a second; one for the power at it. */
  readonly speeds: readonly number[];
  readonly hold?: CamHold;
  readonly limits?: CamLimits;
}

/** What a cam may not go below or above. */
export interface CamLimits {
  /** Valve-to-piston room as the cam stands now, and the least that is wanted, m. */
  readonly room?: { readonly [S in Side]?: { readonly now: number; readonly least: number } };
  /** Burned gas left in the charge at the lowest of the speeds, at most: what makes an idle rough. */
  readonly residual?: number;
}
/** Room that is usually kept to the piston; common practice, no source. */
export const USUAL_ROOM: Readonly<Record<Side, number>> = { intake: inches(0.08), exhaust: inches(0.1) };

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
  readonly hold?: CamHold;
  /** What keeps a better cam out, where something does. */
  readonly keptBy?: readonly ('room' | 'residual')[];
}

const BOUNDS = { lobeSeparation: [degrees(98), degrees(120)], intakeCentreline: [degrees(94), degrees(120)] } as const;
/** No finer than this is printed: the optimum is flat. */
export const CAM_FINENESS = degrees(3);

/** Fourteen cams over the bounds: corners, edges and middle, and five between; or seven along what is held. */
function design(hold: CamHold, now: CamAt): CamAt[] {
  const [l0, l1] = BOUNDS.lobeSeparation;
  const [c0, c1] = BOUNDS.intakeCentreline;
  if (hold !== 'nothing') {
    const all = candidates(hold, now);
    return Array.from({ length: 7 }, (_, i) => all[Math.round((i * (all.length - 1)) / 6)]!);
  }
  const at = (x: number, y: number): CamAt => ({
    lobeSeparation: l0 + x * (l1 - l0),
    intakeCentreline: c0 + y * (c1 - c0),
  });
  const grid = [0, 0.5, 1].flatMap((x) => [0, 0.5, 1].map((y) => at(x, y)));
  return [...grid, at(0.25, 0.25), at(0.75, 0.25), at(0.25, 0.75), at(0.75, 0.75), at(0.5, 0.25)];
}

/** Least squares of a figure over terms of the cams, by the normal equations. */
function fitted(terms: (cam: CamAt) => number[], points: readonly (readonly [cam: CamAt, z: number])[]) {
  const rows = points.map(([cam, z]) => [terms(cam), z] as const);
  const n = rows[0]![0].length;
  const normal = new Float64Array(n * n);
  const right = new Float64Array(n);
  for (const [b, z] of rows)
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) normal[i * n + j]! += b[i]! * b[j]!;
      right[i]! += b[i]! * z;
    }
  cholesky(normal, n);
  const of = solveFactored(normal, n, right);
  return (cam: CamAt): number => terms(cam).reduce((sum, t, k) => sum + t * of[k]!, 0);
}

/** A quadratic over the bounds through what was found of each cam that was run. */
function surfaceThrough(hold: CamHold, found: readonly (readonly [CamAt, number])[]): (cam: CamAt) => number {
  const [l0, l1] = BOUNDS.lobeSeparation;
  const [c0, c1] = BOUNDS.intakeCentreline;
  return fitted((cam) => {
    const x = (cam.lobeSeparation - l0) / (l1 - l0);
    const y = (cam.intakeCentreline - c0) / (c1 - c0);
    return hold === 'nothing' ? [1, x, y, x * x, x * y, y * y] : [1, x, x * x];
  }, found);
}
const torqueOf = ({ cams, hold = 'nothing' }: CamFound) =>
  surfaceThrough(
    hold,
    cams.map((c) => [c, c.torque]),
  );

/** Cams in steps of a degree: over the bounds, or along what is held. */
function candidates(hold: CamHold, now: CamAt): (CamAt & { readonly edge: boolean })[] {
  const [l0, l1] = BOUNDS.lobeSeparation;
  const [c0, c1] = BOUNDS.intakeCentreline;
  const steps = ([low, high]: readonly [number, number]) =>
    Array.from({ length: Math.round((high - low) / degrees(1)) + 1 }, (_, i) => low + degrees(i));
  const onEdge = (v: number, [low, high]: readonly [number, number]) =>
    v < low + degrees(0.5) || v > high - degrees(0.5);
  const cams = steps([l0, l1]).flatMap((lobeSeparation) =>
    hold === 'nothing'
      ? steps([c0, c1]).map((intakeCentreline) => ({ lobeSeparation, intakeCentreline }))
      : [
          {
            lobeSeparation,
            intakeCentreline:
              hold === 'centreline' ? now.intakeCentreline : now.intakeCentreline + lobeSeparation - now.lobeSeparation,
          },
        ],
  );
  return cams.map((c) => ({
    ...c,
    edge:
      onEdge(c.lobeSeparation, BOUNDS.lobeSeparation) ||
      (hold === 'nothing' && onEdge(c.intakeCentreline, BOUNDS.intakeCentreline)),
  }));
}
const EVERY_CAM = candidates('nothing', { lobeSeparation: 0, intakeCentreline: 0 });

/**
 * How near a valve comes to the piston's own way, m: least of what the piston has dropped less what the valve has
 * lifted, about top dead centre of the gas exchange. A cam that moves changes the room by as much; valves are taken as
 * upright, and nothing stretches at speed.
 */
export function nearestToPiston(
  setup: Pick<SimulationSetup, 'bore' | 'stroke' | 'rod' | 'compression' | 'cam'>,
  side: Side,
  cam: CamAt,
): number {
  const { lobeSeparation, intakeCentreline } = cam;
  const centre = side === 'intake' ? intakeCentreline : intakeCentreline - 2 * lobeSeparation;
  const lobe = { ...setup.cam[side], centre, lash: 0 };
  const above = (angle: number) => cylinderVolumeAt.compute({ ...setup, angle }) / ((Math.PI / 4) * setup.bore ** 2);
  const top = above(0);
  let least = 0;
  for (let d = -90; d <= 90; d += 0.5) {
    const angle = degrees(d);
    least = Math.min(least, above(angle) - top - liftOf(lobe, angle - centre));
  }
  return least;
}

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
    const of = torqueOf(found);
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
  const { speeds, hold = 'nothing', limits = {} } = aim;
  const lowest = Math.min(...speeds);
  /** Mean torque over the speeds, and the burned gas left at the lowest; NaN where a speed does not settle. */
  const run = (cam: CamAt, running = COARSE) => {
    let torque = 0;
    let residual = NaN;
    for (const speed of speeds) {
      const { point } = solvePoint({ setup, speed, cam, running }, fits);
      if (!point.ok) return { torque: NaN, residual };
      torque += point.torque / speeds.length;
      if (speed === lowest) residual = point.residual;
    }
    return { torque, residual };
  };
  const ran = design(hold, setup.cam)
    .map((cam) => ({ ...cam, ...run(cam) }))
    .filter((c) => Number.isFinite(c.torque));
  if (ran.length < (hold === 'nothing' ? 8 : 5)) return 'Too few of the cams could be run to tell one from another.';
  const torqueAt = surfaceThrough(
    hold,
    ran.map((c) => [c, c.torque]),
  );
  const residualAt = surfaceThrough(
    hold,
    ran.map((c) => [c, c.residual]),
  );
  // What each valve may come nearer than it does now.
  const rooms = SIDES.flatMap((side) => {
    const room = limits.room?.[side];
    return room ? [{ side, nearest: nearestToPiston(setup, side, setup.cam) - (room.now - room.least) }] : [];
  });
  const roomy = (cam: CamAt): boolean =>
    rooms.every(({ side, nearest }) => nearestToPiston(setup, side, cam) >= nearest);
  const clean = (residual: number): boolean => limits.residual === undefined || residual <= limits.residual;
  const all = candidates(hold, setup.cam)
    .map(({ edge, ...at }) => ({ at, z: torqueAt(at), edge, roomy: roomy(at), clean: clean(residualAt(at)) }))
    .sort((p, q) => q.z - p.z);
  const free = all.filter((c) => c.roomy && c.clean);
  if (free.length === 0) return 'No cam within the bounds keeps to these limits.';
  const apart = (p: CamAt, q: CamAt) =>
    Math.hypot(p.lobeSeparation - q.lobeSeparation, p.intakeCentreline - q.intakeCentreline);
  const chosen: CamAt[] = [];
  for (const { at } of free) if (chosen.length < 3 && chosen.every((c) => apart(c, at) > CAM_FINENESS)) chosen.push(at);
  const tried = [...ran].filter((c) => roomy(c) && clean(c.residual)).sort((p, q) => q.torque - p.torque)[0];
  if (tried) chosen.push({ lobeSeparation: tried.lobeSeparation, intakeCentreline: tried.intakeCentreline });
  const confirmed = chosen
    .map((at) => ({ at, ...run(at, LIVE) }))
    .filter((c) => Number.isFinite(c.torque))
    .sort((p, q) => q.torque - p.torque)[0];
  const now = run(setup.cam, LIVE).torque;
  if (!confirmed || !Number.isFinite(now)) return 'The best cams did not settle on the finer grid.';
  const near = free.find((c) => apart(c.at, confirmed.at) < degrees(1));
  const best = all[0]!;
  const keptBy = [...(best.roomy ? [] : ['room' as const]), ...(best.clean ? [] : ['residual' as const])];
  return {
    at: confirmed.at,
    torque: confirmed.torque,
    now,
    edge: near?.edge ?? false,
    run: ran.length + chosen.length + 1,
    cams: ran.map(({ residual: _, ...c }) => c),
    hold,
    ...(keptBy.length > 0 ? { keptBy } : {}),
  };
}

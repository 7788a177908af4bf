/** The metal budget: how far each section may grow before a wall is down to its floor, and what that would carry. */
import { FillRule, areaD, unionD, type PathD } from 'clipper2-ts';
import { noted, work, type Working } from '../method/method.js';
import { speedOfArea } from '../engine/engine.js';
import { windowRule } from '../head/ratios.js';
import { peakFlowPower } from '../power/schools.js';
import type { Build, TargetResult } from '../evaluate/target.js';
import { millimetres } from '../quantity/units.js';
import { outlineOf, signedArea, type Point } from './shape.js';
import { NEIGHBOURS, WALL_SIDES, type Neighbour, type Section, type SurveyResult, type WallSide } from './survey.js';

/** Least metal to leave, m, by what lies behind. */
export type Floors = { readonly [N in Neighbour]: number };

/** Usual floors of an intake port: common practice, no source. The shop sets its own. */
export const USUAL_FLOORS: Floors = {
  water: millimetres(3.5),
  guide: millimetres(4),
  'spring seat': millimetres(5),
  bolt: millimetres(3.5),
  pushrod: millimetres(2.5),
  'other port': millimetres(4),
  outside: millimetres(3.5),
};
/** An exhaust port runs hotter and keeps more: common practice, no source. */
export const EXHAUST_EXTRA = millimetres(1);

export const floorsFor = (side: 'intake' | 'exhaust', own: Partial<Floors> = {}): Floors =>
  Object.fromEntries(
    NEIGHBOURS.map((n) => [n, own[n] ?? USUAL_FLOORS[n] + (side === 'exhaust' ? EXHAUST_EXTRA : 0)]),
  ) as Floors;

/** How far one wall may go back. */
export interface Allowance {
  readonly side: WallSide;
  readonly thickness: number;
  readonly floor: number;
  readonly behind: Neighbour;
  /** Metal above the floor; below zero the wall is too thin already. */
  readonly spare: number;
}

export interface SectionBudget {
  readonly section: Section;
  readonly walls: readonly Allowance[];
  /** The wall with the least to give. */
  readonly holds?: Allowance;
  /** Area now and at most, square to the flow, m². Sides whose wall was not measured stay where they are. */
  readonly area: number;
  readonly largest: number;
  readonly outline: readonly Point[];
}

const METRES_TO_CLIPPER = 1000;

/**
 * An outline moved outwards along its normals by how far each side may go, blended between sides by the direction of the
 * normal (cos², sin²), then cleaned of crossings. With one distance all round it is the ordinary outward offset.
 */
export function growOutline(points: readonly Point[], spare: Readonly<Record<WallSide, number>>): Point[] {
  const n = points.length;
  const moved: PathD = points.map(([x, y], i) => {
    const [px, py] = points[(i + n - 1) % n]!;
    const [nx, ny] = points[(i + 1) % n]!;
    // Counter-clockwise: the outward normal of a side is its direction turned to the right.
    const unit = (dx: number, dy: number) => {
      const l = Math.hypot(dx, dy) || 1;
      return [dy / l, -dx / l] as const;
    };
    const [a, b] = [unit(x - px, y - py), unit(nx - x, ny - y)];
    const sum = [a[0] + b[0], a[1] + b[1]] as const;
    const size = Math.hypot(sum[0], sum[1]) || 1;
    const [ux, uy] = [sum[0] / size, sum[1] / size];
    const across = ux >= 0 ? spare.rear : spare.front;
    const up = uy >= 0 ? spare.roof : spare.floor;
    // A corner moves by the mitre, but never far beyond the walls beside it.
    const mitre = Math.min(1 / Math.max(0.5, ux * a[0] + uy * a[1]), 2);
    const by = (across * ux * ux + up * uy * uy) * mitre;
    return { x: (x + by * ux) * METRES_TO_CLIPPER, y: (y + by * uy) * METRES_TO_CLIPPER };
  });
  const clean = unionD([moved], [], FillRule.Positive, 6);
  const outer = clean.reduce<PathD>((best, p) => (Math.abs(areaD(p)) > Math.abs(areaD(best)) ? p : best), []);
  return outer.map((p) => [p.x / METRES_TO_CLIPPER, p.y / METRES_TO_CLIPPER] as const);
}

/** The largest outline the walls of one section allow. Walls already under their floor give nothing and hold it all. */
export function sectionBudget(section: Section, area: number, floors: Floors): SectionBudget {
  const walls = WALL_SIDES.flatMap((side): Allowance[] => {
    const wall = section.walls[side];
    if (!wall) return [];
    const floor = floors[wall.behind];
    return [{ side, thickness: wall.thickness, floor, behind: wall.behind, spare: wall.thickness - floor }];
  });
  const holds = walls.reduce<Allowance | undefined>((l, w) => (!l || w.spare < l.spare ? w : l), undefined);
  const points = outlineOf(section.shape);
  const spare = Object.fromEntries(
    WALL_SIDES.map((s) => [s, Math.max(0, walls.find((w) => w.side === s)?.spare ?? 0)]),
  ) as Record<WallSide, number>;
  const outline = Object.values(spare).some((s) => s > 0) ? growOutline(points, spare) : points;
  const before = polygonArea(points);
  return {
    section,
    walls,
    ...(holds ? { holds } : {}),
    area,
    // The same polygon is measured before and after, so that its flat sides cancel.
    largest: (area * polygonArea(outline)) / before,
    outline,
  };
}

const polygonArea = (points: readonly Point[]): number => Math.abs(signedArea(points));

export interface StationBudget {
  readonly station: number;
  readonly area: number;
  readonly largest: number;
  readonly sections: readonly SectionBudget[];
}

/** A surveyed station as plain figures, so that a worker can be handed it. */
export interface PlainStation {
  readonly station: number;
  readonly sections: readonly { readonly section: Section; readonly area: number }[];
}

export const plainStations = (survey: SurveyResult): PlainStation[] =>
  survey.stations.map((s) => ({
    station: s.station,
    sections: s.sections.map((x) => ({ section: x.section, area: x.area.value })),
  }));

/** How large every station may become. Plain figures in and out. */
export const budgetStations = (stations: readonly PlainStation[], floors: Floors): StationBudget[] =>
  stations.map(({ station, sections }) => {
    const budgets = sections.map((x) => sectionBudget(x.section, x.area, floors));
    return {
      station,
      area: budgets.reduce((sum, b) => sum + b.area, 0),
      largest: budgets.reduce((sum, b) => sum + b.largest, 0),
      sections: budgets,
    };
  });

export interface MetalBudget {
  readonly stations: readonly StationBudget[];
  /** The least area once every section is as large as its walls allow. */
  readonly choke?: StationBudget;
  /** What that choke would carry, by method. */
  readonly speed?: Working;
  readonly flow?: Working;
  readonly power?: Working;
  /** Walls under their floor already. */
  readonly thin: readonly { readonly station: number; readonly wall: Allowance }[];
}

/** What a budget's choke would carry, against a build's target when one is given. */
export function budgetCarries(
  stations: readonly StationBudget[],
  target?: { readonly build: Build; readonly result: TargetResult },
): MetalBudget {
  const choke = stations.reduce<StationBudget | undefined>(
    (least, s) => (!least || s.largest < least.largest ? s : least),
    undefined,
  );
  const thin = stations.flatMap((s) =>
    s.sections.flatMap((x) => x.walls.filter((w) => w.spare < -1e-9).map((wall) => ({ station: s.station, wall }))),
  );
  if (!choke) return { stations, thin };
  const area = noted(choke.largest, 'choke, as large as the walls allow');
  const flow = work(windowRule, { window: area });
  if (!target) return { stations, choke, flow, thin };
  const { build, result } = target;
  return {
    stations,
    choke,
    flow,
    speed: work(speedOfArea, {
      area,
      ...result.sizes,
      limit: result.velocityLimit,
      ratio: result.pistonRatio,
    }),
    ...(result.powerPerFlow === undefined
      ? {}
      : {
          power: work(peakFlowPower, {
            powerPerFlow: result.powerPerFlow,
            flow,
            cylinders: build.cylinders,
            charge: result.charge,
          }),
        }),
    thin,
  };
}

/** What the metal of a whole port allows. Only sides with a measured wall can grow. */
export const metalBudget = (
  survey: SurveyResult,
  floors: Floors,
  target?: Parameters<typeof budgetCarries>[1],
): MetalBudget => budgetCarries(budgetStations(plainStations(survey), floors), target);

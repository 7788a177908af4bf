/** The metal budget: how far each section may grow before a wall is down to its floor, and what that would carry. */
import { FillRule, areaD, unionD, type PathD } from 'clipper2-ts';
import {
  budgetCarries,
  plainStations,
  type Allowance,
  type MetalBudget,
  type PlainStation,
  type SectionBudget,
  type StationBudget,
} from './carries.js';
import type { Floors } from './floors.js';
import { outlineOf, signedArea, type Point } from './shape.js';
import { WALL_SIDES, type Section, type SurveyResult, type WallSide } from './survey.js';

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

/** What the metal of a whole port allows. Only sides with a measured wall can grow. */
export const metalBudget = (
  survey: SurveyResult,
  floors: Floors,
  target?: Parameters<typeof budgetCarries>[1],
): MetalBudget => budgetCarries(budgetStations(plainStations(survey), floors), target);

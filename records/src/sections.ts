/** From the sections of a survey as stored to what core computes with. */
import {
  WALL_SIDES,
  floorsFor,
  outlineOf,
  selfCrossing,
  shapeArea,
  type Floors,
  type Quantity,
  type Section as CoreSection,
  type Shape,
} from '@alluvium/core';
import type { Survey } from './nouns/survey.js';

/** The shape core computes with; undefined while sizes it needs are missing. */
export function shapeOf(section: {
  shape: Shape['kind'];
  width: Quantity | null;
  height: Quantity | null;
  radius: Quantity | null;
  outline: readonly (readonly [number, number])[];
}): Shape | undefined {
  const { shape: kind, outline } = section;
  const [width, height] = [section.width?.si, section.height?.si];
  if (kind === 'outline') return outline.length > 2 ? { kind, points: outline } : undefined;
  if (width === undefined) return undefined;
  if (kind === 'round') return { kind, width };
  if (height === undefined) return undefined;
  return kind === 'rectangle' ? { kind, width, height, radius: section.radius?.si ?? 0 } : { kind, width, height };
}

/** What is wrong with a section's sizes taken together: undefined when they make a shape. */
export function sectionProblem(section: Parameters<typeof shapeOf>[0]): { field: string; message: string } | undefined {
  const shape = shapeOf(section);
  if (!shape) {
    if (section.shape === 'outline') return { field: 'outline', message: 'An outline needs at least three points.' };
    const field = section.width === null ? 'width' : 'height';
    return { field, message: `A ${section.shape} section needs its ${field}.` };
  }
  if (shape.kind === 'outline') {
    const crossing = selfCrossing(outlineOf(shape));
    if (crossing) {
      const [x, y] = crossing.at.map((v) => (v * 1000).toFixed(1));
      return {
        field: 'outline',
        message: `The outline crosses itself at ${x}, ${y} mm, between points ${crossing.first + 1} and ${crossing.second + 1}.`,
      };
    }
  }
  try {
    if (shapeArea(shape).value <= 0) return { field: 'outline', message: 'This outline encloses nothing.' };
  } catch (error) {
    const message = (error as Error).message;
    return { field: shape.kind === 'rectangle' ? 'radius' : shape.kind === 'outline' ? 'outline' : 'height', message };
  }
  return undefined;
}

/** Least metal to leave, m: the survey's own floors before the usual ones of its side. */
export const floorsOf = (side: Survey['side'], own: Survey['floors'] | null | undefined): Floors =>
  floorsFor(
    side,
    Object.fromEntries(Object.entries(own ?? {}).flatMap(([n, q]) => (q ? [[n, q.si]] : []))) as Partial<Floors>,
  );

/** The sections as core reads them. */
export const toCoreSections = (survey: Pick<Survey, 'sections'>): CoreSection[] =>
  survey.sections.flatMap((s): CoreSection[] => {
    const shape = shapeOf(s);
    if (!shape) return [];
    return [
      {
        station: s.station.si,
        branch: s.branch,
        shape,
        angle: s.angle?.si ?? 0,
        bend: s.bend?.si ?? 0,
        ...(s.place ? { place: s.place } : {}),
        walls: Object.fromEntries(
          WALL_SIDES.flatMap((side) => {
            const wall = s.walls[side];
            return wall ? [[side, { thickness: wall.thickness.si, behind: wall.behind }]] : [];
          }),
        ),
      },
    ];
  });

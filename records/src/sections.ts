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
  refusedBy,
} from '@alluvium/core';
import type { Survey } from './nouns/survey.js';
import { sentence, sentenceOf, type CodedSentence } from './refusal.js';

// x!, y!: a point has two.

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
export function sectionProblem(
  section: Parameters<typeof shapeOf>[0],
): ({ field: string } & CodedSentence) | undefined {
  const shape = shapeOf(section);
  if (!shape) {
    if (section.shape === 'outline') return { field: 'outline', ...sentence('outlineTooShort') };
    const field = section.width === null ? 'width' : 'height';
    return { field, ...sentence('sectionWithout', section.shape, field) };
  }
  if (shape.kind === 'outline') {
    const crossing = selfCrossing(outlineOf(shape));
    if (crossing) {
      const [x, y] = crossing.at.map((v) => (v * 1000).toFixed(1));
      return {
        field: 'outline',
        ...sentence('outlineCrosses', x!, y!, crossing.first + 1, crossing.second + 1),
      };
    }
  }
  try {
    if (shapeArea(shape).value <= 0) return { field: 'outline', ...sentence('outlineWithoutArea') };
  } catch (error) {
    const field = shape.kind === 'rectangle' ? 'radius' : shape.kind === 'outline' ? 'outline' : 'height';
    return { field, ...sentenceOf(refusedBy(error)) };
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

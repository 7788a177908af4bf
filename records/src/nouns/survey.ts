/** A port surveyed section by section, like a river: written, versioned and corrected as one record. */
import {
  NEIGHBOURS,
  PLACES,
  SHAPE_KINDS,
  WALL_SIDES,
  floorsFor,
  millimetres,
  outlineOf,
  selfCrossing,
  shapeArea,
  type Floors,
  type Section as CoreSection,
  type Shape,
  type WallSide,
} from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema, type Quantity } from '../quantity.js';
import { DateText, Id, Name, Note, Short, SideName, Stored } from './common.js';
import { describedNoun } from './descriptor.js';

const mm = (what: string, min: number, max: number) =>
  quantitySchema('length', {
    min: millimetres(min),
    max: millimetres(max),
    sentence: `${what} must lie between ${min} and ${max} mm.`,
  });
const degrees = (what: string, max: number) =>
  quantitySchema('angle', {
    min: (-max * Math.PI) / 180,
    max: (max * Math.PI) / 180,
    sentence: `${what} must lie within ${max}°.`,
  });

export const MAX_SECTIONS = 400;
export const MAX_OUTLINE_POINTS = 2000;

const Wall = z.object({ thickness: mm('A wall', 0, 200), behind: z.enum(NEIGHBOURS).default('water') });

/** Points of a free outline, m, in pairs: across, up. */
const Outline = z
  .array(z.tuple([z.number().min(-0.5).max(0.5), z.number().min(-0.5).max(0.5)]))
  .max(MAX_OUTLINE_POINTS, `An outline has at most ${MAX_OUTLINE_POINTS} points.`);

const SectionShape = z.object({
  /** Distance along the port from the flange. */
  station: mm('A station', -50, 1000),
  /** 0 while the port is one; 1 and 2 for the two ways after it divides. */
  branch: z.union([z.literal(0), z.literal(1), z.literal(2)]).default(0),
  shape: z.enum(SHAPE_KINDS).default('rectangle'),
  width: mm('The width', 2, 300).nullable().default(null),
  height: mm('The height', 2, 300).nullable().default(null),
  radius: mm('The corner radius', 0, 150).nullable().default(null),
  outline: Outline.default([]),
  /** How far the cut is off square to the flow. */
  angle: degrees('The cut', 80).nullable().default(null),
  /** How far the centreline turns down towards the valve here. */
  bend: degrees('The bend', 90).nullable().default(null),
  place: z.enum(PLACES).nullable().default(null),
  walls: z
    .object(
      Object.fromEntries(WALL_SIDES.map((s) => [s, Wall.nullable().default(null)])) as Record<
        WallSide,
        z.ZodDefault<z.ZodNullable<typeof Wall>>
      >,
    )
    .prefault({}),
  note: Short,
});

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

export const Section = SectionShape.superRefine((s, ctx) => {
  const problem = sectionProblem(s);
  if (problem) ctx.addIssue({ code: 'custom', path: [problem.field], message: problem.message });
});
export type Section = z.infer<typeof Section>;

export const SURVEY_WAYS = ['calipers', 'sawn', 'mould', 'traced', 'unknown'] as const;

const floor = mm('A floor', 0, 50).nullable().default(null);

export const Survey = z
  .object({
    ...Stored,
    stageId: Id,
    portId: Id.nullable().default(null),
    side: SideName.default('intake'),
    title: Name,
    date: DateText,
    instrument: Short,
    way: z.enum(SURVEY_WAYS).default('calipers'),
    sections: z.array(Section).max(MAX_SECTIONS, `A survey has at most ${MAX_SECTIONS} sections.`).default([]),
    /** Least metal to leave by what lies behind; null takes the usual. */
    floors: z
      .object(
        Object.fromEntries(NEIGHBOURS.map((n) => [n, floor])) as Record<(typeof NEIGHBOURS)[number], typeof floor>,
      )
      .prefault({}),
    note: Note,
  })
  .superRefine((survey, ctx) => {
    survey.sections.forEach((s, i) => {
      const twin = survey.sections.findIndex(
        (o, k) => k < i && o.branch === s.branch && Math.abs(o.station.si - s.station.si) < 1e-6,
      );
      if (twin >= 0)
        ctx.addIssue({
          code: 'custom',
          path: ['sections', i, 'station'],
          message: `Station ${s.station.typed} stands in row ${twin + 1} too.`,
        });
    });
  });
export type Survey = z.infer<typeof Survey>;

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

export const surveyNoun = describedNoun({
  schema: Survey,
  one: 'survey',
  many: 'surveys',
  key: 'surveys',
  refers: { stageId: 'stage', portId: 'port' },
  of: 'stage',
  order: 'side desc, date nulls first, entered',
});

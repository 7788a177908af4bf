/** A port surveyed section by section, like a river: written, versioned and corrected as one record. */
import { NEIGHBOURS, PLACES, SHAPE_KINDS, WALL_SIDES, millimetres, recordOf } from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { sectionProblem } from '../sections.js';
import { DateText, Id, Name, Note, Short, SideName, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { issue, issueOf } from '../refusal.js';

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
  walls: z.object(recordOf(WALL_SIDES, () => Wall.nullable().default(null))).prefault({}),
  note: Short,
});

export const Section = SectionShape.superRefine((s, ctx) => {
  const problem = sectionProblem(s);
  if (problem) ctx.addIssue(issueOf([problem.field], problem));
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
    floors: z.object(recordOf(NEIGHBOURS, () => floor)).prefault({}),
    note: Note,
  })
  .superRefine((survey, ctx) => {
    survey.sections.forEach((s, i) => {
      const twin = survey.sections.findIndex(
        (o, k) => k < i && o.branch === s.branch && Math.abs(o.station.si - s.station.si) < 1e-6,
      );
      if (twin >= 0) ctx.addIssue(issue(['sections', i, 'station'], 'stationTwice', s.station.typed, twin + 1));
    });
  });
export type Survey = z.infer<typeof Survey>;

export const surveyNoun = describedNoun({
  schema: Survey,
  one: 'survey',
  many: 'surveys',
  key: 'surveys',
  refers: { stageId: 'stage', portId: 'port' },
  of: 'stage',
  order: 'side desc, date nulls first, entered',
});

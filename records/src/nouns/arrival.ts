/** The nouns of arrival: what is looked at on a head that came in, what was found, and whether its seats seal. */
import { millimetres } from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { DateText, Id, Name, Note, Short, SideName, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { MEASURE_ITEM_NAMES } from './measureItems.js';
import { custom, issue } from '../refusal.js';

/** The stretches of a checklist, in the order of the work. */
export const INSPECTION_GROUPS = [
  'identity',
  'strip and clean',
  'crack check',
  'look',
  'core shift',
  'guides',
  'stems',
  'springs',
  'seats',
  'flatness',
  'fits',
  'own',
] as const;
export type InspectionGroup = (typeof INSPECTION_GROUPS)[number];

/** What one line of a checklist asks. Shared by a head's inspection and a template. */
const asks = {
  group: z.enum(INSPECTION_GROUPS).default('own'),
  title: Name,
  /** How to look, and what is usual. */
  hint: z.string().trim().max(600, 'Keep the hint under 600 letters.').default(''),
  /** Sizes that are taken here. */
  sizes: z.array(z.enum(MEASURE_ITEM_NAMES)).max(8).default([]),
};

/** A defect makes it "found" without being stored here: that follows from the findings. */
export const INSPECTION_STATES = ['open', 'fine', 'unsure', 'skipped'] as const;

/** One line of a head's checklist. */
export const Inspection = z
  .object({
    ...Stored,
    headId: Id,
    position: z.int32().min(0).default(0),
    ...asks,
    state: z.enum(INSPECTION_STATES).default('open'),
    /** What was read or seen; why it was skipped. */
    note: Note,
  })
  .refine((i) => i.state !== 'skipped' || i.note.trim() !== '', {
    path: ['note'],
    ...custom('skippedWithoutReason'),
  });
export type Inspection = z.infer<typeof Inspection>;

/** The shop's own checklist. */
export const Checklist = z.object({
  ...Stored,
  name: Name,
  lines: z
    .array(z.object(asks))
    .min(1, 'A checklist needs at least one line.')
    .max(400, 'A checklist has at most 400 lines.'),
});
export type Checklist = z.infer<typeof Checklist>;

export const SEVERITIES = ['note', 'fix before use', 'reject'] as const;
export type Severity = (typeof SEVERITIES)[number];

export const PARTS = [
  'casting',
  'port',
  'pinch',
  'short turn',
  'bowl',
  'throat',
  'seat',
  'chamber',
  'guide',
  'stem',
  'spring',
  'deck',
  'flange',
  'divider',
  'bolts and dowels',
  'pushrod',
  'water passage',
  'manifold',
  'exhaust',
  'accessories',
  'other',
] as const;

const cylinder = z.int32().min(1).max(24, 'Cylinders are numbered from 1 to 24.');
const valveNumber = z.int32().min(1).max(3);

/** Something that is not as it should be: where, how bad, what it costs to mend, and at which stage it was mended. */
export const Finding = z.object({
  ...Stored,
  headId: Id,
  /** The state of work in which it was found. */
  stageId: Id,
  inspectionId: Id.nullable().default(null),
  /** Set when it matters for this build only: a flange that does not fit its riser. */
  buildId: Id.nullable().default(null),
  cylinder: cylinder.nullable().default(null),
  side: SideName.nullable().default(null),
  part: z.enum(PARTS).default('casting'),
  severity: z.enum(SEVERITIES).default('note'),
  text: z.string().trim().min(1, 'Say what is wrong.').max(2000, 'Keep it under 2,000 letters.'),
  cost: quantitySchema('money', { min: 0, sentence: 'The cost cannot be negative.' }).nullable().default(null),
  /** The stage at which it was put right; null while it stands. */
  mendedStageId: Id.nullable().default(null),
  date: DateText,
});
export type Finding = z.infer<typeof Finding>;

export const RING_MATERIALS = [
  'unknown',
  'integral',
  'iron',
  'steel',
  'sintered',
  'bronze',
  'copper-beryllium',
] as const;
export const SEAL_RESULTS = ['untested', 'seals', 'leaks'] as const;

const vacuum = quantitySchema('pressure', {
  min: 0,
  max: 101_325,
  sentence: 'A vacuum must lie between 0 and one atmosphere, about 29.9 inHg.',
});
const ring = quantitySchema('length', {
  min: millimetres(8),
  max: millimetres(280),
  sentence: 'A seat ring must lie between 8 and 280 mm.',
});

/** One look at one valve seat: its ring, and whether it seals. Looked at again, both stay and the newest counts. */
export const Seat = z
  .object({
    ...Stored,
    stageId: Id,
    side: SideName,
    cylinder,
    /** Which valve of that side, counted from the front. */
    valve: valveNumber.default(1),
    result: z.enum(SEAL_RESULTS).default('untested'),
    /** Vacuum drawn, and what was left of it after `seconds`. */
    drawn: vacuum.nullable().default(null),
    held: vacuum.nullable().default(null),
    seconds: z.number().min(0.5).max(600, 'Say how long it was held, up to 600 seconds.').nullable().default(null),
    ringMaterial: z.enum(RING_MATERIALS).default('unknown'),
    ringOutside: ring.nullable().default(null),
    ringInside: ring.nullable().default(null),
    date: DateText,
    note: Short,
  })
  .superRefine((s, ctx) => {
    if (s.drawn && s.held && s.held.si > s.drawn.si) ctx.addIssue(issue(['held'], 'heldOverDrawn'));
    if (s.ringOutside && s.ringInside && s.ringInside.si >= s.ringOutside.si)
      ctx.addIssue(issue(['ringInside'], 'ringInsideOut'));
  });
export type Seat = z.infer<typeof Seat>;

/** Pictures taken: type of file and its usual ending. */
export const PICTURE_TYPES = { 'image/jpeg': 'jpg', 'image/png': 'png', 'image/webp': 'webp' } as const;
export type PictureType = keyof typeof PICTURE_TYPES;
/** Largest picture taken, bytes. */
export const PICTURE_LIMIT = 12 * 1024 * 1024;

const share = z.number().min(0).max(1);
/** A part of a picture, as shares of its width and height from the upper left. */
export const PhotoRegion = z
  .object({
    x: share,
    y: share,
    width: share.min(0.005, 'Mark a larger part.'),
    height: share.min(0.005, 'Mark a larger part.'),
  })
  .refine((r) => r.x + r.width <= 1 + 1e-9 && r.y + r.height <= 1 + 1e-9, custom('markOffPicture'));
export type PhotoRegion = z.infer<typeof PhotoRegion>;

/**
 * A photo of a head, of a finding, of an inspection, of a set-up on the bench, or a scan of what a source published. Its
 * content lies in a file named by its hash.
 */
const attachmentShape = z.object({
  ...Stored,
  /** Null only for what belongs to a source as a whole. */
  headId: Id.nullable().default(null),
  sourceId: Id.nullable().default(null),
  findingId: Id.nullable().default(null),
  inspectionId: Id.nullable().default(null),
  sessionId: Id.nullable().default(null),
  /** The stage it shows the head at. */
  stageId: Id.nullable().default(null),
  name: z.string().trim().max(200).default('photo'),
  type: z.enum(Object.keys(PICTURE_TYPES) as [PictureType, ...PictureType[]]),
  /** SHA-256 of the stored content, hexadecimal. */
  hash: z.string().regex(/^[0-9a-f]{64}$/, 'A content hash is 64 hexadecimal figures.'),
  width: z.int32().min(1).max(100_000),
  height: z.int32().min(1).max(100_000),
  bytes: z
    .int()
    .min(1)
    .max(64 * 1024 * 1024),
  /** The part of it that shows what was found. */
  region: PhotoRegion.nullable().default(null),
  note: Short,
});
export const Attachment = attachmentShape.refine((a) => a.headId !== null || a.sourceId !== null, {
  path: ['headId'],
  ...custom('photoOfNothing'),
});
export type Attachment = z.infer<typeof Attachment>;

export const inspectionNoun = describedNoun({
  schema: Inspection,
  one: 'inspection',
  many: 'inspections',
  key: 'inspections',
  refers: { headId: 'head' },
  of: 'head',
  order: 'position, id',
});

export const findingNoun = describedNoun({
  schema: Finding,
  one: 'finding',
  many: 'findings',
  key: 'findings',
  refers: { headId: 'head', stageId: 'stage', mendedStageId: 'stage', inspectionId: 'inspection', buildId: 'build' },
  of: 'head',
  order: 'date nulls first, id',
});

export const seatNoun = describedNoun({
  schema: Seat,
  one: 'look at a seat',
  many: 'looks at seats',
  key: 'seats',
  refers: { stageId: 'stage' },
  of: 'stage',
  order: 'side desc, cylinder, valve, date nulls first, id',
});

export const attachmentNoun = describedNoun({
  schema: Attachment,
  one: 'photo',
  many: 'photos',
  key: 'attachments',
  refers: {
    headId: 'head',
    sourceId: 'source',
    findingId: 'finding',
    inspectionId: 'inspection',
    sessionId: 'session',
    stageId: 'stage',
  },
  of: 'head',
  order: 'name, id',
});

export const checklistNoun = describedNoun({
  schema: Checklist,
  one: 'checklist',
  many: 'checklists',
  key: 'checklists',
});

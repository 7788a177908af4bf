import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { DateText, Excused, Id, Name, Note, Short, SideName, Stored } from './common.js';
import { describedNoun } from './descriptor.js';

export const HEAD_KINDS = ['production', 'aftermarket', 'reworked'] as const;
export const MATERIALS = ['iron', 'aluminium', 'unknown'] as const;

/** What kind of head it is: heads of one class are held against each other where nothing else is known. */
export const HEAD_CLASSES = [
  'unknown',
  'standard spacing',
  'raised runner',
  'canted',
  'symmetrical',
  'four-valve',
  'other',
] as const;

/** One article on the shelf, or one catalogue entry. */
export const Head = z.object({
  ...Stored,
  name: Name,
  maker: Short,
  catalogueNumber: Short,
  kind: z.enum(HEAD_KINDS).default('production'),
  class: z.enum(HEAD_CLASSES).default('unknown'),
  material: z.enum(MATERIALS).default('unknown'),
  intakeValves: z.int32().min(1).max(3, 'One to three intake valves per cylinder.').default(1),
  exhaustValves: z.int32().min(1).max(2, 'One or two exhaust valves per cylinder.').default(1),
  /** Separate intake ports of one cylinder, each tested by itself; null means one. */
  intakePorts: z.int32().min(1).max(3, 'One to three intake ports per cylinder.').nullable().default(null),
  /** How many cylinders this casting covers; null when nobody said. */
  cylinders: z.int32().min(1).max(24, 'A head covers 1 to 24 cylinders.').nullable().default(null),
  price: quantitySchema('money', { min: 0, sentence: 'The price cannot be negative.' }).nullable().default(null),
  /** The first specimen of the same article, where this is another one of it. */
  specimenOf: Id.nullable().default(null),
  /** The other head of one engine, of a vee or a flat one: the two are judged together. */
  pairOf: Id.nullable().default(null),
  /** Words of the shop, by which heads are found together. */
  tags: z
    .array(z.string().trim().min(1).max(40, 'A tag has at most 40 characters.'))
    .max(20, 'A head has at most 20 tags.')
    .default([]),
  /** Put away: kept with all it has, and not listed unless asked for. */
  archived: z.boolean().default(false),
  excused: Excused,
  note: Note,
});
export type Head = z.infer<typeof Head>;

/** A state of work of a head: as received, valve job, first cut. */
export const Stage = z.object({
  ...Stored,
  headId: Id,
  /** The stage it was made from; null for the first. */
  parentId: Id.nullable().default(null),
  name: Name,
  position: z.int32().min(0).default(0),
  date: DateText,
  /** Why it was not flowed; empty when it was, or nobody said. */
  unflowed: Short,
  note: Note,
});
export type Stage = z.infer<typeof Stage>;

/** One port of a head, by side and number. */
export const Port = z.object({
  ...Stored,
  headId: Id,
  side: SideName,
  number: z.int32().min(1).max(48),
  nickname: Short,
  /** Which kind of runner: long, short, divided. */
  kind: Short,
  /** What somebody did to it before it came: such a port is no baseline. Empty when nobody touched it. */
  touched: Short,
});
export type Port = z.infer<typeof Port>;

export const headNoun = describedNoun({
  schema: Head,
  one: 'head',
  many: 'heads',
  key: 'heads',
  refers: { specimenOf: 'head', pairOf: 'head' },
});

export const stageNoun = describedNoun({
  schema: Stage,
  one: 'stage',
  many: 'stages',
  key: 'stages',
  refers: { headId: 'head', parentId: 'stage' },
  of: 'head',
  order: 'position, id',
});

export const portNoun = describedNoun({
  schema: Port,
  one: 'port',
  many: 'ports',
  key: 'ports',
  refers: { headId: 'head' },
  of: 'head',
  order: 'side desc, number',
});

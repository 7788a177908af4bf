import { millimetres } from '@alluvium/core';
import { z } from 'zod';
import { QuantityInput, quantitySchema } from '../quantity.js';
import { DateText, Id, Name, Note, Short, SideName, Stored } from './common.js';

export const HEAD_KINDS = ['production', 'aftermarket', 'reworked'] as const;
export const MATERIALS = ['iron', 'aluminium', 'unknown'] as const;

/** One article on the shelf, or one catalogue entry. */
export const Head = z.object({
  ...Stored,
  name: Name,
  maker: Short,
  catalogueNumber: Short,
  kind: z.enum(HEAD_KINDS).default('production'),
  material: z.enum(MATERIALS).default('unknown'),
  intakeValves: z.int().min(1).max(3, 'One to three intake valves per cylinder.').default(1),
  exhaustValves: z.int().min(1).max(2, 'One or two exhaust valves per cylinder.').default(1),
  price: quantitySchema('money', { min: 0, sentence: 'The price cannot be negative.' }).nullable().default(null),
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
  position: z.int().min(0).default(0),
  date: DateText,
  note: Note,
});
export type Stage = z.infer<typeof Stage>;

/** One port of a head, by side and number. */
export const Port = z.object({
  ...Stored,
  headId: Id,
  side: SideName,
  number: z.int().min(1).max(48),
  nickname: Short,
});
export type Port = z.infer<typeof Port>;

export const SOURCE_KINDS = ['own bench', 'other bench', 'maker', 'magazine', 'forum', 'word of mouth'] as const;

/** Who says so. */
export const Source = z.object({
  ...Stored,
  name: Name,
  kind: z.enum(SOURCE_KINDS).default('own bench'),
  link: Short,
  note: Note,
});
export type Source = z.infer<typeof Source>;

const mm = (min: number, max: number, what: string) => ({
  min: millimetres(min),
  max: millimetres(max),
  sentence: `${what} must lie between ${min} and ${max} mm.`,
});

/** Every place of a head that is measured: its kind of quantity and its believable range. `sided` ones belong to one side. */
export const MEASURE_ITEMS = {
  'valve diameter': { kind: 'length', sided: true, limits: mm(10, 250, 'The valve') },
  'stem diameter': { kind: 'length', sided: true, limits: mm(2, 40, 'The stem') },
  'seat width': { kind: 'length', sided: true, limits: mm(0.2, 15, 'The seat width') },
  'seat angle': {
    kind: 'angle',
    sided: true,
    limits: { min: 0.26, max: 1.31, sentence: 'The seat angle must lie between 15° and 75°.' },
  },
  throat: { kind: 'length', sided: true, limits: mm(8, 240, 'The throat') },
  bowl: { kind: 'length', sided: true, limits: mm(8, 260, 'The bowl') },
  window: {
    kind: 'area',
    sided: true,
    limits: { min: 2e-5, max: 0.05, sentence: 'The window must lie between 20 and 50,000 mm².' },
  },
  pinch: {
    kind: 'area',
    sided: true,
    limits: { min: 2e-5, max: 0.05, sentence: 'The pinch must lie between 20 and 50,000 mm².' },
  },
  opening: {
    kind: 'area',
    sided: true,
    limits: { min: 2e-5, max: 0.05, sentence: 'The opening must lie between 20 and 50,000 mm².' },
  },
  'port length': { kind: 'length', sided: true, limits: mm(10, 1000, 'The port length') },
  'port volume': {
    kind: 'volume',
    sided: true,
    limits: { min: 2e-6, max: 5e-3, sentence: 'The port volume must lie between 2 and 5000 cc.' },
  },
  'chamber volume': {
    kind: 'volume',
    sided: false,
    limits: { min: 1e-6, max: 5e-3, sentence: 'The chamber must lie between 1 and 5000 cc.' },
  },
  'gasket volume': {
    kind: 'volume',
    sided: false,
    limits: { min: 0, max: 1e-3, sentence: 'The gasket volume must lie between 0 and 1000 cc.' },
  },
  'deck volume': {
    kind: 'volume',
    sided: false,
    limits: { min: -1e-3, max: 1e-3, sentence: 'The deck volume must lie within 1000 cc.' },
  },
  'piston dish': {
    kind: 'volume',
    sided: false,
    limits: { min: -1e-3, max: 1e-3, sentence: 'The piston dish must lie within 1000 cc; a dome is negative.' },
  },
  'spring installed height': { kind: 'length', sided: true, limits: mm(10, 150, 'The installed height') },
  'spring coil-bind height': { kind: 'length', sided: true, limits: mm(5, 120, 'The coil-bind height') },
  'spring seat force': {
    kind: 'force',
    sided: true,
    limits: { min: 1, max: 20_000, sentence: 'The seat force must lie between 1 and 20,000 N.' },
  },
  'spring rate': {
    kind: 'rate',
    sided: true,
    limits: { min: 100, max: 1e6, sentence: 'The rate must lie between 0.1 and 1000 N/mm.' },
  },
  'retainer to seal': { kind: 'length', sided: true, limits: mm(1, 100, 'Retainer to seal') },
} as const;
export type MeasureItem = keyof typeof MEASURE_ITEMS;
export const MEASURE_ITEM_NAMES = Object.keys(MEASURE_ITEMS) as [MeasureItem, ...MeasureItem[]];

const measureBase = {
  ...Stored,
  stageId: Id,
  /** Null when it holds for the stage as a whole. */
  portId: Id.nullable().default(null),
  side: SideName.nullable().default(null),
  date: DateText,
  instrument: Short,
  sourceId: Id.nullable().default(null),
  note: Note,
};

/** One size measured or stated at one place of one stage. Measured twice, both stay. */
export const Measure = z
  .object({
    ...measureBase,
    item: z.enum(MEASURE_ITEM_NAMES),
    value: QuantityInput,
  })
  .transform((m, ctx) => {
    const spec = MEASURE_ITEMS[m.item];
    const value = quantitySchema(spec.kind, spec.limits).safeParse(m.value);
    if (!value.success) {
      for (const issue of value.error.issues) ctx.addIssue({ code: 'custom', message: issue.message, path: ['value'] });
      return z.NEVER;
    }
    if (spec.sided !== (m.side !== null)) {
      ctx.addIssue({
        code: 'custom',
        message: spec.sided ? `Say whether this ${m.item} is intake or exhaust.` : `The ${m.item} belongs to no side.`,
        path: ['side'],
      });
      return z.NEVER;
    }
    return { ...m, value: value.data };
  });
export type Measure = z.infer<typeof Measure>;

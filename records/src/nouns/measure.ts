import { inches, millimetres } from '@alluvium/core';
import { z } from 'zod';
import { QuantityInput, quantitySchema } from '../quantity.js';
import { DateText, Id, Note, Short, SideName, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { AT_A_LIFT, AT_A_POINT, MEASURE_ITEM_NAMES, MEASURE_ITEMS } from './measureItems.js';
import { issue, readField } from '../refusal.js';

const measureShape = z.object({
  ...Stored,
  stageId: Id,
  /** Null when it holds for the stage as a whole. */
  portId: Id.nullable().default(null),
  side: SideName.nullable().default(null),
  /** Which valve of the port, where it has more than one; null when it holds for all of them. */
  valve: z.int32().min(1).max(3).nullable().default(null),
  date: DateText,
  instrument: Short,
  sourceId: Id.nullable().default(null),
  /** At which lift, of what changes with it: the gap beside the valve, a spring's force. */
  lift: quantitySchema('lift', { min: 1e-5, max: inches(3), sentence: 'A lift must lie between 0 and 3.000 in.' })
    .nullable()
    .default(null),
  /** A named point of a wall, and where it is on its drawing: shares of the width and height. */
  place: Short,
  spot: z
    .object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) })
    .nullable()
    .default(null),
  /** Of a wall: where work stops. */
  least: quantitySchema('length', {
    min: millimetres(0.1),
    max: millimetres(60),
    sentence: 'A wall stops between 0.1 and 60 mm.',
  })
    .nullable()
    .default(null),
  /** Of a throat: taken with the valve in its guide, or out. */
  valveFitted: z.enum(['in', 'out', 'unknown']).default('unknown'),
  note: Note,
  item: z.enum(MEASURE_ITEM_NAMES),
  value: QuantityInput,
});

/** One size measured or stated at one place of one stage. Measured twice, both stay. */
export const Measure = measureShape.transform((m, ctx) => {
  const spec = MEASURE_ITEMS[m.item];
  const value = readField(ctx, ['value'], quantitySchema(spec.kind, spec.limits), m.value);
  if (!value) return z.NEVER;
  if (spec.sided !== (m.side !== null)) {
    ctx.addIssue(issue(['side'], spec.sided ? 'sideOfTwo' : 'sideOfNone', m.item));
    return z.NEVER;
  }
  if (AT_A_LIFT.has(m.item) && m.lift === null) {
    ctx.addIssue(issue(['lift'], 'sizeWithoutLift', m.item));
    return z.NEVER;
  }
  if (AT_A_POINT.has(m.item) && m.place === '') {
    ctx.addIssue(issue(['place'], 'wallWithoutPoint'));
    return z.NEVER;
  }
  return { ...m, value };
});
export type Measure = z.infer<typeof Measure>;

/** The shop's own answer to how large a difference between stated and found matters, for one item. */
export const Tolerance = z
  .object({ ...Stored, item: z.enum(MEASURE_ITEM_NAMES), value: QuantityInput })
  .transform((t, ctx) => {
    const { kind } = MEASURE_ITEMS[t.item];
    const schema = quantitySchema(kind, { min: 0, sentence: 'A difference that matters cannot be negative.' });
    const value = readField(ctx, ['value'], schema, t.value);
    return value ? { ...t, value } : z.NEVER;
  });
export type Tolerance = z.infer<typeof Tolerance>;

export const measureNoun = describedNoun({
  schema: Measure,
  one: 'measure',
  many: 'measures',
  key: 'measures',
  refers: { stageId: 'stage', portId: 'port', sourceId: 'source' },
  of: 'stage',
  order: 'item, id',
});

export const toleranceNoun = describedNoun({
  schema: Tolerance,
  one: 'tolerance',
  many: 'tolerances',
  key: 'tolerances',
});

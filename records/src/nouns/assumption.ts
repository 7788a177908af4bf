import { z } from 'zod';
import { ASSUMPTIONS, ASSUMPTION_NAMES, type AssumptionName } from '../assumptions.js';
import { QuantityInput, quantitySchema } from '../quantity.js';
import { Day, Id, Note, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { readField } from '../refusal.js';

/** The shop's own figure in place of a usual one. */
export const Assumption = z
  .object({ ...Stored, name: z.enum(ASSUMPTION_NAMES as [AssumptionName, ...AssumptionName[]]), value: QuantityInput })
  .transform((a, ctx) => {
    const { kind, max } = ASSUMPTIONS[a.name];
    const schema = quantitySchema(kind, {
      min: kind === 'powerPerFlow' ? 1e5 : 0,
      ...(max === undefined ? {} : { max }),
      sentence: 'This is no believable figure for that.',
    });
    const value = readField(ctx, ['value'], schema, a.value);
    return value ? { ...a, value } : z.NEVER;
  });
export type Assumption = z.infer<typeof Assumption>;

/** A verdict as it was said on a day: its words, its odds, and the versions of every record it rested on. */
export const FrozenVerdict = z.object({
  ...Stored,
  buildId: Id,
  made: Day,
  note: Note,
  content: z.object({
    program: z.string().max(40),
    target: z.string().max(1000),
    best: z.string().max(4000),
    heads: z
      .array(
        z.object({
          letter: z.string().max(4),
          name: z.string().max(300),
          stage: z.string().max(200),
          sheet: z.string().max(300).default(''),
          degree: z.string().max(40),
          odds: z.number().min(0).max(1).nullable(),
          words: z.string().max(6000),
          limits: z
            .array(
              z.object({
                runner: z.string().max(200),
                id: z.string().max(20),
                margin: z.number(),
                u: z.number(),
                odds: z.number().min(0).max(1),
              }),
            )
            .max(200),
        }),
      )
      .max(100),
    /** `sheet 417-received-p3` → 2. */
    records: z.array(z.object({ noun: z.string().max(40), id: Id, version: z.int32().min(1) })).max(5000),
  }),
});
export type FrozenVerdict = z.infer<typeof FrozenVerdict>;

export const assumptionNoun = describedNoun({
  schema: Assumption,
  one: 'assumption',
  many: 'assumptions',
  key: 'assumptions',
});

export const frozenVerdictNoun = describedNoun({
  schema: FrozenVerdict,
  one: 'kept verdict',
  many: 'kept verdicts',
  key: 'verdicts',
  refers: { buildId: 'build' },
});

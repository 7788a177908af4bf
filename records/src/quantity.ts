import { kindSpec, parseQuantity, type Kind, type Quantity } from '@alluvium/core';
import { z } from 'zod';

// The web page's policy forbids evaluated code; without this the validator tries it once, before any schema is used.
z.config({ jitless: true });

export interface Limits {
  /** Lowest and highest believable value, SI. */
  readonly min?: number;
  readonly max?: number;
  /** The sentence when it lies outside. */
  readonly sentence?: string;
}

/** Text that stands for the same number although it was rounded on the way. */
const SAME = 1e-9;

/**
 * A stored measurement: the SI value beside the text as typed, which carries its unit. A plain text such as `"98.0 mm"`
 * is understood too, so that files can be written by hand. The text is always read again: a value that does not
 * agree with its own text is refused, whoever sent it.
 */
export function quantitySchema(kind: Kind, limits: Limits = {}) {
  const { min = -Infinity, max = Infinity } = limits;
  const unit = kindSpec(kind).units[0]!.symbol;
  return z
    .preprocess(
      (input, ctx) => {
        if (typeof input !== 'string') return input;
        const parsed = parseQuantity(input, kind);
        if (parsed.ok) return parsed.quantity;
        ctx.issues.push({ code: 'custom', message: parsed.problem, input });
        return z.NEVER;
      },
      z.object({ si: z.number(), typed: z.string().max(60) }).superRefine((q, ctx) => {
        const parsed = parseQuantity(q.typed, kind);
        if (!parsed.ok) ctx.addIssue({ code: 'custom', message: parsed.problem });
        else if (Math.abs(parsed.quantity.si - q.si) > SAME * Math.max(1e-9, Math.abs(q.si))) {
          ctx.addIssue({ code: 'custom', message: `The text “${q.typed}” and the value ${q.si} do not agree.` });
        } else if (q.si < min || q.si > max) {
          ctx.addIssue({
            code: 'custom',
            message: limits.sentence ?? `“${q.typed}” lies outside what is believable here.`,
          });
        }
      }),
    )
    .meta({
      description: `${kindSpec(kind).name}; text with its unit (${unit ? `such as ${unit}` : 'none'}), or the SI value beside that text`,
    });
}

export type { Quantity };

import { parseQuantity, readTyped, type Kind, type Quantity } from '@alluvium/core';
import { z } from 'zod';
import { issueOf, sentence, sentenceOf, type CodedSentence } from './refusal.js';

// The web page's policy forbids evaluated code; without this the validator tries it once, before any schema is used.
if ('document' in globalThis) z.config({ jitless: true });

export interface Limits {
  /** Lowest and highest believable value, SI. */
  readonly min?: number;
  readonly max?: number;
  /** The sentence when it lies outside. */
  readonly sentence?: string;
}

const LONG = 'Keep a size under 60 letters.';

/** How a quantity is written in files and requests, before its kind is known. */
export const QuantityInput = z.union(
  [z.string().max(60, LONG), z.object({ si: z.number(), typed: z.string().max(60, LONG) })],
  {
    error: 'Write this as text with its unit, such as "98 mm".',
  },
);

/** Text that stands for the same number although it was rounded on the way. */
const SAME = 1e-9;

/**
 * A stored measurement: the SI value beside the text as typed, which carries its unit. A plain text such as `"98.0 mm"`
 * is understood too, so that files can be written by hand. The text is always read again: a value that does not
 * agree with its own text is refused, whoever sent it.
 */
export function quantitySchema(kind: Kind, limits: Limits = {}) {
  const { min = -Infinity, max = Infinity } = limits;
  return QuantityInput.transform((input, ctx): Quantity => {
    // What a hand wrote is read as in a field: 1,250 cfm is no cfm and a quarter.
    const parsed = typeof input === 'string' ? readTyped(input, kind) : parseQuantity(input.typed, kind);
    const refuse = (why: CodedSentence) => {
      ctx.issues.push({ ...issueOf([], why), input });
      return z.NEVER;
    };
    if (!parsed.ok) return refuse(sentenceOf(parsed.refusal));
    const { quantity } = parsed;
    if (typeof input !== 'string' && Math.abs(quantity.si - input.si) > SAME * Math.max(1e-9, Math.abs(input.si))) {
      return refuse(sentence('textAgainstValue', input.typed, input.si));
    }
    if (quantity.si < min || quantity.si > max) {
      return refuse(sentence('unbelievable', quantity.typed, limits.sentence));
    }
    return typeof input === 'string' ? quantity : input;
  });
}

export type { Quantity };

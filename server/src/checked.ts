import type { z } from 'zod';
import { Problem, type FieldProblem } from './problems.js';

/** @throws Problem bad-input, field by field. */
export function checked<T>(schema: z.ZodType<T>, input: unknown): T {
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  const fields: FieldProblem[] = parsed.error.issues
    .slice(0, 50)
    .map((i) => ({ field: i.path.join('.'), message: i.message }));
  throw new Problem('bad-input', fields[0]?.message ?? 'Something typed cannot be used.', { fields });
}

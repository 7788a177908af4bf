import type { FastifySchemaCompiler } from 'fastify';
import type { z } from 'zod';
import { Problem, type FieldProblem } from './problems.js';

const badInput = (error: z.ZodError): Problem => {
  const fields: FieldProblem[] = error.issues
    .slice(0, 50)
    .map((i) => ({ field: i.path.join('.'), message: i.message }));
  return new Problem('bad-input', fields[0]?.message ?? 'Something typed cannot be used.', { fields });
};

/** What came in, as the schema reads it. @throws Problem `bad-input` with a sentence for each field. */
export function checked<T>(schema: z.ZodType<T>, input: unknown): T {
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  throw badInput(parsed.error);
}

/** Each route's schemas read its address and its body before the route sees them; what they refuse is told the same way. */
export const readBySchema: FastifySchemaCompiler<z.ZodType> =
  ({ schema }) =>
  (input) => {
    const parsed = schema.safeParse(input);
    return parsed.success ? { value: parsed.data } : { error: badInput(parsed.error) };
  };

import { NOUNS, type Noun } from '@alluvium/records';
import type { z } from 'zod';

interface Inside {
  readonly type: string;
  readonly innerType?: z.ZodType;
  readonly in?: z.ZodType;
  readonly shape?: Readonly<Record<string, z.ZodType>>;
}

/** The schema of one field of a record, by its path; undefined where the schema cannot be taken apart. */
export function fieldSchema(noun: Noun, path: string): z.ZodType | undefined {
  let schema = NOUNS[noun] as z.ZodType;
  for (const name of path.split('.')) {
    for (;;) {
      const { type, innerType, in: inner }: Inside = schema.def as unknown as Inside;
      if (type === 'object') break;
      const next: z.ZodType | undefined = innerType ?? (type === 'pipe' ? inner : undefined);
      if (!next) return undefined;
      schema = next;
    }
    const field = (schema.def as unknown as Inside).shape?.[name];
    if (!field) return undefined;
    schema = field;
  }
  return schema;
}

/** What the record's own schema says of one value while it is typed; undefined when it is fine, or nothing stands there. */
export function fieldProblem(noun: Noun, path: string, value: unknown): string | undefined {
  if (value === null || value === undefined) return undefined;
  const parsed = fieldSchema(noun, path)?.safeParse(value);
  return parsed && !parsed.success ? parsed.error.issues[0]?.message : undefined;
}

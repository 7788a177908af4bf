/** Which fields of a record must be given, by its schema alone. */
import { NOUNS, type Noun } from '@alluvium/records';
import type { ZodType } from 'zod';

const EMPTY = [undefined, null, ''] as const;
const known = new Map<Noun, ReadonlySet<string>>();

interface Schema {
  readonly shape?: Readonly<Record<string, ZodType>>;
  readonly def?: { readonly in?: Schema; readonly out?: Schema };
}
/** The fields of a schema, also of one that moves what is old into its place first. */
const shapeOf = (schema: Schema): Readonly<Record<string, ZodType>> =>
  schema.shape ?? schema.def?.out?.shape ?? schema.def?.in?.shape ?? {};

/** Fields that take nothing empty; what the form fills in itself (ids) is none of them. */
export function requiredOf(noun: Noun): ReadonlySet<string> {
  let fields = known.get(noun);
  if (!fields) {
    const shape = shapeOf(NOUNS[noun] as unknown as Schema);
    fields = new Set(
      Object.entries(shape)
        .filter(([key, schema]) => !/^id$|Id$/.test(key) && !EMPTY.some((nothing) => schema.safeParse(nothing).success))
        .map(([key]) => key),
    );
    known.set(noun, fields);
  }
  return fields;
}

/** `intakeLift` as it is read aloud. */
const spoken = (field: string) => field.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** What a draft still lacks, by the words of its fields. */
export const lacking = (noun: Noun, draft: Readonly<Record<string, unknown>>): string[] =>
  [...requiredOf(noun)]
    .filter(
      (field) =>
        EMPTY.includes(draft[field] as (typeof EMPTY)[number]) ||
        (typeof draft[field] === 'string' && !draft[field].trim()),
    )
    .map(spoken);

import { z } from 'zod';
import { describe, expect, it } from 'vitest';
import {
  BUNDLE_FORMAT,
  BUNDLE_VERSION,
  Bundle,
  DESCRIPTORS,
  LIST_KEYS,
  NOUNS,
  NOUN_NAMES,
  WholeHead,
} from '../index.js';
import { describedAs, refersOf } from './index.js';

/** Fields of a schema, also of one that first puts right what older records say. */
function fieldsOf(schema: z.ZodType): string[] {
  if (schema instanceof z.ZodPipe)
    return [schema.def.in, schema.def.out].flatMap((side) => fieldsOf(side as z.ZodType));
  return Object.keys((schema as Partial<z.ZodObject>).shape ?? {});
}

describe('the nouns', () => {
  it('are each described once, and everything derives from that', () => {
    const empty = Bundle.parse({ format: BUNDLE_FORMAT, version: BUNDLE_VERSION }) as unknown as Record<
      string,
      unknown
    >;
    for (const noun of NOUN_NAMES) {
      const { schema, key, one, many } = describedAs(noun);
      expect(NOUNS[noun]).toBe(schema);
      expect(empty[key]).toEqual([]);
      expect(one && many && one !== many).toBeTruthy();
    }
    expect(new Set(Object.values(LIST_KEYS)).size).toBe(NOUN_NAMES.length);
  });

  it('name only fields they have and nouns there are, and come after what they name', () => {
    for (const noun of NOUN_NAMES)
      for (const [field, named] of Object.entries(refersOf(noun))) {
        expect(fieldsOf(NOUNS[noun]), `${noun}.${field}`).toContain(field);
        expect(NOUN_NAMES, `${noun}.${field}`).toContain(named);
      }
  });

  it('every field that ends in Id is known to name another record', () => {
    const unknown = NOUN_NAMES.flatMap((noun) =>
      fieldsOf(NOUNS[noun])
        .filter((f) => /Id$|^pairOf$|^specimenOf$|^siblingOf$/.test(f) && !(f in refersOf(noun)))
        .map((f) => `${noun}.${f}`),
    );
    expect(unknown).toEqual([]);
  });

  it('come with a whole head where they say so', () => {
    const lists = Object.keys(WholeHead.shape).filter((k) => k !== 'head' && k !== 'pair');
    const said = Object.values(DESCRIPTORS).flatMap((d) => ('of' in d ? [d.key as string] : []));
    expect(lists.sort()).toEqual(said.sort());
  });
});

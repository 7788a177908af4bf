import { NOUN_NAMES, describedAs, refersOf, type Noun, type RecordOf } from '../nouns/index.js';

// kept.get()!, byId.get()!: made for every noun.

/** Records by noun. */
export type ByNoun = { readonly [N in Noun]?: readonly RecordOf<N>[] };
type Fields = Readonly<Record<string, unknown>> & { readonly id: string };

/**
 * Some heads with all that is theirs, and with every record those refer to, so that the file stands alone: another head
 * only paired with one of them comes as itself, without what is its own.
 */
export function excerptOf(all: ByNoun, heads: ReadonlySet<string>): ByNoun {
  const listOf = (noun: Noun) => (all[noun] ?? []) as readonly unknown[] as readonly Fields[];
  const kept = new Map(NOUN_NAMES.map((noun) => [noun, new Set<string>()]));
  const isTheirs = (noun: Noun, record: Fields): boolean => {
    if (noun === 'head') return heads.has(record.id);
    const { of } = describedAs(noun);
    if (of === 'head') return heads.has(record.headId as string);
    // What was read and called in a session is of the head the session was for.
    return of === 'stage'
      ? kept.get('stage')!.has(record.stageId as string)
      : kept.get('session')!.has(record.sessionId as string);
  };
  for (const noun of NOUN_NAMES)
    for (const record of listOf(noun)) if (isTheirs(noun, record)) kept.get(noun)!.add(record.id);

  const byId = new Map(NOUN_NAMES.map((noun) => [noun, new Map(listOf(noun).map((r) => [r.id, r]))]));
  const open = NOUN_NAMES.flatMap((noun) => [...kept.get(noun)!].map((id) => [noun, id] as const));
  for (let next = open.pop(); next; next = open.pop()) {
    const record = byId.get(next[0])!.get(next[1]);
    for (const [field, noun] of Object.entries(refersOf(next[0]))) {
      const id = record?.[field];
      if (typeof id !== 'string' || kept.get(noun)!.has(id)) continue;
      kept.get(noun)!.add(id);
      open.push([noun, id]);
    }
  }
  return Object.fromEntries(NOUN_NAMES.map((noun) => [noun, listOf(noun).filter((r) => kept.get(noun)!.has(r.id))]));
}

import type { Extent, LineupView, Noun, Touched, WaysView, WholeHead } from '@alluvium/records';
import type { Query, QueryClient, QueryKey } from '@tanstack/vue-query';

/** Every query of the application by its key: the only place where keys are written. */
export const KEYS = {
  list: (noun: Noun) => ['list', noun],
  ways: (buildId: unknown) => ['ways', buildId],
  pulled: (buildId: unknown) => ['pulled', buildId],
  pullFactors: ['pullFactors'],
  outcomes: ['outcomes'],
  practiceHeads: ['practiceHeads'],
  scoredCalls: ['scoredCalls'],
  care: ['care'],
  health: ['health'],
  rescue: ['rescue'],
  library: ['library'],
  // Of the library: what makes the one old makes the other.
  tags: ['library', 'tags'],
  shop: ['shop'],
  claims: ['claims'],
  cuts: (buildId: unknown) => ['cuts', buildId],
  specimens: (headId: unknown) => ['specimens', headId],
  head: (id: unknown) => ['head', id],
  lineup: (buildId: unknown) => ['lineup', buildId],
  session: (id: unknown) => ['session', id],
  ranges: (sourceId: unknown) => ['ranges', sourceId],
  evidence: (noun: Noun, id: string) => ['evidence', noun, id],
  history: (noun: Noun, id: unknown) => ['history', noun, id],
} as const;

/** Nouns of the library's list, of the judging of claims, and those that have a list of their own. */
const IN_LIBRARY: ReadonlySet<Noun> = new Set<Noun>(['head', 'stage', 'sheet', 'measure']);
const IN_CLAIMS: ReadonlySet<Noun> = new Set<Noun>([
  'head',
  'stage',
  'port',
  'sheet',
  'measure',
  'report',
  'source',
  'tolerance',
  'build',
  'assumption',
  'calibration',
]);
/** What a gain is read from. */
const IN_CUTS: ReadonlySet<Noun> = new Set<Noun>([...IN_CLAIMS, 'operation']);
/** What is old with a noun besides its own list. */
const ALSO: { readonly [N in Noun]?: QueryKey } = {
  // A lineup is read with every source.
  source: ['lineup'],
  call: KEYS.scoredCalls,
  session: KEYS.scoredCalls,
};

const begins = (key: QueryKey, prefix: QueryKey) => prefix.every((part, i) => key[i] === part);

/** What was changed is the other head of this one's engine, or is that no longer. */
const isPairOf = (whole: Partial<Pick<WholeHead, 'pair'>> | undefined, headId: string): boolean =>
  whole?.pair?.head.id === headId;
const isOfWays = (query: Pick<Query, 'state'>, headId: string): boolean =>
  (query.state.data as Pick<WaysView, 'wholes'> | undefined)?.wholes.some(
    (w) => w.head.id === headId || isPairOf(w, headId),
  ) ?? false;
const isSpecimen = (query: Pick<Query, 'state'>, headId: string): boolean =>
  (query.state.data as readonly WholeHead[] | undefined)?.some((w) => w.head.id === headId) ?? false;

/** Whether what a query holds is old once this record changed. */
export function isTouched(query: Pick<Query, 'queryKey' | 'state'>, touched: Touched): boolean {
  const { queryKey: key } = query;
  const { noun, id, headId, buildId, sessionId } = touched;
  if (ALSO[noun] && begins(key, ALSO[noun])) return true;
  switch (key[0]) {
    case 'list':
      return key[1] === noun;
    case 'shop':
      return true;
    case 'library':
      return IN_LIBRARY.has(noun);
    case 'ranges':
      return noun === 'sheet' || noun === 'session' || noun === 'reading';
    case 'ways':
      if (noun === 'way') return key[1] === buildId;
      return noun === 'source' || (headId !== null && isOfWays(query, headId));
    case 'pulled':
      if (noun === 'pull') return key[1] === buildId;
      return noun === 'source' || (headId !== null && isOfWays(query, headId));
    case 'outcomes':
      return ['pull', 'head', 'stage', 'sheet', 'report'].includes(noun);
    case 'pullFactors':
      return noun === 'pull' || IN_CLAIMS.has(noun);
    case 'cuts':
      return IN_CUTS.has(noun);
    case 'specimens':
      return noun === 'head' || (headId !== null && isSpecimen(query, headId));
    case 'claims':
      return IN_CLAIMS.has(noun);
    case 'head':
      return headId !== null && (key[1] === headId || isPairOf(query.state.data as WholeHead | undefined, headId));
    case 'lineup':
      if (noun === 'lineup') return key[1] === buildId;
      return (
        headId !== null &&
        ((query.state.data as LineupView | undefined)?.entries.some(
          (e) => e.whole.head.id === headId || isPairOf(e.whole, headId),
        ) ??
          false)
      );
    case 'session':
      return sessionId !== null && key[1] === sessionId;
    case 'evidence':
    case 'history':
      return key[1] === noun && key[2] === id;
    default:
      return false;
  }
}

/** Asks anew for what a change made old, and for nothing else. Resolves when what is on screen is current. */
export function refresh(client: QueryClient, extent: Extent): Promise<void> {
  if (extent === 'all') return client.invalidateQueries();
  return client.invalidateQueries({ predicate: (query) => extent.some((touched) => isTouched(query, touched)) });
}

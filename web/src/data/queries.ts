import type {
  Call,
  Head,
  HeadPage,
  HeadQuery,
  LineupView,
  Noun,
  Outcome,
  PullFactor,
  PulledView,
  RecordOf,
  ShopView,
  TagsView,
  Sheet,
  SingleCut,
  WaysView,
  WholeHead,
  WholeSession,
} from '@alluvium/records';
import { keepPreviousData, useQueries, useQuery, type QueryKey } from '@tanstack/vue-query';
import { computed, toValue, type ComputedRef, type MaybeRefOrGetter } from 'vue';
import { get, getAll } from './client.js';
import { KEYS } from './keys.js';

/** What the server holds is read as it is and never changed in place: no proxy is laid over it. */
const read = <T>(queryKey: QueryKey, queryFn: () => Promise<T>) => useQuery({ queryKey, queryFn, shallow: true });

/** Every record of a noun. */
export const useListOf = <N extends Noun>(noun: N) =>
  read<RecordOf<N>[]>([...KEYS.list(noun)], () => getAll<RecordOf<N>>(`/api/${noun}`));

/** Heads to practise on; the same ones until others are asked for. */
export const usePracticeHeads = () => read<WholeHead[]>(KEYS.practiceHeads, () => get('/api/practice/heads'));

/** The ways to go of a build with their heads. */
export const useWays = (buildId: MaybeRefOrGetter<string>) =>
  one<WaysView>(
    (id) => KEYS.ways(id),
    buildId,
    (id) => `/api/build/${id}/ways`,
  );

/** The pulls of a build with the heads that were on it. */
export const usePulled = (buildId: MaybeRefOrGetter<string>) =>
  one<PulledView>(
    (id) => KEYS.pulled(id),
    buildId,
    (id) => `/api/build/${id}/pulled`,
  );
/** What each pull of the shop says a cfm of its head made. */
export const usePullFactors = () => read<PullFactor[]>(KEYS.pullFactors, () => get('/api/pulls/factors'));

/** What was found of heads on the dyno. */
export const useOutcomes = () => read<Outcome[]>(KEYS.outcomes, () => get('/api/pulls/outcomes'));

/** The shop's cuts that can be told by themselves, each with what it bought over the cam of a build. */
export const useCuts = (buildId: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: KEYS.cuts(computed(() => toValue(buildId))),
    queryFn: () => {
      const build = toValue(buildId);
      return get<SingleCut[]>(`/api/cuts${build ? `?build=${encodeURIComponent(build)}` : ''}`);
    },
    shallow: true,
  });
/** Every specimen of a head's article, whole. */
export const useSpecimens = (headId: MaybeRefOrGetter<string>) =>
  one<WholeHead[]>(
    (id) => KEYS.specimens(id),
    headId,
    (id) => `/api/head/${id}/specimens`,
  );

/** A call of a finished session with the sheets that say what came out. */
export interface ScoredCall {
  readonly call: Call;
  readonly session: string;
  readonly head: string;
  readonly sheets: readonly Sheet[];
}
export const useScoredCalls = () => read<ScoredCall[]>(KEYS.scoredCalls, () => get('/api/calls/scored'));

/** What the shop has going on. */
export const useTags = () => read<TagsView>(KEYS.tags, () => get('/api/tags'));
export const useShop = () => read<ShopView>(KEYS.shop, () => get('/api/shop'));

export const libraryPath = (query: Partial<HeadQuery>): string => {
  const parameters = new URLSearchParams();
  for (const [k, v] of Object.entries(query)) if (v !== undefined && v !== '') parameters.set(k, String(v));
  return `/api/library?${parameters}`;
};

export function useLibrary(query: MaybeRefOrGetter<Partial<HeadQuery>>) {
  return useQuery({
    queryKey: [...KEYS.library, computed(() => ({ ...toValue(query) }))],
    queryFn: () => get<HeadPage>(libraryPath(toValue(query))),
    placeholderData: keepPreviousData,
    shallow: true,
  });
}

/** One thing by its id; nothing is asked while the id is empty. */
function one<T>(key: (id: unknown) => QueryKey, id: MaybeRefOrGetter<string>, path: (id: string) => string) {
  return useQuery({
    queryKey: key(computed(() => toValue(id))),
    queryFn: () => get<T>(path(toValue(id))),
    enabled: computed(() => toValue(id) !== ''),
    shallow: true,
  });
}
export const useHeadOf = (id: MaybeRefOrGetter<string>) =>
  one<Head>(
    (head) => [...KEYS.head(head), 'alone'],
    id,
    (head) => `/api/head/${head}`,
  );
export const useWholeHead = (id: MaybeRefOrGetter<string>) =>
  one<WholeHead>(KEYS.head, id, (head) => `/api/head/${head}/whole`);
const lineupPath = (build: string) => `/api/build/${build}/lineup`;
export const useLineup = (buildId: MaybeRefOrGetter<string>) => one<LineupView>(KEYS.lineup, buildId, lineupPath);
export const readLineup = (buildId: string) => get<LineupView>(lineupPath(buildId));
export const useWholeSession = (id: MaybeRefOrGetter<string>) =>
  one<WholeSession>(KEYS.session, id, (session) => `/api/session/${session}/whole`);

/** Records named one by one, wherever they are. One that is gone is not asked for again. */
export const useRecords = <N extends Noun>(named: () => readonly { readonly noun: N; readonly id: string }[]) =>
  useQueries({
    queries: computed(() =>
      named().map(({ noun, id }) => ({
        queryKey: [...KEYS.evidence(noun, id)],
        queryFn: () => get<RecordOf<N>>(`/api/${noun}/${id}`),
      })),
    ),
  });

/** An earlier state of a record, newest first. */
export interface Earlier<T> {
  readonly at: string;
  readonly before: T | null;
  readonly after: T | null;
}
export const useHistory = <T>(noun: Noun, id: MaybeRefOrGetter<string>) =>
  one<Earlier<T>[]>(
    (of) => [...KEYS.history(noun, of)],
    id,
    (of) => `/api/${noun}/${of}/history`,
  );

interface Asked {
  readonly isPending: { readonly value: boolean };
  readonly isError: { readonly value: boolean };
  readonly error: { readonly value: Error | null };
  readonly failureReason?: { readonly value: Error | null };
  readonly fetchStatus: { readonly value: string };
}

/** Where a page stands that hangs on several things asked for: still loading, refused, or all here. */
export interface Standing {
  readonly loading: ComputedRef<boolean>;
  /** The first refusal, in its own sentence; empty when there is none. */
  readonly error: ComputedRef<string>;
}
export function standingOf(...queries: Asked[]): Standing {
  return {
    loading: computed(() => queries.some((q) => q.isPending.value && q.fetchStatus.value !== 'idle')),
    error: computed(() => queries.find((q) => q.isError.value)?.error.value?.message ?? ''),
  };
}

import type {
  Build,
  Checklist,
  HeadPage,
  HeadQuery,
  LineupView,
  LineupWrite,
  Source,
  Tolerance,
  WholeHead,
  Written,
} from '@alluvium/records';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, toValue, type MaybeRefOrGetter } from 'vue';
import { get, request } from './client.js';

export const useBuilds = () => useQuery({ queryKey: ['builds'], queryFn: () => get<Build[]>('/api/build') });

export const useSources = () => useQuery({ queryKey: ['sources'], queryFn: () => get<Source[]>('/api/source') });

export const useChecklists = () =>
  useQuery({ queryKey: ['checklists'], queryFn: () => get<Checklist[]>('/api/checklist') });
export const useTolerances = () =>
  useQuery({ queryKey: ['tolerances'], queryFn: () => get<Tolerance[]>('/api/tolerance') });

export function useLibrary(query: MaybeRefOrGetter<Partial<HeadQuery>>) {
  return useQuery({
    queryKey: ['library', computed(() => ({ ...toValue(query) }))],
    queryFn: () => {
      const parameters = new URLSearchParams();
      for (const [k, v] of Object.entries(toValue(query)))
        if (v !== undefined && v !== '') parameters.set(k, String(v));
      return get<HeadPage>(`/api/library?${parameters}`);
    },
    placeholderData: keepPreviousData,
  });
}

export function useWholeHead(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: ['head', computed(() => toValue(id))],
    queryFn: () => get<WholeHead>(`/api/head/${toValue(id)}/whole`),
    enabled: computed(() => toValue(id) !== ''),
  });
}

export function useLineup(buildId: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: ['lineup', computed(() => toValue(buildId))],
    queryFn: () => get<LineupView>(`/api/build/${toValue(buildId)}/lineup`),
    enabled: computed(() => toValue(buildId) !== ''),
  });
}

/** Writes the lineup of a build; the answer replaces the cached one at once. */
export function useWriteLineup() {
  const client = useQueryClient();
  return async (buildId: string, write: LineupWrite): Promise<number> => {
    const answer = await request<Written<LineupView>>('PUT', `/api/build/${buildId}/lineup`, write);
    client.setQueryData(['lineup', buildId], answer.record);
    return answer.batch;
  };
}

/** Everything read from the server is asked for again: after an import, an undo, a conflict. */
export function useRefresh() {
  const client = useQueryClient();
  return () => client.invalidateQueries();
}

import type { Correction, CorrectionLine, Done, RangeInUse } from '@alluvium/records';
import { useQuery } from '@tanstack/vue-query';
import { computed, toValue, type MaybeRefOrGetter } from 'vue';
import { get, request } from './client.js';
import { KEYS } from './keys.js';

/** Every full scale the papers of a bench name. */
export const useRangesInUse = (sourceId: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: [...KEYS.ranges(computed(() => toValue(sourceId)))],
    queryFn: () => get<RangeInUse[]>(`/api/source/${toValue(sourceId)}/ranges`),
    enabled: computed(() => toValue(sourceId) !== ''),
    shallow: true,
  });

/** What a correction would change; nothing is asked while there is none to make. */
export const useCorrectionPreview = (sourceId: () => string, correction: () => Correction | undefined) =>
  useQuery({
    queryKey: [...KEYS.ranges(computed(sourceId)), computed(correction)],
    queryFn: () => request<CorrectionLine[]>('POST', `/api/source/${sourceId()}/correction/preview`, correction()),
    enabled: computed(() => sourceId() !== '' && correction() !== undefined),
    shallow: true,
  });

export interface Corrected extends Done {
  readonly sheets: number;
  readonly sessions: number;
}
/** Puts it right everywhere: one change. */
export const sendCorrection = (sourceId: string, correction: Correction) =>
  request<Corrected>('POST', `/api/source/${sourceId}/correction`, correction);

import {
  bandOf,
  benchRepeatability,
  netOf,
  type ClaimContext,
  type NetHead,
  type SourceReading,
} from '@alluvium/records';
import type { Side } from '@alluvium/core';
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { get } from '../api/client.js';
import { useSources } from '../api/queries.js';
import { useActiveBuild } from '../state/build.js';
import { useSettings } from '../state/settings.js';
import { useOffsets } from './useOffsets.js';

/** Every head with something flowed or claimed of it, and what claims are held against. */
export function useClaims() {
  const settings = useSettings();
  const { active } = useActiveBuild();
  const sources = useSources();
  const query = useQuery({ queryKey: ['net'], queryFn: () => get<NetHead[]>('/api/claims/net') });
  const heads = computed(() => query.data.value ?? []);
  const own = computed(() => sources.data.value?.find((s) => s.kind === 'own bench')?.id);
  const context = computed<ClaimContext>(() => ({
    band: bandOf(heads.value),
    own: own.value,
    repeatability: benchRepeatability(heads.value, own.value),
    say: settings.say,
    build: active.value?.build,
  }));
  return {
    heads,
    own,
    context,
    sources: computed(() => sources.data.value ?? []),
    ready: computed(() => query.isSuccess.value && sources.isSuccess.value),
    error: computed(() => (query.isError.value ? String(query.error.value?.message) : '')),
  };
}

/** What each source reads off on other heads than the one in hand, solved beside the page. */
export function useSourceReads(
  heads: () => readonly NetHead[],
  own: () => string | undefined,
  headId: () => string | undefined,
  side: () => Side,
) {
  const net = computed(() => {
    const [bench, without] = [own(), headId()];
    return bench && without ? netOf(heads(), bench, side(), { without }) : undefined;
  });
  const { result } = useOffsets(() => net.value && { data: net.value.data });
  return (sourceId: string, of: Side): SourceReading | undefined => {
    const index = net.value?.sources.indexOf(sourceId) ?? -1;
    const found = of === side() && index > 0 ? result.value?.offsets[index] : undefined;
    return found?.tied && Number.isFinite(found.error)
      ? { offset: found.offset, error: found.error, heads: net.value!.shared[index]! }
      : undefined;
  };
}

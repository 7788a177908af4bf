import { SIDES, repeatabilityFrom, type Side } from '@alluvium/core';
import { answeredBand, bandAsks, type ClaimContext, type NetHead, type SourceReading } from '@alluvium/records';
import { computed, type ComputedRef } from 'vue';
import { useActiveBuild } from '../data/build.js';
import { useBandViews, useClaimStanding } from '../data/claims.js';
import { useJudging } from '../data/judging.js';
import { useOffsets } from '../data/offsets.js';
import { standingOf, useListOf } from '../data/queries.js';
import { useSettings } from '../state/settings.js';

// net.value!, shared[]!: what was solved numbers the sources of its net.

const NO_PULLS = { squares: 0, freedom: 0 };

/** What every claim is held against, whichever head it is of. The library itself stays on the server. */
export function useClaims() {
  const settings = useSettings();
  const { active } = useActiveBuild();
  const sources = useListOf('source');
  const query = useClaimStanding();
  const judging = useJudging();
  const standing = standingOf(query, sources);
  const own = computed(() => query.data.value?.own ?? undefined);
  return {
    own,
    facts: computed<Omit<ClaimContext, 'band'>>(() => ({
      own: own.value,
      repeatability: repeatabilityFrom(query.data.value?.pulls ?? NO_PULLS),
      say: settings.say,
      pipe: query.data.value?.pipe ?? undefined,
      judging: { ...judging.value, sources: sources.data.value ?? [] },
      build: active.value?.build,
    })),
    sources: computed(() => sources.data.value ?? []),
    /** How far the library is read, and which state of it is known. */
    library: computed(() => query.data.value ?? { done: 0, of: 0, version: 0 }),
    ready: computed(() => query.data.value !== undefined && sources.data.value !== undefined),
    error: standing.error,
  };
}
export type Claims = ReturnType<typeof useClaims>;

/** The same with the band at every place these heads' claims ask for; undefined until it is answered. */
export function useContext(claims: Claims, head: () => NetHead): ComputedRef<ClaimContext | undefined> {
  const asks = computed(() => bandAsks(head(), SIDES));
  const views = useBandViews(() => asks.value);
  return computed(() => {
    const answer = views.data.value;
    return answer && { ...claims.facts.value, band: answeredBand(answer.asks, answer.views) };
  });
}

/** What each source reads off on other heads than the one in hand, solved beside the page. */
export function useSourceReads(claims: Claims, headId: () => string, side: () => Side) {
  const { net, result } = useOffsets(() =>
    claims.own.value === undefined
      ? undefined
      : { side: side(), without: headId(), version: claims.library.value.version, weigh: false },
  );
  return (sourceId: string, of: Side): SourceReading | undefined => {
    const index = net.value?.sources.indexOf(sourceId) ?? -1;
    const found = of === side() && index > 0 ? result.value?.offsets[index] : undefined;
    return found?.tied && Number.isFinite(found.half)
      ? { offset: found.offset, half: found.half, heads: net.value!.shared[index]! }
      : undefined;
  };
}

import type { Side } from '@alluvium/core';
import { computed, watch } from 'vue';
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router';
import { useHidden, type CompareHead } from '../data/comparison.js';
import { useActiveBuild } from '../data/build.js';

export type Show = 'flow' | 'coefficients' | 'ratio';
export type Difference = 'cfm' | 'percent';

/** What the comparison shows lives in the address, so that it can be bookmarked and sent. */
export function useCompareView() {
  const route = useRoute();
  const router = useRouter();
  const hidden = useHidden();
  const { active } = useActiveBuild();

  const put = (change: Record<string, string | undefined>) =>
    void router.replace({ query: { ...route.query, build: active.value?.build.id ?? route.query.build, ...change } });
  const choice = <T extends string>(name: string, usual: T, others: readonly T[]) =>
    computed<T>({
      get: () => (others.includes(route.query[name] as T) ? (route.query[name] as T) : usual),
      set: (value) => put({ [name]: value === usual ? undefined : value }),
    });

  if (typeof route.query.hide === 'string') hidden.set(route.query.hide.split(',').filter(Boolean));
  let timer: ReturnType<typeof setTimeout> | undefined;
  onBeforeRouteLeave(() => clearTimeout(timer));
  watch(
    () => [...hidden.letters].sort().join(','),
    // After the drawing: the address is for the bookmark, the picture is what the user waits for.
    (letters) => {
      clearTimeout(timer);
      timer = setTimeout(() => put({ hide: letters || undefined }), 120);
    },
  );
  return {
    side: choice<Side>('side', 'intake', ['exhaust']),
    show: choice<Show>('show', 'flow', ['coefficients', 'ratio']),
    difference: choice<Difference>('difference', 'cfm', ['percent']),
  };
}

/** Each head at each stage once, also where several of its sheets stand in the lineup. */
export const onceAStage = (heads: readonly CompareHead[]): CompareHead[] =>
  heads.filter(
    (h, i) => heads.findIndex((o) => o.whole.head.id === h.whole.head.id && o.stage.id === h.stage.id) === i,
  );

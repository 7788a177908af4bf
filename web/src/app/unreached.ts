import { shallowRef, type ShallowRef } from 'vue';
import type { RouteLocationNormalized, Router } from 'vue-router';
import { heard, onBack } from '../data/reach.js';

/**
 * The page that could not be opened because its part of the program did not come: said in its place, and opened by
 * itself when the server is back. Undefined while every page opens.
 */
export function useUnreached(router: Router): ShallowRef<RouteLocationNormalized | undefined> {
  const unreached = shallowRef<RouteLocationNormalized>();
  router.onError((error, to) => {
    if (!/dynamically imported|module script|preload CSS|Failed to fetch/i.test(String(error))) throw error;
    heard(false);
    unreached.value = to;
  });
  router.afterEach((_to, _from, failure) => {
    if (!failure) unreached.value = undefined;
  });
  onBack(() => {
    const to = unreached.value;
    if (!to) return;
    // A browser may remember that a part did not come: what was typed is kept, so the whole page is loaded anew.
    location.assign(router.resolve(to).href);
  });
  return unreached;
}

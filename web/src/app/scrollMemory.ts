import type { Router } from 'vue-router';

/** How long a page that is left by Back may take until it is long enough to be where it was, ms. */
const PATIENCE = 3000;

/**
 * The place of each page in the history: Back and Forward return to it, a page that is newly opened begins at its top, and
 * a pane of the page one is on leaves it alone. The page scrolls within the frame, which the browser does not remember.
 */
export function rememberScroll(router: Router, frame: () => HTMLElement | null | undefined): void {
  const placeOf = (): number => (history.state as { position?: number } | null)?.position ?? 0;
  const kept = new Map<number, number>();
  let at = placeOf();
  let popped = false;
  let waiting = 0;
  router.options.history.listen(() => {
    popped = true;
  });
  router.beforeEach(() => {
    kept.set(at, frame()?.scrollTop ?? 0);
  });
  router.afterEach((to, from, failure) => {
    const back = popped;
    popped = false;
    at = placeOf();
    cancelAnimationFrame(waiting);
    if (failure || (to.path === from.path && !back)) return;
    goTo(back ? (kept.get(at) ?? 0) : 0, performance.now() + PATIENCE);
  });

  /** Its content may still be on the way: as far as it goes now, and on until it is there. */
  function goTo(top: number, until: number): void {
    const page = frame();
    if (!page) return;
    page.scrollTop = top;
    const there = Math.abs(page.scrollTop - top) < 2;
    // Whoever scrolls meanwhile is not pulled back.
    const reached = page.scrollTop;
    if (!there && performance.now() < until)
      waiting = requestAnimationFrame(() => Math.abs((frame()?.scrollTop ?? 0) - reached) < 2 && goTo(top, until));
  }
}

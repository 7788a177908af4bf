import type { SheetFacts } from '@alluvium/core';

/** How a made-up test was taken: everything is known of it, and nothing of it is odd. */
export const madeUpFacts = (id: string, bench: Pick<SheetFacts, 'own' | 'bench' | 'checked'>): SheetFacts => ({
  id,
  kind: 'measured',
  ...bench,
  depression: 28 * 249.089,
  bore: 0.1,
  entry: 'radius',
  exhaustPipe: 'bare',
  valve: 'own',
  changedSince: [],
  resolution: 0,
});

/** Full scales of a bench by date: which hold on a day, and a new set from a day on. */
import type { Setup } from '../nouns/sheet.js';
import type { Scales, Source } from '../nouns/source.js';

/** The set that holds on a day: the last that began by then, else the first there is. */
export function scalesOn(source: Pick<Source, 'scales'> | undefined, day: string): Scales | undefined {
  const inOrder = (source?.scales ?? []).toSorted((a, b) => a.since.localeCompare(b.since));
  return inOrder.findLast((s) => s.since <= day) ?? inOrder[0];
}

/** The bench with full scales from a day on; those of that very day are replaced. */
export const withScales = (source: Source, since: string, ranges: Setup['ranges']): Source => ({
  ...source,
  scales: [...source.scales.filter((s) => s.since !== since), { since, ranges }].sort((a, b) =>
    a.since.localeCompare(b.since),
  ),
});

/** A set-up as it is read on another bench: by the full scales that bench has on the day; where it has none, those read by so far stay as the test's own. */
export function onBench<S extends Pick<Setup, 'scales' | 'ranges'>>(
  setup: S,
  source: Pick<Source, 'scales'> | undefined,
  day: string,
): S {
  const scales = scalesOn(source, day);
  if (scales) return { ...setup, scales: scales.since, ranges: scales.ranges };
  return setup.scales === null ? setup : { ...setup, scales: null };
}

/** Which range of a bench a reading was taken on. Without schemas, so that what reads a sheet need not load them. */
import type { Setup } from './nouns/sheet.js';

/**
 * The range a reading was taken on: the one it names; where it names none, the only one of the bench in that direction.
 */
export function rangeOf(
  { ranges }: Pick<Setup, 'ranges'>,
  name: string | null,
  side: 'intake' | 'exhaust',
): Setup['ranges'][number] | undefined {
  if (name !== null) return ranges.find((r) => r.name === name);
  const [only, ...others] = ranges.filter((r) => r[side]);
  return others.length === 0 ? only : undefined;
}

/** Whether a sheet's readings are flows only by the full scale of a range. */
export const needsScale = ({ reads }: Pick<Setup, 'reads'>): boolean => reads === 'percent' || reads === 'differential';

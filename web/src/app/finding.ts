/** What the search of everything offers, and in which order. */
import { sum } from 'd3-array';

export interface Found {
  /** Unique in the list. */
  readonly key: string;
  readonly kind: 'page' | 'head' | 'engine' | 'source' | 'word' | 'act';
  readonly text: string;
  /** What stands beside it, and is searched too. */
  readonly note?: string;
  readonly go: () => void;
}

/** Of each kind no more are shown at once. */
const SHOWN = 8;

/** How well a text answers: 0 begins with it, 1 a word begins with it, 2 has it; undefined does not. */
function rank(text: string, search: string): number | undefined {
  const at = text.toLowerCase().indexOf(search);
  if (at < 0) return undefined;
  if (at === 0) return 0;
  return /[\s(“-]/.test(text.charAt(at - 1)) ? 1 : 2;
}

/**
 * What answers a search, the best first and of each kind a few; every word must be found. Without a search: what is
 * offered before one types, as it was given.
 */
export function answering(all: readonly Found[], search: string): Found[] {
  const words = search.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return all.slice(0, SHOWN * 2);
  const scored = all.flatMap((found) => {
    const ranks = words.map(
      (w) => rank(found.text, w) ?? (found.note && rank(found.note, w) !== undefined ? 3 : undefined),
    );
    const met = ranks.filter((r) => r !== undefined);
    return met.length < words.length ? [] : [{ found, score: sum(met) }];
  });
  const shown = new Map<string, number>();
  return scored
    .sort((a, b) => a.score - b.score || a.found.text.length - b.found.text.length)
    .filter(({ found: { kind } }) => {
      const count = (shown.get(kind) ?? 0) + 1;
      shown.set(kind, count);
      return count <= SHOWN;
    })
    .map(({ found }) => found);
}

/** What was typed and not saved stays in this browser, with the page it was typed on. */
import type { Noun } from '@alluvium/records';

// getItem()!: its key was listed.

const DRAFT = 'alluvium.draft.';
const PLACE = 'alluvium.place.';
const placeOf = (key: string) => key.replace(DRAFT, PLACE);

/** Under which a draft is kept: its noun, its id or what keeps a new one apart. */
export const draftKey = (noun: Noun, id: string): string => `${DRAFT}${noun}.${id}`;

export function keepDraft(key: string, draft: unknown): void {
  localStorage.setItem(key, JSON.stringify(draft));
  localStorage.setItem(placeOf(key), location.pathname + location.search);
}

export function dropDraft(key: string): void {
  localStorage.removeItem(key);
  localStorage.removeItem(placeOf(key));
}

export interface KeptDraft {
  readonly key: string;
  /** What it is a draft of, by its noun. */
  readonly noun: string;
  /** Its name as typed; empty where it has none. */
  readonly name: string;
  /** The page it was typed on; missing for drafts of before that was kept. */
  readonly place: string | undefined;
}

/** Every draft of this browser that is not saved; one that cannot be read is left alone. */
export function keptDrafts(): KeptDraft[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(DRAFT))
    .flatMap((key): KeptDraft[] => {
      const noun = key.slice(DRAFT.length).replace(/\..*$/s, '');
      try {
        const draft = JSON.parse(localStorage.getItem(key)!) as Record<string, unknown>;
        const name = [draft.name, draft.title, draft.text].find((t) => typeof t === 'string' && t.trim() !== '');
        return [
          {
            key,
            noun,
            name: (name as string | undefined) ?? '',
            place: localStorage.getItem(placeOf(key)) ?? undefined,
          },
        ];
      } catch {
        return [];
      }
    });
}

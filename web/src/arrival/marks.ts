import type { Inspection } from '@alluvium/records';

export type Mark = Inspection['state'] | 'found';

/** How a line of the checklist is marked: a sign, never colour alone, and the word for it. */
export const MARKS: Readonly<Record<Mark, { readonly sign: string; readonly word: string }>> = {
  open: { sign: '○', word: 'open' },
  fine: { sign: '✓', word: 'fine' },
  unsure: { sign: '?', word: 'unsure' },
  found: { sign: '▲', word: 'something found' },
  skipped: { sign: '–', word: 'skipped' },
};

/** One port tested more than once: what is believed of it, decided once and read everywhere. */
import type { WholeHead } from './api.js';
import type { Sheet } from './nouns/sheet.js';
import { isRepeat } from './repeats.js';

// g[]!: a group begins with one.
// sheets[]!: made from them, one for each.

/** Several sheets of one port taken alike. */
export interface TestedTwice {
  /** By date, the oldest first. */
  readonly sheets: readonly Sheet[];
  /** Those read: all of them as one, or the one that is believed. */
  readonly believed: readonly Sheet[];
}

/** Every port of a stage that was tested more than once in the same way. */
export function testedTwice(whole: Pick<WholeHead, 'sheets'>, stageId: string): TestedTwice[] {
  const groups: Sheet[][] = [];
  for (const s of whole.sheets) {
    if (s.stageId !== stageId || s.setup.reads === 'difference') continue;
    const group = groups.find((g) => isRepeat(g[0]!, s));
    if (group) group.push(s);
    else groups.push([s]);
  }
  return groups
    .filter((g) => g.length > 1)
    .map((g) => {
      const sheets = [...g].sort((a, b) => (a.date ?? '').localeCompare(b.date ?? ''));
      return { sheets, believed: sheets.filter((s) => s.setAside === '') };
    });
}

/** The sheets as they stand when one of them alone is believed, or all as one: only those that change. */
export const believing = ({ sheets }: TestedTwice, only: Sheet | null, reason: string): Sheet[] =>
  sheets
    .map((s) => ({
      ...s,
      setAside: only === null || s.id === only.id ? '' : reason.trim() || `${only.title} is believed`,
    }))
    .filter((s, i) => s.setAside !== sheets[i]!.setAside);

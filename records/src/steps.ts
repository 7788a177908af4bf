/** The steps of a change, written. */
import type { Step } from './change.js';
import type { Noun, RecordOf } from './nouns/index.js';

export const addition = <N extends Noun>(noun: N, record: object): Step => ({
  do: 'add',
  noun,
  record: { ...record },
});
/** Replaces a record; the version it was read at goes along. */
export const replacement = <N extends Noun>(
  noun: N,
  record: Partial<RecordOf<N>> & { id: string; version: number },
): Step => ({
  do: 'save',
  noun,
  record: { ...record },
});
export const removal = (noun: Noun, id: string): Step => ({ do: 'remove', noun, id });

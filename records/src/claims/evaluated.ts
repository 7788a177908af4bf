import type { SheetResult } from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { evaluateSheetOf } from '../evaluateHead.js';
import type { Sheet } from '../nouns/sheet.js';

const known = new WeakMap<Sheet, { readonly measures: WholeHead['measures']; readonly result: SheetResult }>();

/**
 * A sheet with the sizes of its stage, read by core once for each pair of records: band, net and verdicts of a large
 * library all ask for the same.
 */
export function evaluated(head: Pick<WholeHead, 'head' | 'stages' | 'measures'>, sheet: Sheet): SheetResult {
  const before = known.get(sheet);
  if (before?.measures === head.measures) return before.result;
  const result = evaluateSheetOf(head, sheet);
  known.set(sheet, { measures: head.measures, result });
  return result;
}

/** What one set-up differs from the next, learnt from ports that were tested again. */
import { meanLogDifference, type SheetResult } from '@alluvium/core';
import type { Sheet } from './nouns/sheet.js';
import { isRepeat } from './repeats.js';

/** Weight of the usual figure, in repeated tests: it holds until there are some. */
const PRIOR = 4;

/**
 * Standard deviation of a set-up as a share: the mean log difference of each pair of sheets of one port, over √2, pooled
 * with `usual` as if it came from four pairs (JCGM 100:2008, 4.2.4). `read` gives a sheet's result.
 */
export function setupFrom(sheets: readonly Sheet[], usual: number, read: (sheet: Sheet) => SheetResult): number {
  let squares = 0;
  let pairs = 0;
  sheets.forEach((a, i) => {
    // Each sheet against the one repeated before it: three sheets are two pairs.
    const b = sheets.slice(0, i).findLast((s) => isRepeat(s, a));
    if (!b) return;
    const mean = meanLogDifference(read(a).intake.points, read(b).intake.points);
    if (mean === undefined) return;
    squares += mean ** 2 / 2;
    pairs++;
  });
  return Math.sqrt((squares + PRIOR * usual ** 2) / (pairs + PRIOR));
}

/** What one set-up differs from the next, learnt from ports that were tested again. */
import type { SheetResult } from '@alluvium/core';
import type { Sheet } from './nouns/sheet.js';

/** Weight of the usual figure, in repeated tests: it holds until there are some. */
const PRIOR = 4;

/** Whether two sheets are one port tested twice by one bench, the head taken off between. */
const isRepeat = (a: Sheet, b: Sheet): boolean =>
  a.stageId === b.stageId &&
  a.kind === 'measured' &&
  b.kind === 'measured' &&
  a.sourceId === b.sourceId &&
  a.intakePortId !== null &&
  a.intakePortId === b.intakePortId &&
  (a.setup.bore?.si ?? 0) === (b.setup.bore?.si ?? 0) &&
  a.setup.entry === b.setup.entry &&
  a.setup.valve === b.setup.valve;

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
    const [p, q] = [read(a).intake.points, read(b).intake.points];
    const logs = p.flatMap((x) => {
      const y = q.find((o) => Math.abs(o.lift - x.lift) < 1e-6);
      return y && x.flow.value > 0 && y.flow.value > 0 ? [Math.log(x.flow.value / y.flow.value)] : [];
    });
    if (logs.length === 0) return;
    const mean = logs.reduce((s, v) => s + v, 0) / logs.length;
    squares += mean ** 2 / 2;
    pairs++;
  });
  return Math.sqrt((squares + PRIOR * usual ** 2) / (pairs + PRIOR));
}

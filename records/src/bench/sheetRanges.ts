/** What a typed sheet of percents is asked about its ranges: as the bench asks while it runs. */
import { SIDES, LEAST_USE, mean, rangeAdvice, type Side } from '@alluvium/core';
import type { Quantity } from '../quantity.js';
import type { Sheet } from '../nouns/sheet.js';
import { needsScale, rangeOf } from '../ranges.js';

// find()!: readings on a range of the bench.

export interface RangeDoubt {
  readonly side: Side;
  readonly lift: Quantity;
  readonly what: 'past the end' | 'under half' | 'unlike its neighbours';
  /** Range it stands on, and the one that would fit or that its neighbours were read on. */
  readonly range: string;
  readonly instead: string | undefined;
}

/** Rows of a sheet whose range is in doubt, by side and rising lift; empty for a bench that reads flow. */
export function rangeDoubts({ setup, rows }: Pick<Sheet, 'setup' | 'rows'>): RangeDoubt[] {
  if (!needsScale(setup)) return [];
  return SIDES.flatMap((side) => {
    const ranges = setup.ranges.flatMap((r) => (r[side] ? [{ name: r.name, fullScale: r[side].si }] : []));
    const read = rows.flatMap((row) => {
      const reading = row[side];
      const range = reading && rangeOf(setup, reading.range, side);
      return reading && range?.[side] ? [{ lift: row.lift, range: range.name, pulls: reading.pulls }] : [];
    });
    return read.flatMap(({ lift, range, pulls }, i): RangeDoubt[] => {
      const share = mean(pulls.map((q) => q.si));
      // A differential goes with the square of the flow.
      const used = setup.reads === 'differential' ? Math.sqrt(Math.max(0, share)) : share;
      const { fullScale } = ranges.find((r) => r.name === range)!;
      const { go, to } = rangeAdvice(used * fullScale, ranges, range);
      const doubt = (what: RangeDoubt['what'], instead?: string): RangeDoubt[] => [
        { side, lift, what, range, instead: instead ?? to?.name },
      ];
      if (used > 1) return doubt('past the end');
      const [before, after] = [read[i - 1]?.range, read[i + 1]?.range];
      if (before !== undefined && before === after && before !== range) return doubt('unlike its neighbours', before);
      return used < LEAST_USE && go === 'down' ? doubt('under half') : [];
    });
  });
}

/** Said of one kind of doubt on one side, all its lifts in one sentence. */
export function rangeDoubtWords(doubts: readonly RangeDoubt[]): string {
  const [first] = doubts;
  if (!first) return '';
  const lifts = doubts.map((d) => d.lift.typed).join(', ');
  const at = `At ${lifts} the ${first.side}`;
  if (first.what === 'past the end')
    return `${at} reads past the end of range ${first.range}: ${first.instead ? `was it range ${first.instead}?` : 'no range of this bench reaches so far.'}`;
  if (first.what === 'unlike its neighbours')
    return `${at} stands on range ${first.range}, the rows beside it on ${first.instead}. Is the range right?`;
  return `${at} uses less than half of range ${first.range}: range ${first.instead} would have read finer.`;
}

/** Rows of a sheet of differences as core reads them. */
import { mean, type DifferencePoint, type Side } from '@alluvium/core';
import type { Sheet } from '../nouns/sheet.js';

/** What each row of a side says, the mean of its pulls, m³/s; rows that are silent there are left out. */
export const differencePoints = ({ rows }: Pick<Sheet, 'rows'>, side: Side): DifferencePoint[] =>
  rows.flatMap((r) => {
    const pulls = r[side]?.pulls;
    return pulls ? [{ lift: r.lift.si, difference: mean(pulls.map((q) => q.si)) }] : [];
  });

import { measuredShrouding, work, type Side, type Working } from '@alluvium/core';
import { evaluateSheetOf, type Sheet, type WholeHead } from '@alluvium/records';

// setup.bore!: only sheets with a bore are paired.

/** Two sheets of one port in two bores, and by lift what the wall of the narrower one cost. */
export interface WallLoss {
  readonly wide: Sheet;
  readonly narrow: Sheet;
  readonly lost: ReadonlyMap<number, Working>;
}

/** What the cylinder wall cost, measured: of the first two sheets of this stage, of one port and one source, in two bores. */
export function wallLoss(
  whole: WholeHead,
  stageId: string,
  side: Side,
  lifts: readonly number[],
): WallLoss | undefined {
  const sheets = whole.sheets.filter((s) => s.stageId === stageId && s.kind === 'measured' && s.setup.bore);
  for (const wide of sheets) {
    for (const narrow of sheets) {
      const port = side === 'intake' ? 'intakePortId' : 'exhaustPortId';
      if (
        narrow.setup.bore!.si < wide.setup.bore!.si - 1e-4 &&
        narrow.sourceId === wide.sourceId &&
        narrow[port] === wide[port]
      ) {
        const [a, b] = [wide, narrow].map((s) => evaluateSheetOf(whole, s)[side].curve);
        if (!a || !b) continue;
        const lost = new Map<number, Working>();
        for (const l of lifts) {
          const [q, p] = [a.at(l), b.at(l)];
          if (q !== undefined && p !== undefined) lost.set(l, work(measuredShrouding, { wide: q, narrow: p }));
        }
        return { wide, narrow, lost };
      }
    }
  }
  return undefined;
}

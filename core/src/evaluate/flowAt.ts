import { flowBetweenRows } from '../flow/compare.js';
import { SAME_LIFT } from '../flow/curve.js';
import { noted, work, type Working } from '../method/method.js';
import type { Side, SideResult } from './sheet.js';
import { pointLeaf } from './sheetRows.js';

export interface FlowAt {
  readonly flow: Working;
  /** Read between two rows. */
  readonly interpolated: boolean;
}

/** Flow of one side of a sheet at a lift: of its row, or read between rows; undefined where the sheet does not reach. */
export function flowAt(result: SideResult, sheetId: string, side: Side, lift: number): FlowAt | undefined {
  const { curve, points } = result;
  const point = points.find((p) => Math.abs(p.lift - lift) <= SAME_LIFT);
  if (point) return { flow: point.flow, interpolated: false };
  if (!curve || curve.at(lift) === undefined) return undefined;
  const between = work(flowBetweenRows, { curve, lift: noted(lift, '') });
  return { flow: { ...between, leaf: pointLeaf(sheetId, side, lift) }, interpolated: true };
}

/** What a velocity map begins as, in a session or at a stage. */
import type { VelocityMap } from '@alluvium/records';
import type { Quantity, Side } from '@alluvium/core';

/** A map as it was planned. */
export type MapPlan = Pick<VelocityMap, 'place' | 'lift' | 'rows' | 'columns'>;

export interface MapBegins {
  readonly stageId: string;
  /** Null where it is typed from a pad. */
  readonly sessionId: string | null;
  readonly portId: string | null;
  readonly side: Side;
  readonly lift: Quantity;
  readonly depression: Quantity | string;
}

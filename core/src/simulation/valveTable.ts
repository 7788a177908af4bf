/** Lift and effective area of a valve over the cycle, as tables by crank angle. */
import { raised } from './exact.js';
import type { Lobe, ValveArea } from './model.js';

/** Crank angle of a cycle, and of a step of its tables: half a degree. */
export const CYCLE = 4 * Math.PI;
const TABLE = 1440;

/** Effective area at a lift; held beyond the last row. */
export function openAt({ lift, open }: ValveArea, at: number): number {
  if (at <= 0) return 0;
  const last = lift.length - 1;
  if (at >= lift[last]!) return open[last]!;
  let i = 0;
  while (lift[i + 1]! < at) i++;
  const t = (at - lift[i]!) / (lift[i + 1]! - lift[i]!);
  return open[i]! * (1 - t) + open[i + 1]! * t;
}

const cubed = (x: number): number => x * x * x;

export function liftOf(lobe: Lobe, angle: number): number {
  const u = Math.abs(angle) / lobe.halfDuration;
  return u >= 1 ? 0 : Math.max(0, lobe.maxLift * cubed(1 - raised(u, lobe.fullness)) - lobe.lash);
}

/** Lift over the cycle from firing top dead centre. */
export function liftTable(lobe: Lobe): Float64Array {
  return Float64Array.from({ length: TABLE + 1 }, (_, i) => {
    const angle = (i / TABLE) * CYCLE - CYCLE / 2 - lobe.centre;
    // A lobe may reach over firing top dead centre from either side.
    return Math.max(liftOf(lobe, angle), liftOf(lobe, angle - CYCLE), liftOf(lobe, angle + CYCLE));
  });
}

export function tableAt(table: Float64Array, angle: number): number {
  const x = (angle / CYCLE) * TABLE;
  const i = x | 0;
  const t = x - i;
  return table[i]! * (1 - t) + table[i + 1]! * t;
}

export const wrap = (angle: number): number => {
  const a = angle % CYCLE;
  return a < 0 ? a + CYCLE : a;
};

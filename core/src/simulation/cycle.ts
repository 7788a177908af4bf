/** What a traced cycle shows: where gas runs back, and where the choke lets no more through. */
import type { Trace } from './trace.js';

/** A stretch of crank angle, rad from firing top dead centre. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

export interface CycleRead {
  /** Into the intake while its valve is open, and into the cylinder from the exhaust; and the share of all that came in or went out. */
  readonly intakeBack: readonly Stretch[];
  readonly exhaustBack: readonly Stretch[];
  readonly intakeShare: number;
  readonly exhaustShare: number;
  /** Where the choke is near the speed of sound. */
  readonly choked: readonly Stretch[];
  readonly mostMach: number;
}

/** The choke passes hardly more above this Mach number: 98 % of what it can (isentropic flow function). */
export const SATURATED = 0.85;

function stretches(angle: readonly number[], is: (i: number) => boolean): Stretch[] {
  const found: { from: number; to: number }[] = [];
  let open: { from: number; to: number } | undefined;
  angle.forEach((a, i) => {
    if (!is(i)) open = undefined;
    else if (open) open.to = a;
    else found.push((open = { from: a, to: a }));
  });
  return found;
}

export function readCycle(t: Trace): CycleRead {
  const most = (list: readonly number[]) => Math.max(...list.map(Math.abs));
  // A breath of noise about nothing is no reversion.
  const [quietIn, quietOut] = [0.005 * most(t.flow[0]), 0.005 * most(t.flow[1])];
  const share = (flow: readonly number[]) => {
    let [back, all] = [0, 0];
    flow.forEach((q, i) => {
      const d = (t.angle[i + 1] ?? 4 * Math.PI) - t.angle[i]!;
      if (q < 0) back -= q * d;
      else all += q * d;
    });
    return all > 0 ? back / all : 0;
  };
  return {
    intakeBack: stretches(t.angle, (i) => t.lift[0][i]! > 0 && t.flow[0][i]! < -quietIn),
    exhaustBack: stretches(t.angle, (i) => t.lift[1][i]! > 0 && t.flow[1][i]! < -quietOut),
    intakeShare: share(t.flow[0]),
    exhaustShare: share(t.flow[1]),
    choked: stretches(t.angle, (i) => t.lift[0][i]! > 0 && t.chokeMach[i]! > SATURATED),
    mostMach: Math.max(...t.chokeMach),
  };
}

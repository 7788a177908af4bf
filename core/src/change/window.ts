/** The window of lift that counts for a cut: the cam's dwell, or the sheet's own lifts where no cam fits it. */
import { camProfile, type CamProfile } from '../cam/profile.js';
import type { FlowCurve } from '../flow/curve.js';
import { degrees, inches } from '../quantity/units.js';

export interface LiftWindow {
  readonly cam: CamProfile;
  /** The build's own cam, or a usual one that lifts as far as the sheets go. */
  readonly own: boolean;
}

/** A usual cam where none is known: 224° at .050 in, rocker 1.5. Common practice, no source. */
const USUAL = { duration: degrees(224), height: inches(0.05), rockerRatio: 1.5 };

/** The window in which curves are weighed; undefined where they end too low for any cam. */
export function liftWindow(curves: readonly FlowCurve[], cam?: CamProfile): LiftWindow | undefined {
  if (curves.length === 0) return undefined;
  const top = Math.min(...curves.map((c) => c.last.lift));
  if (cam && cam.maxLift <= top + 1e-9) return { cam, own: true };
  const height = Math.min(USUAL.height, top / USUAL.rockerRatio / 4);
  if (!(height > 0)) return undefined;
  return { cam: camProfile({ ...USUAL, height, maxLift: top }), own: false };
}

/** A pull drawn smooth, for the eye alone: no figure is ever taken from it. */
import type { PullPoint } from './pull.js';

/**
 * Points by rising speed with power and torque smoothed over `width` (turns a second, half at half weight): at each row the
 * straight line of least squares through its neighbours, Gaussian weights (“Robust Locally Weighted Regression”, J. Am. Stat. Assoc. 74 (1979)
 * 829 for lines in place of means, so that ends and slopes are not flattened; his weights are others). Speeds stay; a width
 * of nothing gives the points back.
 */
export function smoothed(points: readonly PullPoint[], width: number): readonly PullPoint[] {
  if (!(width > 0) || points.length < 3) return points;
  const at = (here: number, of: (p: PullPoint) => number): number => {
    let [w0, w1, w2, y0, y1] = [0, 0, 0, 0, 0];
    for (const p of points) {
      const x = p.speed - here;
      const w = 0.5 ** (((2 * x) / width) ** 2);
      w0 += w;
      w1 += w * x;
      w2 += w * x * x;
      y0 += w * of(p);
      y1 += w * x * of(p);
    }
    const spread = w0 * w2 - w1 * w1;
    return spread > 1e-12 * w0 * w2 ? (w2 * y0 - w1 * y1) / spread : y0 / w0;
  };
  return points.map((p) => ({
    speed: p.speed,
    power: at(p.speed, (q) => q.power),
    torque: at(p.speed, (q) => q.torque),
  }));
}

/** Share of a normal distribution below z. Error function by W. J. Cody's rational form is not needed: 1e-9 suffices here. */
export function normalShare(z: number): number {
  // Continued fraction for the tail, series near the middle (Abramowitz and Stegun 26.2.10, 26.2.14).
  const x = Math.abs(z);
  const density = Math.exp(-0.5 * x * x) / Math.sqrt(2 * Math.PI);
  let tail: number;
  if (x < 3) {
    let term = x;
    let sum = x;
    for (let k = 1; Math.abs(term) > 1e-17 && k < 200; k++) {
      term *= (x * x) / (2 * k + 1);
      sum += term;
    }
    tail = 0.5 - density * sum;
  } else {
    let fraction = x;
    for (let k = 60; k >= 1; k--) fraction = x + k / fraction;
    tail = density / fraction;
  }
  return z > 0 ? 1 - tail : tail;
}

/** The z below which a share p lies, 0 < p < 1: Newton's steps on the share from a rational start (A. & S. 26.2.23). */
export function normalQuantile(p: number): number {
  if (!(p > 0 && p < 1)) throw new RangeError('A share lies between 0 and 1.');
  const q = Math.min(p, 1 - p);
  const t = Math.sqrt(-2 * Math.log(q));
  let z =
    t - (2.515517 + 0.802853 * t + 0.010328 * t * t) / (1 + 1.432788 * t + 0.189269 * t * t + 0.001308 * t * t * t);
  for (let i = 0; i < 3; i++) {
    const off = normalShare(-z) - q;
    z += (off * Math.sqrt(2 * Math.PI)) / Math.exp(-0.5 * z * z);
  }
  return p < 0.5 ? -z : z;
}

/** Share of a normal distribution below z. Error function by W. J. Cody's rational form is not needed: 1e-9 suffices here. */
import { refusal } from '../refusal/refusal.js';
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
  if (!(p > 0 && p < 1)) throw refusal('shareOutOfReach');
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

/**
 * The t beyond which a share `tails` of Student's distribution lies, both tails together (G. W. Hill, Algorithm 396,
 * CACM 13 (1970) 617). `freedom` at least 1.
 */
export function studentQuantile(tails: number, freedom: number): number {
  if (!(freedom >= 1)) throw refusal('freedomUnderOne');
  const n = freedom;
  const p = tails;
  if (n === 1) return 1 / Math.tan((p * Math.PI) / 2);
  if (n === 2) return Math.sqrt(2 / (p * (2 - p)) - 2);
  const a = 1 / (n - 0.5);
  const b = 48 / (a * a);
  let c = (((20700 * a) / b - 98) * a - 16) * a + 96.36;
  const d = ((94.5 / (b + c) - 3) / b + 1) * Math.sqrt((a * Math.PI) / 2) * n;
  let x = d * p;
  let y = x ** (2 / n);
  if (y > 0.05 + a) {
    x = normalQuantile(p / 2);
    y = x * x;
    if (n < 5) c += 0.3 * (n - 4.5) * (x + 0.6);
    c += (((0.05 * d * x - 5) * x - 7) * x - 2) * x + b;
    y = (((((0.4 * y + 6.3) * y + 36) * y + 94.5) / c - y - 3) / b + 1) * x;
    y = a * y * y;
    y = y > 0.002 ? Math.expm1(y) : 0.5 * y * y + y;
  } else {
    y =
      ((1 / (((n + 6) / (n * y) - 0.089 * d - 0.822) * (n + 2) * 3) + 0.5 / (n + 4)) * y - 1) * ((n + 1) / (n + 2)) +
      1 / y;
  }
  return Math.sqrt(n * y);
}

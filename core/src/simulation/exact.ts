/**
 * Powers, logarithm, exponential, sine and cosine of the four rules of arithmetic alone. These the standard fixes to the
 * last bit (IEEE 754); the engine's own it leaves open, and two engines differ in them. Waves make much of a last bit
 * over a few cycles: only so does every machine make the same of one engine.
 */

const LN2_HIGH = 6.9314718036912381649e-1;
const LN2_LOW = 1.90821492927058770002e-10;
const PER_LN2 = 1 / Math.LN2;
const SQRT2 = Math.SQRT2;

const view = new Float64Array(1);
const words = new Int32Array(view.buffer);
/** Where the sign, the exponent and the first bits of a number stand. */
const HIGH = new Uint8Array(new Uint32Array([1]).buffer)[0] === 1 ? 1 : 0;

/** 2 to the whole numbers from −1022, exactly: each twice the one before. */
const LEAST_POWER = -1022;
const TWO_TO = new Float64Array(2046);
TWO_TO[0] = 2.2250738585072014e-308;
for (let i = 1; i < TWO_TO.length; i++) TWO_TO[i] = 2 * TWO_TO[i - 1]!;

/**
 * Natural logarithm of a normal number above nothing, within 2 in the last place: ln((1+f)/(1−f)) by its series. Its terms
 * are summed in pairs: a processor works on both at once.
 */
export function ln(x: number): number {
  let k = 0;
  let m = x;
  if (x > SQRT2 || x < 0.5 * SQRT2) {
    view[0] = x;
    const high = words[HIGH]!;
    k = (high >> 20) - 1023;
    words[HIGH] = (high & 0xfffff) | 0x3ff00000;
    m = view[0]!;
    if (m > SQRT2) {
      m *= 0.5;
      k += 1;
    }
  }
  const f = (m - 1) / (m + 1);
  const s = f * f;
  const s2 = s * s;
  const s4 = s2 * s2;
  // f² is below .03: nine terms of the series are beyond the last place.
  const series =
    s *
    (1 / 3 +
      s * (1 / 5) +
      s2 * (1 / 7 + s * (1 / 9)) +
      s4 * (1 / 11 + s * (1 / 13) + s2 * (1 / 15 + s * (1 / 17) + s2 * (1 / 19))));
  return k * LN2_HIGH + (2 * f + (2 * f * series + k * LN2_LOW));
}

/** e to a power between −700 and 700; nothing below, and a great number above. */
export function exp(x: number): number {
  if (x < -700) return 0;
  if (x > 700) return Infinity;
  const k = Math.round(x * PER_LN2);
  const r = x - k * LN2_HIGH - k * LN2_LOW;
  const r2 = r * r;
  const r4 = r2 * r2;
  // |r| ≤ ½ ln 2: thirteen terms of the series are beyond the last place.
  const series =
    1 +
    (r +
      (r2 * (1 / 2 + r * (1 / 6)) +
        r4 * (1 / 24 + r * (1 / 120) + r2 * (1 / 720 + r * (1 / 5040))) +
        r4 *
          r4 *
          (1 / 40320 +
            r * (1 / 362880) +
            r2 * (1 / 3628800 + r * (1 / 39916800)) +
            r4 * (1 / 479001600 + r * (1 / 6227020800)))));
  return series * TWO_TO[k - LEAST_POWER]!;
}

/** x to the power y, of x not below nothing. */
export const raised = (x: number, y: number): number => (x > 0 ? exp(y * ln(x)) : 0);

const HALF_PI_HIGH = 1.57079632673412561417;
const HALF_PI_LOW = 6.07710050650619224932e-11;

/** Sine of an angle of some turns at most, rad. */
export function sine(x: number): number {
  const k = Math.round(x / (Math.PI / 2));
  const r = x - k * HALF_PI_HIGH - k * HALF_PI_LOW;
  const turn = ((k % 4) + 4) % 4;
  const value = turn % 2 === 0 ? sineNear(r) : cosineNear(r);
  return turn < 2 ? value : -value;
}
export const cosine = (x: number): number => sine(x + Math.PI / 2);

/** Within an eighth of a turn of nothing, by their series. */
function sineNear(r: number): number {
  const s = -r * r;
  return (
    r *
    (1 +
      s *
        (1 / 6 +
          s *
            (1 / 120 +
              s * (1 / 5040 + s * (1 / 362880 + s * (1 / 39916800 + s * (1 / 6227020800 + s / 1307674368000)))))))
  );
}
function cosineNear(r: number): number {
  const s = -r * r;
  return (
    1 +
    s *
      (1 / 2 +
        s *
          (1 / 24 +
            s *
              (1 / 720 +
                s *
                  (1 / 40320 + s * (1 / 3628800 + s * (1 / 479001600 + s * (1 / 87178291200 + s / 20922789888000)))))))
  );
}

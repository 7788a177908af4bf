/** Numbers and units of the generators of tests: nothing of the program goes into a made-up world. */

/** The generator's own numbers (Park and Miller's minimal standard, CACM 31 (1988) 1192) and units. */
export function numbers(seed: number) {
  let state = seed;
  const uniform = () => {
    state = (state * 48_271) % 2_147_483_647;
    return state / 2_147_483_647;
  };
  const normal = () => {
    // Sum of twelve, Irwin and Hall: close enough to normal within three deviations.
    let sum = -6;
    for (let i = 0; i < 12; i++) sum += uniform();
    return sum;
  };
  const triangular = (a: number, c: number, b: number) => {
    const u = uniform();
    return u < (c - a) / (b - a) ? a + Math.sqrt(u * (b - a) * (c - a)) : b - Math.sqrt((1 - u) * (b - a) * (b - c));
  };
  return { uniform, normal, triangular };
}
export const CFM = 4.719474432e-4;
export const HP = 745.6998715822702;
export const INCH = 0.0254;

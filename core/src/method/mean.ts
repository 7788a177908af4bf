/** Arithmetic mean (JCGM 100:2008, 4.2.1); NaN of nothing. */
export const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

/** Experimental standard deviation (JCGM 100:2008, 4.2.2); undefined for fewer than two values. */
export function deviation(values: readonly number[]): number | undefined {
  if (values.length < 2) return undefined;
  const m = mean(values);
  return Math.sqrt(values.reduce((sum, v) => sum + (v - m) ** 2, 0) / (values.length - 1));
}

/**
 * Depth of a spherical cap of a volume over a circle, m: what a chamber of that volume would reach were it a plain dome.
 * V = πh (3a² + h²) / 6 (CRC Standard Mathematical Tables, solids: spherical segment of one base), solved for h.
 * @param volume m³, @param radius of the circle, m; both above zero.
 */
export function capDepth(volume: number, radius: number): number {
  // h³ + 3a²h − 6V/π = 0 has one real root, by Cardano.
  const q = (3 * volume) / Math.PI;
  const root = Math.sqrt(q * q + radius ** 6);
  return Math.cbrt(q + root) + Math.cbrt(q - root);
}

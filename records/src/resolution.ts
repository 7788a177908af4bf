import type { Quantity } from '@alluvium/core';

/**
 * Half of the last figure of a quantity as it was written, in SI: `98.0 mm` was read to 0.05 mm. 0 where it was written as
 * a fraction or in no figures.
 */
export function resolutionOf({ si, typed }: Quantity): number {
  const figures = /^[^\d.,−-]*[−-]?(\d*)(?:[.,](\d+))?/.exec(typed.trim());
  if (!figures || typed.includes('/')) return 0;
  const [, whole = '', decimals = ''] = figures;
  const written = Number(`${whole || '0'}.${decimals || '0'}`);
  if (!(written > 0)) return 0;
  return Math.abs(si / written) * 0.5 * 10 ** -decimals.length;
}

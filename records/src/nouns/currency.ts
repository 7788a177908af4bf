import { z } from 'zod';

/** A currency is a short word of the shop's own; empty is the build's. */
export const Currency = z.string().trim().max(8, 'Keep a currency under 8 letters.').default('');

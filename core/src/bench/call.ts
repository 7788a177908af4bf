/** What somebody expected before the test against what came out: how well an eye judges. */
import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { deviation, mean } from '../method/mean.js';
import { refusal } from '../refusal/refusal.js';

export const callError: Method<{ called: number; measured: number }> = {
  id: 'call-error',
  title: 'How far a call was off',
  formula: 'e = \\frac{Q_{called} - Q}{Q}',
  inputs: {
    called: { label: 'called before the test', symbol: 'Q_{called}', kind: 'flow' },
    measured: { label: 'peak measured', symbol: 'Q', kind: 'flow' },
  },
  result: { label: 'error', symbol: 'e', kind: 'percent' },
  source: COMMON_PRACTICE,
  compute: ({ called, measured }) => {
    if (measured <= 0) throw refusal('notAboveZero', 'measured flow');
    return (called - measured) / measured;
  },
};

export interface Eye {
  readonly count: number;
  /** Mean error: above zero the eye calls too high. */
  readonly bias: number;
  /** Standard deviation of the errors; undefined for fewer than two. */
  readonly spread: number | undefined;
}

/** Bias and spread of an eye from the errors of its calls (shares); undefined without a call. */
export function eyeOf(errors: readonly number[]): Eye | undefined {
  if (errors.length === 0) return undefined;
  return { count: errors.length, bias: mean(errors), spread: deviation(errors) };
}

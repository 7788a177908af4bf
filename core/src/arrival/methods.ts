import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { KINDS, type Kind } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

/** Found minus stated, one method per kind of quantity. */
const differences = new Map<Kind, Method<{ found: number; stated: number }>>();

/** The method that takes what was stated from what was found, for one kind of quantity. */
export function statedDifference(kind: Kind): Method<{ found: number; stated: number }> {
  const known = differences.get(kind);
  if (known) return known;
  const method: Method<{ found: number; stated: number }> = {
    id: `stated-difference-${kind}`,
    title: `Found against stated (${KINDS[kind].name.replace(/^an? /, '')})`,
    formula: '\\Delta = x_{found} - x_{stated}',
    inputs: {
      found: { label: 'found, mean of what was measured', symbol: 'x_{found}', kind },
      stated: { label: 'stated by the maker', symbol: 'x_{stated}', kind },
    },
    result: { label: 'found less stated', symbol: '\\Delta', kind },
    source: 'Arithmetic.',
    compute: ({ found, stated }) => found - stated,
  };
  differences.set(kind, method);
  return method;
}

/** The difference as it stands in the catalogue, for the kind most often met. */
export const lengthDifference = statedDifference('length');

export const coreShift: Method<{ roof: number; floor: number; front: number; rear: number }> = {
  id: 'core-shift',
  title: 'Core shift of a port against its gasket',
  formula: 's = \\sqrt{\\left(\\frac{r - f}{2}\\right)^2 + \\left(\\frac{a - b}{2}\\right)^2}',
  inputs: {
    roof: { label: 'metal showing inside the gasket, roof', symbol: 'r', kind: 'length' },
    floor: { label: 'metal showing inside the gasket, floor', symbol: 'f', kind: 'length' },
    front: { label: 'metal showing inside the gasket, front', symbol: 'a', kind: 'length' },
    rear: { label: 'metal showing inside the gasket, rear', symbol: 'b', kind: 'length' },
  },
  result: { label: 'centre of port off centre of gasket', symbol: 's', kind: 'length' },
  source: 'Plane geometry; holds when port and gasket opening have one shape.',
  caution: 'A shifted core left one wall thin: sonic-test it before any metal is taken.',
  compute: ({ roof, floor, front, rear }) => Math.hypot((roof - floor) / 2, (front - rear) / 2),
};

export const coreTilt: Method<{ first: number; last: number }> = {
  id: 'core-tilt',
  title: 'Short turn height, one end against the other',
  formula: '\\Delta h = h_{last} - h_{first}',
  inputs: {
    first: { label: 'seat to top of the short turn, first cylinder', symbol: 'h_{first}', kind: 'length' },
    last: { label: 'seat to top of the short turn, last cylinder', symbol: 'h_{last}', kind: 'length' },
  },
  result: { label: 'last end above first end', symbol: '\\Delta h', kind: 'length' },
  source: 'Arithmetic.',
  caution: 'A difference between the ends says that the core lay askew in its mould.',
  compute: ({ first, last }) => last - first,
};

export const vacuumHeld: Method<{ held: number; drawn: number }> = {
  id: 'vacuum-held',
  title: 'Vacuum held by a seat',
  formula: 'h = \\frac{p_{held}}{p_{drawn}}',
  inputs: {
    held: { label: 'vacuum left after the time', symbol: 'p_{held}', kind: 'pressure' },
    drawn: { label: 'vacuum drawn', symbol: 'p_{drawn}', kind: 'pressure' },
  },
  result: { label: 'held', symbol: 'h', kind: 'percent' },
  source: COMMON_PRACTICE,
  caution: 'The share depends on the volume drawn upon: compare seats of one head on one instrument, not heads.',
  compute: ({ held, drawn }) => {
    if (drawn <= 0) throw refusal('notAboveZero', 'vacuum drawn');
    return held / drawn;
  },
};

export const mendingCost: Method<{ costs: readonly number[] }> = {
  id: 'mending-cost',
  title: 'Cost to mend what stands',
  formula: 'C = \\sum_i c_i',
  inputs: { costs: { label: 'cost of each finding still standing', symbol: 'c_i', kind: 'money' } },
  result: { label: 'to mend', symbol: 'C', kind: 'money' },
  source: 'Arithmetic.',
  compute: ({ costs }) => costs.reduce((sum, c) => sum + c, 0),
};

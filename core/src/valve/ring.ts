/** The seat ring and how large a valve it, the bore and the spacing take. */
import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { millimetres } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

/** Least metal of a ring outside the valve, and between valve and bore wall or the other valve: common practice, no source. */
export const RING_MARGIN = millimetres(0.8);
export const BORE_GAP = millimetres(1.5);
export const VALVE_GAP = millimetres(2);

export const ringWall: Method<{ outside: number; inside: number }> = {
  id: 'ring-wall',
  title: 'Metal left in the seat ring',
  formula: 't = \\frac{D_o - D_i}{2}',
  inputs: {
    outside: { label: 'ring outside diameter', symbol: 'D_o', kind: 'length' },
    inside: { label: 'ring inside diameter', symbol: 'D_i', kind: 'length' },
  },
  result: { label: 'wall of the ring', symbol: 't', kind: 'length' },
  source: 'Plane geometry.',
  compute: ({ outside, inside }) => {
    if (inside >= outside) throw refusal('ringInsideOut');
    return (outside - inside) / 2;
  },
};

export const largestForRing: Method<{ outside: number; margin: number }> = {
  id: 'largest-valve-ring',
  title: 'Largest valve for this ring',
  formula: 'D = D_o - 2m',
  inputs: {
    outside: { label: 'ring outside diameter', symbol: 'D_o', kind: 'length' },
    margin: { label: 'ring left outside the valve', symbol: 'm', kind: 'length' },
  },
  result: { label: 'largest valve', symbol: 'D', kind: 'length' },
  source: COMMON_PRACTICE,
  compute: ({ outside, margin }) => outside - 2 * margin,
};

export const largestForBore: Method<{ bore: number; offset: number; gap: number }> = {
  id: 'largest-valve-bore',
  title: 'Largest valve for this bore',
  formula: 'D = 2\\left(\\frac{B}{2} - e - g\\right)',
  inputs: {
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    offset: { label: 'valve centre off bore centre', symbol: 'e', kind: 'length' },
    gap: { label: 'gap to the wall', symbol: 'g', kind: 'length' },
  },
  result: { label: 'largest valve', symbol: 'D', kind: 'length' },
  source: `Plane geometry; the gap is ${COMMON_PRACTICE.toLowerCase()}`,
  compute: ({ bore, offset, gap }) => 2 * (bore / 2 - offset - gap),
};

export const largestForSpacing: Method<{ spacing: number; other: number; gap: number }> = {
  id: 'largest-valve-spacing',
  title: 'Largest valve for this spacing',
  formula: 'D = 2\\left(s - \\frac{D_2}{2} - g\\right)',
  inputs: {
    spacing: { label: 'valve spacing, centre to centre', symbol: 's', kind: 'length' },
    other: { label: 'the other valve', symbol: 'D_2', kind: 'length' },
    gap: { label: 'gap between the valves', symbol: 'g', kind: 'length' },
  },
  result: { label: 'largest valve', symbol: 'D', kind: 'length' },
  source: `Plane geometry; the gap is ${COMMON_PRACTICE.toLowerCase()}`,
  caution: 'Both valves open at overlap: check with clay.',
  compute: ({ spacing, other, gap }) => 2 * (spacing - other / 2 - gap),
};

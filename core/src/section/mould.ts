/** Planning a pour: how much moulding compound, how many packs, what it costs. */
import type { Method } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

/** Spare poured beyond the ports' volume: cups, sprue, what stays in the jug. Common practice, no source. */
export const USUAL_SPARE = 0.15;

export const compoundNeeded: Method<{ volumes: readonly number[]; spare: number }> = {
  id: 'compound-needed',
  title: 'Moulding compound needed',
  formula: 'V = (1 + s)\\sum_i V_i',
  inputs: {
    volumes: { label: 'volume of each port to pour', symbol: 'V_i', kind: 'volume' },
    spare: { label: 'spare', symbol: 's', kind: 'percent' },
  },
  result: { label: 'compound needed', symbol: 'V', kind: 'volume' },
  source: 'Arithmetic.',
  caution: 'Work by the compound’s own sheet: gloves, ventilation.',
  compute: ({ volumes, spare }) => {
    if (spare < 0) throw refusal('spareNegative');
    return (1 + spare) * volumes.reduce((sum, v) => sum + v, 0);
  },
};

export const packsNeeded: Method<{ needed: number; pack: number }> = {
  id: 'packs-needed',
  title: 'Packs to open',
  formula: 'n = \\lceil V / V_{pack} \\rceil',
  inputs: {
    needed: { label: 'compound needed', symbol: 'V', kind: 'volume' },
    pack: { label: 'what one pack yields', symbol: 'V_{pack}', kind: 'volume' },
  },
  result: { label: 'packs', symbol: 'n', kind: 'count' },
  source: 'Arithmetic.',
  compute: ({ needed, pack }) => {
    if (pack <= 0) throw refusal('packYieldsNothing');
    return Math.ceil(needed / pack - 1e-9);
  },
};

export const packsCost: Method<{ packs: number; price: number }> = {
  id: 'packs-cost',
  title: 'Cost of the pour',
  formula: 'C = n\\,c',
  inputs: {
    packs: { label: 'packs', symbol: 'n', kind: 'count' },
    price: { label: 'price of a pack', symbol: 'c', kind: 'money' },
  },
  result: { label: 'cost', symbol: 'C', kind: 'money' },
  source: 'Arithmetic.',
  compute: ({ packs, price }) => packs * price,
};

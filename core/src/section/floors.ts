/** The least metal a shop leaves behind a port's wall. */
import { millimetres } from '../quantity/units.js';
import { NEIGHBOURS, type Neighbour } from './survey.js';

/** Least metal to leave, m, by what lies behind. */
export type Floors = { readonly [N in Neighbour]: number };

/** Usual floors of an intake port: common practice, no source. The shop sets its own. */
export const USUAL_FLOORS: Floors = {
  water: millimetres(3.5),
  guide: millimetres(4),
  'spring seat': millimetres(5),
  bolt: millimetres(3.5),
  pushrod: millimetres(2.5),
  'other port': millimetres(4),
  outside: millimetres(3.5),
};
/** An exhaust port runs hotter and keeps more: common practice, no source. */
export const EXHAUST_EXTRA = millimetres(1);

export const floorsFor = (side: 'intake' | 'exhaust', own: Partial<Floors> = {}): Floors =>
  Object.fromEntries(
    NEIGHBOURS.map((n) => [n, own[n] ?? USUAL_FLOORS[n] + (side === 'exhaust' ? EXHAUST_EXTRA : 0)]),
  ) as Floors;

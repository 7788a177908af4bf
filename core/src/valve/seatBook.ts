/** How well a valve, its seat and its lift are known: what a bound by geometry is worth. */
import { USUAL_ASSUMPTIONS, type Assumptions } from '../uncertainty/assumptions.js';
import type { Leaf, Spread } from '../uncertainty/leaf.js';
import type { LeafBook } from '../uncertainty/working.js';
import type { PortValve } from '../evaluate/sheet.js';
import { inches, millimetres } from '../quantity/units.js';
import { USUAL_SEAT } from './areas.js';

/** Common practice, no source: how far a seat nobody measured lies from the usual one, and how well one is measured. */
const SEAT = {
  width: { assumed: millimetres(1), measured: millimetres(0.15) },
  angle: { assumed: (2 * Math.PI) / 180, measured: (0.3 * Math.PI) / 180 },
  /** As shares of the valve. */
  throat: { assumed: 0.03, measured: 0.003 },
  stem: { assumed: millimetres(1), measured: millimetres(0.02) },
  valve: inches(0.005),
} as const;

/** The leaves of the coefficients of one valve, by the ids its workings carry. */
export function seatBook(valve: PortValve, assumptions: Assumptions = USUAL_ASSUMPTIONS): LeafBook {
  const { diameter, seatWidth, seatAngle, throat, stem } = valve;
  const leaf = (
    id: string,
    label: string,
    value: number,
    spread: Spread,
    source: string,
    kind: Leaf['kind'],
  ): Leaf => ({
    id,
    label,
    value,
    spread,
    source,
    ...(kind ? { kind } : {}),
  });
  const size = (
    id: string,
    label: string,
    value: number | undefined,
    usual: number,
    u: { readonly assumed: number; readonly measured: number },
    kind: Leaf['kind'],
  ) =>
    value === undefined
      ? leaf(id, label, usual, { shape: 'uniform', half: u.assumed }, 'not measured; usual value', kind)
      : leaf(id, label, value, { shape: 'normal', u: u.measured }, 'measured; common practice, no source', kind);
  const { throat: t } = SEAT;
  const leaves = [
    leaf(
      'lift',
      'zero of the lift',
      0,
      { shape: 'uniform', half: assumptions.liftZero },
      'common practice, no source',
      'lift',
    ),
    leaf('valve', 'valve diameter', diameter, { shape: 'uniform', half: SEAT.valve }, 'as written', 'length'),
    size('seat.width', 'seat width', seatWidth, USUAL_SEAT.width, SEAT.width, 'length'),
    size('seat.angle', 'seat angle', seatAngle, USUAL_SEAT.angle, SEAT.angle, 'angle'),
    size(
      'seat.throat',
      'throat diameter',
      throat,
      diameter * USUAL_SEAT.throatRatio,
      { assumed: t.assumed * diameter, measured: t.measured * diameter },
      'length',
    ),
    size('seat.stem', 'stem diameter', stem, USUAL_SEAT.stem, SEAT.stem, 'length'),
  ];
  return { leaves: new Map(leaves.map((l) => [l.id, l])), made: new Map() };
}

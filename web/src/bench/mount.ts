import type { SIDES } from '@alluvium/core';
import { USUAL_SEAT } from '@alluvium/core';
import { measuresAt, toPortValve, measured, type Mount, type WholeHead } from '@alluvium/records';

/** A number that is always the same for the same head. */
const seedOf = (text: string) => [...text].reduce((s, c) => (s * 31 + c.charCodeAt(0)) % 65_521, 7);

/** What a stand-in bench pretends to have on it: the measured sizes of the head in hand, usual ones where none is known. */
export function mountOf(whole: WholeHead, stageId: string, port: number): Mount {
  const measures = measuresAt(whole, stageId);
  const side = (name: (typeof SIDES)[number]) => {
    const valve = toPortValve(whole.head, measures, name);
    const diameter = valve?.diameter ?? (name === 'intake' ? 0.046 : 0.0375);
    const throat = valve?.throat ?? diameter * USUAL_SEAT.throatRatio;
    const stem = valve?.stem ?? USUAL_SEAT.stem;
    const valves = valve?.valves ?? 1;
    const pinch = measured(measures, 'pinch', name) ?? measured(measures, 'window', name);
    return {
      diameter,
      throat,
      stem,
      seatWidth: valve?.seatWidth ?? USUAL_SEAT.width,
      seatAngle: valve?.seatAngle ?? USUAL_SEAT.angle,
      valves,
      choke: pinch ?? 0.92 * valves * (Math.PI / 4) * (throat ** 2 - stem ** 2),
    };
  };
  return { seed: seedOf(whole.head.id + stageId), port, intake: side('intake'), exhaust: side('exhaust') };
}

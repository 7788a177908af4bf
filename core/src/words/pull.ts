/** A pull in the words of the trade. */
import { UNKNOWN_STANDARD, type Correction } from '../dyno/correction.js';
import type { PullRow, ReadPull } from '../dyno/pull.js';
import type { Say } from '../quantity/format.js';

/** `276 hp at 5800 rpm, by SAE J607; 293 lb ft at 4000 rpm.` */
export function peakWords({ peakPower, peakTorque }: ReadPull, correction: Correction | null, say: Say): string {
  if (!peakPower || !peakTorque) return '';
  const by = correction === null ? 'nobody says by which standard' : `by ${correction}`;
  const speed = (s: number) => say.of(s, 'rotation');
  return `${say.of(peakPower.power, 'power')} at ${speed(peakPower.speed)}, ${by}; ${say.of(peakTorque.torque, 'torque')} at ${speed(peakTorque.speed)}.`;
}

/** What is asked about the rows of a pull. */
export const pullDoubtWords = ({ disagree, twice }: ReadPull, rows: readonly PullRow[], say: Say): string[] => [
  ...disagree.map(({ row, byTorque }) => {
    const { speed, power } = rows[row]!;
    return `At ${say.of(speed, 'rotation')} the power reads ${say.of(power!, 'power')} and the torque makes ${say.of(byTorque, 'power')}: which is right? Power is taken.`;
  }),
  ...twice.map((row) => `${say.of(rows[row]!.speed, 'rotation')} stands twice; the first is taken.`),
];

/** What a peak of a sheet that names no standard may mean. */
export const unknownStandardWords = (peak: number, say: Say): string =>
  `If it is SAE J607, SAE J1349 would say about ${say.of(peak / UNKNOWN_STANDARD[1], 'power')}; if it is J1349 already, ${say.of(peak, 'power')}.`;

/** How far an engine came out from an estimate (as a share of it), and whether within twice its standard uncertainty. */
export function cameOutWords(off: number, estimate: number, u: number | undefined, say: Say): string {
  const range = u === undefined ? '' : Math.abs(off * estimate) > 2 * u ? ', out of its range' : ', in its range';
  return `made ${say.of(off, 'percent', { digits: 0, signed: true })}${range}`;
}

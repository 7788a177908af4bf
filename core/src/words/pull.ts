/** A pull in the words of the trade. */
import type { Correction } from '../dyno/correction.js';
import type { PullRow, ReadPull } from '../dyno/pull.js';
import type { Say } from '../quantity/format.js';

// power!: a row of both.

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

/** `250 hp`, or `250 hp to 252 hp` where the two are not the same to the eye. */
function between(low: number, high: number, say: Say): string {
  const [a, b] = [say.of(low, 'power', { digits: 0 }), say.of(high, 'power', { digits: 0 })];
  return a === b ? a : `${a} to ${b}`;
}

/** What a peak of a sheet that names no standard may mean; `apart` is how far J607 lies above J1349, least and most. */
export const unknownStandardWords = (peak: number, apart: readonly [number, number] | undefined, say: Say): string =>
  apart === undefined
    ? 'Whether J607, J1349 or neither, for a boosted engine or a diesel nobody can say what lies between them.'
    : `If it is SAE J607, SAE J1349 would say about ${between(peak / apart[1], peak / apart[0], say)}; if it is J1349 already, ${say.of(peak, 'power')}.`;

/** What a sheet by one of the two would say by the other where the air of the day was not noted; empty for any other. */
export function unknownAirWords(
  peak: number,
  from: Correction | null,
  apart: readonly [number, number] | undefined,
  say: Say,
): string {
  if (apart === undefined || from !== 'SAE J607') return '';
  const percent = (v: number) => say.of(v - 1, 'percent', { digits: 1 });
  return `J607 lies ${percent(apart[0])} to ${percent(apart[1])} above J1349 in the air most cells see: by J1349 it would be about ${between(peak / apart[1], peak / apart[0], say)}.`;
}

/** How far an engine came out from an estimate (as a share of it), and whether within twice its standard uncertainty. */
export function cameOutWords(off: number, estimate: number, u: number | undefined, say: Say): string {
  const range = u === undefined ? '' : Math.abs(off * estimate) > 2 * u ? ', out of its range' : ', in its range';
  return `made ${say.of(off, 'percent', { digits: 0, signed: true })}${range}`;
}

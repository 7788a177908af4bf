/** The bench in sentences. */
import type { Eye } from '../bench/call.js';
import type { DepressionVerdict, RangeAdvice } from '../bench/range.js';
import type { MapCell, MapReading } from '../bench/velocity.js';
import type { Say } from '../quantity/format.js';

// advice.resolutionThere!: advice of a range knows what it reads in.

/** Which range to read on, with what it gains or costs; empty when the present one is right. */
export function rangeWords(advice: RangeAdvice, say: Say): string {
  if (advice.go === 'stay') return '';
  const steps = (there: number) =>
    `steps of ${say.of(there, 'flow', { digits: 2 })} instead of ${say.of(advice.resolution, 'flow', { digits: 2 })}`;
  if (!advice.to)
    return advice.go === 'up'
      ? 'Past the end of the largest range: lower the depression, and say so in a new set-up.'
      : '';
  return advice.go === 'up'
    ? `Go up to range ${advice.to.name}: ${say.of(advice.use, 'percent', { digits: 0 })} of this one is used. It reads in ${steps(advice.resolutionThere!)}.`
    : `Range ${advice.to.name} would read finer: ${steps(advice.resolutionThere!)}.`;
}

/** What was done about a depression that was not held; empty when it was. */
export function depressionWords(verdict: DepressionVerdict, set: number, read: number, say: Say): string {
  if (verdict === 'held') return '';
  const at = `${say.of(read, 'depression')} instead of ${say.of(set, 'depression')}`;
  return verdict === 'corrected'
    ? `Read at ${at}: corrected, and marked so.`
    : `Only ${at}: too far off to correct. Bring the depression up, or set a lower one for the whole sheet.`;
}

const across = (column: number, columns: number, wall: 'left' | 'right' | 'unknown'): string => {
  const at = columns === 1 ? 0 : (column / (columns - 1)) * 2 - 1;
  if (Math.abs(at) < 0.34) return '';
  if (wall === 'unknown') return at < 0 ? 'on the left' : 'on the right';
  return at < 0 === (wall === 'left') ? 'on the cylinder-wall side' : 'away from the cylinder wall';
};

/** Where a cell lies, in words: `floor, on the cylinder-wall side`. */
export function cellWords(
  cell: Pick<MapCell, 'row' | 'column'>,
  rows: number,
  columns: number,
  wall: 'left' | 'right' | 'unknown',
): string {
  const at = rows === 1 ? 0 : (cell.row / (rows - 1)) * 2 - 1;
  const height = at < -0.34 ? 'roof' : at > 0.34 ? 'floor' : 'mid height';
  const side = across(cell.column, columns, wall);
  return side ? `${height}, ${side}` : height === 'mid height' ? 'the centre' : `${height} centre`;
}

/** What a map shows, in one or two sentences. */
export function mapWords(
  map: MapReading,
  grid: { rows: number; columns: number; wall: 'left' | 'right' | 'unknown'; place: string },
  say: Say,
): string {
  const where = (c: MapCell) => cellWords(c, grid.rows, grid.columns, grid.wall).replace(/^the /, '');
  const dead = [...new Set(map.dead.map(where))];
  const fast = `In the ${grid.place} it is fast at the ${where(map.fastest)} (${say.of(map.fastest.velocity, 'velocity')})`;
  return dead.length
    ? `${fast}, and dead at the ${dead.slice(0, 3).join(', the ')}${dead.length > 3 ? ' and elsewhere' : ''}.`
    : `${fast}, slowest at the ${where(map.slowest)} (${say.of(map.slowest.velocity, 'velocity')}); nowhere dead.`;
}

/** How an eye judges, from its calls. */
export function eyeWords(eye: Eye | undefined, say: Say): string {
  if (!eye) return 'No call has been scored yet: write what you expect before the next test.';
  const share = say.of(Math.abs(eye.bias), 'percent', { digits: 1 });
  const calls = eye.count === 1 ? 'One call so far' : `${eye.count} calls`;
  if (eye.spread === undefined)
    return `${calls}: ${share} too ${eye.bias >= 0 ? 'high' : 'low'}. One call says nothing of an eye.`;
  const scatter = say.of(eye.spread, 'percent', { digits: 1 });
  const telling = Math.abs(eye.bias) > (2 * eye.spread) / Math.sqrt(eye.count);
  return telling
    ? `${calls}: this eye calls ${share} too ${eye.bias > 0 ? 'high' : 'low'}, ± ${scatter}. Take that off the next one.`
    : `${calls}: no leaning that can be told (${say.of(eye.bias, 'percent', { digits: 1, signed: true })}), ± ${scatter}.`;
}

/** Days after which a calibration is asked about. Common practice, no source. */
export const CALIBRATION_DAYS = 90;
/** How far a factor may lie from one, and from the one before it. */
export const CALIBRATION_BAND = 0.01;

/** What is to be said against a calibration; empty when nothing is. `before` is the factor of the check before it. */
export function calibrationWords(
  factor: number,
  days: number | undefined,
  before: number | undefined,
  say: Say,
): string {
  const off = factor - 1;
  const said: string[] = [];
  if (Math.abs(off) > CALIBRATION_BAND)
    said.push(
      `The bench reads ${say.of(Math.abs(off), 'percent', { digits: 1 })} too ${off < 0 ? 'high' : 'low'}: look for a leak or a dirty meter before leaning on the factor.`,
    );
  if (before !== undefined && Math.abs(factor - before) > CALIBRATION_BAND)
    said.push(`It moved ${say.of(Math.abs(factor - before), 'percent', { digits: 1 })} since the check before.`);
  if (days === undefined) said.push('Nobody knows when the bench was last checked.');
  else if (days > CALIBRATION_DAYS) said.push(`The last check is ${days} days old.`);
  return said.join(' ');
}

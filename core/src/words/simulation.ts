/** What the simulation says, in words. */
import type { Say } from '../quantity/format.js';
import { degrees } from '../quantity/units.js';
import type { CamFound } from '../simulation/camSearch.js';
import { CAM_FINENESS } from '../simulation/camSearch.js';
import type { HeldBack, Part } from '../simulation/holdback.js';
import type { Difference } from '../simulation/sweep.js';
import { oddsWords } from './verdict.js';

/** Odds from which a difference is told. */
const TOLD = 0.9;

/** Speeds over which the band of a difference leaves nothing out: where one head is above the other. */
export function apartSpeeds(
  d: Pick<Difference, 'band'>,
  speeds: readonly number[],
): { readonly from: number; readonly to: number; readonly better: 'a' | 'b' }[] {
  const found: { from: number; to: number; better: 'a' | 'b' }[] = [];
  d.band.forEach((b, k) => {
    const better = b.low > 0 ? 'b' : b.high < 0 ? 'a' : undefined;
    if (!better) return;
    const last = found.at(-1);
    if (last?.better === better && last.to === speeds[k - 1]) last.to = speeds[k]!;
    else found.push({ from: speeds[k]!, to: speeds[k]!, better });
  });
  return found;
}

/** B against A: the difference at the target, the window, where they are told apart, and what would turn it. */
export function differenceWords(
  a: string,
  b: string,
  d: Difference,
  speeds: readonly number[],
  target: number,
  say: Say,
): string {
  const at = speeds.reduce((best, s, k) => (Math.abs(s - target) < Math.abs(speeds[best]! - target) ? k : best), 0);
  const torque = say.of(d.torque[at]!, 'torque', { digits: 0, signed: true });
  const mean = say.of(d.mean, 'torque', { digits: 0, signed: true });
  const apart = apartSpeeds(d, speeds);
  const turn = (n: number) => say.of(n, 'rotation');
  const where = apart.length
    ? `told apart ${apart.map((s) => (s.from === s.to ? `at ${turn(s.from)}` : `from ${turn(s.from)} to ${turn(s.to)}`)).join(' and ')}`
    : 'not told apart at any speed';
  const better =
    d.odds >= TOLD
      ? `${b} is ahead over the window, ${oddsWords(d.odds)}.`
      : d.odds <= 1 - TOLD
        ? `${a} is ahead over the window, ${oddsWords(1 - d.odds)}.`
        : `Over the window ${a} and ${b} can’t be told apart (${oddsWords(d.odds)} for ${b}).`;
  const turning = d.turns ? ` What would turn it soonest: ${d.turns.label}.` : '';
  return `${b} against ${a}: ${torque} at ${turn(speeds[at]!)}, ${mean} over the window; ${where}. ${better}${turning}`;
}

export const PART_WORDS: Readonly<Record<Part, string>> = {
  valve: 'the intake valve',
  port: 'the port’s areas',
  runner: 'runner entry and its warm walls',
  plenum: 'plenum and throttle',
  exhaust: 'exhaust valve and back pressure',
};

/** What holds a head back, greatest first. */
export function holdbackWords(h: HeldBack, say: Say): string {
  const known = h.parts.filter((p) => Number.isFinite(p.gain)).sort((a, b) => b.gain - a.gain);
  const [first, second] = known;
  if (!first || first.gain <= 0.005 * h.torque)
    return 'Nothing of the breathing alone holds it back much at this speed.';
  const torque = (n: number) => say.of(n, 'torque', { digits: 0, signed: true });
  return `At ${say.of(h.speed, 'rotation')} ${PART_WORDS[first.part]} holds it back most: ideal, ${torque(first.gain)}${
    second && second.gain > 0 ? `; then ${PART_WORDS[second.part]}, ${torque(second.gain)}` : ''
  }. All of it ideal together: ${torque(h.all)}.`;
}

/** The cam a head wants, no finer than the optimum is. */
export function camWords(
  name: string,
  c: CamFound,
  now: { lobeSeparation: number; intakeCentreline: number },
  say: Say,
): string {
  const angle = (x: number) => say.of(x, 'angle', { digits: 0 });
  const gain = c.torque - c.now;
  const off = Math.max(
    Math.abs(c.at.lobeSeparation - now.lobeSeparation),
    Math.abs(c.at.intakeCentreline - now.intakeCentreline),
  );
  const wants = `${name} wants a lobe separation of ${angle(c.at.lobeSeparation)} on a centreline of ${angle(c.at.intakeCentreline)}, both ±${angle(CAM_FINENESS)}`;
  const edge = c.edge ? ' The best lies at the edge of what was searched.' : '';
  return off < CAM_FINENESS + degrees(0.5) || gain < 0.004 * c.now
    ? `${wants}: the cam in the build is as good (${say.of(gain, 'torque', { digits: 0, signed: true })}).${edge}`
    : `${wants}: ${say.of(gain, 'torque', { digits: 0, signed: true })} over the window against the cam in the build.${edge}`;
}

/** Claims in sentences. */
import type { ClaimedPoint, PointVerdict, Trend } from '../claim/verdict.js';
import type { Say } from '../quantity/format.js';

/** What a verdict means, said of the whole claim of one side. */
export function claimWords(
  points: readonly ClaimedPoint[],
  verdict: PointVerdict | undefined,
  trend: Trend | undefined,
  say: Say,
): string {
  if (verdict === undefined) return 'It claims no flow here.';
  const of = points.filter((p) => p.verdict === verdict);
  const lifts = of.map((p) => say.of(p.lift, 'lift'));
  const at = lifts.length === points.length ? 'at every lift' : `at ${lifts.join(', ')}`;
  const worst = [...of].sort((a, b) => Math.abs(b.error?.value ?? 0) - Math.abs(a.error?.value ?? 0))[0]!;
  const off = worst.error ? say.of(Math.abs(worst.error.value), 'percent', { digits: 1 }) : '';
  switch (verdict) {
    case 'impossible':
      return worst.tooFast
        ? `Impossible ${at}: through the port's least area the air would have to be faster than the depression can drive it.`
        : `Impossible ${at}: no valve of this size passes that much at that lift.`;
    case 'beyond anything measured':
      return worst.band?.usual
        ? `Beyond what is usual ${at}: with ${worst.band.heads} heads of your own near that lift ratio, the usual band has to speak.`
        : `Beyond anything measured ${at}: none of ${worst.band?.heads ?? 0} heads in your library comes near that lift ratio with so much.`;
    case 'high':
    case 'low': {
      const how =
        trend?.shape === 'grows'
          ? ' The error grows with lift, as it does where the top is flattered or the port backs up on the bench.'
          : trend?.shape === 'shrinks'
            ? ' The error shrinks with lift, as it does with a leak or another seat.'
            : trend?.shape === 'offset'
              ? ` It is much the same everywhere (${say.of(trend.mean, 'percent', { digits: 1, signed: true })}): another bench, rather than another head.`
              : '';
      return `Reads ${verdict} by as much as ${off} ${at}.${how}`;
    }
    case 'holds':
      return `Holds ${at}, within ${say.of(worst.uncertainty.value, 'percent', { digits: 1 })}.`;
    case 'not comparable':
      return 'Cannot be held against the bench: the conditions differ.';
    default:
      return 'Nothing of ours is measured to hold it against; geometry and the library have nothing against it.';
  }
}

/** What to measure next to settle a claim. */
export function settleWords(
  verdict: PointVerdict | undefined,
  unknown: readonly string[],
  port: string | undefined,
  measured: boolean,
): string {
  switch (verdict) {
    case 'impossible':
      return 'Look at the figure first: a slip of the pen, another valve size or another depression would explain it.';
    case 'beyond anything measured':
      return measured
        ? 'Your own bench has measured it: ask the source how the test was done.'
        : 'Test this head at that lift on your own bench, with its own valves.';
    case 'nothing to hold it against':
      return `Test ${port ?? 'a port'} of this head at this stage on your own bench.`;
    case 'not comparable':
      return 'Test once under the conditions of the claim: the same bore, entry and pipe.';
    case 'high':
    case 'low':
      return unknown.length > 0
        ? `Ask the source for ${unknown.slice(0, 2).join(' and ')}; an answer may explain it.`
        : 'Take the same port again, and have the source’s control head tested on your bench.';
    default:
      return '';
  }
}

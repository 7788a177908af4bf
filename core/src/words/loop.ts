/** The loop after the dyno in the words of the trade: swaps, causes, scores. */
import type { CauseFound, Cause, Sign } from '../dyno/causes.js';
import type { Drift, Swap } from '../dyno/order.js';
import type { Scores } from '../dyno/score.js';
import type { Say } from '../quantity/format.js';

// value!, second!, s.spread!: what speaks has a value; two stand first.

const percent = (v: number, say: Say, digits = 1) => say.of(v, 'percent', { digits, signed: true });

/** What a drift over like pulls says. */
export function driftWords(drift: Drift | undefined, say: Say): string {
  if (!drift) return 'Three like pulls in a row would show whether heat soaks in.';
  const each = `${percent(drift.share, say, 2)} a pull`;
  if (!drift.counts) return `Like pulls do not drift by more than chance does (${each}).`;
  return drift.share < 0
    ? `Each pull makes less than the one before it (${each}): heat soaks in. Let it cool alike, or alternate the heads.`
    : `Each pull makes more than the one before it (${each}): the engine still loosens, or warms up.`;
}

/** What a swap shows: how much, whether it counts, and whether the drift could be taken off. */
export function swapWords(a: string, b: string, swap: Swap, say: Say): string {
  const off = say.of(swap.difference, 'power', { digits: 1, signed: true });
  const u = say.of(2 * swap.u, 'power', { digits: 1 });
  const said = swap.counts
    ? `${b} makes ${off} ± ${u} against ${a}, mean over the speeds both reach: it counts.`
    : `${b} against ${a}: ${off} ± ${u}. It does not count: pulls differ by as much of themselves.`;
  if (swap.driftRemoved) return `${said} They alternated, so what drifts is taken off.`;
  return !swap.oneDay
    ? `${said} They were pulled on different days: what changed from day to day cannot be told from the heads.`
    : `${said} One came whole before the other: what drifted in between cannot be told from the heads.`;
}

export const CAUSE_WORDS: Readonly<Record<Cause, string>> = {
  choke: 'the port chokes',
  exhaust: 'the exhaust holds it back',
  cam: 'the cam is not this head’s',
  'valve float': 'the valves float',
  reversion: 'it breathes back at low speed',
  'leaking seat': 'a seat leaks',
  compression: 'less compression than meant',
  manifold: 'the manifold or throttle holds it back',
  'mixture or ignition': 'lean, rich, or late',
  'dyno or correction': 'the dyno, or how it was corrected',
};

/** One sign, in words that name its figure. */
export function signWords({ code, value, weight }: Sign, say: Say): string {
  const share = (v: number) => say.of(v, 'percent', { digits: 0 });
  const speaks = weight > 0;
  switch (code) {
    case 'pattern':
      return speaks ? 'the shortfall lies at the speeds where this takes power' : 'the shortfall lies at other speeds';
    case 'velocity':
      return `the port’s velocity is ${share(value!)} of its limit at the wanted speed`;
    case 'mach index':
      return `the mean inlet Mach index is ${say.number(value!, 2)}`;
    case 'exhaust share':
      return `the exhaust flows ${share(value!)} of the intake`;
    case 'cam off':
      return `the cam stands ${say.of(Math.abs(value!), 'angle', { digits: 0 })} from what this head wants`;
    case 'break':
      return speaks ? `power falls suddenly above ${say.of(value!, 'rotation')}` : 'the curve bends over smoothly';
    case 'springs':
      return `the springs hold ${share(value!)} of what cam and mass ask at the highest speed pulled`;
    case 'low velocity':
      return `low down the air moves at ${share(value!)} of the limit`;
    case 'seats':
      return speaks
        ? `${value!} ${value === 1 ? 'seat leaks' : 'seats leak'} by arrival’s test`
        : 'every seat tested seals';
    case 'compression':
      return `compression is ${say.of(value!, 'compression')}`;
    case 'manifold drop':
      return `${say.of(value!, 'percent', { digits: 1 })} of the air’s pressure is missing in the manifold`;
    case 'manifold flow':
      return `the manifold flows ${say.number(value!, 2)} times the head`;
    case 'lambda':
      return `lambda is ${say.number(value!, 2)} at the peak`;
    case 'correction':
      return speaks ? 'nobody says by which standard it was corrected' : 'the standard is named';
    case 'air':
      return speaks ? 'the air of the day was not noted' : 'the air of the day was noted';
    case 'chassis':
      return 'it was taken at the wheels';
  }
}

/** The likeliest cause, and how sure that is. */
export function causesWords(causes: readonly CauseFound[], short: boolean, more: boolean, say: Say): string {
  if (!short && more)
    return 'It made more than that forecast says: the forecast is what wants explaining. Hold it against another, or tie the simulation to the pull.';
  if (!short) return 'It made what was forecast, within its range: there is nothing to explain.';
  const [first, second] = causes;
  if (!first) return '';
  const share = (c: CauseFound) => say.of(c.share, 'percent', { digits: 0 });
  if (first.share > 0.7)
    return `Most of it speaks for one thing: ${CAUSE_WORDS[first.cause]} (${share(first)} of the odds).`;
  return `Two things stand first: ${CAUSE_WORDS[first.cause]} (${share(first)}), ${CAUSE_WORDS[second!.cause]} (${share(second!)}). A test tells more than more thought.`;
}

/** How an estimate has done. */
export function powerScoreWords(s: Scores, say: Say): string {
  const bias = percent(s.bias, say);
  if (s.count === 1) return `One forecast, ${bias}: it says little.`;
  const reach = s.biasReach === undefined ? '' : ` ± ${say.of(s.biasReach, 'percent', { digits: 1 })}`;
  const within = Number.isFinite(s.within)
    ? `; ${say.of(s.within, 'percent', { digits: 0 })} fell within what was said`
    : '';
  return `${s.count} forecasts: the engine made ${bias}${reach} against it, spread ${say.of(s.spread!, 'percent', { digits: 1 })}${within}.`;
}

/** Speeds at which a pull fell outside a forecast's range, as stretches: `below it from 4800 to 5600 rpm`. */
export function outsideWords(
  points: readonly { readonly speed: number; readonly side: 'below' | 'above' | 'within' }[],
  say: Say,
): string {
  const stretches: { side: 'below' | 'above'; from: number; to: number }[] = [];
  let open: (typeof stretches)[number] | undefined;
  for (const p of points) {
    if (p.side === 'within') open = undefined;
    else if (open?.side === p.side) open.to = p.speed;
    else stretches.push((open = { side: p.side, from: p.speed, to: p.speed }));
  }
  if (stretches.length === 0) return 'At every speed the pull lies within the range of the forecast.';
  const speed = (s: number) => say.of(s, 'rotation');
  return `The pull lies ${stretches.map((s) => `${s.side} the range ${s.from === s.to ? `at ${speed(s.from)}` : `from ${speed(s.from)} to ${speed(s.to)}`}`).join(', ')}.`;
}

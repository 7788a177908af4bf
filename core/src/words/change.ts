/** What a cut bought, where the flow is lost and what comes next, in the words of the trade. */
import { TAPER_MOST, type CutCandidate, type CutFacts, type CutReason, type CutStop } from '../change/nextCut.js';
import { CLOSURE_LIMIT } from '../section/survey.js';
import type { OperationKind } from '../change/operations.js';
import type { Between, Split, SplitChange } from '../change/split.js';
import type { StopState } from '../change/stops.js';
import type { UsualGain } from '../change/usual.js';
import type { Say } from '../quantity/format.js';
import { listed } from './listed.js';

// first!: there is one.

const whole = (share: number, say: Say) => say.of(share, 'percent', { digits: 0 });

/** `the port takes 52 to 84 % of the loss at .400` and what would tell it closer. */
export function lossWords(split: Split, stage: number, say: Say): string {
  const { low, high } = split.shares[stage]!;
  const at = say.of(split.lift, 'lift');
  const share = `At ${at} the port takes ${say.number(100 * low, 0)} to ${whole(high, say)} of the loss, the valve the rest`;
  if (split.measured) return `${share}; a valve-out pull speaks for it.`;
  return split.shares.length === 1
    ? `${share}; one curve cannot say closer. A valve-out pull would.`
    : `${share}. A valve-out pull would say closer.`;
}

/** Natural logarithm of a change as a share. */
const asShare = (r: Between): Between => ({
  value: Math.expm1(r.value),
  low: Math.expm1(r.low),
  high: Math.expm1(r.high),
});

/** `+7.1 %, between +4.8 and +9.9 %` */
export function changeRangeWords(range: Between, say: Say): string {
  const { value, low, high } = asShare(range);
  const of = (x: number) => say.of(x, 'percent', { digits: 1, signed: true });
  return `${of(value)}, between ${of(low)} and ${of(high)}`;
}

/** Which of the two a stage changed, as far as the curves tell. */
export function attributionWords({ valve, port }: SplitChange): string {
  const sure = (r: Between) => r.low > 0 || r.high < 0;
  const way = (r: Between) => (r.value > 0 ? 'better' : 'worse');
  if (sure(valve) && sure(port)) return `Valve ${way(valve)} and port ${way(port)}.`;
  if (sure(valve)) return `The valve is ${way(valve)}; of the port nothing can be told.`;
  if (sure(port)) return `The port is ${way(port)}; of the valve nothing can be told.`;
  return 'The curves cannot tell which of the two changed.';
}

/** Two cuts made in one stage. */
export const togetherWords = (operations: readonly OperationKind[]): string =>
  `${listed(operations)} were made in one stage: these cannot be told apart.`;

export function cutReasonWords(reason: CutReason, say: Say): string {
  const area = (a: number) => say.of(a, 'area');
  switch (reason.code) {
    case 'choke':
      return `The choke is ${area(reason.area)}${reason.wanted !== undefined && reason.wanted > reason.area ? ` and the target asks for ${area(reason.wanted)}` : ''}${reason.opened > reason.area ? `; opened to ${area(reason.opened)}` : ''}.`;
    case 'throat':
      return `The throat is ${say.of(reason.ratio, 'percent', { digits: 1 })} of the valve; 88 to 91 % is usual.`;
    case 'bowl':
      return `The bowl is ${say.of(reason.ratio, 'percent', { digits: 1 })} of the valve; 95 % and more is usual.`;
    case 'window':
      return reason.windowFlow > reason.peak
        ? `The window is large enough for ${say.of(reason.windowFlow, 'flow', { digits: 0 })} and the port passes ${say.of(reason.peak, 'flow', { digits: 0 })}: its shape holds it back.`
        : `The port passes ${say.of(reason.peak, 'flow', { digits: 0 })}, all that a window of its size usually carries (${say.of(reason.windowFlow, 'flow', { digits: 0 })}).`;
    case 'low lift':
      return `At ${say.of(reason.lift, 'lift')} its coefficient is ${say.number(reason.coefficient, 2)}; ${reason.count > 0 ? `the best of ${reason.count} heads in the library there` : 'the best usually seen there'} is ${reason.best.toFixed(2)}.`;
    case 'valve decides':
      return `The valve takes at least half of the loss (the port ${say.number(100 * reason.share.low, 0)} to ${whole(reason.share.high, say)}).`;
    case 'early knee':
      return `The curve bends at ${say.of(reason.knee, 'lift')}, before a quarter of the valve’s diameter (${say.of(reason.quarter, 'lift')}).`;
    case 'exhaust share':
      return `The exhaust passes ${whole(reason.share, say)} of the intake; without boost 70 to 80 % is usual.`;
    case 'dead spots':
      return `Over ${whole(reason.share, say)} of the velocity map the air moves at less than half the mean.`;
    case 'uneven':
      return `Found on arrival, ${reason.part}: ${reason.text}${/[.!?]$/.test(reason.text) ? '' : '.'}`;
  }
}

/** What is looked at before anything is cut: sections that do not close, an area that changes too fast. */
export function lookFirstWords({ closure, taper }: Pick<CutFacts, 'closure' | 'taper'>, say: Say): string[] {
  return [
    ...(closure !== undefined && Math.abs(closure) > CLOSURE_LIMIT
      ? [
          `The sections and the poured volume differ by ${say.of(Math.abs(closure), 'percent', { digits: 1 })}: measure again before a section is cut.`,
        ]
      : []),
    ...(taper && taper.rate > TAPER_MOST
      ? [
          `The area changes by ${whole(taper.rate, say)} in a centimetre at ${say.number(taper.station * 1000, 0)} mm: look there for a step or a lump.`,
        ]
      : []),
  ];
}

export function cutStopWords(stop: CutStop, say: Say): string {
  switch (stop.code) {
    case 'wall':
      return stop.spare <= 0
        ? 'A wall at the choke is down to its limit.'
        : `${say.of(stop.spare, 'length', { digits: say.system === 'inch' ? 3 : 1 })} of metal to give at the choke.`;
    case 'no wall measured':
      return 'No wall is measured there: sonic-test or section one first.';
    case 'seat ring':
      return 'Stay inside the seat ring.';
    case 'guide':
      return 'Keep the guide’s length.';
    case 'valve spacing':
      return 'Mind the spacing of the valves.';
    case 'chamber wall':
      return 'Mind the wall of the chamber, and its volume.';
  }
}

/** Why a candidate is shown and not advised. */
export const barredWords = 'Not advised: no metal is left above its limit.';

/** What such cuts bought in this shop so far. */
export function usualGainWords(usual: UsualGain | undefined, operation: string, say: Say): string {
  if (!usual) return `This shop has not flowed a head before and after a ${operation} by itself yet.`;
  const { count, gain, next, hours, cost } = usual;
  const mean = say.of(gain, 'percent', { digits: 1, signed: true });
  const spread = next === undefined ? '' : ` ± ${say.of(next, 'percent', { digits: 1 })} for the next`;
  const each = [
    hours === undefined ? '' : say.of(hours, 'time'),
    cost === undefined ? '' : `cost ${say.of(cost, 'money')}`,
  ]
    .filter(Boolean)
    .join(', ');
  const took = each ? `, ${each} each` : '';
  return `${count === 1 ? 'One' : count} of the shop’s own: ${mean}${spread}${took}.`;
}

export function stopWords(state: StopState, found: string, limit: string): string {
  switch (state) {
    case 'open':
      return 'not measured yet';
    case 'under way':
      return 'under way';
    case 'there':
      return 'at its size';
    case 'stop':
      return `measured ${found}: stop`;
    case 'passed':
      return `measured ${found}, past its limit of ${limit}: stop`;
  }
}

/** How a forecast came out, by how many uncertainties it was off. */
export function scoreWords(z: number): string {
  const off = Math.abs(z);
  if (off <= 1) return 'came out as forecast';
  if (off <= 2) return z > 0 ? 'better than forecast, within its range' : 'less than forecast, within its range';
  return z > 0 ? 'better than its range' : 'short of its range';
}

/** `These buy most for the hour: …` over candidates that are not barred. */
export function nextCutWords(candidates: readonly CutCandidate[], say: Say): string {
  const open = candidates.filter((c) => !c.barred);
  if (candidates.length === 0) return 'Nothing that was measured speaks for a cut here.';
  if (open.length === 0) return 'What holds this port cannot be cut: its walls are at their limit.';
  const [first] = open;
  if (!first!.most) return `The first to look at is the ${first!.operation}; no method says what it buys.`;
  return `Most could come from the ${first!.operation}: at most ${say.of(first!.most.value, 'flow')} over the cam, if it is shaped well.`;
}

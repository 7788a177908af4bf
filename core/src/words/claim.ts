/** Claims in sentences. */
import type { ClaimDoubts } from '../claim/doubts.js';
import type { RunnerVerdict } from '../claim/published.js';
import type { ReportResult } from '../claim/report.js';
import type { Likeness, SameVerdict } from '../claim/same.js';
import type { Gain } from '../claim/tie.js';
import type { ClaimedPoint, JudgedPoints, PointVerdict } from '../claim/verdict.js';
import type { WholeClaim } from '../claim/whole.js';
import type { Believability } from '../evaluate/target.js';
import type { Say } from '../quantity/format.js';
import type { Degree } from '../uncertainty/degree.js';
import { capital, listed } from './listed.js';
import { oddsWords } from './verdict.js';

// a.speed!, b.speed!, top.speed!, report.degree!: looked for in front of it.
// find()!, nearest!: each rank is there.

/** What a verdict means, said of the whole claim of one side. */
export function claimWords(
  { points, whole }: JudgedPoints,
  verdict: PointVerdict | undefined,
  say: Say,
  own: OwnDoubt | undefined = undefined,
): string {
  if (verdict === undefined) return 'It claims no flow here.';
  const of = points.filter((p) => p.verdict === verdict);
  const lifts = of.map((p) => say.of(p.lift, 'lift'));
  const at = lifts.length === points.length ? 'at every lift' : `at ${listed(lifts)}`;
  const worst = of[0];
  switch (verdict) {
    case 'impossible':
      return `Impossible ${at}: no valve of this size passes that much at that lift, whatever its seat.${fast(points, say)}`;
    case 'beyond anything measured':
      return worst?.band?.usual
        ? `Beyond what is usual ${at}: with ${worst.band.heads} heads of your own near that lift ratio, the usual band has to speak.`
        : `Beyond anything measured ${at}: none of ${worst?.band?.heads ?? 0} heads in your library comes near that lift ratio with so much.`;
    case 'high':
    case 'low':
    case 'holds':
      return whole
        ? `${ownDoubtWords(own, say)}${wholeWords(whole, points, say)}${fast(points, say)}`
        : 'It claims no flow here.';
    case 'own reading in question':
      return ownDoubtWords(own, say).trim();
    case 'not comparable':
      return 'Cannot be held against the bench: the conditions differ.';
    default:
      return `Nothing of ours is measured to hold it against; the valve and the library have nothing against it.${fast(points, say)}`;
  }
}

/** Rows of our own sheet that are in question, and what it is called. */
export interface OwnDoubt {
  readonly lifts: readonly number[];
  readonly title: string;
}
const ownDoubtWords = (own: OwnDoubt | undefined, say: Say): string =>
  own && own.lifts.length > 0
    ? `Look at your own reading first: ${listed(own.lifts.map((l) => say.of(l, 'lift')))} of “${own.title}” breaks its curve, so the claim is not held against it. `
    : '';

/** The whole of a claim as a builder would put it: how far, where, and whether benches explain it. */
function wholeWords(whole: WholeClaim, points: readonly ClaimedPoint[], say: Say): string {
  const percent = (share: number) => say.of(Math.abs(share), 'percent', { digits: 0 });
  const fine = (share: number) => say.of(Math.abs(share), 'percent', { digits: 1 });
  const benches = whole.unstated
    ? `benches and what nobody stated explain ${fine(whole.half)}`
    : `two benches may differ by ${fine(whole.half)}`;
  if (whole.verdict === 'holds') {
    const mean =
      Math.abs(whole.level) < 0.0005 ? 'no error on average' : `${fine(whole.level)} ${way(whole.level)} on average`;
    return `Agrees as benches do: ${mean}, where ${benches}.`;
  }
  const { turns } = whole;
  if (turns !== undefined) {
    const above = points.find((p) => p.error && p.lift >= turns);
    return `${capital(way(whole.last))} ${above ? `from ${say.of(above.lift, 'lift')} up, where it counts, ` : ''}by as much as ${percent(whole.last)}; ${way(whole.first)} below, by as much as ${percent(whole.first)}.`;
  }
  const claims = whole.verdict === 'high' ? 'Over-claims' : 'Reads low by';
  const [least, most] = [whole.first, whole.last].map(Math.abs).sort((a, b) => a - b) as [number, number];
  if (whole.leans)
    return `${claims} ${Math.round(least * 100)} to ${percent(most)}, ${Math.abs(whole.last) > Math.abs(whole.first) ? 'growing' : 'shrinking'} with lift; ${benches}.`;
  return `${claims} ${fine(whole.level)}, much the same at every lift; ${benches}.`;
}
const way = (share: number): 'high' | 'low' => (share > 0 ? 'high' : 'low');

/** A speed at the tightest place beyond what the depression alone drives: unusual, not impossible. */
function fast(points: readonly ClaimedPoint[], say: Say): string {
  const top = points
    .filter((p) => p.tooFast && p.speed)
    .reduce<ClaimedPoint | undefined>((a, b) => (a && a.speed!.value >= b.speed!.value ? a : b), undefined);
  return top
    ? ` At ${say.of(top.lift, 'lift')} the air at the tightest place would run at ${say.of(top.speed!.value, 'velocity')}, beyond the usual: only pressure recovered behind it could drive that. Is that size right?`
    : '';
}

/** A claim read through its source’s offset: whether the head or the source is off. Empty where nothing can be said. */
export function throughWords({ whole, through }: JudgedPoints, heads: number, say: Say): string {
  if (!whole || !through) return '';
  const from = `${heads} other ${heads === 1 ? 'head' : 'heads'}`;
  const off = say.of(Math.abs(through.level), 'percent', { digits: 1 });
  const half = say.of(through.half, 'percent', { digits: 1 });
  if (through.verdict === 'holds')
    return whole.verdict === 'holds'
      ? `Read through what its source is off on ${from} it holds as well.`
      : `Read through what its source is off on ${from} it holds, within ${half}: the source reads off, not this head.`;
  return through.leans && Math.abs(through.level) < through.half
    ? `Read through what its source is off on ${from} its error still changes with lift.`
    : `Read through what its source is off on ${from} it is still ${off} ${way(through.level)}, more than the ${half} that leaves open.`;
}

/** Which runner seems to have been published. */
export function runnerWords(verdict: RunnerVerdict, say: Say): string {
  const percent = (share: number) => say.of(share, 'percent', { digits: 1 });
  const n = verdict.fits.length;
  const [nearest] = verdict.fits;
  const worst = verdict.fits.find((f) => f.rank === n)!;
  if (!verdict.told)
    return `It cannot be told which of the ${n} runners measured was published: they differ by ${percent(verdict.spread)} at most.`;
  if (nearest!.rank === 1)
    return `It lies nearest to ${nearest!.name}, the best of the ${n} runners measured; ${worst.name} flows ${percent(verdict.spread)} less. A published table is often the best runner: judge the head by the worse one.`;
  return `It lies nearest to ${nearest!.name}, ${nearest!.rank === n ? 'the worst' : `number ${nearest!.rank}`} of the ${n} runners measured: it was not the best one that was published.`;
}

/** The verdict on two heads, stages or ports, with its reasons. */
export function sameWords(verdict: SameVerdict, names: { readonly a: string; readonly b: string }, say: Say): string {
  const things = `${verdict.looked} ${verdict.looked === 1 ? 'thing' : 'things'}`;
  switch (verdict.verdict) {
    case 'nothing to compare':
      return `Nothing was measured on both ${names.a} and ${names.b}: there is nothing to tell them apart by.`;
    case 'not told apart':
      return `Not told apart: of ${things} looked at on both, none differs by more than measuring twice would give. That does not make them the same casting.`;
    default: {
      const figure = (l: Likeness, v: number) => say.of(v, l.kind);
      const reasons = verdict.reasons.map(
        (l) =>
          `${l.what} (${figure(l, l.a)} against ${figure(l, l.b)}, ${say.number(l.times.value, l.times.value < 10 ? 1 : 0)} times the repeatability)`,
      );
      return `Different${reasons.length > 0 ? `: ${reasons.join('; ')}` : ': one curve lies above the other over its whole length'}. ${verdict.counting} of ${things} looked at tell them apart.`;
    }
  }
}

/** Whether a claimed power is believable, with what stands for and against it. */
export function reportWords(report: ReportResult, say: Say): string {
  const pressure = `BMEP ${say.of(report.bmep.value, 'pressure', { digits: 0 })} is ${BAND_WORDS[report.band]}`;
  const flow = report.powerPerFlow
    ? `each cfm of a cylinder would have made ${say.of(report.powerPerFlow.value, 'powerPerFlow')}; ${DEGREE_WORDS[report.degree!]}${report.odds === undefined ? '' : ` (${oddsWords(report.odds)})`}`
    : 'no flow of this head is measured to hold it against';
  const speed = report.velocity
    ? `, and the air at the choke would have peaked at ${say.of(report.velocity.value, 'velocity')}${report.tooFast ? ', beyond what ports are usually run at' : ''}`
    : '';
  const head = {
    believable: 'Believable',
    'a stretch': 'A stretch',
    'not believable': 'Not believable',
    'nothing to hold it against': 'Not judged by this head',
  }[report.verdict];
  return `${head}: ${pressure}; ${flow}${speed}.`;
}
const BAND_WORDS: Record<Believability, string> = {
  mild: 'mild',
  ordinary: 'ordinary',
  strong: 'that of a strong engine',
  race: 'that of a race engine',
  extreme: 'extreme',
  unbelievable: 'more than such engines make',
};
const DEGREE_WORDS: Readonly<Record<Degree, string>> = {
  carries: 'the head carries that',
  'probably carries': 'the head probably carries that',
  "can't be told": 'whether the head carries that can’t be told',
  'probably short': 'the head probably falls short of that',
  'falls short': 'the head falls short of that',
};

/** What is asked about a claim, a sentence each. */
export function claimQuestions(doubts: ClaimDoubts, say: Say): string[] {
  const lifts = (list: readonly number[]) => listed(list.map((l) => say.of(l, 'lift')));
  return [
    ...(doubts.beyondValve.length > 0
      ? [
          `Lift ${lifts(doubts.beyondValve)} lies beyond half the valve’s diameter, where no valve is opened: is the lift or the valve mistyped?`,
        ]
      : []),
    ...(doubts.exhaustAhead.length > 0
      ? [
          `At ${lifts(doubts.exhaustAhead)} the exhaust is said to flow more than the intake: do the two columns stand in each other’s place?`,
        ]
      : []),
  ];
}

/** What one head, tested now, would do for the net. */
export function gainWords(gain: Gain, head: string, source: (index: number) => string, say: Say): string {
  const percent = (ln: number) => say.of(1.96 * Math.expm1(ln), 'percent', { digits: 1 });
  const parts: string[] = [];
  if (gain.ties.length > 0) parts.push(`tie ${listed(gain.ties.map(source))} to your bench`);
  const [most] = gain.sharpens;
  if (most) parts.push(`sharpen ${source(most.source)} from ±${percent(most.before)} to ±${percent(most.after)}`);
  return `${head}, tested now on your own bench, would ${listed(parts)}.`;
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
    case 'own reading in question':
      return 'Read that lift again on your own bench.';
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

import type { ArrivalResult } from '../arrival/condition.js';
import { MACH_INDEX_LIMIT } from '../engine/engine.js';
import type { Believability, TargetResult } from '../evaluate/target.js';
import type { LimitId, MatchResult } from '../evaluate/match.js';
import type { Say } from '../quantity/format.js';
import { inches } from '../quantity/units.js';
import { arrivalMark, arrivalObjections } from './arrival.js';

const LIMIT_WORDS: Record<LimitId, string> = {
  flow: 'its flow',
  area: 'its least port area',
  valve: 'its valve area',
};

/** Lobe separation further from the wanted one than this is pointed at. */
const CAM_TOLERANCE = (2 * Math.PI) / 180;

/** The verdict on one head in words: whether it carries the target, why, and what holds it back. */
export function matchWords(
  match: MatchResult,
  target: TargetResult,
  speed: number,
  lobeSeparation: number | undefined,
  say: Say,
): string[] {
  const flow = (q: number) => say.of(q, 'flow', { digits: 0 });
  const rev = (n: number) => say.of(Math.round((n * 60) / 10) / 6, 'rotation');
  if (match.verdict === 'unknown' || !match.intake || match.margin === undefined) {
    return ['Nothing is known of its intake flow: type or paste a flow sheet first.'];
  }
  const needed = flow(target.demand.value);
  const has = flow(match.margin + target.demand.value);
  const sentences: string[] = [];
  if (match.verdict === 'carries')
    sentences.push(
      `Carries the target: ${has} against ${needed} needed, ${flow(match.margin)} to spare${match.reachedAt === undefined ? '' : `, reached at ${say.of(match.reachedAt, 'lift')}`}.`,
    );
  else if (match.verdict === 'close')
    sentences.push(`On the line: ${has} against ${needed} needed, closer than the bench can tell.`);
  else
    sentences.push(
      `Falls short by ${flow(-match.margin)}: ${has} at ${say.of(match.intake.best.lift, 'lift')} against ${needed} needed.`,
    );

  if (match.runners.length > 1) {
    const worst = match.deciding!;
    const others = match.runners.filter((r) => r.name !== worst.name).map((r) => `${r.name} with ${flow(r.best.flow)}`);
    sentences.push(`The worse runner decides: ${worst.name}, against ${others.join(', ')}.`);
  }
  const { first } = match;
  if (first) {
    const at = rev(first.speed.value);
    if (first.speed.value >= speed * 1.005)
      sentences.push(`What runs out first is ${LIMIT_WORDS[first.id]}, at ${at}: above the target’s ${rev(speed)}.`);
    else
      sentences.push(
        `${LIMIT_WORDS[first.id].replace(/^i/, 'I')} runs out at ${at}, below the target’s ${rev(speed)}: that holds it back.`,
      );
  }
  const { machIndex } = match;
  if (machIndex && machIndex.value > MACH_INDEX_LIMIT * 1.02) {
    sentences.push(
      `At the target its mean inlet Mach index is ${say.of(machIndex.value, 'ratio', { digits: 2 })}: filling begins to fall past ${MACH_INDEX_LIMIT}, so the cam must make up for it.`,
    );
  }
  if (match.intake.stopsShort) sentences.push('The sheet stops short of the cam’s lift, so there may be more.');
  else if (target.usefulLift !== undefined && match.intake.best.lift < target.usefulLift - inches(0.01)) {
    sentences.push(
      `It flows best at ${say.of(match.intake.best.lift, 'lift')}, below the cam’s ${say.of(target.usefulLift, 'lift')}.`,
    );
  }
  if (match.lobeSeparation && lobeSeparation !== undefined) {
    const off = lobeSeparation - match.lobeSeparation.value;
    if (Math.abs(off) > CAM_TOLERANCE)
      sentences.push(
        `This head wants about ${say.of(match.lobeSeparation.value, 'angle', { digits: 0 })} of lobe separation; the cam has ${say.of(lobeSeparation, 'angle', { digits: 0 })}.`,
      );
  }
  return sentences;
}

/** Which of several heads carries the engine, and why, in one or two sentences. */
export function bestWords(
  heads: readonly {
    readonly letter: string;
    readonly name: string;
    readonly match: MatchResult;
    readonly price?: number;
    readonly arrival?: ArrivalResult;
  }[],
  target: TargetResult,
  speed: number,
  say: Say,
): string {
  const flowed = heads.filter((h) => h.match.margin !== undefined);
  if (flowed.length === 0) return 'No head in the lineup has an intake sheet yet.';
  const flow = (q: number) => say.of(q, 'flow', { digits: 0 });
  const called = (h: (typeof flowed)[number]) => `${h.letter} ${h.name}`;
  const rejected = flowed.filter((h) => h.arrival?.condition === 'rejected');
  const known = flowed.filter((h) => !rejected.includes(h));
  const out =
    rejected.length > 0
      ? ` ${rejected.map(called).join(' and ')} ${rejected.length === 1 ? 'is' : 'are'} left out: rejected on arrival.`
      : '';
  if (known.length === 0) return `No head is left to choose.${out}`;
  const carry = known.filter((h) => h.match.verdict === 'carries');
  const best = [...known].sort((a, b) => b.match.margin! - a.match.margin!)[0]!;
  if (carry.length === 0) {
    const near = known.filter((h) => h.match.verdict === 'close');
    const words =
      near.length > 0
        ? `${near.map(called).join(' and ')} ${near.length === 1 ? 'is' : 'are'} on the line of ${flow(target.demand.value)}; no head clears it.`
        : `No head carries the target. ${called(best)} comes nearest, ${flow(-best.match.margin!)} short of ${flow(target.demand.value)}.`;
    return words + out;
  }
  const holds = carry.filter((h) => h.match.first && h.match.first.speed.value >= speed);
  const pool = holds.length > 0 ? holds : carry;
  const most = [...pool].sort((a, b) => b.match.margin! - a.match.margin!)[0]!;
  const cheapest = pool.filter((h) => h.price !== undefined).sort((a, b) => a.price! - b.price!)[0];
  const slow = holds.length === 0 ? ' Yet something else runs out below the target’s speed: read the ladders.' : '';
  const first = `${called(most)} carries the target with the most to spare, ${flow(most.match.margin!)} over ${flow(target.demand.value)}.`;
  const second =
    carry.length === 1
      ? ' It is the only one that does.'
      : cheapest && cheapest !== most
        ? ` ${called(cheapest)} does it for the least money.`
        : '';
  const marked = (h: (typeof flowed)[number]) => (h.arrival ? arrivalMark(h.arrival) : undefined);
  const mend = marked(most) ? ` But ${most.letter} is not ready. ${arrivalObjections(most.arrival!).join(' ')}` : '';
  return first + second + slow + mend + out;
}

/** Whether the target itself is believable, before any head is blamed. */
export function targetWords(target: TargetResult, say: Say): string {
  const p = say.of(target.bmep.value, 'pressure', { digits: say.system === 'inch' ? 0 : 1 });
  const words: Record<Believability, string> = {
    mild: 'a mild target; almost any healthy engine of this size does it.',
    ordinary: 'an ordinary figure for a good road engine.',
    strong: 'a strong figure; compression, cam and exhaust must all be right.',
    race: 'race engine territory: expect race parts and a narrow speed range.',
    extreme: 'as much as the very best race engines reach; doubt the target before the head.',
    unbelievable: 'more than naturally aspirated engines reach at this charge; the target is not believable.',
  };
  return `The target means ${p} of mean effective pressure: ${words[target.believability]}`;
}

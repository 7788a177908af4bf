import type { ArrivalResult } from '../arrival/condition.js';
import { MACH_INDEX_LIMIT } from '../engine/engine.js';
import type { Believability, TargetResult } from '../evaluate/target.js';
import type { SchoolId } from '../evaluate/estimates.js';
import type { LimitId } from '../evaluate/limits.js';
import type { MatchResult } from '../evaluate/match.js';
import { lowOf, oddsBetter, type HeadVerdict } from '../evaluate/verdict.js';
import { numberOf } from '../method/method.js';
import { DEGREES, PROBABLE, type Degree } from '../uncertainty/degree.js';
import type { Say } from '../quantity/format.js';
import { inches } from '../quantity/units.js';
import { arrivalMark, arrivalObjections } from './arrival.js';
import { listed } from './listed.js';
import { betterWords, evidenceWords, oddsBeside, oddsWords } from './verdict.js';

// judged.odds!, verdict.odds!: of heads that were judged.
// match.flow!, match.deciding!, a.price!, b.price!, oddsBetter()!: looked for in front of it.

const LIMIT_WORDS: Record<LimitId, string> = {
  flow: 'its flow',
  area: 'its least port area',
  valve: 'its valve area',
};

/** Lobe separation further from the wanted one than this is pointed at. */
const CAM_TOLERANCE = (2 * Math.PI) / 180;

const LEAD: Readonly<Record<Degree, string>> = {
  carries: 'Carries the target',
  'probably carries': 'Probably carries the target',
  "can't be told": 'Can’t be told',
  'probably short': 'Probably falls short',
  'falls short': 'Falls short',
};

/** The verdict on one head in words: how sure it is, why, and what holds the head back. */
export function matchWords(
  match: MatchResult,
  judged: HeadVerdict,
  target: TargetResult,
  speed: number,
  lobeSeparation: number | undefined,
  say: Say,
): string[] {
  const flow = (q: number) => say.of(q, 'flow', { digits: 0 });
  const rev = (n: number) => say.of(Math.round((n * 60) / 10) / 6, 'rotation');
  if (!match.intake) {
    const short = judged.degree === 'probably short' || judged.degree === 'falls short';
    return [
      ...judged.evidence.map((e) => evidenceWords(e, say)),
      ...(short ? [`${LEAD[judged.degree]} by its least port area alone (${oddsWords(judged.odds!)}).`] : []),
    ];
  }
  const sentences: string[] = [];
  const simulated = judged.evidence.find((e) => e.code === 'simulated');
  const claim = judged.evidence.find((e) => e.code === 'claim');
  const would = judged.odds !== undefined && judged.odds >= PROBABLE;
  const beside = oddsBeside(judged);
  const odds = beside === undefined ? '' : ` (${oddsWords(beside)})`;
  const lead =
    claim?.code === 'claim' && would
      ? `By the word of ${claim.source ?? 'its source'} alone it would carry${odds}`
      : `${LEAD[judged.degree]}${judged.degree === 'carries' ? '' : odds}`;
  if (simulated?.code === 'simulated') sentences.push(`${lead}. ${evidenceWords(simulated, say)}`);
  if (match.margin !== undefined && target.demand) {
    const best = numberOf(match.flow!);
    const spare =
      match.margin >= 0
        ? `${flow(match.margin)} to spare${match.reachedAt === undefined ? '' : `, reached at ${say.of(match.reachedAt, 'lift')}`}`
        : `${flow(-match.margin)} too little`;
    sentences.push(
      `${simulated ? 'By its flow' : lead}: ${flow(best)} at ${say.of(match.intake.best.lift, 'lift')} against ${flow(target.demand.value)} needed, ${spare}.`,
    );
  } else if (!simulated) sentences.push(`${lead}.`);

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
      `At the target its mean inlet Mach index is ${say.of(machIndex.value, 'ratio', { digits: 2 })}: VE starts to drop past ${MACH_INDEX_LIMIT}, so the cam must make up for it.`,
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
  sentences.push(...judged.evidence.filter((e) => e !== claim && e !== simulated).map((e) => evidenceWords(e, say)));
  return sentences;
}

export interface JudgedHead {
  readonly letter: string;
  readonly name: string;
  readonly match: MatchResult;
  readonly verdict: HeadVerdict;
  readonly price?: number;
  readonly arrival?: ArrivalResult;
}

/** Which of several heads carries the engine, how sure that is, and which of two is better, in a few sentences. */
export function bestWords(heads: readonly JudgedHead[]): string {
  const judged = heads.filter((h) => h.verdict.draws !== undefined);
  if (judged.length === 0) return 'No head in the lineup has an intake sheet this engine can be judged by.';
  const called = (h: JudgedHead) => `${h.letter} ${h.name}`;
  const rejected = judged.filter((h) => h.arrival?.condition === 'rejected');
  const known = judged.filter((h) => !rejected.includes(h));
  const out =
    rejected.length > 0
      ? ` ${listed(rejected.map(called))} ${rejected.length === 1 ? 'is' : 'are'} left out: rejected on arrival.`
      : '';
  if (known.length === 0) return `No head is left to choose.${out}`;
  const rank = (h: JudgedHead) => DEGREES.indexOf(h.verdict.degree);
  const order = [...known].sort((a, b) => rank(b) - rank(a) || lowOf(b.verdict) - lowOf(a.verdict));
  const best = order[0]!;
  const alike = order.filter((h) => h.verdict.degree === best.verdict.degree);
  const sentences: string[] = [];
  if (rank(best) >= DEGREES.indexOf('probably carries')) {
    sentences.push(
      `${called(best)} ${best.verdict.degree} the target${best.verdict.degree === 'carries' || oddsBeside(best.verdict) === undefined ? '' : ` (${oddsWords(best.verdict.odds!)})`}, with the most to spare.`,
    );
    if (alike.length === 1) sentences.push('It is the only one of which that can be said.');
    else {
      const cheapest = alike.filter((h) => h.price !== undefined).sort((a, b) => a.price! - b.price!)[0];
      if (cheapest && cheapest !== best) sentences.push(`${called(cheapest)} does it for the least money.`);
    }
  } else if (best.verdict.degree === "can't be told")
    sentences.push(
      `Of ${listed(alike.map(called))} it can’t be told whether ${alike.length === 1 ? 'it carries' : 'they carry'} the target; of no head can it be said.`,
    );
  else sentences.push(`No head carries the target. ${called(best)} comes nearest.`);
  const second = order[1];
  if (second) sentences.push(betterWords(best.letter, second.letter, oddsBetter(best.verdict, second.verdict)!));
  if (best.arrival && arrivalMark(best.arrival))
    sentences.push(`But ${best.letter} is not ready. ${arrivalObjections(best.arrival).join(' ')}`);
  return sentences.join(' ') + out;
}

const ESTIMATE_WORDS: Readonly<Record<SchoolId, string>> = {
  'peak-flow': 'peak flow',
  'ratio-derated': 'peak flow derated by the exhaust',
  area: 'port area',
  valve: 'mean inlet Mach index',
};

/** Said where the power estimates pick different heads; undefined where they agree. */
export function disagreementWords(heads: readonly Pick<JudgedHead, 'letter' | 'match'>[]): string | undefined {
  if (heads.length < 2) return undefined;
  const picks = (Object.keys(ESTIMATE_WORDS) as SchoolId[]).flatMap((id) => {
    const powers = heads.flatMap((h) => {
      const power = h.match.schools.find((s) => s.id === id)?.power;
      return power ? [{ letter: h.letter, power: power.value }] : [];
    });
    if (powers.length < heads.length) return [];
    const top = powers.reduce((a, b) => (b.power > a.power ? b : a));
    return [{ id, letter: top.letter }];
  });
  if (new Set(picks.map((p) => p.letter)).size < 2) return undefined;
  const by = new Map<string, string[]>();
  for (const p of picks) by.set(p.letter, [...(by.get(p.letter) ?? []), ESTIMATE_WORDS[p.id]]);
  return `The power estimates do not agree: ${[...by].map(([letter, ids]) => `by ${listed(ids)} it is ${letter}`).join('; ')}. They read different sizes of the head: each says what it assumes.`;
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

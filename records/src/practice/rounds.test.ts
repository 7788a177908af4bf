import { sayIn } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import demo from '../../../demo/bundle.json' with { type: 'json' };
import { readBundle } from '../files/bundle.js';
import { ROUND_KINDS, type Round } from '../nouns/index.js';
import { wholesOf } from '../wholes.js';
import { isRight, nextQuestion, practiceOf, practisedOf, type Asked } from './rounds.js';

const { bundle } = readBundle(demo);
const facts = {
  wholes: wholesOf(bundle),
  builds: bundle.builds.filter((b) => b.id === 'slate-six'),
  context: { sources: bundle.sources },
  say: sayIn('inch'),
};
const questions = practiceOf(facts, 7);
const of = (kind: Asked['kind']) => questions.filter((q) => q.kind === kind);
const round = (q: Asked, right: boolean, date: string): Round => ({
  id: `${q.name}${date}`,
  version: 1,
  who: '',
  kind: q.kind,
  question: q.name,
  answer: '',
  right,
  date,
});

describe('questions of the shop’s own heads', () => {
  it('are of every kind, each with an answer among its choices and a working', () => {
    for (const kind of ROUND_KINDS) expect(of(kind).length, kind).toBeGreaterThan(0);
    for (const q of questions) {
      if (q.choices) expect(q.choices[q.answer], q.name).toBeDefined();
      else expect(q.answer).toBeGreaterThan(0);
      expect(q.because.length, q.name).toBeGreaterThan(0);
    }
    expect(new Set(questions.map((q) => q.name)).size).toBe(questions.length);
  });
  it('ask of a head in an engine of its own bore, and of no other', () => {
    const diesel = bundle.builds.find((b) => b.id === 'tarrow-three')!;
    const asked = practiceOf({ ...facts, builds: [diesel] }, 7).filter(
      (q) => q.kind === 'which wins' || q.kind === 'which cam',
    );
    for (const q of asked) expect([...q.given, ...(q.choices ?? [])].join(' ')).not.toMatch(/417|522|Longreach/);
    expect(of('which wins').length).toBeGreaterThan(0);
  });
  it('are the same for the same seed, and plant other slips for another', () => {
    expect(practiceOf(facts, 7).map((q) => q.name)).toEqual(questions.map((q) => q.name));
    expect(practiceOf(facts, 8).map((q) => q.name)).not.toEqual(questions.map((q) => q.name));
  });
  it('are the same whatever heads stand beside them: what was missed on one visit comes again on another', () => {
    const half = { ...facts, wholes: facts.wholes.slice(0, Math.ceil(facts.wholes.length / 2)).reverse() };
    const fewer = practiceOf(half, 7);
    expect(fewer.length).toBeGreaterThan(5);
    // Two heads that are asked about as a pair may stand the other way round.
    const single = fewer.filter((q) => q.kind !== 'which wins');
    for (const q of single)
      expect(
        questions.find((o) => o.name === q.name),
        q.name,
      ).toEqual(q);
  });
  it('a slip leaves the line of its neighbours, and the sheet itself is untouched', () => {
    const slip = of('which figure slips').find((q) => q.table)!;
    const figure = (i: number) => Number.parseFloat(slip.table!.rows[i]![1]!);
    const middle = (figure(slip.answer - 1) + figure(slip.answer + 1)) / 2;
    expect(Math.abs(figure(slip.answer) / middle - 1)).toBeGreaterThan(0.03);
    expect(slip.because[0]).toContain('digits the other way round');
  });
  it('a sum is right only where it is', () => {
    for (const q of of('which figure slips').filter((x) => x.name.includes('sum'))) {
      const [, loss, gain, stated] = /sum (-?\d+) (\d+) (-?\d+)/.exec(q.name)!.map(Number) as [
        number,
        number,
        number,
        number,
      ];
      expect(q.answer).toBe(loss + gain === stated ? 0 : 1);
    }
  });
  it('a choke is the least of the areas; an impossible claim asks more than its valve has', () => {
    for (const q of of('where it chokes')) {
      const areas = q.because.map((b) => Number.parseFloat(b.split(': ')[1]!));
      expect(areas.indexOf(Math.min(...areas))).toBe(q.answer);
    }
    for (const q of of('possible or not')) {
      const share = Number.parseFloat(q.because[1]!.split('asks ')[1]!);
      expect(share > 100).toBe(q.answer === 1);
    }
  });
  it('a figure counts as known within its nearness', () => {
    const q = of('what it flows')[0]!;
    expect(isRight(q, q.answer * 1.07)).toBe(true);
    expect(isRight(q, q.answer * 1.1)).toBe(false);
    const c = of('which wins')[0]!;
    expect(isRight(c, c.answer)).toBe(true);
    expect(isRight(c, 1 - c.answer)).toBe(false);
  });
});

describe('what is asked next', () => {
  it('begins with something new, kinds in turn', () => {
    const first = nextQuestion(questions, [])!;
    const second = nextQuestion(questions, [round(first, true, '2026-06-01')])!;
    expect(second.kind).not.toBe(first.kind);
  });
  it('comes back to what was missed, not at once, and leaves it once it is known', () => {
    const [a, b, c] = questions as [Asked, Asked, Asked];
    const missed = [round(a, false, '2026-06-01'), round(b, true, '2026-06-02'), round(c, true, '2026-06-03')];
    expect(nextQuestion(questions, missed)!.name).toBe(a.name);
    expect(nextQuestion(questions, missed.slice(0, 1))!.name).not.toBe(a.name);
    const known = [...missed, round(a, true, '2026-06-04'), round(b, true, '2026-06-05')];
    expect(nextQuestion(questions, known)!.name).not.toBe(a.name);
    expect(nextQuestion([], missed)).toBeUndefined();
    expect(practisedOf(known).find((p) => p.kind === a.kind)!.asked).toBeGreaterThanOrEqual(2);
  });
});

import { leads } from '../flow/compare.js';
import type { FlowCurve } from '../flow/curve.js';
import { knee } from '../flow/describe.js';
import type { Say } from '../quantity/format.js';
import { inches } from '../quantity/units.js';
import { DEGREES, type Degree } from '../uncertainty/degree.js';
import { listed } from './listed.js';

/** A curve with the letter it goes by, and what was judged of its head. */
export interface Named {
  readonly letter: string;
  readonly curve: FlowCurve;
  readonly degree?: Degree | undefined;
}

/** A lead is told only when it lasts at least this long. */
const LEAST_STRETCH = inches(0.03);

/**
 * Reads a comparison aloud: who leads over which lifts and by how much, who carries the target, who stops gaining
 * before the cam does. Only leads the bench could tell are told. Undefined with no curve to read.
 */
export function compareWords(
  heads: readonly Named[],
  limit: number,
  repeatability: number,
  say: Say,
): string | undefined {
  if (heads.length === 0) return undefined;
  const flow = (q: number) => say.of(q, 'flow', { digits: 0 });
  const lift = (l: number) => say.of(l, 'lift');
  const sentences: string[] = [];
  const curves = heads.map((h) => h.curve);

  if (heads.length > 1) {
    const stretches = leads(curves, limit, repeatability).filter(
      (s) => s.leader >= 0 && s.to - s.from >= LEAST_STRETCH,
    );
    const top = stretches.at(-1);
    if (!top)
      sentences.push(
        `${listed(heads.map((h) => h.letter))} are not told apart: no difference is larger than the bench’s own.`,
      );
    else {
      const whole = stretches.length === 1 && top.from - Math.max(...curves.map((c) => c.first.lift)) < LEAST_STRETCH;
      sentences.push(
        `${heads[top.leader]!.letter} leads ${whole ? 'over the whole range' : `from ${lift(top.from)} up`}, by as much as ${flow(top.by)}.`,
      );
      const below = stretches
        .slice(0, -1)
        .filter((s) => s.leader !== top.leader)
        .sort((a, b) => b.by - a.by)[0];
      if (below)
        sentences.push(
          `Between ${lift(below.from)} and ${lift(below.to)} ${heads[below.leader]!.letter} is ahead by up to ${flow(below.by)}.`,
        );
    }
  }

  const groups = DEGREES.map((degree) => ({
    degree,
    letters: heads.filter((h) => h.degree === degree).map((h) => h.letter),
  })).filter((g) => g.letters.length > 0);
  if (groups.length > 0) sentences.push(`Against the target: ${groups.reverse().map(degreeOfThese).join('; ')}.`);

  const cam = Number.isFinite(limit);
  const early = heads.flatMap((h) => {
    const bend = knee(h.curve);
    // Without a cam nothing is said of one: only where the sheet itself goes on beyond the knee.
    const end = cam ? limit : h.curve.last.lift;
    return bend !== undefined && bend < end - LEAST_STRETCH / 2 ? [{ letter: h.letter, bend }] : [];
  });
  const byLift = new Map<string, string[]>();
  for (const { letter, bend } of early) byLift.set(lift(bend), [...(byLift.get(lift(bend)) ?? []), letter]);
  if (byLift.size > 0) {
    const parts = [...byLift].map(([at, letters]) => `${listed(letters)} at ${at}`);
    const many = early.length > 1;
    sentences.push(
      cam
        ? `${many ? 'These stop' : 'This one stops'} gaining before the cam does: ${parts.join(', ')}; a longer cam buys little there.`
        : `${many ? 'These gain' : 'This one gains'} little beyond ${[...byLift].map(([at, letters]) => `${at} (${listed(letters)})`).join(', ')}; the build has no cam to hold that against.`,
    );
  }
  return sentences.join(' ');
}

/** `A and C carry`, `B can’t be told`. */
function degreeOfThese({ degree, letters }: { degree: Degree; letters: readonly string[] }): string {
  const verb: Readonly<Record<Degree, readonly [one: string, many: string]>> = {
    carries: ['carries', 'carry'],
    'probably carries': ['probably carries', 'probably carry'],
    "can't be told": ['can’t be told', 'can’t be told'],
    'probably short': ['probably falls short', 'probably fall short'],
    'falls short': ['falls short', 'fall short'],
  };
  return `${listed(letters)} ${verb[degree][letters.length === 1 ? 0 : 1]}`;
}

/** What is alike and what is not between the set-ups of sheets laid side by side. */
export interface SetupFact {
  readonly what: string;
  /** Value per sheet, in words; undefined when unknown. */
  readonly values: readonly (string | undefined)[];
}

export interface Alike {
  readonly equal: readonly string[];
  readonly unequal: readonly { readonly what: string; readonly values: readonly (string | undefined)[] }[];
  /** Known for some, unknown for others. */
  readonly unknown: readonly string[];
}

export function compareSetups(facts: readonly SetupFact[]): Alike {
  const equal: string[] = [];
  const unknown: string[] = [];
  const unequal: SetupFact[] = [];
  for (const fact of facts) {
    const known = new Set(fact.values.filter((v) => v !== undefined));
    if (known.size > 1) unequal.push(fact);
    else if (fact.values.some((v) => v === undefined)) unknown.push(fact.what);
    else equal.push([...known][0] ?? fact.what);
  }
  return { equal, unequal, unknown };
}

/** What was decided, kept with what it was decided on: reproduced later, and held against what stands today. */
import { rankWays, type Criterion, type Leaf, type Ranked } from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { uncertaintyIn } from '../change/stageGain.js';
import { PROGRAM } from '../kept.js';
import type { Build } from '../nouns/build.js';
import type { Decision } from '../nouns/decide.js';
import { criteriaOf, mattersOf } from './matters.js';
import { firstOf } from './turns.js';
import { headText, type WayRead } from './ways.js';

type Content = Decision['content'];
type Records = Content['records'];

/** Records a way's figures were computed from, with their versions. */
function recordsOf(w: WayRead): Records {
  const of = (noun: string, list: readonly { readonly id: string; readonly version: number }[]): Records =>
    list.map(({ id, version }) => ({ noun, id, version }));
  const whole: WholeHead | undefined = w.whole;
  if (!whole) return of('way', [w.way]);
  const stages = new Set(whole.stages.map((s) => s.id));
  return [
    ...of('way', [w.way]),
    ...of('head', [whole.head]),
    ...of('stage', whole.stages),
    ...of('sheet', whole.sheets),
    ...of(
      'measure',
      whole.measures.filter((m) => stages.has(m.stageId)),
    ),
    ...of('finding', whole.findings),
    ...of('seat', whole.seats),
  ];
}

/** Everything a decision rests on today; each record once. */
function recordsNow(ways: readonly WayRead[], build: Build): Records {
  const all = [{ noun: 'build', id: build.id, version: build.version }, ...ways.flatMap(recordsOf)];
  return [...new Map(all.map((r) => [`${r.noun} ${r.id}`, r])).values()];
}

const MOST_RECORDS = 5000;

/** What is kept of a decision: printed figures, what the ranks were drawn from, versions of every record it read. */
export function decisionContent(
  ways: readonly WayRead[],
  build: Build,
  ranked: Ranked,
  chosen: string,
  words: readonly string[],
): Content {
  const matters = mattersOf(build);
  return {
    program: PROGRAM,
    chosen,
    words: words.map((w) => w.slice(0, 1000)).slice(0, 60),
    weights: matters,
    ways: ways.map((w, i) => ({
      id: w.way.id,
      name: w.way.name,
      head: w.whole ? headText(w) : '',
      cost: w.cost.sum.value,
      costU: w.cost.u,
      power: w.power?.value ?? null,
      powerU: w.power ? uncertaintyIn(w.power, w.book) : null,
      degree: w.degree ?? '',
      wins: ranked.wins[i] ?? 0,
      stops: w.stops.map((s) => s.slice(0, 400)),
    })),
    criteria: criteriaOf(ways, matters).map((c) => ({
      name: c.name,
      less: c.less,
      scores: c.scores.map((s) =>
        s
          ? {
              value: s.value,
              parts: s.parts.map(({ leaf, change }) => ({ id: leaf.id, spread: leaf.spread, change })),
            }
          : null,
      ),
    })),
    records: recordsNow(ways, build).slice(0, MOST_RECORDS),
  };
}

/** The ranks again, from nothing but what was kept; undefined where too little was. */
export function rankedAsDecided({ criteria, weights, ways }: Content): Ranked | undefined {
  if (criteria.length === 0) return undefined;
  const again = criteria.map((c): Criterion => ({
    name: c.name,
    less: c.less,
    weight: weights.find((w) => w.name === c.name)?.weight ?? 0,
    scores: c.scores.map((s) =>
      s
        ? {
            value: s.value,
            parts: s.parts.map(({ id, spread, change }) => ({
              leaf: { id, label: id, value: 0, spread: spread as Leaf['spread'], source: '' },
              change,
            })),
          }
        : undefined,
    ),
  }));
  return rankWays(ways.length, again);
}

/** How a decision stands today: what changed under it, and whether it would be taken again. */
export interface Standing {
  /** Nothing differs. */
  readonly same: boolean;
  /** The choice would come first again. */
  readonly holds: boolean;
  readonly said: readonly string[];
}

/** A figure that moved by less than this share is the same; so is a share of the draws. */
const SAME = 1e-6;
const SAME_SHARE = 0.005;

const wordsOf = (list: readonly string[]): string =>
  list.length > 4 ? `${list.slice(0, 3).join(', ')} and ${list.length - 3} more` : list.join(', ');

export function standingToday(
  decision: Pick<Decision, 'content'>,
  ways: readonly WayRead[],
  build: Build,
  ranked: Ranked,
): Standing {
  const { content } = decision;
  const said: string[] = [];
  const now = new Map(recordsNow(ways, build).map((r) => [`${r.noun} ${r.id}`, r]));
  const nameOf = (noun: string, id: string): string => {
    for (const { way, whole } of ways) {
      if (way.id === id) return `the way ${way.name}`;
      if (whole?.head.id === id) return whole.head.name;
      const sheet = whole?.sheets.find((s) => s.id === id);
      if (sheet) return `the sheet ${sheet.title}`;
      const stage = whole?.stages.find((s) => s.id === id);
      if (stage) return `the stage ${stage.name}`;
    }
    return noun === 'build' ? build.name : `a ${noun}`;
  };
  const old = new Map(content.records.map((r) => [`${r.noun} ${r.id}`, r]));
  const changed = content.records.filter((r) => {
    const stands = now.get(`${r.noun} ${r.id}`);
    return stands !== undefined && stands.version !== r.version;
  });
  const gone = content.records.filter((r) => !now.has(`${r.noun} ${r.id}`));
  const added = content.criteria.length > 0 ? [...now.values()].filter((r) => !old.has(`${r.noun} ${r.id}`)) : [];
  const names = (list: Records) => wordsOf([...new Set(list.map((r) => nameOf(r.noun, r.id)))]);
  if (changed.length > 0) said.push(`Changed since: ${names(changed)}.`);
  if (added.length > 0) said.push(`New since: ${names(added)}.`);
  if (gone.length > 0) said.push(`${gone.length} of the records it was made on are gone.`);

  const data = changed.length + gone.length + added.length > 0;
  const moved = content.ways.filter((w) => {
    const own = ways.find((x) => (w.id ? x.way.id === w.id : x.way.name === w.name));
    if (!own) return false;
    const near = (a: number | null, b: number | null | undefined) =>
      a === null || b === null || b === undefined
        ? a === (b ?? null)
        : Math.abs(a - b) <= SAME * Math.max(1, Math.abs(a));
    return !near(w.cost, own.cost.sum.value) || !near(w.power, own.power?.value);
  });
  if (moved.length > 0) {
    const what = moved.map((w) => w.name);
    said.push(
      data
        ? `The figures of ${wordsOf(what)} are others today: what they rest on changed.`
        : content.program === PROGRAM
          ? `The figures of ${wordsOf(what)} are others today although none of their records changed: the shop’s own assumptions did, or the method.`
          : `The figures of ${wordsOf(what)} are others today although none of their records changed: the method did (Alluvium ${content.program}, now ${PROGRAM}).`,
    );
  }
  const again = rankedAsDecided(content);
  if (again && again.wins.some((w, i) => Math.abs(w - (content.ways[i]?.wins ?? 0)) > SAME_SHARE))
    said.push('From the same figures the ranks would be drawn differently today: the method of ranking changed.');
  const best = firstOf(ways, ranked.wins);
  const holds = best !== undefined && best.way.name === content.chosen;
  if (best && !holds) said.push(`Today ${best.way.name} would come first.`);
  else if (holds && said.length > 0) said.push('The choice would still stand.');
  return { same: said.length === 0, holds, said };
}

/** The reading of the ways in words: what speaks for and against each, and where the estimates disagree. */
import { horsepower, normalShare, type Ranked, type Say } from '@alluvium/core';
import type { Build } from '../nouns/build.js';
import { mattersOf } from './matters.js';
import { disagreementOf, firstOf, flowToWin, priceToWin } from './turns.js';
import { edgeOf, moneyText, type WayRead } from './ways.js';

// ranked.wins[]!, ways[]!: one for each way.
// f.measured!: shown where it was measured.

/** What runs out first. */
const leastLimit = ({ evaluation }: WayRead) =>
  (evaluation?.verdict.limits ?? []).filter((l) => !l.usual).sort((a, b) => a.margin - b.margin)[0];

/** Chances of going over the budget under which nothing is said, and above which it is sure. */
const MAY = 0.05;
const SURELY = 0.95;

/** How a way stands against the budget, as sure as its guesses allow: `is 23 sov over the budget`; empty within it. */
export function budgetWords({ cost }: Pick<WayRead, 'cost'>, build: Build, say: Say): string {
  if (!build.budget || cost.lines.length === 0) return '';
  const by = cost.sum.value - build.budget.si;
  const chance = cost.u > 0 ? normalShare(by / cost.u) : by > 0 ? 1 : 0;
  const off = `what is guessed of it may be off by ${moneyText(2 * cost.u, build, say)}`;
  if (chance >= SURELY) return `is ${moneyText(by, build, say)} over the budget`;
  if (by > 0) return `is probably over the budget: by ${moneyText(by, build, say)}, and ${off}`;
  return chance > MAY ? `may go over the budget: ${moneyText(-by, build, say)} are left, and ${off}` : '';
}

/** What is said of all ways together. */
export function waysWords(ways: readonly WayRead[], build: Build, ranked: Ranked, say: Say): string[] {
  const said: string[] = [];
  const best = firstOf(ways, ranked.wins);
  if (ways.length > 1 && best)
    said.push(
      `With these weights ${best.way.name} comes first in ${say.of(ranked.wins[ways.indexOf(best)]!, 'percent', { digits: 0 })} of the draws.`,
    );
  for (const w of ways) {
    if (w.stops.length > 0) said.push(`${w.way.name} cannot go as it is: ${w.stops.join('; ')}.`);
    const budget = budgetWords(w, build, say);
    if (budget) said.push(`${w.way.name} ${budget}.`);
    if (w.open.length > 0) said.push(`${w.way.name} is not priced whole: ${w.open.join(' ')}`);
    if (w.way.gain && leastLimit(w)?.id === 'area')
      said.push(
        `${w.way.name}: more flow is planned, but its least port area is still the one measured, and runs out first. Plan the area too: a stage with that size.`,
      );
    for (const f of w.fit.filter((x) => x.contradicted))
      said.push(`${w.way.name}: somebody said “${f.item}” fits, the head itself says ${f.measured!.text}.`);
  }
  const apart = disagreementOf(ways);
  if (apart) {
    const { byPeak, derated, exhaust } = apart;
    said.push(
      `The power estimates disagree: by peak flow ${byPeak.way.name} makes more than ${derated.way.name}, derated by its exhaust less.` +
        (exhaust ? ` With ${say.of(exhaust, 'flow')} more exhaust flow it would lead by both.` : ''),
    );
  }
  const edge = edgeOf(ways);
  const beaten = ways.filter((w, i) => !edge[i] && w.power && w.cost.lines.length > 0);
  if (beaten.length > 0)
    said.push(
      `By price and power alone nothing speaks for ${beaten.map((w) => w.way.name).join(', ')}: another way is no dearer and makes no less.`,
    );
  return said;
}

/** The strongest reason for and against one way among the others. */
export interface WayReasons {
  readonly for: string;
  readonly against: string;
  /** What would put it first. */
  readonly turns: readonly string[];
}

/** Differences smaller than this are no reason. */
const WORTH_POWER = horsepower(1);

export function reasonsOf(ways: readonly WayRead[], at: number, build: Build, say: Say): WayReasons {
  const w = ways[at]!;
  const others = ways.filter((_, i) => i !== at);
  const matters = mattersOf(build);
  const money = (v: number) => moneyText(v, build, say);
  const weight = (name: string) => matters.find((m) => m.name === name)?.weight ?? 0;
  const good: { text: string; weight: number }[] = [];
  const bad: { text: string; weight: number }[] = [];
  const most = (of: (x: WayRead) => number | undefined) => others.flatMap((o) => of(o) ?? []);

  const power = w.power?.value;
  const powers = most((o) => o.power?.value);
  if (power !== undefined && powers.length > 0) {
    const next = Math.max(...powers);
    if (power > next + WORTH_POWER)
      good.push({ text: `the strongest, by ${say.of(power - next, 'power', { digits: 0 })}`, weight: weight('power') });
    else if (next > power + WORTH_POWER)
      bad.push({
        text: `${say.of(next - power, 'power', { digits: 0 })} short of the strongest`,
        weight: weight('power'),
      });
  }
  const priced = w.cost.lines.length > 0;
  const prices = most((o) => (o.cost.lines.length > 0 ? o.cost.sum.value : undefined));
  if (priced && prices.length > 0) {
    const least = Math.min(...prices);
    if (w.cost.sum.value < least)
      good.push({ text: `the cheapest, by ${money(least - w.cost.sum.value)}`, weight: weight('price') });
    else if (w.cost.sum.value > least)
      bad.push({ text: `${money(w.cost.sum.value - least)} dearer than the cheapest`, weight: weight('price') });
  }
  if (w.degree === 'carries' || w.degree === 'probably carries')
    good.push({ text: `it ${w.degree} the target`, weight: weight('risk') });
  if (w.degree === 'falls short' || w.degree === 'probably short')
    bad.push({
      text: w.degree === 'falls short' ? 'it falls short of the target' : 'it is probably short of the target',
      weight: weight('risk') + 1,
    });
  const budget = budgetWords(w, build, say);
  if (budget) bad.push({ text: `it ${budget}`, weight: budget.startsWith('may') ? 1 : 8 });
  const days = w.way.days;
  const times = most((o) => o.way.days ?? undefined);
  if (days !== null && times.length > 0) {
    const soonest = Math.min(...times);
    if (days < soonest) good.push({ text: `the soonest, in ${days} days`, weight: weight('time') });
    else if (days > soonest)
      bad.push({ text: `${days - soonest} days later than the soonest`, weight: weight('time') });
  }
  if (w.stops.length > 0) bad.push({ text: `something stops it: ${w.stops[0]}`, weight: 20 });
  const strongest = (list: typeof good) =>
    list.reduce((a, b) => (b.weight > a.weight ? b : a), { text: '', weight: -1 }).text;

  const price = priceToWin(ways, matters, at);
  const flow = flowToWin(ways, matters, at);
  const turns = [
    ...(price === undefined ? [] : [`if its price fell by ${money(price)}`]),
    ...(flow === undefined ? [] : [`if its intake gave ${say.of(flow, 'flow')} more`]),
  ];
  return { for: strongest(good) || 'nothing stands out', against: strongest(bad) || 'nothing stands out', turns };
}

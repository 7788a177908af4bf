/** Ways to go for a build: what each costs, makes and risks, side by side. */
import {
  budgetOfWorking,
  costPerGain,
  costPerPower,
  fromSi,
  gainAdded,
  joined,
  noted,
  numberOf,
  paretoEdge,
  peakFlowPower,
  rankWays,
  turnedRound,
  unitNamed,
  wayCost,
  weighedMarks,
  work,
  type Build as CoreBuild,
  type CostLine,
  type Criterion,
  type Degree,
  type Leaf,
  type LeafBook,
  type Ranked,
  type Say,
  type Scored,
  type TargetResult,
  type WayCost,
  type Working,
} from '@alluvium/core';
import type { WholeHead } from './api.js';
import { evaluateHead, type HeadEvaluation, type JudgingContext } from './evaluateHead.js';
import type { Build } from './nouns/build.js';
import type { CostLineRecord, Way } from './nouns/decide.js';

/** What can matter of itself; whatever else is named is marked by the owner. */
export const COMPUTED_MATTERS = ['power', 'price', 'time', 'risk'] as const;
export const USUAL_MATTERS: Build['matters'] = [
  { name: 'power', weight: 3 },
  { name: 'price', weight: 3 },
  { name: 'risk', weight: 2 },
  { name: 'time', weight: 1 },
];
export const mattersOf = ({ matters }: Pick<Build, 'matters'>): Build['matters'] =>
  matters.length > 0 ? matters : USUAL_MATTERS;

/** One line as core counts it; a sentence where it cannot be counted yet. */
function lineOf(line: CostLineRecord, i: number, build: Pick<Build, 'currency' | 'rates'>): CostLine | string {
  const name = line.text || line.kind;
  if (!line.price) return `${name}: no price yet.`;
  const own = line.currency === '' || line.currency === build.currency;
  const rate = own ? 1 : build.rates.find((r) => r.currency === line.currency)?.rate;
  if (rate === undefined) return `${name}: no exchange rate for ${line.currency}.`;
  return {
    id: String(i),
    name,
    quantity: line.quantity,
    price: line.price.si,
    exchange: rate,
    tax: line.tax,
    guess: line.guess?.si ?? 0,
  };
}

/** What a way costs, and the lines that could not be counted. */
export function costOfWay(
  way: Pick<Way, 'id' | 'lines'>,
  build: Pick<Build, 'currency' | 'rates' | 'tax'>,
): { readonly cost: WayCost; readonly open: readonly string[] } {
  const read = way.lines.map((line, i) => lineOf(line, i, build));
  return {
    cost: wayCost(
      way.id,
      read.filter((l) => typeof l !== 'string'),
      build.tax?.si ?? 0,
    ),
    open: read.filter((l) => typeof l === 'string'),
  };
}

export interface WayRead {
  readonly way: Way;
  readonly whole?: WholeHead;
  readonly evaluation?: HeadEvaluation;
  readonly cost: WayCost;
  /** Lines without a price or a rate: the sum is short of them. */
  readonly open: readonly string[];
  /** Power by the peak-flow rule at the target, with what is planned. */
  readonly power?: Working;
  readonly book: LeafBook;
  readonly perPower?: Working;
  /** Against the first way. */
  readonly perGain?: Working;
  readonly degree?: Degree;
  readonly odds?: number;
  readonly stops: readonly string[];
  readonly adapters: readonly string[];
}

const horsepower = (w: number): number => fromSi(w, unitNamed('power', 'hp')!);

/** Power with a planned gain added to the flow. */
function powerOf(
  way: Way,
  { match }: HeadEvaluation,
  core: CoreBuild,
  target: TargetResult,
): { readonly power?: Working; readonly leaf?: Leaf } {
  const { flow } = match;
  if (flow === undefined || target.powerPerFlow === undefined) return {};
  const of = (q: Parameters<typeof peakFlowPower.compute>[0]['flow'] | Working) =>
    work(peakFlowPower, {
      powerPerFlow: target.powerPerFlow!,
      flow: q,
      cylinders: core.cylinders,
      charge: target.charge,
    });
  const school = match.schools.find((s) => s.id === 'peak-flow')?.power;
  if (!way.gain) return school ? { power: school } : {};
  const id = `plan:${way.id}`;
  const planned = { ...work(gainAdded, { gains: [numberOf(flow), way.gain.si] }), leaf: id };
  return {
    power: of(planned),
    leaf: {
      id,
      label: `what is planned of ${way.name}`,
      value: planned.value,
      kind: 'flow',
      spread: { shape: 'normal', u: Math.max(1e-9, (way.gainBand?.si ?? 0) / 2) },
      source: 'the shop’s own forecast',
      settle: { act: 'cut one port and flow it', after: 0.0005, minutes: 240 },
    },
  };
}

function readWay(
  way: Way,
  build: Build,
  core: CoreBuild,
  target: TargetResult | undefined,
  wholes: readonly WholeHead[],
  context: JudgingContext,
): Omit<WayRead, 'perPower' | 'perGain'> {
  const { cost, open } = costOfWay(way, build);
  const whole = wholes.find((w) => w.stages.some((s) => s.id === way.stageId));
  const stops = way.fit.filter((f) => f.state === 'stops it').map((f) => `${f.item}${f.note ? `: ${f.note}` : ''}`);
  const adapters = way.fit.filter((f) => f.state === 'needs an adapter').map((f) => f.item);
  const plain = { way, cost, open, stops, adapters, book: cost.book };
  if (!whole || !target || !way.stageId) return { ...plain, ...(whole ? { whole } : {}) };
  const evaluation = evaluateHead(build, core, target, whole, way.stageId, null, context);
  const { power, leaf } = powerOf(way, evaluation, core, target);
  const own: LeafBook = { leaves: new Map(leaf ? [[leaf.id, leaf]] : []), made: new Map() };
  return {
    ...plain,
    whole,
    evaluation,
    ...(power ? { power } : {}),
    book: joined(evaluation.verdict.book, cost.book, own),
    degree: evaluation.verdict.degree,
    ...(evaluation.verdict.odds === undefined ? {} : { odds: evaluation.verdict.odds }),
  };
}

/** Every way of a build, read; the first is what the others are held against. */
export function readWays(
  ways: readonly Way[],
  build: Build,
  core: CoreBuild,
  target: TargetResult | undefined,
  wholes: readonly WholeHead[],
  context: JudgingContext = {},
): WayRead[] {
  const read = ways.map((way) => readWay(way, build, core, target, wholes, context));
  const base = read[0];
  return read.map((w, i): WayRead => {
    const power = w.power && horsepower(w.power.value);
    const more = power === undefined || !base?.power || i === 0 ? 0 : power - horsepower(base.power.value);
    return {
      ...w,
      ...(power && w.cost.sum.value > 0 ? { perPower: work(costPerPower, { cost: w.cost.sum, gain: power }) } : {}),
      ...(more > 0.5
        ? {
            perGain: work(costPerGain, {
              cost: w.cost.sum,
              base: noted(base!.cost.sum.value, base!.way.name),
              gain: more,
            }),
          }
        : {}),
    };
  });
}

const scored = (working: Working | undefined, book: LeafBook): Scored | undefined =>
  working && { value: working.value, parts: budgetOfWorking(working, book)?.shares ?? [] };
const flat = (value: number | undefined): Scored | undefined =>
  value === undefined ? undefined : { value, parts: [] };

/** What matters, with each way's figure for it; the owner's own things are marked 0 to 10. */
export function criteriaOf(ways: readonly WayRead[], matters: Build['matters']): Criterion[] {
  return matters.map(({ name, weight }): Criterion => {
    const of = (less: boolean, read: (w: WayRead) => Scored | undefined): Criterion => ({
      name,
      weight,
      less,
      scores: ways.map(read),
    });
    switch (name) {
      case 'power':
        return of(false, (w) => scored(w.power, w.book));
      case 'price':
        return of(true, (w) => (w.cost.lines.length > 0 ? scored(w.cost.sum, w.cost.book) : undefined));
      case 'time':
        return of(true, (w) => flat(w.way.days ?? undefined));
      case 'risk':
        return of(false, (w) => flat(w.stops.length > 0 ? 0 : w.odds));
      default:
        return of(false, (w) => flat(w.way.marks[name]));
    }
  });
}

export const rankOf = (ways: readonly WayRead[], matters: Build['matters']): Ranked =>
  rankWays(ways.length, criteriaOf(ways, matters));

/** Which ways lie on the edge of price against power; false for those without both. */
export function edgeOf(ways: readonly WayRead[]): boolean[] {
  const priced = ways.flatMap((w, i) =>
    w.power && w.cost.lines.length > 0 ? [{ i, cost: w.cost.sum.value, power: w.power.value }] : [],
  );
  const edge = paretoEdge(priced);
  return ways.map((_, i) => edge[priced.findIndex((p) => p.i === i)] ?? false);
}

/** The reading of the ways in words: what speaks for and against each, and where the estimates disagree. */
export function waysWords(ways: readonly WayRead[], build: Build, ranked: Ranked, say: Say): string[] {
  const money = (v: number) => `${say.of(v, 'money')}${build.currency ? ` ${build.currency}` : ''}`;
  const said: string[] = [];
  const best = ranked.wins.indexOf(Math.max(...ranked.wins));
  if (ways.length > 1 && ranked.wins[best]! > 0)
    said.push(
      `With these weights ${ways[best]!.way.name} comes first in ${say.of(ranked.wins[best]!, 'percent', { digits: 0 })} of the draws.`,
    );
  for (const w of ways) {
    if (w.stops.length > 0) said.push(`${w.way.name} cannot go as it is: ${w.stops.join('; ')}.`);
    if (build.budget && w.cost.sum.value > build.budget.si)
      said.push(`${w.way.name} is ${money(w.cost.sum.value - build.budget.si)} over the budget.`);
    if (w.open.length > 0) said.push(`${w.way.name} is not priced whole: ${w.open.join(' ')}`);
  }
  const both = ways.filter((w) => w.evaluation && !w.way.gain);
  const by = (id: string) =>
    both.map((w) => w.evaluation!.match.schools.find((s) => s.id === id)?.power?.value ?? Number.NaN);
  const [peak, derated] = [by('peak-flow'), by('ratio-derated')];
  const known = both.map((_, i) => Number.isFinite(peak[i]!) && Number.isFinite(derated[i]!));
  const turned = turnedRound(
    peak.filter((_, i) => known[i]),
    derated.filter((_, i) => known[i]),
  );
  if (turned) {
    const names = both.filter((_, i) => known[i]).map((w) => w.way.name);
    said.push(
      `The power estimates disagree: by peak flow ${names[turned[0]]!} makes more than ${names[turned[1]]!}, derated by its exhaust less.`,
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

/** What would have to change for a way to come first: how far its price would have to fall. */
export function priceToWin(ways: readonly WayRead[], matters: Build['matters'], at: number): number | undefined {
  const criteria = criteriaOf(ways, matters);
  const first = (cost: number): boolean => {
    const tried = criteria.map((c) =>
      c.name === 'price' ? { ...c, scores: c.scores.map((s, i) => (i === at && s ? { ...s, value: cost } : s)) } : c,
    );
    const marks = weighedMarks(ways.length, tried);
    return marks.every((m, i) => i === at || (m ?? 0) <= (marks[at] ?? 0));
  };
  const now = ways[at]!.cost.sum.value;
  if (first(now) || !first(0)) return undefined;
  let [low, high] = [0, now];
  for (let i = 0; i < 30; i++) {
    const mid = (low + high) / 2;
    if (first(mid)) low = mid;
    else high = mid;
  }
  return now - low;
}

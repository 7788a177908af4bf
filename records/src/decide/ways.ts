/** Ways to go for a build: what each costs, makes and risks, side by side. */
import {
  budgetOfMade,
  budgetOfWorking,
  costPerFlow,
  costPerGain,
  costPerPower,
  costPerTorque,
  fromSi,
  isWorking,
  joined,
  leafOf,
  noted,
  numberOf,
  paretoEdge,
  peakFlowPower,
  planLeaf,
  plannedFlow,
  plannedOdds,
  sayIn,
  shareLeaf,
  unitNamed,
  work,
  type Build as CoreBuild,
  type Degree,
  type Kind,
  type Leaf,
  type LeafBook,
  type Method,
  type Scored,
  type TargetResult,
  type WayCost,
  type Working,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { evaluateHead, type HeadEvaluation, type JudgingContext } from '../evaluateHead.js';
import type { Build } from '../nouns/build.js';
import type { Way } from '../nouns/decide.js';
import { costOfWay } from './cost.js';
import { fitAnswers, fitOf, fitText, needText, type FitRead } from './fit.js';
import { plannedWhole } from './planned.js';

// unitNamed()!: written by us.
// way.stageId!, evaluation.match.flow!, judged.evaluation!: a way with a head.
// base!: costs are told against one.

/** Mean torque of a way over the working speeds by simulation, and what its flow's uncertainty makes of it; N·m. */
export interface WayTorque {
  readonly value: number;
  readonly u: number;
}

export interface WayRead {
  readonly way: Way;
  readonly whole?: WholeHead;
  /** Of the head as planned work would make it, where some is planned. */
  readonly evaluation?: HeadEvaluation;
  /** The head that was judged: with what is planned. */
  readonly judged?: WholeHead;
  readonly cost: WayCost;
  /** Lines without a price or a rate: the sum is short of them. */
  readonly open: readonly string[];
  /** Flow that decides, with what is planned. */
  readonly flow?: Working | undefined;
  /** Power by the peak-flow rule at the target, with what is planned. */
  readonly power?: Working | undefined;
  readonly torque?: Scored;
  readonly book: LeafBook;
  readonly perPower?: Working;
  /** Against the first way. */
  readonly perGain?: Working | undefined;
  readonly perFlow?: Working | undefined;
  readonly perTorque?: Working | undefined;
  readonly degree?: Degree;
  readonly odds?: number;
  readonly fit: readonly FitRead[];
  readonly stops: readonly string[];
  readonly adapters: readonly string[];
}

const inUnit = (kind: Kind, symbol: string) => {
  const unit = unitNamed(kind, symbol)!;
  return (si: number): number => fromSi(si, unit);
};
export const horsepowerOf = inUnit('power', 'hp');
const cfmOf = inUnit('flow', 'cfm');
const poundFeetOf = inUnit('torque', 'lb ft');

/** Stands for the leaf of a torque that was run for one head at one stage. */
const torqueScored = (way: Way, { value, u }: WayTorque): Scored => ({
  value,
  parts:
    u > 0 ? [{ leaf: shareLeaf(`torque:${way.stageId}:${way.gain?.si ?? 0}`, 'torque as run', 1), change: u }] : [],
});

type Judged = Pick<WayRead, 'evaluation' | 'judged' | 'flow' | 'power' | 'degree' | 'odds'> & { readonly leaf?: Leaf };

/** The head of a way against the target, with what is planned in it. */
function judge(
  way: Way,
  build: Build,
  core: CoreBuild,
  target: TargetResult,
  whole: WholeHead,
  context: JudgingContext,
): Judged {
  const as = (w: WholeHead) => evaluateHead(build, core, target, w, way.stageId!, null, context);
  const now = as(whole);
  const found = now.match.flow;
  const schoolOf = ({ match }: HeadEvaluation) => match.schools.find((s) => s.id === 'peak-flow')?.power;
  if (!way.gain || found === undefined) {
    const { degree, odds } = now.verdict;
    return {
      evaluation: now,
      judged: whole,
      power: schoolOf(now),
      degree,
      ...(odds === undefined ? {} : { odds }),
    };
  }
  const judged = plannedWhole(whole, way.stageId!, way.gain.si / numberOf(found));
  const evaluation = as(judged);
  const flow = evaluation.match.flow!;
  const leaf = planLeaf(`plan:${way.id}`, way.name, way.gainBand?.si ?? 0);
  const planned = work(plannedFlow, { flow, off: noted(0, 'give or take what the shop said', leaf.id) });
  return {
    evaluation,
    judged,
    leaf,
    flow: planned,
    ...(target.powerPerFlow === undefined
      ? {}
      : {
          power: work(peakFlowPower, {
            powerPerFlow: noted(target.powerPerFlow, '', 'k'),
            flow: planned,
            cylinders: core.cylinders,
            charge: target.charge,
          }),
        }),
    ...plannedOdds(evaluation.verdict, leaf, numberOf(flow)),
  };
}

function readWay(
  way: Way,
  build: Build,
  core: CoreBuild,
  target: TargetResult | undefined,
  wholes: readonly WholeHead[],
  context: JudgingContext,
): WayRead {
  const { cost, open } = costOfWay(way, build);
  const whole = wholes.find((w) => w.stages.some((s) => s.id === way.stageId));
  const say = context.say ?? sayIn('inch');
  const fit = fitOf(way, whole && way.stageId ? fitAnswers(whole, way.stageId, build, say) : []);
  const stops = fit.filter((f) => f.state === 'stops it').map(fitText);
  const adapters = fit.filter((f) => f.state === 'needs an adapter').map(needText);
  const plain = { way, cost, open, fit, stops, adapters, book: cost.book };
  if (!whole || !target || !way.stageId) return { ...plain, ...(whole ? { whole } : {}) };
  const { leaf, ...judged } = judge(way, build, core, target, whole, context);
  const own: LeafBook = { leaves: new Map(leaf ? [[leaf.id, leaf]] : []), made: new Map() };
  return {
    ...plain,
    ...judged,
    whole,
    book: joined(judged.evaluation!.verdict.book, cost.book, own),
  };
}

type PerMethod = Method<{ cost: number; base: number; gain: number }>;

/** Gains smaller than this are none: half a horsepower, half a cfm, half a pound foot. */
const WORTH = 0.5;

/** Money for each of what a way gains over the first one; undefined where it gains none, or is not priced. */
function per(
  method: PerMethod,
  way: WayRead,
  base: WayRead,
  of: (way: WayRead) => number | undefined,
  unit: (si: number) => number,
): Working | undefined {
  const [own, before] = [of(way), of(base)];
  if (way === base || own === undefined || before === undefined || way.cost.lines.length === 0) return undefined;
  const gain = unit(own) - unit(before);
  if (gain <= WORTH) return undefined;
  return work(method, { cost: way.cost.sum, base: noted(base.cost.sum.value, base.way.name), gain });
}

/** The flow that decides, m³/s, with what is planned. */
export const flowOf = ({ flow, evaluation }: WayRead): number | undefined =>
  flow?.value ?? (evaluation?.match.flow && numberOf(evaluation.match.flow));

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
  return read.map((w): WayRead => {
    const power = w.power && horsepowerOf(w.power.value);
    return {
      ...w,
      ...(power && w.cost.sum.value > 0 ? { perPower: work(costPerPower, { cost: w.cost.sum, gain: power }) } : {}),
      perGain: per(costPerGain, w, base!, (r) => r.power?.value, horsepowerOf),
      perFlow: per(costPerFlow, w, base!, flowOf, cfmOf),
    };
  });
}

/** The ways with the torque that was run for some of them. */
export function withTorque(ways: readonly WayRead[], torque: ReadonlyMap<string, WayTorque>): WayRead[] {
  const run = ways.map((w): WayRead => {
    const own = torque.get(w.way.id);
    return own ? { ...w, torque: torqueScored(w.way, own) } : w;
  });
  const base = run[0];
  return run.map((w) => ({ ...w, perTorque: per(costPerTorque, w, base!, (r) => r.torque?.value, poundFeetOf) }));
}

/** Standard uncertainty of the flow that decides, as a share of it; undefined where nothing is known of it. */
export function flowShare({ flow, evaluation, book }: WayRead): number | undefined {
  const given = flow ?? evaluation?.match.flow;
  if (given === undefined) return undefined;
  const leaf = leafOf(given);
  const budget =
    leaf !== undefined && book.made.has(leaf)
      ? budgetOfMade(leaf, book)
      : isWorking(given)
        ? budgetOfWorking(given, book)
        : undefined;
  return budget && budget.u / numberOf(given);
}

/** Which ways lie on the edge of price against power; false for those without both. */
export function edgeOf(ways: readonly WayRead[]): boolean[] {
  const priced = ways.flatMap((w, i) =>
    w.power && w.cost.lines.length > 0 ? [{ i, cost: w.cost.sum.value, power: w.power.value }] : [],
  );
  const edge = paretoEdge(priced);
  return ways.map((_, i) => edge[priced.findIndex((p) => p.i === i)] ?? false);
}

/** `417 early, pinch opened`; what there is of a head. */
export function headText(w: Pick<WayRead, 'whole' | 'way'>): string {
  if (!w.whole) return 'no head yet';
  const stage = w.whole.stages.find((s) => s.id === w.way.stageId);
  return stage ? `${w.whole.head.name}, ${stage.name}` : w.whole.head.name;
}

/** Money in the build's currency. */
export const moneyText = (
  value: number,
  build: Pick<Build, 'currency'>,
  say: { of: (si: number, kind: 'money') => string },
) => `${say.of(value, 'money')}${build.currency ? ` ${build.currency}` : ''}`;

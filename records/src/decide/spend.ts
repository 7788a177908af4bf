/** What the next money buys best: the next cuts, more lift, another manifold, another head. */
import {
  evaluateTarget,
  work,
  powerForMoney,
  type Build as CoreBuild,
  type Say,
  type TargetResult,
  type Working,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { JudgingContext } from '../evaluateHead.js';
import { usualOf, type SingleCut } from '../change/usual.js';
import type { Build } from '../nouns/build.js';
import type { Way } from '../nouns/decide.js';
import type { ListPrice } from '../nouns/shop.js';
import { toCoreBuild } from '../toCore.js';
import { costOfWay } from './cost.js';
import { LIFT_STEP, withLift } from './turns.js';
import { readWays, type WayRead } from './ways.js';

// way.power!, ways[]!, readWays()[]!: ways that have a power, read one by one.

/** One thing that money could go into, from one way. */
export interface Spending {
  readonly what: string;
  /** What it rests on, in words. */
  readonly because: string;
  /** Undefined where nobody knows its price. */
  readonly cost?: number;
  /** Power it adds at the target, W. */
  readonly power: number;
  /** Power for the amount asked about, where it is priced. */
  readonly buys?: Working;
}

export interface SpendFacts {
  readonly build: Build;
  readonly core: CoreBuild;
  readonly target: TargetResult;
  readonly wholes: readonly WholeHead[];
  readonly context: JudgingContext;
  readonly cuts: readonly SingleCut[];
  readonly prices: readonly ListPrice[];
  /** What an hour of the shop costs. */
  readonly hourRate: number;
}

/** A kept forecast raises the mean flow over the cam; the flow that decides is taken to go with it. */
function ofForecasts(way: WayRead, facts: SpendFacts, powerOf: (way: Way) => number | undefined): Spending[] {
  const { whole } = way;
  if (!whole) return [];
  const open = whole.forecasts.filter(
    (f) => f.stageId === way.way.stageId && f.outcomeId === null && f.side === 'intake' && f.content.gain > 0,
  );
  return open.flatMap((f): Spending[] => {
    const gain = (way.way.gain?.si ?? 0) + f.content.gain;
    const power = powerOf({ ...way.way, gain: { si: gain, typed: '' }, gainBand: { si: 2 * f.content.u, typed: '' } });
    if (power === undefined) return [];
    const hours = usualOf(facts.cuts, f.operation, f.side, whole.head.kind).usual?.hours;
    const cost = hours !== undefined && facts.hourRate > 0 ? (hours / 3600) * facts.hourRate : undefined;
    return [
      {
        what: `${f.operation} on ${whole.head.name}`,
        because: `forecast of ${f.made}${f.by ? `, ${f.by}` : ''}${hours === undefined ? '; no hours of such cuts are known' : ''}`,
        power: power - way.power!.value,
        ...(cost === undefined ? {} : { cost }),
      },
    ];
  });
}

/** The price list's lines of some kinds, together, in the build's currency. */
function listed(facts: SpendFacts, kinds: readonly string[]): number | undefined {
  const lines = facts.prices.filter((p) => kinds.includes(p.line.kind)).map((p) => p.line);
  const { cost } = costOfWay({ id: 'list', lines }, facts.build);
  return cost.lines.length > 0 ? cost.sum.value : undefined;
}

/** Where money could go from one way, best first: by power for it, then what has no price by its power. */
export function spendings(
  ways: readonly WayRead[],
  at: number,
  amount: number,
  facts: SpendFacts,
  say: Say,
): Spending[] {
  const way = ways[at]!;
  if (!way.power) return [];
  const { build, core, target, wholes, context } = facts;
  const base = way.power.value;
  const powerIn = (own: Way, b: Build, c: CoreBuild, t: TargetResult) =>
    readWays([own], b, c, t, wholes, context)[0]!.power?.value;
  const found: Spending[] = ofForecasts(way, facts, (own) => powerIn(own, build, core, target));

  if (build.cam) {
    const raised = withLift(build, build.cam.intakeLift.si + LIFT_STEP);
    const c = toCoreBuild(raised, context.assumptions);
    const power = powerIn(way.way, raised, c, evaluateTarget(c));
    const cost = listed(facts, ['springs and retainers', 'rockers']);
    if (power !== undefined)
      found.push({
        what: `${say.of(LIFT_STEP, 'lift')} more lift`,
        because:
          cost === undefined
            ? 'no springs or rockers stand in the price list'
            : 'springs and rockers of the price list',
        power: power - base,
        ...(cost === undefined ? {} : { cost }),
      });
  }
  if (core.manifoldFlow !== undefined || core.manifoldLoss !== undefined) {
    const { manifoldFlow: _flow, manifoldLoss: _loss, ...open } = core;
    const power = powerIn(way.way, { ...build, manifoldFlow: null, manifoldLoss: null }, open, target);
    const cost = listed(facts, ['manifold']);
    if (power !== undefined)
      found.push({
        what: 'a manifold that holds nothing back',
        because: cost === undefined ? 'no manifold stands in the price list' : 'the manifold of the price list',
        power: power - base,
        ...(cost === undefined ? {} : { cost }),
      });
  }
  ways.forEach((other, i) => {
    if (i === at || !other.power || other.cost.lines.length === 0 || other.stops.length > 0) return;
    const cost = other.cost.sum.value - way.cost.sum.value;
    found.push({
      what: `${other.way.name} instead`,
      because: 'the difference of the two sums',
      power: other.power.value - base,
      cost,
    });
  });
  return found
    .filter((s) => s.power > 1 && (s.cost === undefined || s.cost > 0))
    .map((s): Spending =>
      s.cost === undefined ? s : { ...s, buys: work(powerForMoney, { amount, power: s.power, cost: s.cost }) },
    )
    .sort((a, b) => (b.buys?.value ?? -1) - (a.buys?.value ?? -1) || b.power - a.power);
}

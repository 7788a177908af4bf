/** What may be said of a head against a target, how sure it is, and what would change it. */
import { SAME_LIFT } from '../flow/curve.js';
import { narrowed, standardUncertainty, type Leaf, type Settle } from '../uncertainty/leaf.js';
import { USUAL_ASSUMPTIONS, type Assumptions } from '../uncertainty/assumptions.js';
import { SURE, degreeOf, leastSure, type Degree } from '../uncertainty/degree.js';
import {
  budgetOf,
  chanceAbove,
  combined,
  deviations,
  leastOf,
  moments,
  responses,
  shareAbove,
  type Response,
  type Share,
} from '../uncertainty/propagate.js';
import { normalQuantile } from '../uncertainty/normal.js';
import type { LeafBook, Made } from '../uncertainty/working.js';
import type { SimulatedPower } from '../simulation/power.js';
import { impossibleEvidence, rowsEvidence, sheetEvidence, softEvidence, type Evidence } from './evidence.js';
import { sheetsOf, testsOf, type HeadGeometry } from './head.js';
import { flowLeaf, portsOf, type MatchResult } from './match.js';
import { AREA_ITEMS, headModel, targetMade, type HardLimit, type HeadModel } from './model.js';
import { joined, sheetBook } from './sheetBook.js';
import { idOf } from './sheetLeaves.js';
import { meanOf, rowLeaf } from './sheetRows.js';
import type { Build, TargetResult } from './target.js';

// leaf.settle!: those that something settles.

/** One hard limit of one runner: ln(limit ÷ target), its standard uncertainty, the odds that it is above the target. */
export interface LimitOdds extends HardLimit {
  readonly margin: number;
  readonly u: number;
  readonly odds: number;
  readonly budget: readonly Share[];
}

export interface Answer {
  readonly label: string;
  readonly odds: number;
  readonly degree: Degree;
}
/** A reading in question whose answers do not all lead to one degree. */
export interface OpenQuestion {
  readonly runner: string;
  readonly question: string;
  readonly answers: readonly Answer[];
}

/** An act that would narrow the verdict. */
export interface Settling {
  readonly leaf: Leaf;
  readonly settle: Settle;
  /** Standard uncertainty of the margin now and then. */
  readonly before: number;
  readonly after: number;
  /** Odds then, if it comes out where it stands now. */
  readonly odds: number;
  /** The chance that the verdict is a sure one afterwards. */
  readonly decides: number;
}

/** The smallest change of one leaf that turns the verdict. */
export interface Flip {
  readonly leaf: Leaf;
  /** In the leaf's unit. */
  readonly change: number;
}

export interface HeadVerdict {
  readonly degree: Degree;
  /** Chance that every hard limit known is above the target; undefined when none is known. */
  readonly odds: number | undefined;
  /** Of the least margin, ln(limit ÷ target). */
  readonly margin: { readonly mean: number; readonly u: number } | undefined;
  readonly limits: readonly LimitOdds[];
  readonly evidence: readonly Evidence[];
  readonly open: readonly OpenQuestion[];
  readonly settling: readonly Settling[];
  readonly flips: readonly Flip[];
  /** The least margin in each draw: heads share their draws, so that shared errors cancel in a difference. */
  readonly draws: Float64Array | undefined;
  /** What the leaves do to what a screen shows. */
  readonly book: LeafBook;
  /** What the rules of thumb alone say, where the simulation was run and decides. */
  readonly byRules?: HeadVerdict;
}

/** A share of the margin's variance under which an act is not worth proposing. */
const WORTH = 0.01;
const MOST_ACTS = 6;

export function judgeHead(
  build: Build,
  target: TargetResult,
  head: HeadGeometry,
  match: MatchResult,
  assumptions: Assumptions = USUAL_ASSUMPTIONS,
  say: (lift: number) => string = (lift) => `${(lift * 1000).toFixed(2)} mm`,
): HeadVerdict {
  const model = headModel(build, target, head, match.reaches, assumptions, say);
  const { base, of } = responses(model);
  const count = model.limits.length;
  const margins = base.slice(0, count);
  const off = deviations(of, count);
  const evidence = evidenceOf(build, target, model, match, assumptions);
  let book: LeafBook | undefined;
  const sure = () => (book ??= bookOf(model, base, of, target, assumptions, say));
  if (count === 0)
    return {
      degree: degreeOf(undefined, evidence),
      odds: undefined,
      margin: undefined,
      limits: [],
      evidence,
      open: [],
      settling: [],
      flips: [],
      draws: undefined,
      get book() {
        return sure();
      },
    };
  const draws = leastOf(margins, off);
  const odds = shareAbove(draws);
  const open = openQuestions(model, margins, off, evidence, say);
  const stated = degreeOf(odds, evidence);
  let settling: readonly Settling[] | undefined;
  let flips: readonly Flip[] | undefined;
  return {
    degree: leastSure([stated, ...open.flatMap((q) => q.answers.map((a) => a.degree))]),
    odds,
    margin: moments(draws),
    limits: model.limits.map((limit, k) => ({
      ...limit,
      margin: margins[k]!,
      u: combined(of, k),
      odds: shareAbove(leastOf([margins[k]!], [off[k]!])),
      budget: budgetOf(of, k),
    })),
    evidence,
    open: open.filter((q) => new Set(q.answers.map((a) => a.degree)).size > 1),
    // Only a page that shows them pays for these: a library of claims asks for the degree alone.
    get settling() {
      return (settling ??= settlings(of, margins, off, draws));
    },
    get flips() {
      return (flips ??= flipsOf(model, of, margins));
    },
    draws,
    get book() {
      return sure();
    },
  };
}

/** The measured least area of a port with how well it is known; undefined where only its mean is. */
function placeOf(head: HeadGeometry, a: Assumptions): { readonly area: number; readonly u: number } | undefined {
  const areas = AREA_ITEMS.flatMap((item) => (head[item] === undefined ? [] : [{ item, area: head[item] }]));
  const [least] = areas.sort((p, q) => p.area - q.area);
  if (!least) return undefined;
  return { area: least.area, u: a.area * (head.sizes?.[least.item]?.stated ? a.statedSize : 1) };
}

function evidenceOf(
  build: Build,
  target: TargetResult,
  model: HeadModel,
  match: MatchResult,
  assumptions: Assumptions,
): Evidence[] {
  const found: Evidence[] = [];
  if (target.believability === 'unbelievable')
    found.push({ code: 'target', pressure: target.bmep.value, most: "can't be told" });
  const { reaches, limits } = model;
  const held = { most: "can't be told" } as const;
  if (reaches.length === 0) found.push({ code: 'no flow', ...held });
  else if (target.powerPerFlow === undefined) found.push({ code: 'fuel', ...held });
  const seen = new Set<string>();
  for (const { runner, head, over } of reaches) {
    const lift = target.usefulLift ?? over.best.lift;
    for (const e of [
      ...rowsEvidence(runner.sheet.intake.points, lift, runner.pooled),
      ...testsOf(runner).flatMap(({ facts }) => sheetEvidence(facts, build.bore, head.intakeValve?.diameter)),
      ...impossibleEvidence(runner.sheet.intake.points, head.intakeValve?.diameter, placeOf(head, assumptions)),
    ]) {
      const key = JSON.stringify(e);
      if (!seen.has(key)) found.push(e);
      seen.add(key);
    }
  }
  if (reaches.length > 0) {
    const probable = { most: 'probably carries' } as const;
    if (!limits.some((l) => l.id === 'area' && !l.usual)) found.push({ code: 'no area', ...probable });
    else if (reaches.some((r) => r.head.pinch === undefined && r.head.window === undefined))
      found.push({ code: 'mean area', ...probable });
    else if (reaches.some(({ head }) => AREA_ITEMS.every((i) => head[i] === undefined || head.sizes?.[i]?.stated)))
      found.push({ code: 'stated area', ...probable });
    const exhaust = match.exhaust?.best.flow;
    const intake = match.intake?.best.flow;
    found.push(
      ...softEvidence({
        machIndex: match.machIndex?.value,
        exhaustShare: exhaust === undefined || !intake ? undefined : exhaust / intake,
        natural: build.induction.kind === 'natural',
        pipe: match.deciding?.facts?.exhaustPipe,
      }),
    );
  }
  return found;
}

/**
 * Rows that break their curve and that nobody looked at again: what the verdict is with each as it was read, and with what its
 * neighbours suggest.
 */
function openQuestions(
  model: HeadModel,
  margins: readonly number[],
  off: readonly Float64Array[],
  evidence: readonly Evidence[],
  say: (lift: number) => string,
): OpenQuestion[] {
  const answer = (label: string, at: readonly number[]): Answer => {
    const odds = shareAbove(leastOf(at, off));
    return { label, odds, degree: degreeOf(odds, evidence) };
  };
  const tests = model.reaches.flatMap((reach) => portsOf(reach).flatMap(({ runner }) => testsOf(runner)));
  return tests.flatMap((test) =>
    test.sheet.intake.doubts.flatMap(({ index, expected }): OpenQuestion[] => {
      const row = test.sheet.intake.points[index];
      if (!row || test.facts?.looked?.some((lift) => Math.abs(lift - row.lift) < SAME_LIFT)) return [];
      const leaf = model.leaves.findIndex((l) => l.id === rowLeaf(idOf(test), 'intake', row.lift));
      if (leaf < 0) return [];
      const values = model.leaves.map((l) => l.value);
      values[leaf] = Math.log(expected / row.flow.value);
      return [
        {
          runner: test.name,
          question: `Is ${test.name} right at ${say(row.lift)}? It breaks its curve.`,
          answers: [
            answer('as it was read', margins),
            answer('as the rows beside it suggest', model.evaluate(values).slice(0, margins.length)),
          ],
        },
      ];
    }),
  );
}

/** Acts looked at: those whose leaves weigh most. */
const MOST_LOOKED_AT = 10;

/** What would settle it, the act that most likely decides first; nothing where the verdict is sure already. */
function settlings(
  of: readonly Response[],
  margins: readonly number[],
  off: readonly Float64Array[],
  draws: Float64Array,
): Settling[] {
  const odds = shareAbove(draws);
  if (odds >= SURE || odds <= 1 - SURE) return [];
  const now = moments(draws);
  const variance = margins.map((_, k) => combined(of, k) ** 2);
  const weight = (list: readonly Response[]) =>
    Math.max(...variance.map((v, k) => (v > 0 ? list.reduce((sum, r) => sum + r.change[k]! ** 2, 0) / v : 0)));
  const acts = new Map<string, Response[]>();
  for (const r of of)
    if (r.leaf.settle && r.leaf.settle.after < standardUncertainty(r.leaf.spread))
      acts.set(r.leaf.settle.act, [...(acts.get(r.leaf.settle.act) ?? []), r]);
  const z = normalQuantile(SURE);
  return [...acts.values()]
    .map((list) => ({ list, weight: weight(list) }))
    .filter((act) => act.weight > WORTH)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, MOST_LOOKED_AT)
    .flatMap(({ list }): Settling[] => {
      const largest = list.reduce((a, b) => (Math.hypot(...b.change) > Math.hypot(...a.change) ? b : a));
      const before = deviations(list, margins.length);
      const narrow = deviations(list.map(narrowedResponse), margins.length);
      const then = off.map((o, k) => o.map((v, d) => v - before[k]![d]! + narrow[k]![d]!));
      const after = leastOf(margins, then);
      const m = moments(after);
      if (m.u > now.u * 0.995) return [];
      const moves = Math.sqrt(Math.max(0, now.u ** 2 - m.u ** 2));
      return [
        {
          leaf: largest.leaf,
          settle: largest.leaf.settle!,
          before: now.u,
          after: m.u,
          odds: shareAbove(after),
          // The mean then lies N(mean, moves): sure on either side beyond z of what is left.
          decides: chanceAbove(m.mean - z * m.u, moves) + chanceAbove(-m.mean - z * m.u, moves),
        },
      ];
    })
    .sort((a, b) => b.decides - a.decides || a.after - b.after || a.settle.minutes - b.settle.minutes)
    .slice(0, MOST_ACTS);
}

/** A leaf's response once its act was done: the same slope over a narrower spread. */
function narrowedResponse(r: Response): Response {
  const u = standardUncertainty(r.leaf.spread);
  const after = r.leaf.settle!.after;
  const leaf = { ...r.leaf, spread: narrowed(r.leaf.spread, after) };
  return { leaf, change: r.change.map((c) => (c * after) / u) };
}

/** Furthest a leaf may be moved to look for the turn, in standard uncertainties. */
const FURTHEST = 30;

/** The smallest change of each leaf that brings the least margin to nothing, each found by evaluating the model itself. */
function flipsOf(model: HeadModel, of: readonly Response[], margins: readonly number[]): Flip[] {
  const count = margins.length;
  const values = model.leaves.map((l) => l.value);
  const leastAt = (i: number, deviation: number): number => {
    values[i] = model.leaves[i]!.value + deviation;
    const least = Math.min(...model.evaluate(values).slice(0, count));
    values[i] = model.leaves[i]!.value;
    return least;
  };
  const now = Math.min(...margins);
  const decisive = margins.indexOf(now);
  const near = [...of]
    .sort((a, b) => Math.abs(b.change[decisive]!) - Math.abs(a.change[decisive]!))
    .slice(0, MOST_LOOKED_AT);
  const found = near.flatMap(({ leaf }): (Flip & { times: number })[] => {
    const i = model.leaves.indexOf(leaf);
    const u = standardUncertainty(leaf.spread);
    for (const sign of [1, -1]) {
      let low = 0;
      let high = 0;
      for (let z = 0.5; z <= FURTHEST && high === 0; z *= 1.5) {
        const least = leastAt(i, sign * z * u);
        if (Number.isFinite(least) && least * now < 0) high = z;
        else low = z;
      }
      if (high === 0) continue;
      for (let k = 0; k < 24; k++) {
        const mid = (low + high) / 2;
        if (leastAt(i, sign * mid * u) * now < 0) high = mid;
        else low = mid;
      }
      return [{ leaf, change: sign * high * u, times: high }];
    }
    return [];
  });
  return found
    .sort((a, b) => a.times - b.times)
    .slice(0, MOST_ACTS)
    .map(({ leaf, change }) => ({ leaf, change }));
}

/** What the leaves do to the figures a screen shows: best flow, mean over the cam, what the target rests on. */
function bookOf(
  model: HeadModel,
  base: readonly number[],
  of: readonly Response[],
  target: TargetResult,
  a: Assumptions,
  say: (lift: number) => string,
): LeafBook {
  const count = model.limits.length;
  const made = model.reaches.flatMap(({ runner, over }, i): (readonly [string, Made])[] => {
    const flow = Math.exp(base[count + i]!);
    const best = of.map((r) => ({ leaf: r.leaf, change: r.change[count + i]! * flow })).filter((c) => c.change !== 0);
    const { mean } = over;
    if (!mean) return [[flowLeaf(runner), best]];
    const id = meanOf(idOf(runner), 'intake');
    const rows = sheetBook(sheetsOf(runner, 'intake'), 'intake', { cam: target.intakeCam }, a, say).made.get(id) ?? [];
    // What the engine's bore makes of the sheet is no fault of its rows.
    const fixture = best
      .filter((c) => c.leaf.id.startsWith('fixture:'))
      .map((c) => ({ leaf: c.leaf, change: (c.change / flow) * mean.value }));
    return [
      [flowLeaf(runner), best],
      [id, [...rows, ...fixture]],
    ];
  });
  const leaves = new Map(model.leaves.map((l) => [l.id, l]));
  return joined({ leaves, made: new Map(made) }, { leaves: new Map(), made: targetMade(target, leaves) });
}

/**
 * The verdict once the engine was simulated with the head: its power at the speed wanted decides, in place of the rules'
 * least margin. What the evidence holds back stays held back, and a reading in question stays one.
 */
export function verdictBySimulation(
  rules: HeadVerdict,
  { power: made, of }: SimulatedPower,
  wanted: number,
): HeadVerdict {
  const margin = Math.log(made / wanted);
  const off = deviations(of, 1);
  const draws = leastOf([margin], off);
  const odds = shareAbove(draws);
  const u = combined(of, 0);
  const { degree: byRules, odds: rulesOdds } = rules;
  const evidence: Evidence[] = [
    ...rules.evidence,
    { code: 'simulated', power: made, u: u * made, rules: byRules, odds: rulesOdds, most: 'carries' },
  ];
  return {
    degree: leastSure([degreeOf(odds, evidence), ...rules.open.flatMap((q) => q.answers.map((a) => a.degree))]),
    odds,
    margin: moments(draws),
    limits: rules.limits,
    evidence,
    open: rules.open,
    settling: settlings(of, [margin], off, draws),
    flips: [...of]
      .sort((a, b) => Math.abs(b.change[0]!) - Math.abs(a.change[0]!))
      .flatMap(({ leaf, change }): Flip[] => {
        const z = -margin / change[0]!;
        return Math.abs(z) <= FURTHEST_RUN ? [{ leaf, change: z * standardUncertainty(leaf.spread) }] : [];
      })
      .slice(0, MOST_ACTS),
    draws,
    // The figures on the screen are still the rules' own.
    get book() {
      return rules.book;
    },
    byRules: rules,
  };
}
/** Beyond this many standard uncertainties the runs say nothing of an assumption. */
const FURTHEST_RUN = 4;

/** The margin that is passed nine times in ten: heads are ranked by it, so that knowing less never ranks higher. −Infinity where none is known. */
export function lowOf({ draws }: Pick<HeadVerdict, 'draws'>): number {
  return draws ? Float64Array.from(draws).sort()[Math.floor(draws.length / 10)]! : -Infinity;
}

/**
 * Chance that one head's least margin lies above another's; what they share cancels. Two that were judged by different
 * methods are compared by the rules, which judge both. Undefined when either is not known.
 */
export function oddsBetter(one: HeadVerdict, other: HeadVerdict): number | undefined {
  const alike = Boolean(one.byRules) === Boolean(other.byRules);
  const [a, b] = alike ? [one, other] : [one.byRules ?? one, other.byRules ?? other];
  if (!a.draws || !b.draws) return undefined;
  let better = 0;
  let same = 0;
  for (let d = 0; d < a.draws.length; d++) {
    if (a.draws[d]! > b.draws[d]!) better++;
    else if (a.draws[d]! === b.draws[d]!) same++;
  }
  return (better + same / 2) / a.draws.length;
}

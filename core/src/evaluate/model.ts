/** A head against a target as a model: from what is not known exactly to how far each limit lies from the target. */
import { flowCurve, SAME_LIFT } from '../flow/curve.js';
import { peakWithin } from '../flow/describe.js';
import { alongUsualShape } from '../flow/usualShape.js';
import { isWorking, numberOf } from '../method/method.js';
import { USUAL_ASSUMPTIONS, USUAL_PRIORS, type Assumptions } from '../uncertainty/assumptions.js';
import { standardUncertainty, type Leaf } from '../uncertainty/leaf.js';
import { Leaves, shareLeaf } from '../uncertainty/leaves.js';
import type { Model } from '../uncertainty/propagate.js';
import type { LeafBook, Made } from '../uncertainty/working.js';
import { withManifold } from '../power/manifold.js';
import { BORE_NEAR, nearestRow, WEAK_EXHAUST, type SheetFacts } from './evidence.js';
import { sheetsOf, sizeLeaf, type HeadGeometry, type Runner, type SizeItem } from './head.js';
import { portsOf, type RunnerReach } from './match.js';
import { idOf } from './sheetLeaves.js';
import { rowReader } from './sheetRows.js';
import { sideOverCam } from './sheet.js';
import { camLiftOf, CHARGE_LEAF, type Build, type TargetResult } from './target.js';

/** A hard limit of one runner. */
export interface HardLimit {
  readonly runner: string;
  readonly id: 'flow' | 'area';
  /** Nothing of it was measured: it is taken as it usually is. */
  readonly usual?: boolean;
}

/**
 * Outputs: first the margins ln(limit ÷ target), one a runner and limit in the order of `limits`; then ln of each
 * runner's best flow, in the order of `reaches`, for the budgets of what rests on it.
 */
export interface HeadModel extends Model {
  readonly limits: readonly HardLimit[];
  readonly reaches: readonly RunnerReach[];
}

const P = 'common practice, no source';

type Read = (values: ArrayLike<number>) => number;

export const AREA_ITEMS = ['pinch', 'window'] as const;
const SIZE_WORDS: Readonly<Record<SizeItem, string>> = {
  pinch: 'pinch',
  window: 'window over the short turn',
  portVolume: 'port volume',
  portLength: 'port length',
};

function sizeRead(leaves: Leaves, head: HeadGeometry, item: SizeItem, a: Assumptions): Read {
  const value = head[item]!;
  const facts = head.sizes?.[item];
  const usual = item === 'portVolume' ? a.volume : item === 'portLength' ? a.length : a.area;
  const count = facts?.count ?? 1;
  const one = Math.hypot(value * usual * (facts?.stated ? a.statedSize : 1), (facts?.resolution ?? 0) / Math.sqrt(3));
  const u = one / Math.sqrt(count);
  const i = leaves.add({
    id: sizeLeaf(head, item),
    label: SIZE_WORDS[item],
    value,
    kind: item === 'portVolume' ? 'volume' : item === 'portLength' ? 'length' : 'area',
    spread: { shape: 'normal', u },
    source: facts?.stated
      ? 'stated by its source, not measured'
      : `${count === 1 ? 'one measurement' : `mean of ${count}`}; ${P}`,
    settle: facts?.stated
      ? { act: `measure the ${SIZE_WORDS[item]}`, after: value * usual, minutes: 10 }
      : { act: `measure the ${SIZE_WORDS[item]} twice more`, after: one / Math.sqrt(count + 2), minutes: 15 },
  });
  return (x) => x[i]!;
}

/** Least port area of one runner; a mean area hides a choke, so a share of it is taken, likeliest nine tenths. */
function areaRead(leaves: Leaves, head: HeadGeometry, a: Assumptions): Read | undefined {
  const measured = AREA_ITEMS.filter((item) => head[item] !== undefined);
  if (measured.length > 0) {
    const reads = measured.map((item) => sizeRead(leaves, head, item, a));
    return (x) => Math.min(...reads.map((read) => read(x)));
  }
  if (head.portVolume === undefined || head.portLength === undefined) return undefined;
  const volume = sizeRead(leaves, head, 'portVolume', a);
  const length = sizeRead(leaves, head, 'portLength', a);
  const half = (1 - a.chokeShare) / 2;
  const choke = leaves.add({
    id: `choke:${sizeLeaf(head, 'portVolume')}`,
    label: 'least area against the mean one',
    value: 1 - half,
    kind: 'percent',
    spread: { shape: 'uniform', half },
    source: `a mean area hides the choke; ${P}`,
    settle: { act: 'measure the pinch', after: a.area, minutes: 10 },
  });
  return (x) => (volume(x) / length(x)) * x[choke]!;
}

/** Best flow of one runner within the cam's lift, rebuilt from its rows. */
function flowRead(
  leaves: Leaves,
  reach: RunnerReach,
  limit: number | undefined,
  bore: number | undefined,
  a: Assumptions,
  say: (lift: number) => string,
): Read {
  const { runner, over } = reach;
  const lift = limit ?? over.best.lift;
  const sheets = sheetsOf(runner, 'intake').map((sheet) => ({
    ...sheet,
    extra: [...(sheet.extra ?? []), ...fixtureLeaf(sheet.facts, bore, a)],
  }));
  const rows = rowReader(leaves, sheets, 'intake', a, say);
  const between = betweenLeaf(runner, lift, a, say).map((l) => leaves.add(l));
  const { times } = onlyRow(runner, lift);
  return (x) => {
    let all = 0;
    for (const i of between) all += x[i]!;
    const moved = rows(x, all);
    const curve = moved.length > 1 ? flowCurve(moved) : undefined;
    return curve ? peakWithin(curve, lift).flow : moved[0]!.flow * times;
  };
}

/** What the only row of a sheet is taken times at a lift below it: what lies above is at least the row's. */
function onlyRow(runner: Runner, lift: number): { readonly times: number; readonly u: number } {
  const [only, second] = runner.sheet.intake.points;
  return only && !second && only.lift > lift + SAME_LIFT ? alongUsualShape(only, lift) : { times: 1, u: 0 };
}

function fixtureLeaf(facts: SheetFacts | undefined, bore: number | undefined, a: Assumptions): Leaf[] {
  if (facts?.bore === undefined || bore === undefined) return [];
  const off = Math.abs(facts.bore / bore - 1);
  if (off <= BORE_NEAR) return [];
  return [
    shareLeaf(`fixture:${facts.id}`, 'what the fixture’s bore makes of it', Math.min(0.08, a.fixture * off), {
      act: 'test it on a fixture of this engine’s bore',
      after: a.setup,
      minutes: 60,
    }),
  ];
}

function betweenLeaf(runner: Runner, lift: number, a: Assumptions, say: (lift: number) => string): Leaf[] {
  const off = nearestRow(runner.sheet.intake.points, lift);
  if (off <= a.rowReach) return [];
  const between = Math.min(0.3, (a.betweenRows * (off - a.rowReach)) / 0.0254);
  return [
    shareLeaf(
      `between:${idOf(runner)}`,
      'flow between the rows that were read',
      Math.max(between, onlyRow(runner, lift).u),
      { act: `read ${runner.name} at ${say(lift)}`, after: a.repeatability, minutes: 5 },
    ),
  ];
}

export function headModel(
  build: Build,
  target: TargetResult,
  head: HeadGeometry,
  reaches: readonly RunnerReach[],
  a: Assumptions,
  say: (lift: number) => string,
): HeadModel {
  const leaves = new Leaves();
  const flows = reaches.map((reach) => {
    const ports = portsOf(reach).map((r) => flowRead(leaves, r, target.usefulLift, build.bore, a, say));
    // Ports of one cylinder that were not tested are taken like those that were.
    const each = (reach.head.intakePorts ?? 1) / ports.length;
    return (x: ArrayLike<number>) => each * ports.reduce((sum, read) => sum + read(x), 0);
  });
  const factor = powerFactor(leaves, build, target, a);
  const speed = areaSpeed(leaves, build, target, a);
  const limits: HardLimit[] = [];
  const margins: Read[] = [];
  reaches.forEach((reach, i) => {
    const read = flows[i]!;
    if (factor) {
      limits.push({ runner: reach.runner.name, id: 'flow' });
      const cost = exhaustCost(leaves, build, target, reach, a);
      margins.push((x) => Math.log(withManifold(read(x), build) * factor(x)) - cost(x));
    }
    const area = areaRead(leaves, reach.head, a);
    const ports = reach.head.intakePorts ?? 1;
    if (area) {
      limits.push({ runner: reach.runner.name, id: 'area' });
      margins.push((x) => Math.log(ports * area(x) * speed(x)));
    } else {
      limits.push({ runner: reach.runner.name, id: 'area', usual: true });
      const usual = usualSpeed(leaves, reach, a);
      margins.push((x) => Math.log((read(x) / usual(x)) * speed(x)));
    }
  });
  if (reaches.length === 0) {
    const area = areaRead(leaves, head, a);
    if (area) {
      limits.push({ runner: '', id: 'area' });
      margins.push((x) => Math.log(area(x) * speed(x)));
    }
  }
  return {
    leaves: leaves.list,
    limits,
    reaches,
    evaluate: (x) => [...margins.map((m) => m(x)), ...flows.map((f) => Math.log(f(x)))],
  };
}

/** The speed a port whose least area nobody measured is taken to have there, m/s. */
function usualSpeed(leaves: Leaves, { runner }: RunnerReach, a: Assumptions): Read {
  const { mean, u } = (a.priors ?? USUAL_PRIORS).speed;
  const i = leaves.add(
    shareLeaf(`speed:${idOf(runner)}`, `least port area of ${runner.name}, not measured`, u, {
      act: 'measure its least port area: pinch or window',
      after: 0.02,
      minutes: 15,
    }),
  );
  return (x) => Math.exp(mean + x[i]!);
}

/** A measured exhaust's share: two readings, and the pipe where nobody states it. Common practice, no source. */
const EXHAUST_READ = 0.02;
const PIPE_OPEN = 0.05;
/** What of a weak exhaust counts: nothing (peak flow alone) to this (a part of the derating by exhaust over intake). Common practice, no source. */
const MOST_COST = 0.3;

/** What the exhaust of a runner takes off its margin, growing as it gets weaker. */
function exhaustCost(
  leaves: Leaves,
  build: Build,
  target: TargetResult,
  { runner, over }: RunnerReach,
  a: Assumptions,
): Read {
  if (build.induction.kind !== 'natural') return () => 0;
  const found = sideOverCam(runner.sheet.exhaust, build.cam && camLiftOf(build.cam, 'exhaust'), target.exhaustCam);
  const usual = (a.priors ?? USUAL_PRIORS).exhaust;
  const share = found ? found.best.flow / over.best.flow : Math.exp(usual.mean);
  const open = !found ? usual.u : runner.facts?.exhaustPipe === 'unknown' ? PIPE_OPEN : EXHAUST_READ;
  // Far above the band nothing that is open matters.
  if (share > WEAK_EXHAUST * Math.exp(4 * open)) return () => 0;
  const e = leaves.add(
    shareLeaf(
      `exhaust:${idOf(runner)}`,
      found ? `exhaust against intake of ${runner.name}` : `exhaust of ${runner.name}, not flowed`,
      open,
      found ? undefined : { act: 'flow its exhaust', after: EXHAUST_READ, minutes: 30 },
    ),
  );
  const part = leaves.add({
    id: 'exhaustPart',
    label: 'what of a weak exhaust counts',
    value: MOST_COST / 2,
    kind: 'ratio',
    spread: { shape: 'uniform', half: MOST_COST / 2 },
    source: `between peak flow alone and the derating by exhaust over intake; ${P}`,
  });
  return (x) => x[part]! * Math.max(0, Math.log(WEAK_EXHAUST / share) - x[e]!);
}

/** Power each flow carries over the power the air must make, 1/(m³/s); undefined where the fuel has no power per flow. */
function powerFactor(leaves: Leaves, build: Build, target: TargetResult, a: Assumptions): Read | undefined {
  if (target.powerPerFlow === undefined) return undefined;
  const [low, likely, high] = a.powerPerFlow;
  const stated = build.powerPerFlow;
  const k = leaves.add({
    id: 'k',
    label: 'power per flow',
    value: target.powerPerFlow,
    kind: 'powerPerFlow',
    spread:
      stated === undefined
        ? { shape: 'triangular', low: likely - low, high: high - likely }
        : { shape: 'triangular', low: stated * a.statedFactor, high: stated * a.statedFactor },
    source: stated === undefined ? P : 'stated for this build',
    settle: {
      act: 'learn the factor from a dyno pull of an engine like this one',
      after: 0.015 * target.powerPerFlow,
      minutes: 240,
    },
  });
  const charge = chargeLeaf(leaves, target, a);
  const air = airLeaf(leaves, build, target, a);
  return (x) => (x[k]! * build.cylinders * charge(x)) / air(x);
}

/** Figures of the target that are made of leaves of their own: charge density, and the power the air must make. */
export function targetMade(target: TargetResult, leaves: ReadonlyMap<string, Leaf>): Map<string, Made> {
  const charge = leaves.get('charge');
  const nitrous = leaves.get('nitrous');
  return new Map([
    ...(charge
      ? [
          [
            CHARGE_LEAF,
            [{ leaf: charge, change: numberOf(target.charge) * standardUncertainty(charge.spread) }],
          ] as const,
        ]
      : []),
    ...(nitrous ? [['airPower', [{ leaf: nitrous, change: -standardUncertainty(nitrous.spread) }]] as const] : []),
  ]);
}

/** What the figures of a target rest on. */
export function targetBook(build: Build, target: TargetResult, a: Assumptions = USUAL_ASSUMPTIONS): LeafBook {
  const model = headModel(build, target, {}, [], a, String);
  const leaves = new Map(model.leaves.map((l) => [l.id, l]));
  return { leaves, made: targetMade(target, leaves) };
}

function chargeLeaf(leaves: Leaves, target: TargetResult, a: Assumptions): Read {
  const value = numberOf(target.charge);
  if (!isWorking(target.charge)) return () => value;
  const i = leaves.add(shareLeaf('charge', 'charge density under boost', a.charge));
  return (x) => value * (1 + x[i]!);
}

function airLeaf(leaves: Leaves, build: Build, target: TargetResult, a: Assumptions): Read {
  if (build.induction.kind !== 'nitrous') return () => target.airPower;
  const { power } = build.induction;
  const i = leaves.add({
    id: 'nitrous',
    label: 'what the nitrous adds',
    value: power,
    kind: 'power',
    spread: { shape: 'uniform', half: a.nitrous * power },
    source: P,
  });
  return (x) => Math.max(1, build.power - x[i]!);
}

/** Speed each area carries over the speed wanted, 1/m². */
function areaSpeed(leaves: Leaves, build: Build, target: TargetResult, a: Assumptions): Read {
  const limit = leaves.add({
    id: 'velocityLimit',
    label: 'port velocity not to pass',
    value: target.velocityLimit,
    kind: 'velocity',
    spread: { shape: 'uniform', half: target.velocityLimit * a.velocityLimit },
    source: build.velocityLimit === undefined ? P : 'stated for this build',
  });
  const size = (item: 'bore' | 'stroke') =>
    leaves.add({
      id: `build.${item}`,
      label: item,
      value: numberOf(target.sizes[item]),
      kind: 'length',
      spread: { shape: 'uniform', half: build[item] === undefined ? 0 : (build.resolution?.[item] ?? 0) },
      source: 'as written',
    });
  const bore = size('bore');
  const stroke = size('stroke');
  const ratioValue = numberOf(target.pistonRatio);
  const ratio = isWorking(target.pistonRatio)
    ? undefined
    : leaves.add({
        id: 'pistonRatio',
        label: 'peak against mean piston speed, rod unknown',
        value: ratioValue,
        kind: 'ratio',
        spread: { shape: 'uniform', half: ratioValue * a.pistonRatio },
        source: 'rods of 1.5 to 2.2 strokes',
        settle: { act: 'measure the rod', after: 0.002 * ratioValue, minutes: 5 },
      });
  return (x) =>
    x[limit]! /
    ((ratio === undefined ? ratioValue : x[ratio]!) * 2 * x[stroke]! * (Math.PI / 4) * x[bore]! ** 2 * build.speed);
}

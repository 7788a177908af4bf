import { portVelocity } from '../engine/engine.js';
import { sharedLifts } from '../flow/compare.js';
import type { FlowPoint } from '../flow/curve.js';
import { againstWindow, lobeSeparationWanted, portsTogether, sectionSpeed, windowRule } from '../head/ratios.js';
import { throatArea } from '../valve/areas.js';
import { noted, numberOf, work, type Given, type Working } from '../method/method.js';
import { throughManifoldOf } from '../power/manifold.js';
import { costPerPower } from '../power/schools.js';
import { fromSi, unitNamed } from '../quantity/units.js';
import { powerEstimates, type School } from './estimates.js';
import { leastPortArea, type HeadGeometry, type Runner } from './head.js';
import { areaLimit, flowLimit, valveLimit, type Limit } from './limits.js';
import { sideOverCam, type OverCam } from './sheet.js';
import { idOf } from './sheetLeaves.js';
import { meanOf } from './sheetRows.js';
import { camLiftOf, type Build, type TargetResult } from './target.js';

// curve.at()!: lifts the curve reaches.
// unitNamed()!: written by us.

export interface MatchResult {
  /** The runner that runs out first, of flow or of its own port's area. Undefined when nothing was flowed. */
  readonly deciding?: Runner;
  readonly intake?: OverCam;
  readonly exhaust?: OverCam;
  /** Every runner's best intake flow within the cam's lift. */
  readonly runners: readonly { readonly name: string; readonly best: FlowPoint }[];
  /** The same, each with its flow, its own port's sizes and its hard limits: what the verdict is made of. */
  readonly reaches: readonly RunnerReach[];
  /** Flow that decides: the port's, through the manifold when its flow is known. */
  readonly flow?: Given<number>;
  /** Lowest lift at which the deciding port reaches the demand; undefined when it does not within the cam. */
  readonly reachedAt?: number;
  /** Flow less demand, m³/s. */
  readonly margin?: number;
  readonly schools: readonly School[];
  readonly limits: readonly Limit[];
  /** Of flow and port area, the one that runs out first. */
  readonly first?: Limit;
  readonly portVelocity?: Working;
  readonly machIndex?: Working;
  readonly lobeSeparation?: Working;
  readonly windowFlow?: Working;
  readonly againstWindow?: Working;
  readonly benchSpeed?: Working;
  /** Average speeds at the best flow, 28 in: over the short turn and in the throat. */
  readonly windowSpeed?: Working;
  readonly throatSpeed?: Working;
  readonly leastArea?: Given<number>;
  readonly cost?: Working;
}

/** One runner over this cam: its own port's sizes, its flow through the manifold, its hard limits. */
export interface RunnerReach {
  readonly runner: Runner;
  readonly head: HeadGeometry;
  readonly over: OverCam;
  readonly flow: Given<number>;
  readonly area?: Given<number>;
  readonly limits: readonly Limit[];
  /** The other ports of its cylinder. */
  readonly beside: readonly RunnerReach[];
}

/** Every tested port of the runner's cylinder, itself first. */
export const portsOf = (reach: RunnerReach): readonly RunnerReach[] => [reach, ...reach.beside];

export const flowLeaf = (runner: Runner): string => `flow:${idOf(runner)}`;

/** Every runner that was flowed, with where it runs out. */
function runnersOf(build: Build, target: TargetResult, head: HeadGeometry, runners: readonly Runner[]): RunnerReach[] {
  return runners.flatMap((runner): RunnerReach[] => {
    const found = sideOverCam(runner.sheet.intake, target.usefulLift, target.intakeCam);
    if (!found) return [];
    const over: OverCam = found.mean
      ? { ...found, mean: { ...found.mean, leaf: meanOf(idOf(runner), 'intake') } }
      : found;
    const own = runner.geometry ?? head;
    const beside = (runner.beside ?? []).flatMap((other): RunnerReach[] => {
      const its = sideOverCam(other.sheet.intake, target.usefulLift);
      return its
        ? [{ runner: other, head: other.geometry ?? head, over: its, flow: its.best.flow, limits: [], beside: [] }]
        : [];
    });
    const ports = own.intakePorts ?? 1;
    const tested = 1 + beside.length;
    const best = noted(
      ((over.best.flow + beside.reduce((sum, b) => sum + b.over.best.flow, 0)) * ports) / tested,
      [
        over.stopsShort ? 'best of a sheet that stops short of this cam' : 'best within this cam’s lift',
        ...(ports > 1
          ? [
              `${ports} ports a cylinder, ${tested === ports ? 'added up' : `${tested} tested and the others taken alike`}`,
            ]
          : []),
      ].join('; '),
      flowLeaf(runner),
    );
    const flow = throughManifoldOf(best, build);
    const one = leastPortArea(own);
    const area = one === undefined || ports === 1 ? one : work(portsTogether, { area: one, ports });
    const byFlow = flowLimit(target, flow);
    const limits = [...(byFlow ? [byFlow] : []), ...(area === undefined ? [] : [areaLimit(target, area)])];
    return [{ runner, head: own, over, flow, limits, beside, ...(area === undefined ? {} : { area }) }];
  });
}

const least = <T>(list: readonly T[], of: (item: T) => number): T | undefined =>
  list.reduce<T | undefined>((a, b) => (a === undefined || of(b) < of(a) ? b : a), undefined);

/** Speed at which a runner runs out; its flow where no limit is known. */
const runsOutAt = (r: RunnerReach): number => Math.min(...r.limits.map((l) => l.speed.value));

/**
 * One head against one build, figure by figure; what they are worth is the verdict's (`judgeHead`). Of several runners
 * the one that runs out first decides; the others are listed, never averaged. Flow counts up to the cam's lift (without
 * a cam: the whole sheet). Every figure is a ceiling for the breathing.
 */
export function matchHead(
  build: Build,
  target: TargetResult,
  head: HeadGeometry,
  runners: readonly Runner[],
): MatchResult {
  const reaches = runnersOf(build, target, head, runners);
  const list = reaches.map(({ runner, over }) => ({ name: runner.name, best: over.best }));
  const worst =
    least(
      reaches.filter((r) => r.limits.length > 0),
      runsOutAt,
    ) ?? least(reaches, (r) => numberOf(r.flow));
  const own = worst?.head ?? head;
  const area = worst ? worst.area : leastPortArea(own);
  const shared = { runners: list, reaches, ...ofHead(build, target, own, area) };
  if (!worst) {
    const limits = area === undefined ? [] : [areaLimit(target, area)];
    return { ...shared, limits, schools: powerEstimates(build, target, limits, undefined, undefined) };
  }

  const { over, flow, runner } = worst;
  const valve = valveLimit(build, target, over, own);
  const limits = [...worst.limits, ...(valve ? [valve.limit] : [])].sort((a, b) => a.speed.value - b.speed.value);
  const first = limits.find((l) => l.id !== 'valve');
  const exhaust = sideOverCam(runner.sheet.exhaust, build.cam && camLiftOf(build.cam, 'exhaust'), target.exhaustCam);
  const schools = powerEstimates(build, target, limits, flow, exhaust?.best.flow);
  const byFlow = schools.find((s) => s.id === 'peak-flow')?.power;
  const demanded = target.demand?.value;
  const curve = runner.sheet.intake.curve;
  const reachedAt =
    demanded === undefined || !curve
      ? undefined
      : sharedLifts([curve], over.best.lift).find((lift) => curve.at(lift)! * (own.intakePorts ?? 1) >= demanded);
  return {
    ...shared,
    deciding: runner,
    intake: over,
    flow,
    schools,
    limits,
    ...(first ? { first } : {}),
    ...(demanded === undefined ? {} : { margin: numberOf(flow) - demanded }),
    ...(reachedAt === undefined ? {} : { reachedAt }),
    ...(exhaust ? { exhaust } : {}),
    ...(valve ? { machIndex: valve.machIndex } : {}),
    ...speedsOf(noted(over.best.flow, '', flowLeaf(runner)), own, area),
    ...(head.price === undefined || !byFlow
      ? {}
      : {
          cost: work(costPerPower, {
            cost: priceOfSet(head.price, castingsOf(build.cylinders, head.cylinders)),
            gain: fromSi(byFlow.value, unitNamed('power', 'hp')!),
          }),
        }),
  };
}

/** How many castings an engine takes: one where nobody said how many cylinders a casting covers. */
export const castingsOf = (cylinders: number, covers: number | undefined): number =>
  covers === undefined ? 1 : Math.max(1, Math.ceil(cylinders / covers));

const priceOfSet = (price: number, castings: number): Given<number> =>
  castings === 1 ? price : noted(price * castings, `${castings} castings`);

/** Where the best flow passes, and how fast; against what the window rule expects of it. */
function speedsOf(flow: Given<number>, { window, intakeValve: valve }: HeadGeometry, least: Given<number> | undefined) {
  const speed = (area: Given<number>) => work(sectionSpeed, { flow, area });
  const throat =
    valve?.throat === undefined || valve.stem === undefined
      ? undefined
      : work(throatArea, { throat: valve.throat, stem: valve.stem, valves: valve.valves ?? 1 });
  return {
    ...(least === undefined ? {} : { benchSpeed: speed(least) }),
    ...(throat === undefined ? {} : { throatSpeed: speed(throat) }),
    ...(window === undefined
      ? {}
      : {
          windowSpeed: speed(noted(window, 'window over the short turn')),
          againstWindow: work(againstWindow, { flow, expected: work(windowRule, { window }) }),
        }),
  };
}

/** The rule is stated for naturally aspirated petrol engines with two valves a cylinder. */
const isLobeRuleFor = (build: Build, head: HeadGeometry): boolean =>
  build.fuel === 'petrol' &&
  build.induction.kind === 'natural' &&
  (head.intakeValvesPerCylinder ?? head.intakeValve?.valves ?? 1) === 1;

/** What the sizes alone say, with or without a flow sheet. */
function ofHead(build: Build, target: TargetResult, head: HeadGeometry, area: Given<number> | undefined) {
  return {
    ...(head.intakeValve && isLobeRuleFor(build, head)
      ? {
          lobeSeparation: work(lobeSeparationWanted, {
            cylinderVolume: target.cylinderVolume,
            valve: head.intakeValve.diameter,
            compression: build.compression ?? noted(10.5, 'not stated'),
          }),
        }
      : {}),
    ...(head.window === undefined ? {} : { windowFlow: work(windowRule, { window: head.window }) }),
    ...(area === undefined
      ? {}
      : {
          leastArea: area,
          portVelocity: work(portVelocity, {
            speed: build.speed,
            ...target.sizes,
            area,
            ratio: target.pistonRatio,
          }),
        }),
  };
}

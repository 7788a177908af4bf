/** From a head's records to what the simulation runs. */
import {
  benchUncertainty,
  evaluateSurvey,
  numberOf,
  portProfile,
  simulationSetup,
  throatArea,
  USUAL_SEAT,
  ownManifoldFlow,
  throughManifold,
  type AreaPoint,
  type Build as CoreBuild,
  type FlowPoint,
  type Pipework,
  type PortSetup,
  type PortValve,
  type Runner,
  type SimulationSetup,
  type TargetResult,
} from '@alluvium/core';
import type { WholeHead } from './api.js';
import { assumptionsFor, type HeadEvaluation, type JudgingContext } from './evaluateHead.js';
import type { Build } from './nouns/build.js';
import { toCoreSections } from './sections.js';
import { measuresAt, surveyAt } from './select.js';
import { measured, toPortValve } from './toCore.js';
import { refusal } from './refusal.js';

// along[]!, all[]!, all.at()!, points.at()!: a port has points.
// q!: every one of them was looked for.

/** The pipes as the build states them. */
export const pipeworkOf = (build: Build): Pipework =>
  Object.fromEntries(
    (
      [
        'runnerLength',
        'runnerArea',
        'plenumVolume',
        'inletArea',
        'primaryLength',
        'primaryArea',
        'backPressure',
      ] as const
    ).flatMap((key) => (build[key] ? [[key, build[key].si]] : [])),
  );

const points = (runner: Pick<Runner, 'sheet'>, side: 'intake' | 'exhaust', times: number): FlowPoint[] =>
  runner.sheet[side].points.map((p) => ({ lift: p.lift, flow: numberOf(p.flow) * times }));

/** Area behind the valves of a port, stems taken off. */
function throatOf(valve: PortValve): number {
  const throat = valve.throat ?? valve.diameter * USUAL_SEAT.throatRatio;
  const stem = valve.stem ?? USUAL_SEAT.stem;
  return throatArea.compute({ throat, stem, valves: valve.valves });
}

/** One side's port of a cylinder: surveyed, else of its volume and pinch, else of the throat alone. */
function profileOf(
  whole: WholeHead,
  stageId: string,
  side: 'intake' | 'exhaust',
  portId: string | null,
  bore: number,
  ports: number,
): { points: AreaPoint[]; said?: string } | undefined {
  const measures = measuresAt(whole, stageId);
  const valve = toPortValve(whole.head, measures, side, portId);
  if (!valve) return undefined;
  const survey = surveyAt(whole, stageId, side, portId);
  const found = survey && evaluateSurvey(toCoreSections(survey));
  const size = (item: 'port volume' | 'port length' | 'pinch' | 'window') => measured(measures, item, side, portId);
  const volume = size('port volume');
  const length = size('port length');
  const pinch = size('pinch');
  const window = size('window');
  const { points: along, said } = portProfile({
    ...(found && found.stations.length >= 3
      ? { survey: found.stations.map((s) => ({ x: s.station, area: s.area.value })) }
      : {}),
    ...(volume === undefined ? {} : { volume }),
    ...(length === undefined ? {} : { length }),
    ...(pinch === undefined ? {} : { pinch }),
    ...(window === undefined ? {} : { window }),
    throat: throatOf(valve),
    bore,
  });
  const all = along.map((p) => ({ x: p.x - along[0]!.x, area: p.area * ports }));
  if (side === 'intake') return { points: all, ...(said ? { said: `Intake: ${said}.` } : {}) };
  // From the valve to the flange.
  const end = all.at(-1)!.x;
  return {
    points: all.map((p) => ({ x: end - p.x, area: p.area })).reverse(),
    ...(said ? { said: `Exhaust: ${said}.` } : {}),
  };
}

/** Ports whose flows differ by more than this are two kinds, and are run in turn. */
const ALIKE = 0.02;
const best = (p: PortSetup): number => Math.max(...p.intake.map((r) => r.flow));

/** Compression with this head's own chamber, where the build's belongs to the baseline's and both were poured. */
function compressionOf(
  build: CoreBuild,
  target: TargetResult,
  chamber: number | undefined,
  baseline: number | undefined,
): { compression?: number; said?: string } {
  if (build.compression === undefined || chamber === undefined || baseline === undefined || chamber === baseline)
    return {};
  const swept = numberOf(target.cylinderVolume);
  const clearance = swept / (build.compression - 1) + chamber - baseline;
  if (clearance <= 0) return {};
  const compression = 1 + swept / clearance;
  return {
    compression,
    said: `Its chamber makes ${compression.toFixed(1)}:1 of the ${build.compression.toFixed(1)}:1 stated with the first head.`,
  };
}

export interface SimulatedHead {
  readonly whole: WholeHead;
  readonly evaluation: HeadEvaluation;
}

/**
 * @throws Refusal with a sentence where the head or the engine lacks what the simulation cannot do without.
 */
export function toSimulation(
  build: Build,
  core: CoreBuild,
  target: TargetResult,
  { whole, evaluation }: SimulatedHead,
  baseline: SimulatedHead | undefined,
  context: JudgingContext = {},
): SimulationSetup {
  const { match, stage, sheet } = evaluation;
  const { head } = whole;
  const bore = numberOf(target.sizes.bore);
  if (!sheet || match.reaches.length === 0) throw refusal('nothingFlowed');
  const said: string[] = [];
  const portOf = (runner: Runner): PortSetup => {
    const each = head.intakePorts ?? 1;
    const tested = [runner, ...(runner.beside ?? [])];
    const sheetId = runner.facts?.id;
    const own = whole.sheets.find((s) => s.id === sheetId) ?? sheet;
    const intakePort = profileOf(whole, stage.id, 'intake', own.intakePortId, bore, each);
    if (!intakePort) throw refusal('valveNotMeasured');
    const exhaustPort = profileOf(whole, stage.id, 'exhaust', own.exhaustPortId, bore, 1);
    for (const p of [intakePort, exhaustPort]) if (p?.said && !said.includes(p.said)) said.push(p.said);
    const sum =
      tested.length === 1
        ? points(runner, 'intake', each)
        : summed(tested.map((r) => points(r, 'intake', each / tested.length)));
    const flowed = [runner, ...match.reaches.map((r) => r.runner)].find((r) => r.sheet.exhaust.points.length > 1);
    const manifold = ownManifoldFlow(Math.max(...sum.map((p) => p.flow)), core);
    return {
      name: runner.name,
      intake: manifold === undefined ? sum : throughManifold(sum, manifold),
      ...(flowed ? { exhaust: points(flowed, 'exhaust', 1) } : {}),
      intakePort: intakePort.points,
      exhaustPort: exhaustPort?.points ?? [
        { x: 0, area: 0.7 * intakePort.points.at(-1)!.area },
        { x: 0.8 * bore, area: 0.8 * intakePort.points.at(-1)!.area },
      ],
    };
  };
  if (core.manifoldFlow !== undefined || core.manifoldLoss !== undefined)
    said.push('The intake’s flow is that of port and manifold in series; the manifold’s own shape is not drawn.');
  const all = match.reaches.map((r) => portOf(r.runner)).sort((a, b) => best(a) - best(b));
  const least = all[0]!;
  const most = all.at(-1)!;
  const ports = best(most) / best(least) > 1 + ALIKE ? [least, most] : [least];
  if (ports.length > 1) said.push(`Two kinds of port, in turn: ${least.name} and ${most.name}.`);
  const assumptions = assumptionsFor(whole, context);
  const bench = benchUncertainty(match.deciding?.facts, assumptions);
  const u = Math.hypot(assumptions.setup, assumptions.repeatability, bench);
  const chamber = (h: SimulatedHead) => measured(measuresAt(h.whole, h.evaluation.stage.id), 'chamber volume', null);
  const own = compressionOf(core, target, chamber({ whole, evaluation }), baseline && chamber(baseline));
  if (own.said) said.push(own.said);
  return simulationSetup(
    core,
    { bore, stroke: numberOf(target.sizes.stroke) },
    {
      ports,
      sheet: { id: sheet.id, intake: u, exhaust: u },
      ...(own.compression === undefined ? {} : { compression: own.compression }),
      said,
    },
    pipeworkOf(build),
  );
}

/** Flows of ports of one cylinder added where their sheets share a lift. */
function summed(lists: readonly FlowPoint[][]): FlowPoint[] {
  const [first, ...others] = lists as [FlowPoint[], ...FlowPoint[][]];
  return first.flatMap((p) => {
    const same = others.map((list) => list.find((q) => Math.abs(q.lift - p.lift) < 1e-5));
    return same.every(Boolean) ? [{ lift: p.lift, flow: same.reduce((s, q) => s + q!.flow, p.flow) }] : [];
  });
}

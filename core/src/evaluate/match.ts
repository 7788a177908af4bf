import {
  INLET_SOUND_SPEED,
  MACH_INDEX_LIMIT,
  meanInletCoefficient,
  meanInletMach,
  meanPistonSpeed,
  portVelocity,
  speedOfArea,
  speedOfMach,
} from '../engine/engine.js';
import { countsBeyond, sharedLifts, USUAL_REPEATABILITY } from '../flow/compare.js';
import type { FlowPoint } from '../flow/curve.js';
import { peak } from '../flow/describe.js';
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, idealVelocity } from '../flow/reading.js';
import { lobeSeparationWanted, meanPortArea, sectionSpeed, windowRule } from '../head/ratios.js';
import { noted, work, type Given, type Working, numberOf } from '../method/method.js';
import {
  costPerPower,
  peakFlowPower,
  powerAtSpeed,
  ratioDeratedPower,
  seriesFlow,
  speedOfFlow,
} from '../power/schools.js';
import { fromSi, unitNamed } from '../quantity/units.js';
import { valveDiscArea } from '../valve/areas.js';
import { overCam, type OverCam, type PortValve, type SheetResult } from './sheet.js';
import { camLiftOf, type Build, type TargetResult } from './target.js';

/** What is known of a head beside its sheets; SI. Any of it may be missing. */
export interface HeadGeometry {
  readonly intakeValve?: PortValve;
  readonly exhaustValve?: PortValve;
  /** Intake valves in one cylinder, when a port feeds more or fewer. */
  readonly intakeValvesPerCylinder?: number;
  readonly window?: number;
  readonly pinch?: number;
  readonly portVolume?: number;
  readonly portLength?: number;
  readonly price?: number;
}

/** One tested runner: the sheet's result and what to call it. */
export interface Runner {
  readonly name: string;
  readonly sheet: SheetResult;
}

export type LimitId = 'flow' | 'area' | 'valve';

/**
 * One rung of the rpm ladder: the speed at which flow or port area runs out. The valve rung is softer: beyond its speed
 * filling begins to fall (mean inlet Mach index 0.6), and engines are known to pull past it.
 */
export interface Limit {
  readonly id: LimitId;
  readonly speed: Working;
}

export type SchoolId = 'peak-flow' | 'ratio-derated' | 'area' | 'valve';

/** One school's figure for the power a head could carry, with what it assumes. */
export interface School {
  readonly id: SchoolId;
  readonly title: string;
  readonly assumes: string;
  readonly power: Working;
}

export type Verdict = 'carries' | 'close' | 'short' | 'unknown';

export interface MatchResult {
  /** The runner with the least intake flow over this cam: it decides. Undefined when nothing was flowed. */
  readonly deciding?: Runner;
  readonly intake?: OverCam;
  readonly exhaust?: OverCam;
  /** Every runner's best intake flow within the cam's lift. */
  readonly runners: readonly { readonly name: string; readonly best: FlowPoint }[];
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
  readonly verdict: Verdict;
  readonly portVelocity?: Working;
  readonly machIndex?: Working;
  readonly lobeSeparation?: Working;
  readonly windowFlow?: Working;
  readonly benchSpeed?: Working;
  readonly leastArea?: Given<number>;
  readonly cost?: Working;
}

/** The least port area known: the smaller of pinch and window, else the mean area (which hides a choke). */
export function leastPortArea(head: HeadGeometry): Given<number> | undefined {
  const { pinch, window } = head;
  if (pinch !== undefined && (window === undefined || pinch <= window)) return noted(pinch, 'pinch, measured');
  if (window !== undefined) return noted(window, 'window over the short turn, measured');
  if (head.portVolume !== undefined && head.portLength !== undefined) {
    return work(meanPortArea, { volume: head.portVolume, length: head.portLength });
  }
  return undefined;
}

/**
 * One head against one build. Of several runners the worse one decides; the others are listed, never averaged.
 * Flow counts up to the cam's lift (without a cam: the whole sheet). Every figure is a ceiling for the breathing.
 */
export function matchHead(
  build: Build,
  target: TargetResult,
  head: HeadGeometry,
  runners: readonly Runner[],
  repeatability = USUAL_REPEATABILITY,
): MatchResult {
  const flowed = runners.flatMap((runner) => {
    const { curve } = runner.sheet.intake;
    if (!curve) return [];
    const limit = target.usefulLift ?? peak(curve).lift;
    return [{ runner, over: overCam(curve, limit, target.intakeCam) }];
  });
  const list = flowed.map(({ runner, over }) => ({ name: runner.name, best: over.best }));
  const area = leastPortArea(head);
  const { stroke, bore, cylinders } = build;
  const { charge, powerPerFlow, torquePerVolume, velocityLimit, pistonRatio: ratio } = target;
  const shared = {
    ...(head.intakeValve
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
      : { leastArea: area, portVelocity: work(portVelocity, { speed: build.speed, stroke, bore, area, ratio }) }),
  };
  const areaLimit: Limit[] =
    area === undefined
      ? []
      : [{ id: 'area', speed: work(speedOfArea, { area, stroke, bore, limit: velocityLimit, ratio }) }];

  const worst = flowed.reduce<(typeof flowed)[number] | undefined>(
    (w, f) => (!w || f.over.best.flow < w.over.best.flow ? f : w),
    undefined,
  );
  if (!worst) return { runners: list, schools: [], limits: areaLimit, verdict: 'unknown', ...shared };

  const { over } = worst;
  const best = noted(
    over.best.flow,
    over.stopsShort ? 'best of a sheet that stops short of this cam' : 'best within this cam’s lift',
  );
  const flow: Given<number> =
    build.manifoldFlow === undefined ? best : work(seriesFlow, { flows: [over.best.flow, build.manifoldFlow] });
  const margin = numberOf(flow) - target.demand.value;

  const reachedAt = sharedLifts([worst.runner.sheet.intake.curve!], over.best.lift).find(
    (lift) => worst.runner.sheet.intake.curve!.at(lift)! >= target.demand.value,
  );

  const exhaustCurve = worst.runner.sheet.exhaust.curve;
  const exhaust = exhaustCurve
    ? overCam(exhaustCurve, build.cam ? camLiftOf(build.cam, 'exhaust') : peak(exhaustCurve).lift, target.exhaustCam)
    : undefined;

  const limits: Limit[] = [
    {
      id: 'flow',
      speed: work(speedOfFlow, { powerPerFlow, flow, torquePerVolume, cylinderVolume: target.cylinderVolume, charge }),
    },
    ...areaLimit,
  ];
  let machIndex: Working | undefined;
  if (over.mean && head.intakeValve) {
    const { diameter: valve, valves: onPort } = head.intakeValve;
    const valves = head.intakeValvesPerCylinder ?? onPort;
    const coefficient = work(meanInletCoefficient, {
      meanFlow: over.mean,
      discArea: work(valveDiscArea, { diameter: valve, valves: onPort }),
      velocity: work(idealVelocity, { depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY }),
    });
    const sound = noted(INLET_SOUND_SPEED, 'dry air at 20 °C');
    machIndex = work(meanInletMach, {
      bore,
      valve,
      valves,
      pistonSpeed: work(meanPistonSpeed, { stroke, speed: build.speed }),
      coefficient,
      soundSpeed: sound,
    });
    limits.push({
      id: 'valve',
      speed: work(speedOfMach, {
        limit: MACH_INDEX_LIMIT,
        bore,
        stroke,
        valve,
        valves,
        coefficient,
        soundSpeed: sound,
      }),
    });
  }
  limits.sort((a, b) => a.speed.value - b.speed.value);

  const byFlow = work(peakFlowPower, { powerPerFlow, flow, cylinders, charge });
  const atLimit = (id: LimitId) => {
    const limit = limits.find((l) => l.id === id);
    return limit && work(powerAtSpeed, { torquePerVolume, displacement: target.displacement, speed: limit.speed });
  };
  const byArea = atLimit('area');
  const byValve = atLimit('valve');
  const schools: School[] = [
    ...(byArea
      ? [
          {
            id: 'area' as const,
            title: 'Port area',
            assumes:
              'The least port area rules; the engine holds its torque per displacement up to the speed where the port velocity reaches its limit.',
            power: byArea,
          },
        ]
      : []),
    ...(byValve
      ? [
          {
            id: 'valve' as const,
            title: 'Mean inlet Mach index',
            assumes:
              'The whole flow curve over this cam and the valve area rule; the engine holds its torque per displacement up to Z = 0.6.',
            power: byValve,
          },
        ]
      : []),
    {
      id: 'peak-flow',
      title: 'Peak flow',
      assumes:
        'One number of the sheet, the best flow within the cam’s lift, times a factor. Cam, exhaust and port size are taken to suit.',
      power: byFlow,
    },
    ...(exhaust
      ? [
          {
            id: 'ratio-derated' as const,
            title: 'Peak flow, derated by exhaust / intake',
            assumes:
              'The exhaust holds the engine back in proportion. The intake flow cancels out: this is exhaust flow × k × cylinders, and it can turn the ranking round.',
            power: work(ratioDeratedPower, { peakFlowPower: byFlow, exhaust: exhaust.best.flow, intake: flow }),
          },
        ]
      : []),
  ];

  const tolerance = countsBeyond(repeatability) * target.demand.value;
  const verdict: Verdict = margin >= tolerance ? 'carries' : margin > -tolerance ? 'close' : 'short';
  return {
    deciding: worst.runner,
    intake: over,
    runners: list,
    flow,
    margin,
    schools,
    limits,
    first: limits.find((l) => l.id !== 'valve')!,
    verdict,
    ...shared,
    ...(reachedAt === undefined ? {} : { reachedAt }),
    ...(exhaust ? { exhaust } : {}),
    ...(machIndex ? { machIndex } : {}),
    ...(area === undefined ? {} : { benchSpeed: work(sectionSpeed, { flow: over.best.flow, area }) }),
    ...(head.price === undefined
      ? {}
      : { cost: work(costPerPower, { cost: head.price, gain: fromSi(byFlow.value, unitNamed('power', 'hp')!) }) }),
  };
}

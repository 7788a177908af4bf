/** Where flow, port area and valve area of one head run out, each as an engine speed. */
import {
  MACH_INDEX_LIMIT,
  meanInletCoefficient,
  meanInletMach,
  meanPistonSpeed,
  speedOfArea,
  speedOfMach,
} from '../engine/engine.js';
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, REFERENCE_SOUND_SPEED, idealVelocity } from '../flow/reading.js';
import { noted, work, type Given, type Working } from '../method/method.js';
import { speedOfFlow } from '../power/schools.js';
import { valveDiscArea } from '../valve/areas.js';
import type { HeadGeometry } from './head.js';
import type { OverCam } from './sheet.js';
import type { Build, TargetResult } from './target.js';

export type LimitId = 'flow' | 'area' | 'valve';

/**
 * One rung of the rpm ladder: the speed at which flow or port area runs out. The valve rung is softer: beyond its speed
 * volumetric efficiency starts to drop (mean inlet Mach index 0.6), and engines are known to pull past it.
 */
export interface Limit {
  readonly id: LimitId;
  readonly speed: Working;
}

export const areaLimit = (target: TargetResult, area: Given<number>): Limit => ({
  id: 'area',
  speed: work(speedOfArea, {
    area,
    ...target.sizes,
    limit: noted(target.velocityLimit, '', 'velocityLimit'),
    ratio: target.pistonRatio,
  }),
});

/** Undefined where the engine's fuel has no power per flow. */
export const flowLimit = (target: TargetResult, flow: Given<number>): Limit | undefined =>
  target.powerPerFlow === undefined
    ? undefined
    : {
        id: 'flow',
        speed: work(speedOfFlow, {
          powerPerFlow: noted(target.powerPerFlow, '', 'k'),
          flow,
          torquePerVolume: target.torquePerVolume,
          cylinderVolume: target.cylinderVolume,
          charge: target.charge,
        }),
      };

/** The valve's rung and the Mach index at the target; undefined without a mean over the cam and a valve. */
export function valveLimit(
  build: Build,
  target: TargetResult,
  over: OverCam,
  head: HeadGeometry,
): { readonly limit: Limit; readonly machIndex: Working } | undefined {
  if (!over.mean || !head.intakeValve) return undefined;
  const { bore, stroke } = target.sizes;
  const { diameter: valve, valves: onPort } = head.intakeValve;
  const valves = head.intakeValvesPerCylinder ?? onPort;
  const coefficient = work(meanInletCoefficient, {
    meanFlow: over.mean,
    discArea: work(valveDiscArea, { diameter: valve, valves: onPort }),
    velocity: work(idealVelocity, { depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY }),
  });
  const soundSpeed = noted(REFERENCE_SOUND_SPEED, 'the reference air');
  const pistonSpeed = work(meanPistonSpeed, { stroke, speed: build.speed });
  return {
    limit: {
      id: 'valve',
      speed: work(speedOfMach, { limit: MACH_INDEX_LIMIT, bore, stroke, valve, valves, coefficient, soundSpeed }),
    },
    machIndex: work(meanInletMach, { bore, valve, valves, pistonSpeed, coefficient, soundSpeed }),
  };
}

import { camProfile, type CamProfile } from '../cam/profile.js';
import {
  USUAL_PEAK_PISTON_RATIO,
  airflow,
  areaNeeded,
  bmep,
  cylinderShare,
  cylinderVolume,
  displacement,
  peakPistonRatio,
  torqueFromPower,
  torquePerVolume,
} from '../engine/engine.js';
import { noted, numberOf, work, type Given, type Working } from '../method/method.js';
import { PORT_VELOCITY_LIMIT, USUAL_POWER_PER_FLOW, chargeDensityRatio, demand } from '../power/schools.js';
import { psi } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

export type Fuel = 'petrol' | 'diesel' | 'alcohol' | 'gas';

export type Induction =
  | { readonly kind: 'natural' }
  | {
      readonly kind: 'boosted';
      readonly pressureRatio: number;
      readonly chargeTemperature: number;
      readonly ambientTemperature: number;
    }
  /** `power` is what the nitrous adds by itself. */
  | { readonly kind: 'nitrous'; readonly power: number };

export interface CamCard {
  readonly intakeLift: number;
  readonly exhaustLift?: number;
  readonly intakeDuration?: number;
  readonly exhaustDuration?: number;
  readonly height?: number;
  readonly second?: { readonly height: number; readonly duration: number };
  readonly lobeSeparation?: number;
  readonly intakeCentreline?: number;
  readonly rockerRatio: number;
}

/** Lift of one side's lobe at the valve, m; an exhaust lift that is not stated is the intake's. */
export const camLiftOf = (cam: CamCard, side: 'intake' | 'exhaust'): number =>
  side === 'intake' ? cam.intakeLift : (cam.exhaustLift ?? cam.intakeLift);

/** An engine and what is wanted of it; SI throughout. */
export interface Build {
  /** Bore and stroke, or the displacement of the whole engine. */
  readonly bore?: number;
  readonly stroke?: number;
  readonly displacement?: number;
  readonly cylinders: number;
  readonly rod?: number;
  readonly compression?: number;
  readonly fuel: Fuel;
  readonly induction: Induction;
  readonly cam?: CamCard;
  readonly manifoldFlow?: number;
  /** Lost in the manifold at the head's best flow, where the manifold's own flow is not known. */
  readonly manifoldLoss?: number;
  readonly power: number;
  readonly speed: number;
  /** What was asked for: a power, or a torque that the power follows from; a power where left out. */
  readonly wanted?: Peak;
  /** Half of the last figure written of each size, m; 0 where left out. */
  readonly resolution?: { readonly bore: number; readonly stroke: number };
  readonly powerPerFlow?: number;
  /** The shop's own usual factor, taken where none is stated for this build; the trade's where left out. */
  readonly usualPowerPerFlow?: number;
  readonly torquePerVolume?: number;
  readonly velocityLimit?: number;
}

/** The leaf a boosted engine's charge density is shown by. */
export const CHARGE_LEAF = 'charge.ratio';

export type Believability = 'mild' | 'ordinary' | 'strong' | 'race' | 'extreme' | 'unbelievable';

export interface TargetResult {
  readonly cylinderVolume: Working;
  readonly displacement: Working;
  /** Bore and stroke; where only the displacement is known, those of a square engine: only their volume counts then. */
  readonly sizes: { readonly bore: Given<number>; readonly stroke: Given<number> };
  readonly torque: Working;
  readonly bmep: Working;
  readonly believability: Believability;
  readonly charge: Given<number>;
  /** Power the air must make: the wanted power less what nitrous adds. */
  readonly airPower: number;
  /** Undefined where the fuel has no power per flow: the trade's factor is one of petrol engines. */
  readonly demand?: Working;
  readonly areaNeeded: Working;
  /** Air the engine takes at the wanted speed with every cylinder filled once. */
  readonly airflow: Working;
  readonly pistonRatio: Given<number>;
  /** Of the air alone, as stated, else what the target itself implies. */
  readonly torquePerVolume: Given<number>;
  /** As stated, else the usual one of petrol engines; undefined for another fuel. */
  readonly powerPerFlow?: number;
  readonly velocityLimit: number;
  /** Lift up to which flow counts; undefined without a cam. */
  readonly usefulLift?: number;
  readonly intakeCam?: CamProfile;
  readonly exhaustCam?: CamProfile;
}

/** Where on its curve an engine is asked for so much: at the peak of its power, or of its torque. */
export type Peak = 'power' | 'torque';

/**
 * Upper ends of the bands of BMEP, in psi, as if naturally aspirated (boosted figures are divided by the charge density
 * first): an engine has more of it at the peak of its torque than at that of its power. Ordinary engines: Heywood (1988)
 * §2.7, from memory; race engines, the best unboosted ones about 225: common practice, no source.
 */
export const BMEP_BANDS: Readonly<Record<Peak, readonly (readonly [Believability, number])[]>> = {
  power: [
    ['mild', 115],
    ['ordinary', 145],
    ['strong', 170],
    ['race', 195],
    ['extreme', 220],
  ],
  torque: [
    ['mild', 130],
    ['ordinary', 160],
    ['strong', 185],
    ['race', 210],
    ['extreme', 230],
  ],
};

export function believability(bmepValue: number, charge: number, at: Peak = 'power'): Believability {
  const natural = bmepValue / charge / psi(1);
  return BMEP_BANDS[at].find(([, top]) => natural <= top)?.[0] ?? 'unbelievable';
}

/** Profiles of both lobes; a side without a duration has none. */
export function camProfiles(cam: CamCard): { intake?: CamProfile; exhaust?: CamProfile } {
  const common = { rockerRatio: cam.rockerRatio, ...(cam.height === undefined ? {} : { height: cam.height }) };
  const exhaustDuration = cam.exhaustDuration ?? cam.intakeDuration;
  return {
    ...(cam.intakeDuration === undefined
      ? {}
      : {
          intake: camProfile({
            ...common,
            maxLift: cam.intakeLift,
            duration: cam.intakeDuration,
            ...(cam.second ? { second: cam.second } : {}),
          }),
        }),
    ...(exhaustDuration === undefined
      ? {}
      : { exhaust: camProfile({ ...common, maxLift: camLiftOf(cam, 'exhaust'), duration: exhaustDuration }) }),
  };
}

/** Sizes and volumes of an engine, as far as they are known. @throws Refusal when neither bore and stroke nor a displacement is. */
function engineOf(build: Build) {
  const { bore, stroke, cylinders } = build;
  if (bore !== undefined && stroke !== undefined) {
    const sizes = { bore: noted(bore, '', 'build.bore'), stroke: noted(stroke, '', 'build.stroke') };
    const volume = work(cylinderVolume, sizes);
    return { sizes, volume, whole: work(displacement, { cylinderVolume: volume, cylinders }) };
  }
  if (build.displacement === undefined) throw refusal('noDisplacement');
  const volume = work(cylinderShare, { displacement: build.displacement, cylinders });
  const note = 'from the displacement; only the volume counts here';
  // Of a bore or a stroke alone the other follows; of neither, a square engine has the same volume.
  const b =
    bore ??
    (stroke === undefined
      ? Math.cbrt((4 * volume.value) / Math.PI)
      : Math.sqrt((4 * volume.value) / (Math.PI * stroke)));
  const s = stroke ?? volume.value / ((Math.PI / 4) * b ** 2);
  return {
    sizes: {
      bore: noted(b, bore === undefined ? note : '', 'build.bore'),
      stroke: noted(s, stroke === undefined ? note : '', 'build.stroke'),
    },
    volume,
    whole: work(displacement, { cylinderVolume: volume, cylinders }),
  };
}

/** Where the power per flow comes from. */
const factorNote = (build: Build): string =>
  build.powerPerFlow !== undefined ? '' : build.usualPowerPerFlow === undefined ? 'usual value' : 'the shop’s own';

/** What the target asks of a head, and whether the target itself is believable. */
export function evaluateTarget(build: Build): TargetResult {
  const { cylinders, induction } = build;
  const { sizes, volume, whole } = engineOf(build);
  const { bore, stroke } = sizes;
  const torque = work(torqueFromPower, { power: build.power, speed: build.speed });
  const pressure = work(bmep, { torque, displacement: whole });
  const charge: Given<number> =
    induction.kind === 'boosted'
      ? {
          ...work(chargeDensityRatio, {
            pressureRatio: induction.pressureRatio,
            chargeTemperature: induction.chargeTemperature,
            ambientTemperature: induction.ambientTemperature,
          }),
          leaf: CHARGE_LEAF,
        }
      : noted(1, 'not boosted');
  const airPower = build.power - (induction.kind === 'nitrous' ? induction.power : 0);
  if (airPower <= 0) throw refusal('nitrousAloneEnough');
  const powerPerFlow =
    build.powerPerFlow ?? (build.fuel === 'petrol' ? (build.usualPowerPerFlow ?? USUAL_POWER_PER_FLOW) : undefined);
  const byAir: Given<number> =
    airPower === build.power ? build.power : noted(airPower, 'wanted power less what the nitrous adds', 'airPower');
  const velocityLimit = build.velocityLimit ?? PORT_VELOCITY_LIMIT;
  const pistonRatio: Given<number> =
    build.rod === undefined
      ? noted(USUAL_PEAK_PISTON_RATIO, 'rod not stated; usual value', 'pistonRatio')
      : work(peakPistonRatio, { rod: build.rod, stroke });
  const cams = build.cam ? camProfiles(build.cam) : {};
  return {
    cylinderVolume: volume,
    displacement: whole,
    sizes,
    torque,
    bmep: pressure,
    believability: believability(pressure.value * (airPower / build.power), numberOf(charge), build.wanted),
    charge,
    airPower,
    ...(powerPerFlow === undefined
      ? {}
      : {
          powerPerFlow,
          demand: work(demand, {
            power: byAir,
            powerPerFlow: noted(powerPerFlow, factorNote(build), 'k'),
            cylinders,
            charge,
          }),
        }),
    areaNeeded: work(areaNeeded, {
      speed: build.speed,
      stroke,
      bore,
      limit: noted(velocityLimit, '', 'velocityLimit'),
      ratio: pistonRatio,
    }),
    pistonRatio,
    airflow: work(airflow, {
      displacement: whole,
      speed: build.speed,
      volumetricEfficiency: noted(1, 'every cylinder filled'),
    }),
    torquePerVolume:
      build.torquePerVolume ??
      work(torquePerVolume, {
        torque: airPower === build.power ? torque : work(torqueFromPower, { power: byAir, speed: build.speed }),
        displacement: whole,
      }),
    velocityLimit,
    ...(build.cam ? { usefulLift: build.cam.intakeLift } : {}),
    ...(cams.intake ? { intakeCam: cams.intake } : {}),
    ...(cams.exhaust ? { exhaustCam: cams.exhaust } : {}),
  };
}

import {
  WHAT_IFS,
  cubicInches,
  degrees,
  horsepower,
  horsepowerPerCfm,
  inches,
  inchesOfWater,
  millimetres,
  rpm,
} from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { DateText, Day, Excused, Name, Note, Stored } from './common.js';
import { Currency } from './currency.js';
import { describedNoun } from './descriptor.js';
import { issue } from '../refusal.js';

const length = (min: number, max: number, sentence: string) =>
  quantitySchema('length', { min: millimetres(min), max: millimetres(max), sentence });

const pipeArea = (sentence: string) =>
  quantitySchema('area', { min: 5e-5, max: 0.05, sentence }).nullable().default(null);

export const camLift = quantitySchema('lift', {
  min: inches(0.06),
  max: inches(2),
  sentence: 'Valve lift must lie between .060 and 2.000 in.',
});
export const camDuration = quantitySchema('angle', {
  min: degrees(100),
  max: degrees(350),
  sentence: 'Duration must lie between 100° and 350°.',
});
export const compressionSchema = quantitySchema('compression', {
  min: 4,
  max: 30,
  sentence: 'Compression must lie between 4:1 and 30:1.',
});
export const camSeparation = quantitySchema('angle', {
  min: degrees(80),
  max: degrees(130),
  sentence: 'Lobe separation must lie between 80° and 130°.',
});
export const camCentreline = quantitySchema('angle', {
  min: degrees(80),
  max: degrees(140),
  sentence: 'The intake centreline must lie between 80° and 140°.',
});
const checkingHeight = quantitySchema('lift', {
  min: inches(0.001),
  max: inches(0.5),
  sentence: 'A checking height must lie between .001 and .500 in.',
});

const workingSpeed = quantitySchema('rotation', {
  min: rpm(200),
  max: rpm(25_000),
  sentence: 'A working speed must lie between 200 and 25,000 rpm.',
});

/** One thing of a what-if: which, and its value as typed. */
const VariantChange = z.discriminatedUnion(
  'what',
  WHAT_IFS.map((w) => z.object({ what: z.literal(w.key), value: quantitySchema(w.kind) })) as unknown as [
    z.ZodObject<{ what: z.ZodLiteral<string>; value: ReturnType<typeof quantitySchema> }>,
  ],
);

export const watchLift = quantitySchema('lift', {
  min: inches(0.01),
  max: inches(2),
  sentence: 'A watch lift must lie between .010 and 2.000 in.',
});

/** How the lobe works the valve: what a spring may press with hangs on it. */
export const CAM_KINDS = [
  'unknown',
  'flat tappet, hydraulic',
  'flat tappet, solid',
  'roller, hydraulic',
  'roller, solid',
  'overhead',
] as const;

export const Cam = z.object({
  kind: z.enum(CAM_KINDS).default('unknown'),
  intakeLift: camLift,
  exhaustLift: camLift.nullable().default(null),
  intakeDuration: camDuration.nullable().default(null),
  exhaustDuration: camDuration.nullable().default(null),
  /** Checking height of the durations, at the tappet; .050 in when not stated. */
  height: checkingHeight.nullable().default(null),
  second: z.object({ height: checkingHeight, duration: camDuration }).nullable().default(null),
  lobeSeparation: camSeparation.nullable().default(null),
  intakeCentreline: camCentreline.nullable().default(null),
  rockerRatio: quantitySchema('ratio', {
    min: 0.8,
    max: 2.5,
    sentence: 'The rocker ratio must lie between 0.8 and 2.5.',
  }).default({ si: 1.5, typed: '1.5' }),
});
export type Cam = z.infer<typeof Cam>;

const temperature = quantitySchema('temperature', {
  min: 220,
  max: 500,
  sentence: 'The temperature must lie between −53 and 227 °C.',
});

export const Induction = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('natural') }),
  z.object({
    kind: z.literal('boosted'),
    pressureRatio: quantitySchema('ratio', {
      min: 1,
      max: 8,
      sentence: 'The pressure ratio must lie between 1 and 8.',
    }),
    chargeTemperature: temperature,
    ambientTemperature: temperature,
  }),
  z.object({
    kind: z.literal('nitrous'),
    power: quantitySchema('power', {
      min: 1,
      max: horsepower(3000),
      sentence: 'The nitrous power must be above zero.',
    }),
  }),
]);

export const FUELS = ['petrol', 'diesel', 'alcohol', 'gas'] as const;
export const USES = ['street', 'tow', 'drag', 'circuit', 'marine', 'work', 'other'] as const;

/** An engine and what is wanted of it: bore and stroke, or the displacement; a power, or a torque. */
export const Build = z
  .object({
    ...Stored,
    name: Name,
    note: Note,
    /** Put away: kept with all it has, and not offered where builds are chosen. */
    archived: z.boolean().default(false),
    bore: length(20, 600, 'The bore must lie between 20 and 600 mm.').nullable().default(null),
    stroke: length(20, 800, 'The stroke must lie between 20 and 800 mm.').nullable().default(null),
    /** Of the whole engine, where bore and stroke are not known. */
    displacement: quantitySchema('displacement', {
      min: cubicInches(1),
      max: cubicInches(20_000),
      sentence: 'The displacement must lie between 1 and 20,000 in³.',
    })
      .nullable()
      .default(null),
    cylinders: z
      .int('Cylinders are a whole number.')
      .min(1, 'An engine has at least one cylinder.')
      .max(24, 'At most 24 cylinders.'),
    rod: length(40, 1500, 'The rod must lie between 40 and 1500 mm.').nullable().default(null),
    valvesPerCylinder: z
      .int()
      .min(2, 'Two to five valves per cylinder.')
      .max(5, 'Two to five valves per cylinder.')
      .default(2),
    compression: compressionSchema.nullable().default(null),
    fuel: z.enum(FUELS).default('petrol'),
    use: z.enum(USES).default('street'),
    induction: Induction.default({ kind: 'natural' }),
    cam: Cam.nullable().default(null),
    /** What the simulation takes of the pipes: runner from plenum to head, plenum, throttle; exhaust pipe of a cylinder. */
    runnerLength: length(10, 3000, 'The runner must lie between 10 and 3000 mm.').nullable().default(null),
    runnerArea: pipeArea('The runner’s area must lie between 50 and 50,000 mm².'),
    plenumVolume: quantitySchema('displacement', {
      min: 1e-5,
      max: 1,
      sentence: 'The plenum must lie between 0.01 and 1000 L.',
    })
      .nullable()
      .default(null),
    inletArea: pipeArea('The throttle’s area must lie between 50 and 50,000 mm².'),
    primaryLength: length(20, 5000, 'The exhaust pipe must lie between 20 and 5000 mm.').nullable().default(null),
    primaryArea: pipeArea('The exhaust pipe’s area must lie between 50 and 50,000 mm².'),
    /** Above the air around, at the speed wanted. */
    backPressure: quantitySchema('pressure', {
      min: 1,
      max: 5e5,
      sentence: 'Back pressure must lie above 0 and below 5 bar.',
    })
      .nullable()
      .default(null),
    manifoldFlow: quantitySchema('flow', { min: 1e-3, max: 2, sentence: 'The manifold flow must be above zero.' })
      .nullable()
      .default(null),
    /** What the manifold costs of the head's own flow, where nobody flowed them together: about 25 cfm. */
    manifoldLoss: quantitySchema('flow', {
      min: 1e-4,
      max: 0.5,
      sentence: 'The loss in the manifold must lie between 0 and about 1,000 cfm.',
    })
      .nullable()
      .default(null),
    power: quantitySchema('power', {
      min: horsepower(1),
      max: horsepower(20_000),
      sentence: 'The wanted power must lie between 1 and 20,000 hp.',
    })
      .nullable()
      .default(null),
    /** Torque wanted at the speed, where no power is stated. */
    torque: quantitySchema('torque', {
      min: 1,
      max: 50_000,
      sentence: 'The wanted torque must lie between 1 and 37,000 lb ft.',
    })
      .nullable()
      .default(null),
    speed: quantitySchema('rotation', {
      min: rpm(300),
      max: rpm(25_000),
      sentence: 'The speed must lie between 300 and 25,000 rpm.',
    }),
    powerPerFlow: quantitySchema('powerPerFlow', {
      min: horsepowerPerCfm(0.1),
      max: horsepowerPerCfm(0.6),
      sentence: 'The factor must lie between 0.1 and 0.6 hp/cfm.',
    })
      .nullable()
      .default(null),
    torquePerVolume: quantitySchema('torquePerVolume', {
      min: 20e3,
      max: 400e3,
      sentence: 'Torque per displacement must lie between 0.24 and 4.8 lb ft/in³.',
    })
      .nullable()
      .default(null),
    velocityLimit: quantitySchema('velocity', {
      min: 50,
      max: 343,
      sentence: 'The port velocity limit must lie below the speed of sound.',
    })
      .nullable()
      .default(null),
    budget: quantitySchema('money', { min: 0, sentence: 'The budget cannot be negative.' }).nullable().default(null),
    due: DateText,
    /** In which the sums of its ways are written; empty when nobody said. */
    currency: Currency,
    /** Rate where a line of cost has its tax still to come. */
    tax: quantitySchema('percent', { min: 0, max: 1, sentence: 'A tax lies between 0 and 100 %.' })
      .nullable()
      .default(null),
    /** Exchange rates: of the build's currency for one of the other. */
    rates: z
      .array(
        z.object({
          currency: z.string().trim().min(1, 'Name the currency.').max(8, 'Keep a currency under 8 letters.'),
          rate: z.number().gt(0, 'An exchange rate must be above zero.').max(1e6),
          date: Day,
        }),
      )
      .max(20, 'At most 20 exchange rates.')
      .default([]),
    /** What matters, in the owner's words, with its weight. */
    matters: z
      .array(
        z.object({
          name: z.string().trim().min(1, 'Say what matters.').max(60, 'Keep this under 60 letters.'),
          weight: z.number().min(0, 'A weight cannot be negative.').max(10, 'A weight is 0 to 10.'),
        }),
      )
      .max(20, 'At most 20 things can matter.')
      .default([]),
    /** Speeds the engine works at, end to end; null: those usual for its use. */
    workingFrom: workingSpeed.nullable().default(null),
    workingTo: workingSpeed.nullable().default(null),
    /** What-ifs of the simulation, kept by what was typed alone. */
    variants: z
      .array(
        z.object({
          name: z.string().trim().min(1, 'Name it.').max(60, 'Keep this under 60 letters.'),
          changes: z.array(VariantChange).min(1).max(WHAT_IFS.length),
        }),
      )
      .max(40, 'At most 40 variants of a build.')
      .default([]),
    excused: Excused,
    /** What may not change, in the shop's words. */
    fixed: z.string().max(2000).default(''),
    watchLifts: z
      .array(watchLift)
      .max(12, 'At most 12 watch lifts.')
      .default(() =>
        ['.300 in', '.400 in', '.500 in', '.600 in'].map((typed) => ({
          si: inches(Number.parseFloat(`0${typed}`)),
          typed,
        })),
      ),
  })
  .superRefine((b, ctx) => {
    if (b.displacement === null && b.bore === null) ctx.addIssue(issue(['bore'], 'noDisplacement'));
    if (b.displacement === null && b.stroke === null) ctx.addIssue(issue(['stroke'], 'noDisplacement'));
    if (b.displacement && b.bore && b.stroke) {
      const volume = (Math.PI / 4) * b.bore.si ** 2 * b.stroke.si * b.cylinders;
      if (Math.abs(b.displacement.si / volume - 1) > SAME_DISPLACEMENT)
        ctx.addIssue(issue(['displacement'], 'displacementAtOdds', volume));
    }
    if ((b.workingFrom === null) !== (b.workingTo === null))
      ctx.addIssue(issue([b.workingFrom === null ? 'workingFrom' : 'workingTo'], 'oneEndOfSpeeds'));
    else if (b.workingFrom && b.workingTo && b.workingFrom.si >= b.workingTo.si)
      ctx.addIssue(issue(['workingTo'], 'speedsSwapped'));
    if (b.power === null && b.torque === null) ctx.addIssue(issue(['power'], 'nothingWanted'));
    if (b.power && b.torque && Math.abs((b.torque.si * 2 * Math.PI * b.speed.si) / b.power.si - 1) > SAME_DISPLACEMENT)
      ctx.addIssue(issue(['torque'], 'torqueAtOdds', b.power.si / (2 * Math.PI * b.speed.si)));
  });
export type Build = z.infer<typeof Build>;

/** Two statements of one thing closer than this agree: catalogues round. */
const SAME_DISPLACEMENT = 0.01;

export const depressionSchema = quantitySchema('depression', {
  min: inchesOfWater(0.5),
  max: inchesOfWater(120),
  sentence: 'The depression must lie between 0.5 and 120 in of water.',
});

export const buildNoun = describedNoun({
  schema: Build,
  one: 'build',
  many: 'builds',
  key: 'builds',
});

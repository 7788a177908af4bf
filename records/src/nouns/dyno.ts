import { CAUSES, CHARGINGS, CORRECTIONS, degrees, type Kind } from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { camCentreline, camDuration, camSeparation, compressionSchema } from './build.js';
import { DateText, Day, Id, Name, Note, Short, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { custom } from '../refusal.js';

/** Where power was taken: at the crank or at the wheels. The two are never converted into one another. */
export const DYNOS = ['engine dyno', 'chassis dyno'] as const;

/** One row of a pull: what was read at a speed. */
export const PullRow = z.object({
  speed: quantitySchema('rotation', { min: 1, max: 500, sentence: 'An engine speed lies between 60 and 30,000 rpm.' }),
  power: quantitySchema('power', { min: 1, max: 2e7, sentence: 'This is no power an engine makes.' })
    .nullable()
    .default(null),
  torque: quantitySchema('torque', { min: 0.01, max: 1e5, sentence: 'This is no torque an engine makes.' })
    .nullable()
    .default(null),
  /** Air over fuel against stoichiometric. */
  lambda: quantitySchema('ratio', { min: 0.4, max: 3, sentence: 'Lambda lies between 0.4 and 3.' })
    .nullable()
    .default(null),
  /** Absolute pressure in the manifold. */
  manifold: quantitySchema('pressure', { min: 1e4, max: 8e5, sentence: 'This is no pressure of a manifold.' })
    .nullable()
    .default(null),
  /** Of the air at the inlet. */
  temperature: quantitySchema('temperature', { min: 233, max: 500, sentence: 'This is no temperature of the inlet.' })
    .nullable()
    .default(null),
  fuel: quantitySchema('massFlow', { min: 0, max: 2, sentence: 'This is no fuel an engine takes.' })
    .nullable()
    .default(null),
  air: quantitySchema('massFlow', { min: 0, max: 20, sentence: 'This is no air an engine takes.' })
    .nullable()
    .default(null),
});

/** What was on the engine besides its head. What nobody noted stays empty. */
export const PullSetup = z.object({
  compression: compressionSchema.nullable().default(null),
  /** The cam as it was installed. */
  lobeSeparation: camSeparation.nullable().default(null),
  intakeCentreline: camCentreline.nullable().default(null),
  duration: camDuration.nullable().default(null),
  ignition: quantitySchema('angle', {
    min: degrees(-20),
    max: degrees(70),
    sentence: 'Ignition lies between 20° after and 70° before top dead centre.',
  })
    .nullable()
    .default(null),
  manifold: Short,
  exhaust: Short,
  fuel: Short,
  tune: Short,
  /** How a diesel gets its air, and its fuel of a cycle, mg for each litre: what ISO 1585 asks. */
  charging: z.enum(CHARGINGS).nullable().default(null),
  fuelPerCycle: z.number().gt(0, 'Fuel of a cycle must be above zero.').max(400).nullable().default(null),
});
export type PullSetup = z.infer<typeof PullSetup>;

/** A pull on the dyno: what was on the engine, the air of the day, and what was read. */
export const Pull = z.object({
  ...Stored,
  buildId: Id,
  /** The head as it was on the engine, where it is one of ours. */
  stageId: Id.nullable().default(null),
  title: Name,
  date: DateText,
  dyno: z.enum(DYNOS).default('engine dyno'),
  /** What its figures are; null where nobody said. */
  correction: z.enum(CORRECTIONS).nullable().default(null),
  pressure: quantitySchema('pressure', {
    min: 5e4,
    max: 1.1e5,
    sentence: 'A barometer stands between 500 and 1,100 mbar (14.8 and 32.5 inHg).',
  })
    .nullable()
    .default(null),
  temperature: quantitySchema('temperature', {
    min: 233,
    max: 333,
    sentence: 'The air of a dyno cell lies between −40 and 60 °C.',
  })
    .nullable()
    .default(null),
  humidity: quantitySchema('percent', { min: 0, max: 1, sentence: 'Relative humidity lies between 0 and 100 %.' })
    .nullable()
    .default(null),
  /** The cell, so that pulls of two cells are not taken for one another. */
  cell: Short,
  /** Which pull of its day it was. */
  position: z.int32().min(0).max(500).default(0),
  setup: PullSetup.prefault({}),
  /** Why it fell short, once that was found. */
  cause: z.enum(CAUSES).nullable().default(null),
  causeNote: Short,
  rows: z.array(PullRow).min(1, 'A pull has at least one row.').max(2000, 'Keep a pull under 2,000 rows.'),
  note: Note,
});
export type Pull = z.infer<typeof Pull>;

/** Columns of a dyno's files that were laid down by hand, known again by their headings. */
export const PULL_COLUMNS = [
  'speed',
  'power',
  'torque',
  'lambda',
  'manifold',
  'temperature',
  'fuel',
  'air',
  'run',
] as const;
export type PullColumn = (typeof PULL_COLUMNS)[number];
/** What kind of quantity each column holds; the run is a name. */
export const PULL_KINDS = {
  speed: 'rotation',
  power: 'power',
  torque: 'torque',
  lambda: 'ratio',
  manifold: 'pressure',
  temperature: 'temperature',
  fuel: 'massFlow',
  air: 'massFlow',
} as const satisfies Record<Exclude<PullColumn, 'run'>, Kind>;
/** Columns that hold a quantity. */
export type PullQuantity = keyof typeof PULL_KINDS;
export const PULL_READS = PULL_COLUMNS.filter((c): c is PullQuantity => c !== 'run');
export const ColumnMap = z.object({
  ...Stored,
  headings: z.array(z.string().max(200)).min(1).max(200),
  /** What each column is, and its unit; null is left out. */
  columns: z
    .array(z.object({ column: z.enum(PULL_COLUMNS), unit: z.string().max(20).default('') }).nullable())
    .max(200),
});
export type ColumnMap = z.infer<typeof ColumnMap>;

/** What an engine was forecast to make, before it was pulled: kept as it was said, and scored after the pull. */
export const PowerForecast = z.object({
  ...Stored,
  buildId: Id,
  stageId: Id.nullable().default(null),
  made: Day,
  by: Short,
  content: z.object({
    program: z.string().max(40),
    /** The estimate's name, or the person's own word. */
    method: z.string().trim().min(1).max(200),
    /** At the speed wanted or at its peak, W. */
    power: z.number().gt(0, 'A forecast of power is above zero.').max(2e7),
    /** Standard uncertainty, W. */
    u: z.number().min(0).max(2e7),
    use: z.string().max(40),
    fuel: z.string().max(40),
    words: z.string().max(1000).default(''),
  }),
  /** The pull that answers it; null until there is one. */
  pullId: Id.nullable().default(null),
  note: Note,
});
export type PowerForecast = z.infer<typeof PowerForecast>;

/** The shop's own power per flow for engines of one use and fuel, learnt from its pulls. */
const perFlow = quantitySchema('powerPerFlow', { min: 1e5, max: 5e6, sentence: 'This is no power per flow.' });
export const OwnFactor = z
  .object({
    ...Stored,
    use: z.string().trim().min(1).max(40),
    fuel: z.string().trim().min(1).max(40),
    low: perFlow,
    likely: perFlow,
    high: perFlow,
    /** Engines it was learnt from. */
    count: z.int32().min(1).max(10_000),
    made: Day,
  })
  .refine((f) => f.low.si < f.likely.si && f.likely.si < f.high.si, {
    path: ['likely'],
    ...custom('likelyOutside'),
  });
export type OwnFactor = z.infer<typeof OwnFactor>;

export const ROUND_KINDS = [
  'which wins',
  'what it flows',
  'which figure slips',
  'what is not equal',
  'possible or not',
  'where it chokes',
  'which cam',
] as const;
/** One round of practice: what was asked, and whether it was known. What was missed comes again. */
export const Round = z.object({
  ...Stored,
  who: Short,
  kind: z.enum(ROUND_KINDS),
  /** Names the question: the same one comes again by it. */
  question: z.string().min(1).max(300),
  answer: Short,
  right: z.boolean(),
  date: Day,
});
export type Round = z.infer<typeof Round>;

export const pullNoun = describedNoun({
  schema: Pull,
  one: 'dyno pull',
  many: 'dyno pulls',
  key: 'pulls',
  refers: { buildId: 'build', stageId: 'stage' },
});

export const powerForecastNoun = describedNoun({
  schema: PowerForecast,
  one: 'forecast of power',
  many: 'forecasts of power',
  key: 'powerForecasts',
  refers: { buildId: 'build', stageId: 'stage', pullId: 'pull' },
});

export const columnMapNoun = describedNoun({
  schema: ColumnMap,
  one: 'column map',
  many: 'column maps',
  key: 'columnMaps',
});

export const ownFactorNoun = describedNoun({
  schema: OwnFactor,
  one: 'power per flow of the shop',
  many: 'powers per flow of the shop',
  key: 'ownFactors',
});

export const roundNoun = describedNoun({
  schema: Round,
  one: 'round of practice',
  many: 'rounds of practice',
  key: 'rounds',
});

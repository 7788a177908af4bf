/** The nouns of the bench: a session with its plan and set-ups, every raw reading, calibrations, calls, maps. */
import { inches, liftSchedule, millimetres, refusedBy } from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { depressionSchema } from './build.js';
import { DateText, Day, Excused, Id, Name, Note, Short, SideName, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { ENTRIES, FLOW_VALVES, FURTHER_SETUP, GASKETS, PIPES, SPRINGS, SWIRL, Setup, YES_NO } from './sheet.js';
import { custom, issue, issueOf, sentenceOf } from '../refusal.js';

// plan.ports[]!: one was found there.

const liftOf = (what: string) =>
  quantitySchema('lift', { min: 0, max: inches(3), sentence: `${what} must lie between 0 and 3.000 in.` });
const lengthOf = (what: string, min: number, max: number) =>
  quantitySchema('length', {
    min: millimetres(min),
    max: millimetres(max),
    sentence: `${what} must lie between ${min} and ${max} mm.`,
  });
const flow = quantitySchema('flow', { min: 0, max: 2, sentence: 'A flow must lie between 0 and about 4,200 cfm.' });
const instant = z.iso
  .datetime({ offset: true, error: 'Write the time as 2026-05-31T14:05:00Z.' })
  .refine((text) => text >= '1000', custom('yearOfMoment'));

/** Places of a port where a pitot is held. */
export const MAP_PLACES = ['pinch', 'window', 'roof', 'short turn', 'throat', 'outlet'] as const;
export const WALLS = ['left', 'right', 'unknown'] as const;

const Grid = z.object({
  place: z.enum(MAP_PLACES).default('pinch'),
  lift: liftOf('The lift'),
  rows: z.int32().min(1).max(20, 'A map has 1 to 20 rows.').default(5),
  columns: z.int32().min(1).max(20, 'A map has 1 to 20 columns.').default(5),
});

/** What a test asks for. A shop's template is one of these with a name. */
export const Plan = z
  .object({
    sides: z.array(SideName).min(1, 'Choose at least one side.').max(2).default(['intake', 'exhaust']),
    /** Cylinders whose ports are tested; `hard` ones come first. */
    ports: z
      .array(z.object({ number: z.int32().min(1).max(48), hard: z.boolean().default(false) }))
      .min(1, 'Choose at least one port.')
      .max(48)
      .default([{ number: 1, hard: false }]),
    /** Even steps from the first step to the last lift; null when only single lifts are asked for. */
    step: liftOf('A step').nullable().default(null),
    to: liftOf('The last lift').nullable().default(null),
    halfBelow: liftOf('The end of the half steps').nullable().default(null),
    beyond: z.int32().min(0).max(10, 'At most ten steps beyond.').default(0),
    list: z.array(liftOf('A lift')).max(100).default([]),
    pulls: z.int32().min(1).max(10, 'At most ten pulls.').default(1),
    swirl: z.boolean().default(false),
    wetFlow: z.boolean().default(false),
    /** A pull with the valve out and a radiused plug in the seat, of each port. */
    valveOut: z.boolean().default(false),
    maps: z.array(Grid).max(20).default([]),
    /** When a reading counts as steady; shares of the mean. */
    steady: z
      .object({
        window: z.number().min(0.5).max(30, 'The window must lie between 0.5 and 30 seconds.').default(2),
        slope: z.number().min(0.0005).max(0.1).default(0.004),
        spread: z.number().min(0.0005).max(0.1).default(0.008),
      })
      .prefault({}),
    /** How far the depression may be off: held within, refused beyond; shares of the one set. */
    depression: z
      .object({
        held: z.number().min(0.001).max(0.1).default(0.005),
        refuse: z.number().min(0.01).max(0.9).default(0.25),
      })
      .prefault({}),
  })
  .superRefine((plan, ctx) => {
    const twin = plan.ports.findIndex((p, i) => plan.ports.findIndex((o) => o.number === p.number) < i);
    if (twin >= 0) ctx.addIssue(issue(['ports', twin, 'number'], 'portTwice', plan.ports[twin]!.number));
    if (!plan.step && !plan.to && plan.list.length === 0) {
      ctx.addIssue(issue(['to'], 'noLastLift'));
      return;
    }
    try {
      liftsOf(plan);
    } catch (error) {
      ctx.addIssue(issueOf([plan.step ? 'to' : 'step'], sentenceOf(refusedBy(error))));
    }
  });
export type Plan = z.infer<typeof Plan>;

/** The lifts of a plan, rising, m. @throws Refusal with a sentence when they make no schedule. */
export const liftsOf = (plan: Pick<Plan, 'step' | 'to' | 'halfBelow' | 'beyond' | 'list'>): number[] =>
  liftSchedule({
    step: plan.step?.si ?? 0,
    to: plan.to?.si ?? 0,
    halfBelow: plan.halfBelow?.si ?? 0,
    beyond: plan.beyond,
    list: plan.list.map((l) => l.si),
  });

/** The shop's own plan. */
export const PlanTemplate = z.object({ ...Stored, name: Name, plan: Plan });
export type PlanTemplate = z.infer<typeof PlanTemplate>;

const UNKNOWN = z.literal('unknown');
/** An answer or "unknown"; what is wrong with an answer is said in the answer's own words. */
const known = <T extends z.ZodType>(schema: T) =>
  z
    .union([UNKNOWN, schema], {
      error: (issue) => (issue.code === 'invalid_union' ? issue.errors.at(-1)?.[0]?.message : undefined),
    })
    .nullable()
    .default(null);

/**
 * How a stretch of a session is set up. Null is a question not answered yet: nothing is recorded before it is.
 * "unknown" is an answer, and stays one.
 */
export const BenchSetup = z.object({
  depression: known(depressionSchema),
  bore: known(lengthOf('The bore fixture', 20, 600)),
  entry: z.enum(ENTRIES).nullable().default(null),
  exhaustPipe: z.enum(PIPES).nullable().default(null),
  pipeDiameter: known(lengthOf('The pipe', 10, 300)),
  pipeLength: known(lengthOf('The pipe length', 10, 10_000)),
  holesClosed: z.enum(YES_NO).nullable().default(null),
  springs: z.enum(SPRINGS).nullable().default(null),
  valve: z.enum(FLOW_VALVES).nullable().default(null),
  intakeFlowValve: known(lengthOf('The flow valve', 8, 240)),
  exhaustFlowValve: known(lengthOf('The flow valve', 8, 240)),
  /** Which kind of port: long runner, short runner, divided. Empty is not answered. */
  portKind: Short,
  gasket: z.enum(GASKETS).nullable().default(null),
  leakTest: z.enum(['done', 'unknown']).nullable().default(null),
  /** Flow read with the valve shut, per side and depression. */
  leaks: z
    .array(z.object({ side: SideName, depression: depressionSchema, flow }))
    .max(40)
    .default([]),
  /** The calibration that counts: an id, "none" ever made, or "unknown". */
  calibration: z
    .union([UNKNOWN, z.literal('none'), Id])
    .nullable()
    .default(null),
  ...FURTHER_SETUP,
  reads: z.enum(['flow', 'percent', 'differential']).default('flow'),
  scales: Setup.shape.scales,
  ranges: Setup.shape.ranges,
  meterTemperature: Setup.shape.meterTemperature,
  portTemperature: Setup.shape.portTemperature,
  note: Short,
});
export type BenchSetup = z.infer<typeof BenchSetup>;

/** One visit to the bench with one head at one stage. Its set-ups follow each other; the last one is current. */
export const Session = z.object({
  ...Stored,
  headId: Id,
  stageId: Id,
  sourceId: Id.nullable().default(null),
  title: Name,
  date: DateText,
  plan: Plan,
  setups: z.array(BenchSetup).min(1).max(50, 'A session has at most 50 set-ups.'),
  /** Whether the user called it finished; open ones are gone on with. */
  finished: z.boolean().default(false),
  /** Why it ended before all was recorded. */
  stopped: Short,
  /** What is owed and will not be done, by its key, with the reason. */
  excused: Excused,
  note: Note,
});
export type Session = z.infer<typeof Session>;

export const READING_STATES = ['kept', 'retaken', 'taken back'] as const;

/** What was read at one moment, as it came: never changed, only set aside. */
export const RawReading = z
  .object({
    ...Stored,
    sessionId: Id,
    sheetId: Id.nullable().default(null),
    /** Which of the session's set-ups, from 0. */
    setup: z.int32().min(0).max(49),
    number: z.int32().min(1).max(48),
    side: SideName,
    lift: liftOf('A lift'),
    /** Beginning at 0: which pull of this point. */
    pull: z.int32().min(0).max(19).default(0),
    flow: flow.nullable().default(null),
    percent: quantitySchema('percent', {
      min: 0,
      max: 1.2,
      sentence: 'A percent reading must lie between 0 and 120 %.',
    })
      .nullable()
      .default(null),
    range: z.string().max(20).nullable().default(null),
    swirl: SWIRL.nullable().default(null),
    depression: depressionSchema.nullable().default(null),
    /** Standard deviation of the samples as a share of their mean, and over how many seconds; null when typed. */
    spread: z.number().min(0).max(1).nullable().default(null),
    seconds: z.number().min(0).max(600).nullable().default(null),
    /** The samples themselves: seconds before the last, reading (m³/s or share), depression (Pa). */
    samples: z
      .array(z.tuple([z.number(), z.number(), z.number().nullable()]))
      .max(400)
      .default([]),
    noisy: z.boolean().default(false),
    /** Why this point was skipped; empty when it was read. */
    skipped: Short,
    state: z.enum(READING_STATES).default('kept'),
    at: instant,
  })
  .superRefine((r, ctx) => {
    const read = [r.flow, r.percent].filter((q) => q !== null).length;
    if (r.skipped === '' && read === 0 && r.swirl === null) ctx.addIssue(issue(['flow'], 'readingWithoutValue'));
    if (read > 1) ctx.addIssue(issue(['percent'], 'readingOfTwo'));
  });
export type RawReading = z.infer<typeof RawReading>;

/** One check of a bench against a plate or a head whose flow is agreed. */
export const Calibration = z
  .object({
    ...Stored,
    sourceId: Id,
    date: Day,
    against: z.enum(['plate', 'control head']).default('plate'),
    diameter: lengthOf('The hole', 5, 300).nullable().default(null),
    /** Of the pipe that leads to a plate; null where the plate sits on a fixture and draws from the room. */
    bore: lengthOf('The pipe', 20, 1000).nullable().default(null),
    depression: depressionSchema.nullable().default(null),
    /** Agreed flow of a control head, or of a plate with a certificate; null: worked out. */
    expected: flow.nullable().default(null),
    measured: flow,
    /** Of a control head flowed lift by lift: what is agreed, what was read. The dearest lift is `expected`, `measured`. */
    points: z
      .array(z.object({ lift: liftOf('A lift'), expected: flow, measured: flow }))
      .max(60, 'At most 60 lifts of a control head.')
      .default([]),
    note: Short,
  })
  .superRefine((c, ctx) => {
    c.points.forEach((p, i) => {
      for (const field of ['expected', 'measured'] as const)
        if (p[field].si <= 0) ctx.addIssue(issue(['points', i, field], 'flowNotAboveZero'));
    });
    if (c.measured.si <= 0) ctx.addIssue(issue(['measured'], 'measuredNotAboveZero'));
    if (c.expected !== null) return;
    if (c.against === 'control head') ctx.addIssue(issue(['expected'], 'noAgreedFlow'));
    else
      for (const field of ['diameter', 'depression'] as const)
        if (c[field] === null) ctx.addIssue(issue([field], 'missing', FIELD_WORDS[field]));
  });
export type Calibration = z.infer<typeof Calibration>;
const FIELD_WORDS = { diameter: 'hole of the plate', depression: 'depression' } as const;

/** What somebody expects before the first reading. */
const callLift = quantitySchema('lift', {
  min: 1e-4,
  max: inches(3),
  sentence: 'A lift must lie between 0 and 3.000 in.',
});
export const Call = z
  .object({
    ...Stored,
    /** Of a session: its best ports. */
    sessionId: Id.nullable().default(null),
    /** Anywhere else: what one side of a stage will flow at a lift. */
    stageId: Id.nullable().default(null),
    side: SideName.nullable().default(null),
    lift: callLift.nullable().default(null),
    flow: flow.nullable().default(null),
    /** What it was called on: a claim, the head on the table, a change that was made. */
    on: Short,
    who: Short,
    intakePeak: flow.nullable().default(null),
    exhaustPeak: flow.nullable().default(null),
    /** Where the port is thought to be worst. */
    worst: Short,
    date: DateText,
  })
  .superRefine((call, ctx) => {
    if (call.sessionId) return;
    for (const field of ['stageId', 'side', 'lift', 'flow', 'date'] as const)
      if (!call[field]) ctx.addIssue(issue([field], 'needed'));
  });
export type Call = z.infer<typeof Call>;

const pitot = quantitySchema('depression', {
  min: -20_000,
  max: 50_000,
  sentence: 'A pitot pressure must lie between −20 and 50 kPa.',
});

/** Velocities across one place of a port at one lift. A bouncing reading is a range. */
export const VelocityMap = z
  .object({
    ...Stored,
    stageId: Id,
    portId: Id.nullable().default(null),
    sessionId: Id.nullable().default(null),
    side: SideName.default('intake'),
    ...Grid.shape,
    depression: depressionSchema,
    /** Which side of the picture the cylinder wall is on. */
    wall: z.enum(WALLS).default('unknown'),
    cells: z
      .array(
        z.object({
          row: z.int32().min(0).max(19),
          column: z.int32().min(0).max(19),
          low: pitot,
          high: pitot.nullable().default(null),
        }),
      )
      .max(400)
      .default([]),
    date: DateText,
    note: Short,
  })
  .superRefine((map, ctx) => {
    map.cells.forEach((c, i) => {
      const complain = (code: 'cellOutside' | 'cellTwice' | 'readingsSwapped') =>
        ctx.addIssue(issue(['cells', i], code));
      if (c.row >= map.rows || c.column >= map.columns) complain('cellOutside');
      if (map.cells.findIndex((o) => o.row === c.row && o.column === c.column) < i) complain('cellTwice');
      if (c.high && c.high.si < c.low.si) complain('readingsSwapped');
    });
  });
export type VelocityMap = z.infer<typeof VelocityMap>;

export const WET_MARKS = ['stream', 'dry', 'pool', 'shear', 'other'] as const;

/** A look at how fluid runs: a photo with marks on it. */
export const WetFlow = z.object({
  ...Stored,
  stageId: Id,
  portId: Id.nullable().default(null),
  sessionId: Id.nullable().default(null),
  side: SideName.default('intake'),
  lift: liftOf('The lift').nullable().default(null),
  attachmentId: Id,
  /** Shares of the picture's width and height. */
  marks: z
    .array(z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1), kind: z.enum(WET_MARKS), text: Short }))
    .max(100)
    .default([]),
  date: DateText,
  note: Note,
});
export type WetFlow = z.infer<typeof WetFlow>;

export const sessionNoun = describedNoun({
  schema: Session,
  one: 'bench session',
  many: 'bench sessions',
  key: 'sessions',
  refers: { headId: 'head', stageId: 'stage', sourceId: 'source' },
  of: 'head',
  order: 'date nulls first, id',
});

export const callNoun = describedNoun({
  schema: Call,
  one: 'call',
  many: 'calls',
  key: 'calls',
  refers: { sessionId: 'session', stageId: 'stage' },
});

export const rawReadingNoun = describedNoun({
  schema: RawReading,
  one: 'raw reading',
  many: 'raw readings',
  key: 'readings',
  refers: { sessionId: 'session', sheetId: 'sheet' },
});

export const velocityMapNoun = describedNoun({
  schema: VelocityMap,
  one: 'velocity map',
  many: 'velocity maps',
  key: 'velocityMaps',
  refers: { stageId: 'stage', portId: 'port', sessionId: 'session' },
  of: 'stage',
  order: 'date nulls first, id',
});

export const wetFlowNoun = describedNoun({
  schema: WetFlow,
  one: 'wet-flow look',
  many: 'wet-flow looks',
  key: 'wetFlows',
  refers: { stageId: 'stage', portId: 'port', sessionId: 'session', attachmentId: 'attachment' },
  of: 'stage',
  order: 'date nulls first, id',
});

export const planTemplateNoun = describedNoun({
  schema: PlanTemplate,
  one: 'test plan',
  many: 'test plans',
  key: 'plans',
});

export const calibrationNoun = describedNoun({
  schema: Calibration,
  one: 'calibration',
  many: 'calibrations',
  key: 'calibrations',
  refers: { sourceId: 'source' },
});

import { SAME_LIFT, inches, millimetres, rpm } from '@alluvium/core';
import { z } from 'zod';
import { QuantityInput, quantitySchema, type Quantity } from '../quantity.js';
import { depressionSchema } from './build.js';
import { DateText, Day, Excused, Id, Name, Note, Short, SideName, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { issueOf, sentence, firstRefused, type CodedSentence } from '../refusal.js';
import { needsScale, rangeOf } from '../ranges.js';

export const READS = ['flow', 'percent', 'differential', 'difference'] as const;
export const ENTRIES = ['radius', 'clay', 'manifold', 'bare', 'unknown'] as const;
export const PIPES = ['bare', 'piped', 'unknown'] as const;
export const SPRINGS = ['light', 'running', 'unknown'] as const;
export const GASKETS = ['on', 'off', 'unknown'] as const;
export const FLOW_VALVES = ['own', 'other', 'unknown'] as const;
export const YES_NO = ['yes', 'no', 'unknown'] as const;
/** Which valves are back-cut: an intake's says nothing of the exhaust. */
export const BACK_CUTS = ['yes', 'no', 'intake only', 'exhaust only', 'unknown'] as const;
export const NOTCHES = ['none', 'chamber side', 'chamfer', 'radius', 'unknown'] as const;
export const CHAMBERS = ['as cast', 'trimmed', 'milled', 'unknown'] as const;

export const MAX_ROWS = 400;
const flowLimit = { min: 0, max: 2, sentence: 'A flow must lie between 0 and about 4,200 cfm.' };
const lift = quantitySchema('lift', { min: 0, max: inches(3), sentence: 'A lift must lie between 0 and 3.000 in.' });
const flowValve = quantitySchema('length', {
  min: millimetres(8),
  max: millimetres(240),
  sentence: 'A flow valve must lie between 8 and 240 mm.',
});
const temperature = quantitySchema('temperature', {
  min: 240,
  max: 360,
  sentence: 'The temperature must lie between −33 and 87 °C.',
});

/** One point of one side: one value per pull, in the sheet's own reading. */
export const Reading = z.object({
  pulls: z.array(QuantityInput).min(1).max(20, 'At most 20 pulls of a point.'),
  /** Range of the bench this point was read on. */
  range: z.string().max(20).nullable().default(null),
  /** Depression at this point when the set one was not held. */
  depression: depressionSchema.nullable().default(null),
  noisy: z.boolean().default(false),
});

export const Row = z.object({
  lift,
  intake: Reading.nullable().default(null),
  exhaust: Reading.nullable().default(null),
  /** Why a side was not read here, or why the run stopped. */
  missing: Short,
  note: Short,
});

const length = (what: string, min: number, max: number) =>
  quantitySchema('length', {
    min: millimetres(min),
    max: millimetres(max),
    sentence: `${what} must lie between ${min} and ${max} mm.`,
  });

/** What of a set-up decides between tests that look alike, and is asked for once somebody looks for it. */
export const FURTHER_SETUP = {
  /** Radius of a radiused entry, thickness of a plate, length of clay. */
  entrySize: length('The entry', 1, 300).nullable().default(null),
  /** As people call it: quarter round, bell, square. */
  entryShape: Short,
  guides: z.enum(YES_NO).default('unknown'),
  chamber: z.enum(CHAMBERS).default('unknown'),
  backCut: z.enum(BACK_CUTS).default('unknown'),
  /** How far the head was moved on its fixture, off the bore's centre; null where it stood as it bolts on. */
  shifted: length('The shift', -25, 25).nullable().default(null),
  notch: z.enum(NOTCHES).default('unknown'),
  notchToRing: z.enum(YES_NO).default('unknown'),
  /** Which spark plug stood in the chamber, and how far its end reached in. */
  plug: Short,
  plugReach: length('The plug’s reach', 0, 60).nullable().default(null),
  barometer: quantitySchema('pressure', {
    min: 40_000,
    max: 115_000,
    sentence: 'The barometer must lie between 400 and 1150 mbar.',
  })
    .nullable()
    .default(null),
  /** How the bench was brought to zero. */
  zero: Short,
};

/** How the test was done. Null or "unknown" is an answer: it is shown as unknown, never filled in. */
export const Setup = z.object({
  reads: z.enum(READS).default('flow'),
  depression: depressionSchema.nullable().default(null),
  bore: quantitySchema('length', {
    min: millimetres(20),
    max: millimetres(600),
    sentence: 'The bore fixture must lie between 20 and 600 mm.',
  })
    .nullable()
    .default(null),
  entry: z.enum(ENTRIES).default('unknown'),
  exhaustPipe: z.enum(PIPES).default('unknown'),
  pipeDiameter: quantitySchema('length', {
    min: millimetres(10),
    max: millimetres(300),
    sentence: 'The pipe must lie between 10 and 300 mm.',
  })
    .nullable()
    .default(null),
  pipeLength: quantitySchema('length', {
    min: millimetres(10),
    max: 10,
    sentence: 'The pipe length must lie between 10 mm and 10 m.',
  })
    .nullable()
    .default(null),
  holesClosed: z.enum(YES_NO).default('unknown'),
  valve: z.enum(FLOW_VALVES).default('unknown'),
  /** The valve the test was done with, when it is not the head's own. */
  intakeFlowValve: flowValve.nullable().default(null),
  exhaustFlowValve: flowValve.nullable().default(null),
  springs: z.enum(SPRINGS).default('unknown'),
  gasket: z.enum(GASKETS).default('unknown'),
  /** Which kind of port: long runner, short runner, divided. */
  portKind: Short,
  factor: quantitySchema('ratio', { min: 0.5, max: 2, sentence: 'A calibration factor must lie between 0.5 and 2.' })
    .nullable()
    .default(null),
  intakeLeak: quantitySchema('flow', flowLimit).nullable().default(null),
  exhaustLeak: quantitySchema('flow', flowLimit).nullable().default(null),
  meterTemperature: temperature.nullable().default(null),
  portTemperature: temperature.nullable().default(null),
  ...FURTHER_SETUP,
  /** The day from which the bench has the full scales this test was read by; null: `ranges` are the test's own. */
  scales: Day.nullable().default(null),
  /** Full scales, one per range and direction: the bench's from that day, or the test's own. */
  ranges: z
    .array(
      z.object({
        name: z.string().trim().min(1).max(20),
        intake: quantitySchema('flow', flowLimit).nullable().default(null),
        exhaust: quantitySchema('flow', flowLimit).nullable().default(null),
      }),
    )
    .max(20)
    .default([]),
});
export type Setup = z.infer<typeof Setup>;

const FLOW = quantitySchema('flow', flowLimit);
/** A full scale: a flow above zero. */
export const flowSchema = quantitySchema('flow', { ...flowLimit, min: 1e-6 });
const DIFFERENCE = quantitySchema('flow', {
  min: -2,
  max: 2,
  sentence: 'A difference must lie within about 4,200 cfm.',
});
const PERCENT = quantitySchema('percent', {
  min: 0,
  max: 1.2,
  sentence: 'A percent reading must lie between 0 and 120 %.',
});

/** What one reading of a sheet is, by what the bench shows. */
export const readingSchema = (reads: (typeof READS)[number]) =>
  reads === 'flow' ? FLOW : reads === 'difference' ? DIFFERENCE : PERCENT;

export const SWIRL = quantitySchema('rotation', {
  min: rpm(-30_000),
  max: rpm(30_000),
  sentence: 'A swirl meter turns within 30,000 rpm either way.',
});

const pixel = z.number().min(-100_000).max(100_000);
/** A place of a picture whose value is printed on the chart. */
const mark = <T extends z.ZodType>(value: T) => z.object({ x: pixel, y: pixel, value });
const pair = <T extends z.ZodType>(value: T) => z.array(mark(value)).length(2, 'An axis is set by two points.');

/** How a sheet was read off a picture of a chart: two known points of each axis, and every place that was clicked. Pixels. */
export const Chart = z.object({
  attachmentId: Id,
  lift: pair(lift),
  flow: pair(quantitySchema('flow', flowLimit)),
  points: z.array(z.object({ side: SideName, x: pixel, y: pixel })).max(2 * MAX_ROWS),
});
export type Chart = z.infer<typeof Chart>;

/** Readings with the valve out, by side. */
export const ValveOut = z.object({
  intake: Reading.nullable().default(null),
  exhaust: Reading.nullable().default(null),
});
export const NO_VALVE_OUT = { intake: null, exhaust: null } as const;

/** What a sheet that was just read or begun says of itself beside its rows: nothing yet. */
export const SHEET_BESIDE = {
  chart: null,
  pageId: null,
  setAside: '',
  baselineId: null,
  siblingOf: null,
  excused: {},
} as const;

const sheetShape = z.object({
  ...Stored,
  stageId: Id,
  sourceId: Id.nullable().default(null),
  title: Name,
  /** A claim is somebody's word; a measured sheet comes from a bench whose set-up is known. */
  kind: z.enum(['measured', 'claim']).default('measured'),
  date: DateText,
  intakePortId: Id.nullable().default(null),
  exhaustPortId: Id.nullable().default(null),
  setup: Setup,
  rows: z.array(Row).max(MAX_ROWS, `A sheet has at most ${MAX_ROWS} rows.`).default([]),
  /** Speed of the swirl meter over lift, with its sign; a list because a run may take swirl at its own lifts. */
  swirl: z
    .array(z.object({ lift, speed: z.array(SWIRL).min(1).max(20) }))
    .max(MAX_ROWS)
    .default([]),
  /** Flow with the valve out and a radiused plug in the seat: the port by itself. */
  valveOut: ValveOut.prefault({}),
  /** The picture it was read off, and how; null when it was typed or measured. */
  chart: Chart.nullable().default(null),
  /** The picture of the page it was typed from. */
  pageId: Id.nullable().default(null),
  /** Why another sheet of this port is believed instead; empty where this one counts. */
  setAside: Short,
  /** Of a sheet of differences: the sheet they were taken against. */
  baselineId: Id.nullable().default(null),
  /** Of a published table of several curves: the sheet of its first. */
  siblingOf: Id.nullable().default(null),
  excused: Excused,
  /** Why the run ended where it did. */
  stopped: Short,
  note: Note,
});

interface Problem extends CodedSentence {
  readonly path: (string | number)[];
}

const SIDES = ['intake', 'exhaust'] as const;

/** Whether a reading can be turned into a flow: a percent needs the full scale of its range in that direction. */
const hasScale = (setup: Pick<Setup, 'reads' | 'ranges'>, range: string | null, side: 'intake' | 'exhaust'): boolean =>
  !needsScale(setup) || Boolean(rangeOf(setup, range, side)?.[side]);

/** What is wrong with the rows taken together: doubled lifts, a percent without its full scale. */
export function rowProblems(
  setup: Pick<Setup, 'reads' | 'ranges'>,
  rows: readonly {
    lift: Quantity;
    intake: { range: string | null } | null;
    exhaust: { range: string | null } | null;
  }[],
): Problem[] {
  const problems: Problem[] = [];
  rows.forEach((row, i) => {
    const twin = rows.findIndex((other, j) => j < i && Math.abs(other.lift.si - row.lift.si) < SAME_LIFT);
    if (twin >= 0)
      problems.push({
        path: ['rows', i, 'lift'],
        ...sentence('liftTwice', row.lift.typed, twin + 1),
      });
    for (const side of SIDES) {
      const reading = row[side];
      if (reading && !hasScale(setup, reading.range, side))
        problems.push({ path: ['rows', i, side], ...sentence('nameTheRange', side) });
    }
  });
  return problems;
}

/** What is wrong with the readings taken with the valve out. */
export const valveOutProblems = (
  setup: Pick<Setup, 'reads' | 'ranges'>,
  valveOut: Readonly<Record<'intake' | 'exhaust', { readonly range: string | null } | null>>,
): Problem[] =>
  SIDES.flatMap((side) =>
    valveOut[side] && !hasScale(setup, valveOut[side].range, side)
      ? [{ path: ['valveOut', side], ...sentence('nameTheRange', side) }]
      : [],
  );

/** A table of flow over lift for one or both sides of one stage, with the set-up it was taken in. */
export const Sheet = sheetShape.transform((sheet, ctx) => {
  const schema = readingSchema(sheet.setup.reads);
  let sound = true;
  const complain = (problem: Problem) => {
    sound = false;
    ctx.addIssue(issueOf(problem.path, problem));
  };
  const read = (reading: z.infer<typeof Reading> | null, path: (string | number)[]) => {
    if (!reading) return null;
    const pulls = reading.pulls.flatMap((pull, k) => {
      const parsed = schema.safeParse(pull);
      if (parsed.success) return [parsed.data];
      complain({ path: [...path, 'pulls', k], ...firstRefused(parsed.error) });
      return [];
    });
    return { ...reading, pulls };
  };
  const rows = sheet.rows.map((row, i) => ({
    ...row,
    intake: read(row.intake, ['rows', i, 'intake']),
    exhaust: read(row.exhaust, ['rows', i, 'exhaust']),
  }));
  const valveOut = {
    intake: read(sheet.valveOut.intake, ['valveOut', 'intake']),
    exhaust: read(sheet.valveOut.exhaust, ['valveOut', 'exhaust']),
  };
  rowProblems(sheet.setup, rows).forEach(complain);
  valveOutProblems(sheet.setup, valveOut).forEach(complain);
  if (!sound) return z.NEVER;
  return { ...sheet, valveOut, rows: rows.sort((a, b) => a.lift.si - b.lift.si) };
});
export type Sheet = z.infer<typeof Sheet>;
export type SheetRow = Sheet['rows'][number];
export type SheetValveOut = Sheet['valveOut'];

/** A head in the comparison of a build, at a chosen stage, read from a chosen sheet (null: the one the program picks). */
export const LineupEntry = z.object({
  ...Stored,
  buildId: Id,
  stageId: Id,
  sheetId: Id.nullable().default(null),
  position: z.int32().min(0).default(0),
});
export type LineupEntry = z.infer<typeof LineupEntry>;

export const sheetNoun = describedNoun({
  schema: Sheet,
  one: 'flow sheet',
  many: 'flow sheets',
  key: 'sheets',
  refers: {
    stageId: 'stage',
    sourceId: 'source',
    intakePortId: 'port',
    exhaustPortId: 'port',
    baselineId: 'sheet',
    siblingOf: 'sheet',
    pageId: 'attachment',
  },
  of: 'stage',
  order: 'date nulls first, entered',
});

export const lineupEntryNoun = describedNoun({
  schema: LineupEntry,
  one: 'lineup entry',
  many: 'lineup entries',
  key: 'lineups',
  refers: { buildId: 'build', stageId: 'stage', sheetId: 'sheet' },
});

/** The nouns of change: what was done at a stage, what is to be done, and what a cut was forecast to buy. */
import { OPERATION_KINDS, OPERATIONS } from '@alluvium/core';
import { z } from 'zod';
import { QuantityInput, quantitySchema } from '../quantity.js';
import { DateText, Day, Id, Note, Short, SideName, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { issue, issueOf, readField, sentence, type CodedSentence } from '../refusal.js';

// wanted!, limit!, found!, within!: null where nothing is said.

const hours = quantitySchema('time', {
  min: 0,
  max: 2000 * 3600,
  sentence: 'Hours must lie between 0 and 2,000.',
})
  .nullable()
  .default(null);
const sided = (kind: (typeof OPERATION_KINDS)[number], side: string | null): CodedSentence | undefined =>
  OPERATIONS[kind].sided && side === null ? sentence('operationWithoutSide', kind) : undefined;

/** One thing done to a head at a stage: what, where, by whom, how long it took and what it cost. */
export const Operation = z
  .object({
    ...Stored,
    stageId: Id,
    kind: z.enum(OPERATION_KINDS),
    side: SideName.nullable().default(null),
    /** Null when it was done to every port of the side. */
    portId: Id.nullable().default(null),
    place: Short,
    /** The day it was done: tests before it are of the head as it was. */
    date: DateText,
    by: Short,
    time: hours,
    /** Parts and outside work; the shop's own hours are counted by its rate. */
    parts: quantitySchema('money', { min: 0, max: 1e7, sentence: 'Money cannot be negative, nor above ten million.' })
      .nullable()
      .default(null),
    position: z.int32().min(0).default(0),
    note: Note,
  })
  .superRefine((o, ctx) => {
    const why = sided(o.kind, o.side);
    if (why) ctx.addIssue(issueOf(['side'], why));
  });
export type Operation = z.infer<typeof Operation>;

/** What a task watches: a wall gets thinner, a diameter or an area grows. */
export const TASK_SIZES = ['wall', 'diameter', 'area'] as const;
export const TASK_KINDS = ['cut', 'keep out', 'check'] as const;

const taskShape = z.object({
  ...Stored,
  headId: Id,
  position: z.int32().min(0).default(0),
  kind: z.enum(TASK_KINDS).default('cut'),
  operation: z.enum(OPERATION_KINDS).nullable().default(null),
  side: SideName.nullable().default(null),
  portId: Id.nullable().default(null),
  /** What, and where: the floor of the short turn, 20 mm in. */
  place: z.string().trim().min(1, 'Say where.').max(200, 'Keep this under 200 letters.'),
  size: z.enum(TASK_SIZES).default('diameter'),
  wanted: QuantityInput.nullable().default(null),
  /** Where to stop: least wall, largest opening. */
  limit: QuantityInput.nullable().default(null),
  found: QuantityInput.nullable().default(null),
  /** The port the others follow, and how near they have to come. */
  pattern: z.boolean().default(false),
  within: QuantityInput.nullable().default(null),
  tool: Short,
  time: hours,
  done: DateText,
  note: Note,
});
const TASK_QUANTITIES = ['wanted', 'limit', 'found', 'within'] as const;
const taskLimits = {
  length: { min: 0, max: 0.5, sentence: 'A size must lie between 0 and 500 mm.' },
  area: { min: 0, max: 0.05, sentence: 'An area must lie between 0 and 50,000 mm².' },
} as const;
export const taskKind = (size: (typeof TASK_SIZES)[number]): 'length' | 'area' => (size === 'area' ? 'area' : 'length');

/** A line of a head's work list: what is cut where, to which size, and where to stop. */
export const Task = taskShape.transform((task, ctx) => {
  const kind = taskKind(task.size);
  const schema = quantitySchema(kind, taskLimits[kind]);
  let sound = true;
  const read = (name: (typeof TASK_QUANTITIES)[number]) => {
    const value = task[name];
    if (value === null) return null;
    const parsed = readField(ctx, [name], schema, value);
    sound &&= parsed !== undefined;
    return parsed ?? null;
  };
  const [wanted, limit, found, within] = TASK_QUANTITIES.map(read);
  const [w, l] = [wanted?.si, limit?.si];
  if (w !== undefined && l !== undefined && (task.size === 'wall' ? w < l : w > l)) {
    sound = false;
    ctx.addIssue(issue(['wanted'], task.size === 'wall' ? 'overThinLimit' : 'overLargeLimit'));
  }
  if (!sound) return z.NEVER;
  return { ...task, wanted: wanted!, limit: limit!, found: found!, within: within! };
});
export type Task = z.infer<typeof Task>;

const flow = z.number().min(-2).max(2);

/** What a cut was forecast to buy, before it was made: kept as it was said, and scored after the re-flow. */
export const Forecast = z.object({
  ...Stored,
  headId: Id,
  /** The stage it starts from. */
  stageId: Id,
  operation: z.enum(OPERATION_KINDS),
  side: SideName.default('intake'),
  made: Day,
  by: Short,
  content: z.object({
    /** The core that made it. */
    program: z.string().max(40),
    /** The method's title, or the person's own word. */
    method: z.string().max(200),
    /** Gain of the mean flow over the window of lift, and its standard uncertainty, m³/s. */
    gain: flow,
    u: z.number().min(0).max(2),
    /** The window: the cam's, or a usual one as high as the sheet. */
    window: z.string().max(200),
    /** What went in, as it was printed. */
    inputs: z.array(z.object({ label: z.string().max(200), text: z.string().max(200) })).max(40),
    records: z.array(z.object({ noun: z.string().max(40), id: Id, version: z.int32().min(1) })).max(500),
  }),
  /** The stage that answers it; null until it was cut and flowed. */
  outcomeId: Id.nullable().default(null),
  note: Note,
});
export type Forecast = z.infer<typeof Forecast>;

export const operationNoun = describedNoun({
  schema: Operation,
  one: 'piece of work',
  many: 'pieces of work',
  key: 'operations',
  refers: { stageId: 'stage', portId: 'port' },
  of: 'stage',
  order: 'position, id',
});

export const taskNoun = describedNoun({
  schema: Task,
  one: 'line of the work list',
  many: 'lines of the work list',
  key: 'tasks',
  refers: { headId: 'head', portId: 'port' },
  of: 'head',
  order: 'position, id',
});

export const forecastNoun = describedNoun({
  schema: Forecast,
  one: 'forecast',
  many: 'forecasts',
  key: 'forecasts',
  refers: { headId: 'head', stageId: 'stage', outcomeId: 'stage' },
  of: 'head',
  order: 'made, id',
});

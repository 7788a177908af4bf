/**
 * The protocol between the server and an instrument: one JSON object a line, both ways. Everything in SI; times are
 * milliseconds of the instrument's own clock. docs/instruments.md describes it for builders of adapters.
 */
import { KINDS, type Kind } from '@alluvium/core';
import { z } from 'zod';

export const PROTOCOL = 1;
/** A longer line is nonsense. */
export const MAX_LINE = 16_384;

const KIND = z.enum(Object.keys(KINDS) as [Kind, ...Kind[]]);
const finite = z.number().min(-1e15).max(1e15);
const key = z.string().regex(/^[a-z][a-zA-Z0-9]{0,30}$/);
const id = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$/);
const title = z.string().trim().min(1).max(80);

export const INSTRUMENT_KINDS = [
  'flow bench',
  'dial indicator',
  'swirl meter',
  'pitot',
  'seal tester',
  'scale',
  'calipers',
  'other',
] as const;
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];
export const FAULTS = ['disconnect', 'freeze', 'out of range', 'nonsense', 'none'] as const;
export type Fault = (typeof FAULTS)[number];
export const COMMANDS = [
  'stream',
  'range',
  'depression',
  'direction',
  'lift',
  'read',
  'mount',
  'probe',
  'fault',
] as const;

/** What an instrument says of itself, first of all. */
export const Hello = z.object({
  say: z.literal('hello'),
  protocol: z.literal(PROTOCOL, 'This instrument speaks another version of the protocol.'),
  id,
  name: title,
  kind: z.enum(INSTRUMENT_KINDS),
  /** A stand-in that ships with the program. */
  simulated: z.boolean().default(false),
  /** What it measures: `percent` (share of a range), `flow`, `depression`, `lift` … by name. */
  quantities: z
    .array(z.object({ name: key, kind: KIND, min: finite.optional(), max: finite.optional() }))
    .min(1)
    .max(20),
  /** Full scales by range and direction, m³/s. */
  ranges: z
    .array(z.object({ name: z.string().min(1).max(20), intake: finite.nullable(), exhaust: finite.nullable() }))
    .max(20)
    .default([]),
  takes: z.array(z.enum(COMMANDS)).default([]),
  /** The code shown on the page, typed into the instrument's program once. */
  code: z.string().max(12).optional(),
  /** What it was given to keep when it was paired. */
  key: z.string().max(100).optional(),
});
export type Hello = z.infer<typeof Hello>;

export const InstrumentSays = z.discriminatedUnion('say', [
  Hello,
  z.object({
    say: z.literal('sample'),
    at: finite,
    values: z.record(key, finite),
    /** Range in use. */
    range: z.string().max(20).optional(),
    direction: z.enum(['intake', 'exhaust']).optional(),
    /** Where a motor holds the pitot, from the left edge and from the roof. */
    probe: z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }).optional(),
  }),
  /** One value, in answer to `read` or because a button was pressed on the instrument. */
  z.object({ say: z.literal('reading'), id: z.int32().nullable().default(null), name: key, value: finite }),
  z.object({ say: z.literal('problem'), text: z.string().max(200) }),
]);
export type InstrumentSays = z.infer<typeof InstrumentSays>;
export type SampleFrame = Extract<InstrumentSays, { say: 'sample' }>;

/** What the head on the bench is, for a stand-in that has to pretend it. */
export const Mount = z.object({
  seed: z.int32().default(1),
  port: z.int32().min(1).max(48).default(1),
  intake: z.object({
    diameter: finite,
    throat: finite,
    stem: finite,
    seatWidth: finite,
    seatAngle: finite,
    valves: z.int32(),
    choke: finite,
  }),
  exhaust: z.object({
    diameter: finite,
    throat: finite,
    stem: finite,
    seatWidth: finite,
    seatAngle: finite,
    valves: z.int32(),
    choke: finite,
  }),
});
export type Mount = z.infer<typeof Mount>;

/** What a page may ask of an instrument. */
export const Order = z.discriminatedUnion('do', [
  z.object({ do: z.literal('stream'), on: z.boolean() }),
  z.object({ do: z.literal('range'), to: z.string().max(20) }),
  z.object({ do: z.literal('depression'), to: finite }),
  z.object({ do: z.literal('direction'), to: z.enum(['intake', 'exhaust']) }),
  z.object({ do: z.literal('lift'), to: finite }),
  /** Give one value of this name now; `near` is what it is expected to be, which only stand-ins look at. */
  z.object({ do: z.literal('read'), id: z.int32(), name: key, near: finite.optional() }),
  z.object({ do: z.literal('mount'), head: Mount }),
  /** Where the pitot is held, both from 0 to 1. */
  z.object({ do: z.literal('probe'), x: finite, y: finite }),
  z.object({ do: z.literal('fault'), fault: z.enum(FAULTS) }),
]);
export type Order = z.infer<typeof Order>;

/** What an instrument is told: orders, and how it stands with the server. */
export const Command = z.discriminatedUnion('do', [
  ...Order.options,
  /** It is paired: this is the key to keep and to say in every hello from now on. */
  z.object({ do: z.literal('keep'), key: z.string().max(100) }),
  /** It is not listened to; why, for whoever reads the adapter's output. */
  z.object({ do: z.literal('refused'), why: z.string().max(200) }),
]);
export type Command = z.infer<typeof Command>;

/** An instrument as the browser knows it. */
export interface Instrument extends Omit<Hello, 'say' | 'protocol' | 'code' | 'key'> {
  /** A stand-in, paired by a code, or unknown: nothing an unknown one says is taken. */
  readonly standing: 'simulated' | 'paired' | 'unknown';
  /** Lines it sent that made no sense, since it connected. */
  readonly nonsense: number;
  readonly problem: string;
}

/** Server to browser. */
export type BenchTells =
  | { readonly tell: 'instruments'; readonly instruments: readonly Instrument[] }
  | { readonly tell: 'samples'; readonly id: string; readonly frames: readonly SampleFrame[] }
  | { readonly tell: 'reading'; readonly id: string; readonly name: string; readonly value: number }
  | {
      readonly tell: 'hand';
      readonly session: string;
      readonly mine: boolean;
      readonly taken: boolean;
      readonly onlookers: number;
      /** Another page asks the one that records to hand over. */
      readonly asked: boolean;
      /** This page has asked and waits. */
      readonly asking: boolean;
      /** This page asked and was told no. */
      readonly refused: boolean;
    }
  /** A code to pair one instrument with, and until when, ms since 1970; null when it was used or is void. */
  | { readonly tell: 'code'; readonly code: string | null; readonly until: number }
  | { readonly tell: 'changed'; readonly session: string };

/** Browser to server. */
export const BenchAsks = z.discriminatedUnion('ask', [
  /** Streams samples to this browser from now on. */
  z.object({ ask: z.literal('watch'), on: z.boolean() }),
  /** Opens a session: the first browser records, others look on. `client` names the browser's page. */
  z.object({ ask: z.literal('session'), session: id, client: id }),
  /** Asks the page that records; it is given when that one says yes, is gone, or does not answer for a minute. */
  z.object({ ask: z.literal('take over'), session: id, client: id }),
  /** The answer of the page that records. */
  z.object({ ask: z.literal('hand over'), session: id, client: id, yes: z.boolean() }),
  /** A code to pair an instrument with. */
  z.object({ ask: z.literal('pair') }),
  /** Whoever holds the key of this instrument is unknown from now on. */
  z.object({ ask: z.literal('forget'), instrument: id }),
  z.object({ ask: z.literal('leave') }),
  z.object({ ask: z.literal('command'), instrument: id, command: Order }),
]);
export type BenchAsks = z.infer<typeof BenchAsks>;

/** Reads one line. A sentence instead of a message where it makes no sense. */
export function readLine<T>(
  schema: z.ZodType<T>,
  line: string,
): { readonly message: T } | { readonly problem: string } {
  if (line.length > MAX_LINE) return { problem: 'A line longer than 16 KB.' };
  let raw: unknown;
  try {
    raw = JSON.parse(line);
  } catch {
    return { problem: 'A line that is no JSON.' };
  }
  const parsed = schema.safeParse(raw);
  return parsed.success
    ? { message: parsed.data }
    : { problem: parsed.error.issues[0]?.message ?? 'An unknown message.' };
}

/** The rule book: whether two tables of flow may be held against each other, and what stands in the way. */
import type { Side } from '../evaluate/sheet.js';
import { listed } from '../words/listed.js';

/** How a table came about; undefined is unknown and stays so. */
export interface Conditions {
  readonly depression?: number | undefined;
  readonly bore?: number | undefined;
  readonly entry?: string | undefined;
  readonly exhaustPipe?: string | undefined;
  /** Whose valves it was tested with. */
  readonly valve?: string | undefined;
  /** Its own size, where it was not the head's own, m. */
  readonly flowValve?: number | undefined;
  readonly pipeDiameter?: number | undefined;
  readonly pipeLength?: number | undefined;
  /** Which runner. */
  readonly port?: string | undefined;
  /** Whose bench; left out where benches are what is compared. */
  readonly bench?: string;
}

export type AspectState = 'same' | 'convertible' | 'unknown' | 'differs';

export interface Aspect {
  readonly what: string;
  readonly state: AspectState;
  readonly sentence: string;
}

/** `freely`: nothing stands in the way. `reserved`: something is unknown. `not`: something differs that no formula mends. */
export type Comparability = 'freely' | 'reserved' | 'not';

export interface Comparison {
  readonly may: Comparability;
  readonly aspects: readonly Aspect[];
  /** The whole in one sentence. */
  readonly sentence: string;
}

/** Bores closer than this are one fixture, m; valves and pipes so much closer are one. */
const SAME_BORE = 0.00025;
const SAME_VALVE = 0.0001;
const SAME_PIPE = 0.001;

/**
 * Holds the conditions of two tables of one side against each other. Depression converts, and a pipe where what it is worth
 * is known (`converts`); nothing else does.
 */
export function comparable(
  a: Conditions,
  b: Conditions,
  side: Side,
  converts: { readonly pipe?: boolean } = {},
): Comparison {
  const aspects: Aspect[] = [];
  const put = (what: string, state: AspectState, sentence: string) => aspects.push({ what, state, sentence });

  if (a.depression === undefined || b.depression === undefined)
    put('depression', 'unknown', 'A depression is not stated; the table is read as if at 28 in.');
  else if (Math.abs(a.depression - b.depression) < 1) put('depression', 'same', 'Tested at the same depression.');
  else put('depression', 'convertible', 'Tested at different depressions, which the square root converts.');

  const word = (
    what: string,
    x: string | undefined,
    y: string | undefined,
    differs: (x: string, y: string) => string,
  ) => {
    if (x === undefined || y === undefined) put(what, 'unknown', `The ${what} is not known for both.`);
    else if (x === y) put(what, 'same', `The same ${what}: ${x}.`);
    else put(what, 'differs', differs(x, y));
  };
  if (a.bore === undefined || b.bore === undefined)
    put('bore', 'unknown', 'The bore under the chamber is not known for both.');
  else if (Math.abs(a.bore - b.bore) < SAME_BORE) put('bore', 'same', 'The same bore.');
  else put('bore', 'differs', 'Tested on different bores: shrouding differs, and no formula mends that.');
  if (side === 'intake') word('entry', a.entry, b.entry, (x, y) => `One had ${x} at the entry, the other ${y}.`);
  else if (converts.pipe && a.exhaustPipe && b.exhaustPipe && a.exhaustPipe !== b.exhaustPipe)
    put(
      'pipe',
      'convertible',
      `One exhaust was ${a.exhaustPipe}, the other ${b.exhaustPipe}: converted by what a pipe was worth on your own ports.`,
    );
  else
    word(
      'pipe',
      a.exhaustPipe,
      b.exhaustPipe,
      (x, y) => `One exhaust was ${x}, the other ${y}: two different quantities.`,
    );
  word('valves', a.valve, b.valve, () => 'One was tested with the head’s own valves, the other with flow valves.');
  const apart = (x: number | undefined, y: number | undefined, by: number) =>
    x !== undefined && y !== undefined && Math.abs(x - y) > by;
  if (a.valve === 'other' && b.valve === 'other' && apart(a.flowValve, b.flowValve, SAME_VALVE))
    put('size of the flow valve', 'differs', 'They were tested with flow valves of two sizes.');
  if (
    side === 'exhaust' &&
    a.exhaustPipe === 'piped' &&
    b.exhaustPipe === 'piped' &&
    (apart(a.pipeDiameter, b.pipeDiameter, SAME_PIPE) || apart(a.pipeLength, b.pipeLength, 10 * SAME_PIPE))
  )
    put('size of the pipe', 'differs', 'They were tested with two different pipes.');
  word('port', a.port, b.port, (x, y) => `One table is of ${x}, the other of ${y}.`);
  if (a.bench !== undefined && b.bench !== undefined)
    word('bench', a.bench, b.bench, (x, y) => `One is of ${x}, the other of ${y}.`);
  return verdictOn(aspects);
}

/** How a size came about; undefined is unknown and stays so. */
export interface SizeConditions {
  /** The state of work it was taken in. */
  readonly stage?: string | undefined;
  readonly port?: string | undefined;
  /** With what it was measured. */
  readonly instrument?: string | undefined;
}

/** Holds the conditions of two sizes against each other. Nothing converts; another instrument is no other size. */
export function comparableSizes(a: SizeConditions, b: SizeConditions): Comparison {
  const aspects: Aspect[] = [];
  const put = (
    what: string,
    x: string | undefined,
    y: string | undefined,
    apart: AspectState,
    differs: (x: string, y: string) => string,
  ) =>
    aspects.push(
      x === undefined || y === undefined
        ? { what, state: 'unknown', sentence: `The ${what} is not known for both.` }
        : x === y
          ? { what, state: 'same', sentence: `The same ${what}: ${x}.` }
          : { what, state: apart, sentence: differs(x, y) },
    );
  put(
    'stage',
    a.stage,
    b.stage,
    'differs',
    (x, y) => `One was taken at “${x}”, the other at “${y}”: work lies between.`,
  );
  put('port', a.port, b.port, 'differs', (x, y) => `One is of ${x}, the other of ${y}.`);
  put('instrument', a.instrument, b.instrument, 'same', (x, y) => `One was taken with ${x}, the other with ${y}.`);
  return verdictOn(aspects);
}

function verdictOn(aspects: readonly Aspect[]): Comparison {
  const named = (state: AspectState) => aspects.filter((x) => x.state === state).map((x) => x.what);
  const [differs, unknown] = [named('differs'), named('unknown')];
  const may: Comparability = differs.length > 0 ? 'not' : unknown.length > 0 ? 'reserved' : 'freely';
  const sentence =
    may === 'not'
      ? `They cannot be compared: ${listed(differs)} ${differs.length === 1 ? 'differs' : 'differ'}.`
      : may === 'reserved'
        ? `They can be compared with a reservation: ${listed(unknown)} ${unknown.length === 1 ? 'is' : 'are'} not known for both.`
        : named('convertible').length > 0
          ? `They can be compared once brought to one ${listed(named('convertible'))}.`
          : 'They can be compared as they are.';
  return { may, aspects, sentence };
}

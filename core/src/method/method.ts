import type { Kind } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

/** What one input of a method is: its label, its symbol in the formula, and the kind of quantity. */
export interface InputSpec {
  readonly label: string;
  readonly symbol: string;
  /** A kind for numbers and lists of numbers; `curve` and `cam` for shapes that are summarised on screen. */
  readonly kind: Kind | 'curve' | 'cam';
}

/**
 * One way of computing one thing. The screen's working, docs/methods.md and the tests all read this object,
 * so that no formula is written twice. Values go in and come out in SI.
 */
export interface Method<I extends Record<string, unknown> = Record<string, unknown>> {
  readonly id: string;
  readonly title: string;
  /** TeX. */
  readonly formula: string;
  readonly inputs: { readonly [K in keyof I]: InputSpec };
  readonly result: { readonly label: string; readonly symbol: string; readonly kind: Kind };
  readonly source: string;
  readonly caution?: string;
  /** @throws Refusal where the inputs have no physical answer. */
  readonly compute: (inputs: I) => number;
}

/** A method any caller can list and show, whatever its inputs are. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- compute is contravariant in its inputs; a catalogue only shows them
export type AnyMethod = Method<any>;

/** A value handed to a method: bare, with a note of where it comes from, or itself computed. */
export type Given<T> = T | Noted<T> | (T extends number ? Working : never);

export interface Noted<T> {
  readonly value: T;
  readonly note: string;
  /** Id of the leaf whose uncertainty it carries. */
  readonly leaf?: string;
}

/** A computed number that can show how it came about: its method, what it was given, and the result in SI. */
export interface Working {
  readonly method: AnyMethod;
  readonly given: Readonly<Record<string, unknown>>;
  readonly value: number;
  /** Id of the figure made of leaves that it is, where its own working does not reach them (a mean over a whole curve). */
  readonly leaf?: string;
}

export const isWorking = (x: unknown): x is Working =>
  typeof x === 'object' && x !== null && 'method' in x && 'given' in x;

const isNoted = (x: unknown): x is Noted<unknown> => typeof x === 'object' && x !== null && 'note' in x && 'value' in x;

/** The bare value of a given one. */
export const valueOf = (x: unknown): unknown => (isWorking(x) || isNoted(x) ? x.value : x);

/** The bare number of a given one. */
export const numberOf = (given: Given<number>): number => (typeof given === 'number' ? given : given.value);

export const noteOf = (x: unknown): string | undefined => (isNoted(x) ? x.note : undefined);

export const leafOf = (x: unknown): string | undefined => (isNoted(x) || isWorking(x) ? x.leaf : undefined);

export const noted = <T>(value: T, note: string, leaf?: string): Noted<T> => ({
  value,
  note,
  ...(leaf === undefined ? {} : { leaf }),
});

/**
 * Applies a method and keeps the working.
 * @throws Refusal when the method has no answer for these inputs, or its answer is not a finite number.
 */
export function work<I extends Record<string, unknown>>(
  method: Method<I>,
  given: { readonly [K in keyof I]: Given<I[K]> },
): Working {
  const values: Record<string, unknown> = {};
  for (const name in given) values[name] = valueOf(given[name]);
  const value = method.compute(values as I);
  if (!Number.isFinite(value)) throw refusal('noAnswer', method.title);
  return { method, given, value };
}

/** The working, or undefined when any figure it needs is missing. */
export function workIf<I extends Record<string, unknown>>(
  method: Method<I>,
  given: { readonly [K in keyof I]: Given<I[K]> | undefined | null },
): Working | undefined {
  for (const g of Object.values(given)) if (g === undefined || g === null) return undefined;
  return work(method, given as { readonly [K in keyof I]: Given<I[K]> });
}

export const COMMON_PRACTICE = 'Common practice, no source.';

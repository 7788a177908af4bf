/**
 * Why a calculation has no answer for what it was given: a code a program can tell apart, what the sentence needs, and the
 * sentence itself, which stands with the others in a table (`sentences.ts`).
 *
 * It is no RangeError of the language's own: a stack that ran over is a fault of the program and is never taken for one.
 */
import { SENTENCES } from './sentences.js';

/** Sentences by code; one that needs figures or names is a function of them. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- each sentence has arguments of its own, which Details<> keeps.
export type Sentences = Readonly<Record<string, string | ((...given: any[]) => string)>>;
export type Details<S> = S extends (...given: infer G) => string ? G : [];

export class Refusal extends Error {
  override readonly name = 'Refusal';
  constructor(
    /** The sentence's key in its table. */
    readonly code: string,
    /** What the sentence was made with, in its order. */
    readonly given: readonly unknown[],
    sentence: string,
  ) {
    super(sentence);
  }
}

/** What was thrown, where it is a refusal; anything else is thrown on. */
export function refusedBy(thrown: unknown): Refusal {
  if (thrown instanceof Refusal) return thrown;
  throw thrown;
}

/** Makes the refusals of one table of sentences. */
export const refusalsFrom =
  <S extends Sentences>(sentences: S) =>
  <C extends keyof S & string>(code: C, ...given: Details<S[C]>): Refusal => {
    const sentence = sentences[code]!;
    return new Refusal(code, given, typeof sentence === 'string' ? sentence : sentence(...given));
  };

/** A refusal of the computation. */
export const refusal = refusalsFrom(SENTENCES);

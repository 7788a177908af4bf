/** Why a record or a file is refused: a code of ours where Zod's own do not say it, and its sentence (`sentences.ts`). */
import { refusalsFrom, type Details, type Refusal } from '@alluvium/core';
import type { z } from 'zod';
import { SENTENCES } from './sentences.js';

type Sentence = typeof SENTENCES;
export const refusal = refusalsFrom(SENTENCES);

/** One of a list of problems, beside its place: what a program tells it by, and what a person reads. */
export interface CodedSentence {
  readonly code: string;
  readonly message: string;
}
export const sentenceOf = ({ code, message }: Pick<Refusal, 'code' | 'message'>): CodedSentence => ({ code, message });
export const sentence = <C extends keyof Sentence>(code: C, ...given: Details<Sentence[C]>): CodedSentence =>
  sentenceOf(refusal(code, ...given));
/** An issue of a schema's: by our own code where it is one of ours. */
export const sentenceOfIssue = (issue: z.core.$ZodIssue): CodedSentence => ({
  code: issue.code === 'custom' ? String(issue.params?.refusal ?? 'custom') : issue.code,
  message: issue.message,
});

/** What a schema refused first. */
// !: who refuses has one issue at least.
export const firstRefused = ({ issues }: z.ZodError): CodedSentence => sentenceOfIssue(issues[0]!);

/** What is refused, as Zod's `refine` takes it: its code is `custom`, ours stands in `params`. */
export const custom = <C extends keyof Sentence>(code: C, ...given: Details<Sentence[C]>) =>
  customOf(sentence(code, ...given));
const customOf = ({ code, message }: CodedSentence) => ({ message, params: { refusal: code } });
type Path = readonly PropertyKey[];
/** And as an issue, at its field. */
export const issue = <C extends keyof Sentence>(path: Path, code: C, ...given: Details<Sentence[C]>) =>
  issueOf(path, sentence(code, ...given));
/** What was said elsewhere, as an issue at this field. */
export const issueOf = (path: Path, why: CodedSentence) => ({
  code: 'custom' as const,
  path: [...path],
  ...customOf(why),
});

/** A field as its own schema reads it; undefined where that refuses it, which is said at the field. */
export function readField<T>(
  ctx: { addIssue: (issue: ReturnType<typeof issueOf>) => void },
  path: Path,
  schema: z.ZodType<T>,
  input: unknown,
): T | undefined {
  const parsed = schema.safeParse(input);
  if (parsed.success) return parsed.data;
  for (const found of parsed.error.issues) ctx.addIssue(issueOf(path, sentenceOfIssue(found)));
  return undefined;
}

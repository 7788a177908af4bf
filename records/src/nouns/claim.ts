/** The nouns of claims beyond sheets and sizes: a claimed power, and a question that evidence settles. */
import { cubicInches, horsepower, rpm } from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { DateText, Id, Note, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { issue } from '../refusal.js';

export const POWER_TAKEN = ['engine dyno', 'chassis dyno', 'reckoned', 'unknown'] as const;

/** A power somebody claims of an engine with this head. The engine is a build, or as much of it as was said. */
export const Report = z
  .object({
    ...Stored,
    stageId: Id,
    sourceId: Id.nullable().default(null),
    /** The build whose engine it is; null: displacement and cylinders say what is known. */
    buildId: Id.nullable().default(null),
    displacement: quantitySchema('displacement', {
      min: cubicInches(1),
      max: cubicInches(10_000),
      sentence: 'The displacement must lie between 1 and 10,000 in³.',
    })
      .nullable()
      .default(null),
    cylinders: z.int32().min(1).max(24, 'An engine has 1 to 24 cylinders.').nullable().default(null),
    power: quantitySchema('power', {
      min: horsepower(1),
      max: horsepower(10_000),
      sentence: 'The power must lie between 1 and 10,000 hp.',
    }),
    speed: quantitySchema('rotation', {
      min: rpm(100),
      max: rpm(25_000),
      sentence: 'The speed must lie between 100 and 25,000 rpm.',
    }),
    /** How the power was come by. */
    taken: z.enum(POWER_TAKEN).default('unknown'),
    date: DateText,
    note: Note,
  })
  .superRefine((r, ctx) => {
    if (r.buildId !== null) return;
    for (const field of ['displacement', 'cylinders'] as const)
      if (r[field] === null) ctx.addIssue(issue([field], 'noEngineOfIt', field));
  });
export type Report = z.infer<typeof Report>;

export const QUESTION_STATES = ['open', 'true', 'false', 'unproven'] as const;
/** What a question may lean on. */
export const EVIDENCE_NOUNS = ['sheet', 'measure', 'survey', 'finding', 'session', 'report'] as const;

/** A claim or rumour in one line, put to the test. */
export const Question = z
  .object({
    ...Stored,
    text: z
      .string()
      .trim()
      .min(1, 'Write the claim or rumour in one line.')
      .max(300, 'Keep it to one line, under 300 letters.')
      .regex(/^[^\n\r]*$/, 'Keep it to one line.'),
    sourceId: Id.nullable().default(null),
    /** The head it is about; null when it is about none in particular. */
    headId: Id.nullable().default(null),
    opened: DateText,
    state: z.enum(QUESTION_STATES).default('open'),
    reasons: Note,
    closed: DateText,
    evidence: z
      .array(z.object({ noun: z.enum(EVIDENCE_NOUNS), id: Id }))
      .max(40, 'At most 40 pieces of evidence.')
      .default([]),
  })
  .superRefine((q, ctx) => {
    if (q.state === 'open') return;
    if (q.reasons.trim() === '') ctx.addIssue(issue(['reasons'], 'closedWithoutReason'));
    if (q.state !== 'unproven' && q.evidence.length === 0) ctx.addIssue(issue(['evidence'], 'closedWithoutEvidence'));
  });
export type Question = z.infer<typeof Question>;

export const reportNoun = describedNoun({
  schema: Report,
  one: 'report of power',
  many: 'reports of power',
  key: 'reports',
  refers: { stageId: 'stage', sourceId: 'source', buildId: 'build' },
  of: 'stage',
  order: 'date nulls first, id',
});

export const questionNoun = describedNoun({
  schema: Question,
  one: 'question',
  many: 'questions',
  key: 'questions',
  refers: { sourceId: 'source', headId: 'head' },
});

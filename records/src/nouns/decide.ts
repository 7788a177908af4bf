/** The nouns of the decision: ways to go with what they cost and whether they fit, and what was decided. */
import { COST_KINDS, TAXES } from '@alluvium/core';
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { DateText, Day, Id, Name, Note, Short, Stored } from './common.js';
import { Currency } from './currency.js';
import { describedNoun } from './descriptor.js';
import { issue } from '../refusal.js';

export const WAY_KINDS = [
  'keep the stock head',
  'rework it',
  'another production casting',
  'an aftermarket head as it comes',
  'an aftermarket head with work',
  'a custom head',
] as const;

/** What is checked of a head on an engine. */
export const FIT_ITEMS = [
  'bolt holes and head bolts',
  'dowels',
  'ports against the manifold',
  'exhaust flange',
  'valve to piston',
  'valve spacing',
  'pushrod and guide plate',
  'rocker',
  'accessories and pump',
  'hood height',
  'water',
  'plug reach',
  'gasket bore',
  'fuel system',
  'cam',
  'what the block allows',
] as const;
export const FIT_STATES = ['unknown', 'fits', 'needs an adapter', 'stops it'] as const;

/** One line of what a way costs. Without a price it is still to be asked for. */
export const CostLine = z.object({
  kind: z.enum(COST_KINDS).default('other'),
  text: Short,
  /** Pieces, or hours of labour. */
  quantity: z
    .number('Say how many.')
    .min(0, 'A quantity cannot be negative.')
    .max(100_000, 'Keep a quantity under 100,000.')
    .default(1),
  price: quantitySchema('money', { min: -1e7, max: 1e7, sentence: 'A price must lie within ten million.' })
    .nullable()
    .default(null),
  currency: Currency,
  tax: z.enum(TAXES).default('included'),
  /** How far a guess may be off; null for a quote. */
  guess: quantitySchema('percent', { min: 0, max: 1, sentence: 'A guess may be off by 0 to 100 %.' })
    .nullable()
    .default(null),
  supplier: Short,
  date: DateText,
});
export type CostLineRecord = z.infer<typeof CostLine>;
export const MOST_LINES = 300;

/** One way to go for a build: a head at a stage, real or planned, with its price and its fit. */
export const Way = z
  .object({
    ...Stored,
    buildId: Id,
    position: z.int32().min(0).default(0),
    name: Name,
    kind: z.enum(WAY_KINDS).default('an aftermarket head as it comes'),
    stageId: Id.nullable().default(null),
    /** Flow that planned work is to add at the lift that counts, and how far that may be off. */
    gain: quantitySchema('flow', { min: -0.5, max: 0.5, sentence: 'A planned gain lies within about 1,000 cfm.' })
      .nullable()
      .default(null),
    gainBand: quantitySchema('flow', { min: 0, max: 0.5, sentence: 'How far it may be off cannot be negative.' })
      .nullable()
      .default(null),
    lines: z.array(CostLine).max(MOST_LINES, `A way has at most ${MOST_LINES} lines.`).default([]),
    fit: z
      .array(z.object({ item: z.enum(FIT_ITEMS), state: z.enum(FIT_STATES).default('unknown'), note: Short }))
      .max(FIT_ITEMS.length)
      .default([]),
    /** Days until the parts are here. */
    days: z.int32().min(0, 'Days cannot be negative.').max(2000).nullable().default(null),
    /** The owner's own marks by what matters, 0 to 10. */
    marks: z.record(z.string().max(60), z.number().min(0).max(10, 'A mark is 0 to 10.')).default({}),
    note: Note,
  })
  .superRefine((way, ctx) => {
    if (way.gain && !way.gainBand) ctx.addIssue(issue(['gainBand'], 'gainWithoutBand'));
    way.fit.forEach((f, i) => {
      if (way.fit.findIndex((o) => o.item === f.item) < i) ctx.addIssue(issue(['fit', i], 'itemTwice', f.item));
    });
  });
export type Way = z.infer<typeof Way>;

/** What was decided of a build: kept as it was said. */
export const Decision = z.object({
  ...Stored,
  buildId: Id,
  made: Day,
  by: Short,
  content: z.object({
    program: z.string().max(40),
    chosen: z.string().max(200),
    words: z.array(z.string().max(1000)).max(60),
    weights: z.array(z.object({ name: z.string().max(60), weight: z.number() })).max(40),
    ways: z
      .array(
        z.object({
          /** The way itself; empty in what was kept before ways were named here. */
          id: z.string().max(64).default(''),
          name: z.string().max(200),
          head: z.string().max(300),
          cost: z.number(),
          costU: z.number(),
          power: z.number().nullable(),
          powerU: z.number().nullable(),
          degree: z.string().max(40),
          wins: z.number().min(0).max(1),
          stops: z.array(z.string().max(400)).max(40),
        }),
      )
      .max(60),
    /** What the ranks were drawn from, so that they can be drawn again. Empty in what was kept before. */
    criteria: z
      .array(
        z.object({
          name: z.string().max(60),
          less: z.boolean(),
          scores: z
            .array(
              z
                .object({
                  value: z.number(),
                  parts: z
                    .array(
                      z.object({
                        id: z.string().max(200),
                        spread: z.looseObject({ shape: z.string().max(20) }),
                        change: z.number(),
                      }),
                    )
                    .max(400),
                })
                .nullable(),
            )
            .max(60),
        }),
      )
      .max(40)
      .default([]),
    records: z.array(z.object({ noun: z.string().max(40), id: Id, version: z.int32().min(1) })).max(5000),
  }),
  /** In the words of who decided. */
  reasons: Note,
  /** Why not the others. */
  rejected: Note,
  /** What stays open. */
  risks: Note,
});
export type Decision = z.infer<typeof Decision>;

export const wayNoun = describedNoun({
  schema: Way,
  one: 'way to go',
  many: 'ways to go',
  key: 'ways',
  refers: { buildId: 'build', stageId: 'stage' },
});

export const decisionNoun = describedNoun({
  schema: Decision,
  one: 'decision',
  many: 'decisions',
  key: 'decisions',
  refers: { buildId: 'build' },
});

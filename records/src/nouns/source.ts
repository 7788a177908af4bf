import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { DateText, Day, Name, Note, Short, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { Setup } from './sheet.js';
import { custom, issue } from '../refusal.js';

export const SOURCE_KINDS = ['own bench', 'other bench', 'maker', 'magazine', 'forum', 'word of mouth'] as const;

/**
 * What a source says of all its figures. Null, "unknown" and an empty text mean that it does not say; it is never written
 * onto a sheet by the program itself.
 */
export const SourceStated = Setup.pick({
  depression: true,
  bore: true,
  entry: true,
  exhaustPipe: true,
  pipeDiameter: true,
  pipeLength: true,
  valve: true,
}).extend({
  /** Which runner it publishes: `the best`, `port 1`. */
  port: Short,
});
export type SourceStated = z.infer<typeof SourceStated>;

/** Full scales of a bench from one day on: one per range and direction. */
export const Scales = z.object({
  since: Day,
  ranges: Setup.shape.ranges.refine((ranges) => ranges.length > 0, custom('noRange')),
});
export type Scales = z.infer<typeof Scales>;

/** Who says so; of a bench also what it measures with. */
export const Source = z
  .object({
    ...Stored,
    name: Name,
    kind: z.enum(SOURCE_KINDS).default('own bench'),
    /** Make of its bench, as people call it. */
    bench: Short,
    /** What the bench meters with: an orifice plate and a slanted gauge. */
    meter: Short,
    /** How far off it is known to read, as a share; stays as said, corrects nothing. */
    knownError: quantitySchema('percent', { min: -0.5, max: 0.5, sentence: 'A known error lies within 50 %.' })
      .nullable()
      .default(null),
    /** Every set of full scales it had, by the day it began. */
    scales: z.array(Scales).max(100, 'At most 100 sets of full scales.').default([]),
    stated: SourceStated.prefault({}),
    date: DateText,
    link: Short,
    note: Note,
  })
  .superRefine((source, ctx) => {
    source.scales.forEach((s, i) => {
      if (source.scales.findIndex((o) => o.since === s.since) < i)
        ctx.addIssue(issue(['scales', i, 'since'], 'scalesTwice', s.since));
      s.ranges.forEach((r, k) => {
        if (s.ranges.findIndex((o) => o.name === r.name) < k)
          ctx.addIssue(issue(['scales', i, 'ranges', k, 'name'], 'rangeTwice', r.name));
      });
    });
  });
export type Source = z.infer<typeof Source>;

export const sourceNoun = describedNoun({
  schema: Source,
  one: 'source',
  many: 'sources',
  key: 'sources',
});

import { z } from 'zod';
import { DateText, Name, Note, Short, Stored } from './common.js';
import { Setup } from './sheet.js';

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

/** Who says so. */
export const Source = z.object({
  ...Stored,
  name: Name,
  kind: z.enum(SOURCE_KINDS).default('own bench'),
  /** Make of its bench, as people call it. */
  bench: Short,
  stated: SourceStated.prefault({}),
  date: DateText,
  link: Short,
  note: Note,
});
export type Source = z.infer<typeof Source>;

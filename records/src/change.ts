import { z } from 'zod';
import { Id } from './nouns/common.js';
import { NOUN_NAMES, type Noun } from './nouns/index.js';

const noun = z.enum(NOUN_NAMES as [Noun, ...Noun[]]);
const fields = z.record(z.string(), z.unknown());

/** One step of a change. A new record may bring its id, so that later steps can refer to it and a change sent twice is one. */
export const Step = z.discriminatedUnion('do', [
  z.object({ do: z.literal('add'), noun, record: fields }),
  z.object({ do: z.literal('save'), noun, record: fields }),
  z.object({ do: z.literal('remove'), noun, id: Id }),
]);
export type Step = z.infer<typeof Step>;

/** A change is one request and one transaction, however many records it touches. */
export const ChangeWrite = z.object({
  steps: z.array(Step).min(1, 'A change has at least one step.').max(1000, 'A change has at most 1,000 steps.'),
});
export type ChangeWrite = z.infer<typeof ChangeWrite>;

/** A record that a change touched, and what it hangs on: enough to know which views are old now. */
export interface Touched {
  readonly noun: Noun;
  readonly id: string;
  readonly headId: string | null;
  readonly buildId: string | null;
  readonly sessionId: string | null;
}

/** What one batch touched; `all` when it is too much to list. */
export type Extent = readonly Touched[] | 'all';

/** Carried by every answer to a change: the batch that takes it back, and what it touched. */
export interface Done {
  readonly batch: number;
  readonly touched: Extent;
}

/** Answer to a change: the record of each step as stored now, null for one that was removed. */
export interface Changed extends Done {
  readonly records: readonly ({ readonly id: string; readonly version: number } | null)[];
}

/** What the feed of changes says: first where it stands, then every change as it is made. */
export type FeedLine =
  | { readonly tell: 'hello'; readonly latest: string | null }
  | ({ readonly tell: 'change'; readonly at: string } & Done);

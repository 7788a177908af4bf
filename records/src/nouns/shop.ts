/** The nouns of the shop itself: its price list, the head of its letters, lifts it watches, springs it lets run. */
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { CAM_KINDS, watchLift } from './build.js';
import { Name, Stored } from './common.js';
import { CostLine } from './decide.js';
import { describedNoun } from './descriptor.js';
import { issue } from '../refusal.js';

/** A line of the shop's price list; the sets it belongs to are its templates: "core rework". */
export const ListPrice = z.object({
  ...Stored,
  line: CostLine,
  sets: z.array(Name).max(20, 'A line belongs to at most 20 sets.').default([]),
});
export type ListPrice = z.infer<typeof ListPrice>;

export const PAPERS = ['A4', 'Letter'] as const;

/** A picture in the address itself. */
const LOGO = /^data:image\/(?:png|jpeg);base64,[A-Za-z0-9+/]+=*$/;
const MOST_LOGO = 280_000;

/** What stands at the top of a report: the shop's name, its lines, its mark; and the paper it prints on. */
export const Letterhead = z.object({
  ...Stored,
  name: Name,
  /** Street, town, telephone: a line each. */
  lines: z.string().max(600, 'Keep the address under 600 letters.').default(''),
  logo: z
    .string()
    .max(MOST_LOGO, 'The picture is too large: under 200 kB.')
    .regex(LOGO, 'The mark must be a PNG or JPEG picture.')
    .nullable()
    .default(null),
  paper: z.enum(PAPERS).default('A4'),
  /** Cautions of the shop's own under every report. */
  foot: z.string().max(1000, 'Keep this under 1,000 letters.').default(''),
});
export type Letterhead = z.infer<typeof Letterhead>;

/** Lifts the shop watches together, under a name of its own: street, circuit. */
export const WatchSet = z.object({
  ...Stored,
  name: Name,
  lifts: z.array(watchLift).min(1, 'Give at least one lift.').max(12, 'At most 12 watch lifts.'),
});
export type WatchSet = z.infer<typeof WatchSet>;

const springForce = quantitySchema('force', {
  min: 1,
  max: 40_000,
  sentence: 'A spring’s force must lie between 1 and 40,000 N.',
})
  .nullable()
  .default(null);
/** The most the shop lets a valve spring press with on a kind of cam. */
export const SpringLimit = z
  .object({ ...Stored, camKind: z.enum(CAM_KINDS), seat: springForce, open: springForce })
  .superRefine((limit, ctx) => {
    if (limit.camKind === 'unknown') ctx.addIssue(issue(['camKind'], 'noCamKind'));
    if (limit.seat === null && limit.open === null) ctx.addIssue(issue(['open'], 'noSpringLimit'));
  });
export type SpringLimit = z.infer<typeof SpringLimit>;

export const listPriceNoun = describedNoun({
  schema: ListPrice,
  one: 'line of the price list',
  many: 'lines of the price list',
  key: 'priceList',
});

export const letterheadNoun = describedNoun({
  schema: Letterhead,
  one: 'letterhead',
  many: 'letterheads',
  key: 'letterheads',
});

export const watchSetNoun = describedNoun({
  schema: WatchSet,
  one: 'set of watch lifts',
  many: 'sets of watch lifts',
  key: 'watchSets',
});

export const springLimitNoun = describedNoun({
  schema: SpringLimit,
  one: 'limit of a spring',
  many: 'limits of springs',
  key: 'springLimits',
});

/** What the server and the browser say to each other beyond single records. */
import { z } from 'zod';
import { CHECKLIST_KINDS } from './arrival/checklist.js';
import type { Done } from './change.js';
import { Id } from './nouns/common.js';
import type { Noun, Session } from './nouns/index.js';
import {
  Build,
  Checklist,
  Head,
  HEAD_KINDS,
  LineupEntry,
  listsOf,
  MATERIALS,
  Measure,
  NOUN_NAMES,
  OF_HEAD,
  Operation,
  Port,
  Pull,
  RawReading,
  Sheet,
  Source,
  Stage,
  Way,
} from './nouns/index.js';

/** A head with everything that hangs on it. */
export const WholeHead = z.object({
  head: Head,
  ...listsOf(OF_HEAD),
  /** The other head of one engine, with what judging the two together reads of it. */
  pair: z
    .object({
      head: Head,
      stages: z.array(Stage),
      ports: z.array(Port),
      sheets: z.array(Sheet),
      measures: z.array(Measure),
      operations: z.array(Operation),
    })
    .optional(),
});
export type WholeHead = z.infer<typeof WholeHead>;

/** A row of the library: the head, and the sheet its sparkline is drawn from. */
export const HeadSummary = z.object({
  head: Head,
  stages: z.int(),
  sheets: z.int(),
  latestStage: Stage.nullable(),
  sheet: Sheet.nullable(),
  /** Of every stage: the reader takes the newest of each item. */
  valves: z.object({ intake: z.unknown().nullable(), exhaust: z.unknown().nullable() }),
});
export type HeadSummary = z.infer<typeof HeadSummary>;

export const HEAD_SORTS = ['name', 'maker', 'price'] as const;
export const HeadQuery = z.object({
  search: z.string().max(200).default(''),
  kind: z.enum(HEAD_KINDS).optional(),
  material: z.enum(MATERIALS).optional(),
  valves: z.coerce.number().int().min(2).max(5).optional(),
  tag: z.string().max(40).optional(),
  /** Heads that were put away: left out, or those alone. */
  archived: z.enum(['no', 'only']).default('no'),
  sort: z.enum(HEAD_SORTS).default('name'),
  page: z.coerce.number().int().min(1).max(100_000).default(1),
  size: z.coerce.number().int().min(1).max(200).default(50),
});
export type HeadQuery = z.infer<typeof HeadQuery>;
export const HeadPage = z.object({ total: z.int(), items: z.array(HeadSummary) });
export type HeadPage = z.infer<typeof HeadPage>;

/** The lineup of a build with everything the comparison reads. */
export const LineupView = z.object({
  entries: z.array(z.object({ entry: LineupEntry, whole: WholeHead })),
  sources: z.array(Source),
});
export type LineupView = z.infer<typeof LineupView>;

/** What the shop has going on: engines, tests left open, heads on the table, questions, and what changed last. */
export const ShopView = z.object({
  builds: z.array(z.object({ build: Build, heads: z.int(), decided: z.string().nullable() })),
  sessions: z.array(
    z.object({
      id: Id,
      title: z.string(),
      date: z.string().nullable(),
      headId: Id,
      head: z.string(),
      readings: z.int(),
    }),
  ),
  /** Heads whose checklist has open lines, or findings that nothing mended yet. */
  waiting: z.array(z.object({ headId: Id, head: z.string(), open: z.int(), mend: z.int() })),
  questions: z.array(z.object({ id: Id, text: z.string(), headId: Id.nullable() })),
  /** The heads changed last, when, and in what (in words), newest first. */
  changed: z.array(z.object({ headId: Id, head: z.string(), at: z.string(), what: z.array(z.string()) })),
  heads: z.int(),
});
export type ShopView = z.infer<typeof ShopView>;

/** Every tag in use, and on how many heads. */
export const TagsView = z.array(z.object({ tag: z.string(), heads: z.int() }));
export type TagsView = z.infer<typeof TagsView>;

/** The pulls of a build with the heads that were on it. */
export const PulledView = z.object({ pulls: z.array(Pull), wholes: z.array(WholeHead), sources: z.array(Source) });
export type PulledView = z.infer<typeof PulledView>;

/** The ways to go of a build, in order, with the heads they stand on. */
export const WaysView = z.object({ ways: z.array(Way), wholes: z.array(WholeHead), sources: z.array(Source) });
export type WaysView = z.infer<typeof WaysView>;

export const LineupWrite = z.object({
  entries: z
    .array(
      z.object({
        id: LineupEntry.shape.id.optional(),
        stageId: LineupEntry.shape.stageId,
        sheetId: LineupEntry.shape.sheetId,
      }),
    )
    .max(26, 'A lineup holds at most 26 heads.'),
});
export type LineupWrite = z.input<typeof LineupWrite>;

/** Makes the checklist of a head: the program's for a kind of head, or a template of the shop. */
export const ChecklistMake = z.object({
  kind: z.enum(CHECKLIST_KINDS).default('production core'),
  /** A template instead of the program's own list. */
  checklistId: Checklist.shape.id.nullable().default(null),
  cylinders: z.int('Say how many cylinders the head covers.').min(1).max(24, 'A head covers 1 to 24 cylinders.'),
});
export type ChecklistMake = z.input<typeof ChecklistMake>;

/** Answer to a change of one record: as stored now, the batch that takes it back, and what was touched. */
export interface Written<T> extends Done {
  readonly record: T;
}

export const ImportPreview = z.object({
  counts: z.array(
    z.object({ noun: z.enum(NOUN_NAMES as [string, ...string[]]), fresh: z.int(), same: z.int(), changed: z.int() }),
  ),
  problems: z.array(z.object({ place: z.string(), code: z.string(), message: z.string() })),
});
export type ImportPreview = z.infer<typeof ImportPreview>;

/** One line of the import's progress stream. */
export type ImportProgress =
  | { readonly done: number; readonly of: number }
  | {
      readonly finished: true;
      readonly fresh: number;
      readonly changed: number;
      readonly same: number;
      readonly batch: number | null;
    }
  | { readonly problem: { readonly detail: string; readonly problems?: ImportPreview['problems'] } };

const {
  version: _version,
  sessionId: _sessionId,
  sheetId: _sheetId,
  setup: _setup,
  state: _state,
  at: _at,
  ...sentOfReading
} = RawReading.shape;

/** One reading as the browser that records sends it. It makes the id, so that a request sent twice is recorded once. The server adds
 * time, set-up and sheet. */
export const ReadingWrite = z.object({
  ...sentOfReading,
  /** The browser's page: only the one that holds the session records. */
  client: z.string().max(64).default(''),
  /** Puts aside what was recorded of this point before. */
  again: z.boolean().default(false),
});
export type ReadingWrite = z.input<typeof ReadingWrite>;

/** Answer to a reading: all that changed with it. */
export interface Recorded extends Done {
  readonly reading: RawReading;
  readonly sheet: Sheet;
  readonly session: Session;
}

/** How the library is kept safe. */
export interface Care {
  /** Where the backups lie; null where they are switched off. */
  readonly folder: string | null;
  /** The newest first. */
  readonly backups: readonly BackupSummary[];
  /** What the last look at everything found; null when there was none since the start. */
  readonly check: {
    readonly at: string;
    readonly damage: readonly string[];
    /** What was found damaged and could be put right without loss. */
    readonly repaired: readonly string[];
  } | null;
  /** Free bytes on the disk of the data folder, where that is known. */
  readonly free: number | null;
  /** Whether a passphrase is asked for, and so can be asked for again. */
  readonly passphrase: boolean;
  /** How the clock jumped since the library was open last; null while it can be believed. Nothing old is removed meanwhile. */
  readonly clock: ClockJump | null;
}
/** A clock that stands far from the latest moment the library is known to have been open; both ISO. */
export interface ClockJump {
  readonly now: string;
  readonly known: string;
}
export interface BackupSummary {
  readonly name: string;
  readonly made: string;
  readonly reason: 'start' | 'daily' | 'import' | 'restore' | 'by hand';
  readonly records: number;
  readonly heads: number;
  readonly bytes: number;
  readonly photos: number;
  /** Names of photos it lacks: they were spoilt or gone when it was made. */
  readonly missing: readonly string[];
}
/** A line on the way of a backup that is put back. */
export type CareProgress =
  | { readonly done: number; readonly of: number }
  /** `lost`: how many photos could not be put back. */
  | { readonly finished: true; readonly lost?: number }
  | { readonly problem: { readonly detail: string } };

/** What is wrong with a library that is not served, and what can be done. */
export interface Rescue {
  readonly damage: readonly string[];
  readonly backups: readonly {
    readonly name: string;
    readonly made: string;
    readonly reason: BackupSummary['reason'];
    readonly heads: number;
    /** Read from end to end just now. */
    readonly sound: boolean;
    /** Written by a newer program than this one, which would lose fields of it. */
    readonly newer: boolean;
  }[];
  readonly readable: readonly { readonly noun: Noun; readonly records: number }[];
}

/** Whether the server answers, and what keeps it from writing. */
export type Health =
  { readonly status: 'ok' } | { readonly status: 'damaged' | 'full' | 'gone'; readonly detail: string };

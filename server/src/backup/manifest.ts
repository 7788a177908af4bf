import { z } from 'zod';

export const REASONS = ['start', 'daily', 'import', 'restore', 'by hand'] as const;
export type Reason = (typeof REASONS)[number];

/** What is said beside each backup: what it holds, and by what it is known to be whole. */
export const Manifest = z.object({
  format: z.literal('alluvium-backup'),
  version: z.literal(1),
  /** `alluvium-20261126T014200Z-daily`; the records lie in this name with `.json.gz`. */
  name: z.string().regex(/^alluvium-[\w-]+$/),
  made: z.iso.datetime(),
  reason: z.enum(REASONS),
  /** Which state of the library it is. */
  state: z.string(),
  /** Version of the program that wrote it; the oldest ones do not say. */
  program: z.string().default(''),
  /** Newest step of the schema it was written under. */
  schema: z.int(),
  counts: z.record(z.string(), z.int().min(0)),
  /** Of the text of the records, before it was packed. */
  sha256: z.string(),
  bytes: z
    .int()
    .min(0)
    .max(2 ** 31),
  /** File names of the photos it refers to, in the folder `pictures` beside it. */
  pictures: z.array(z.string().regex(/^[\w.-]+$/)),
  /** Those of them that could not be kept: they were spoilt or gone when it was made. */
  missing: z.array(z.object({ file: z.string().regex(/^[\w.-]+$/), name: z.string() })).default([]),
});
export type Manifest = z.infer<typeof Manifest>;

export const recordsFile = (name: string) => `${name}.json.gz`;
export const manifestFile = (name: string) => `${name}.manifest.json`;
/** Photos of all backups, each content once. */
export const PICTURES = 'pictures';

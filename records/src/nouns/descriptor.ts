import type { z } from 'zod';

/** All there is to say of a stored noun; bundle, routes, whole heads, queries and words derive from it. */
export interface Described {
  readonly schema: z.ZodType<{ id: string; version: number }>;
  /** What it is called before a reader. */
  readonly one: string;
  readonly many: string;
  /** Key of its list, in a file and in what comes with a head. */
  readonly key: string;
  /** Fields that name another record, by noun. */
  readonly refers?: Readonly<Record<string, string>>;
  /** It comes with a whole head: by its `headId`, or by the stage its `stageId` names. */
  readonly of?: 'head' | 'stage';
  /** How those of one head are sorted, in SQL. */
  readonly order?: string;
}

export const describedNoun = <const D extends Described>(described: D): D => described;

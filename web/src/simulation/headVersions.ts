import type { WholeHead } from '@alluvium/records';

/** Which writing of a head a run was made of: every record a sheet is read with, by its version. */
export const headVersions = (whole: WholeHead): string[] =>
  [whole.head, ...whole.sheets, ...whole.measures, ...whole.surveys].map((r) => `${r.id} ${r.version}`);

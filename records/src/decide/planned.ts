/** A head as planned work would make it. */
import type { WholeHead } from '../api.js';
import type { Sheet } from '../nouns/sheet.js';

/** The head with the intake of one stage raised by the same share at every lift: what its planned work stands for. */
export function plannedWhole(whole: WholeHead, stageId: string, share: number): WholeHead {
  const raised = (sheet: Sheet): Sheet => ({
    ...sheet,
    rows: sheet.rows.map((row) =>
      row.intake ? { ...row, intake: { ...row.intake, pulls: row.intake.pulls.map((p) => raise(p, share)) } } : row,
    ),
  });
  return {
    ...whole,
    // A sheet of differences holds no flow of its own to raise.
    sheets: whole.sheets.map((s) => (s.stageId === stageId && s.setup.reads !== 'difference' ? raised(s) : s)),
  };
}

const raise = <T>(pull: T, share: number): T =>
  typeof pull === 'object' && pull !== null && 'si' in pull ? { ...pull, si: (pull.si as number) * (1 + share) } : pull;

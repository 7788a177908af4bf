import type { System } from '@alluvium/core';
import type { Sheet } from '../nouns/sheet.js';
import { Setup } from '../nouns/sheet.js';
import { readCells } from './cells.js';
import { SETUP_KEYS, type SheetTable } from './table.js';

const OF_SHEET = new Set(['title', 'kind', 'date', 'stopped', 'note']);

export interface SheetFile {
  /** What could be read, ready for the editor; stage and ids are the reader's to fill in. */
  readonly sheet: Omit<Sheet, 'id' | 'version' | 'stageId'>;
  readonly problems: readonly string[];
}

/** A sheet from a table: set-up lines checked one by one, so that one bad line costs only itself. */
export function readSheetTable(table: SheetTable, name: string, system: System): SheetFile {
  const problems = table.problems.map((p) => `Line ${p.line}: ${p.message}`);
  const setup: Record<string, unknown> = {};
  const own: Record<string, string> = {};
  for (const key of SETUP_KEYS) {
    const text = table.setup[key];
    if (text === undefined || text === '') continue;
    if (OF_SHEET.has(key)) {
      own[key] = text;
      continue;
    }
    const trial = Setup.safeParse({ [key]: text });
    if (trial.success) setup[key] = text;
    else problems.push(`${key}: ${trial.error.issues[0]!.message}`);
  }
  const ranges = Setup.shape.ranges.safeParse(
    table.ranges.map((r) => ({ name: r.name, intake: r.intake || null, exhaust: r.exhaust || null })),
  );
  if (ranges.success) setup.ranges = ranges.data;
  else problems.push(`range: ${ranges.error.issues[0]!.message}`);
  const full = Setup.parse(setup);
  const { rows, problems: bad } = readCells(table.cells, full, system);
  problems.push(...bad.slice(0, 50).map((p) => `Row ${p.row + 1}, ${p.column}: ${p.message}`));
  if (bad.length > 50) problems.push(`… and ${bad.length - 50} more.`);
  const date = /^\d{4}-\d{2}-\d{2}$/.test(own.date ?? '') ? own.date! : null;
  if (own.date && !date) problems.push('date: write the date as 2026-05-31.');
  return {
    sheet: {
      sourceId: null,
      title: (own.title || name).slice(0, 120),
      kind: own.kind === 'claim' ? 'claim' : 'measured',
      date,
      intakePortId: null,
      exhaustPortId: null,
      setup: full,
      rows,
      swirl: [],
      chart: null,
      stopped: (own.stopped ?? '').slice(0, 200),
      note: own.note ?? '',
    },
    problems,
  };
}

import type { Port } from './nouns/head.js';
import type { Sheet } from './nouns/sheet.js';
import type { Source } from './nouns/source.js';
import { portName } from './select.js';

/** A word that names a thing already in a title need not be said again. */
const says = (title: string, part: string): boolean => title.toLowerCase().includes(part.toLowerCase());

/**
 * What a sheet is called in a list: its title, then port, bore, source and date, whichever the title does not say. Two
 * sheets that differ in one of these never look alike.
 */
export function sheetName(
  sheet: Sheet,
  ports: readonly Port[],
  sources: readonly Pick<Source, 'id' | 'name'>[],
): string {
  return [sheet.title, ...sheetDetails(sheet, ports, sources)].join(' · ');
}

/** The parts of a sheet's name that stand beside its title. */
export function sheetDetails(
  sheet: Sheet,
  ports: readonly Port[],
  sources: readonly Pick<Source, 'id' | 'name'>[],
): string[] {
  const intake = portName(ports, sheet.intakePortId);
  const exhaust = portName(ports, sheet.exhaustPortId);
  const port =
    intake && exhaust && intake !== exhaust
      ? `intake ${intake}, exhaust ${exhaust}`
      : (intake ?? (exhaust && `exhaust ${exhaust}`));
  const source = sources.find((s) => s.id === sheet.sourceId)?.name;
  return [
    port,
    sheet.setup.bore && `${sheet.setup.bore.typed} bore`,
    sheet.setup.reads === 'difference' ? 'differences' : undefined,
    source,
    sheet.kind === 'claim' ? 'claim' : undefined,
    sheet.setAside ? 'set aside' : undefined,
    sheet.date ?? undefined,
  ].filter((part): part is string => part !== undefined && part !== null && part !== '' && !says(sheet.title, part));
}

/** Decimals a sheet's flows are read to: as it was typed, at most one; a percent of a range gives one. */
export function flowDigits({ setup, rows }: Pick<Sheet, 'setup' | 'rows'>): 0 | 1 {
  if (setup.reads !== 'flow') return 1;
  return rows.some((r) =>
    (['intake', 'exhaust'] as const).some((side) => r[side]?.pulls.some((q) => /\d[.,]\d/.test(q.typed))),
  )
    ? 1
    : 0;
}

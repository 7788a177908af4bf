import { fromSi, toSi, unitFor, unitNamed, type ColumnStyle, type System, likelyLiftUnit } from '@alluvium/core';
import { onBench } from '../bench/scales.js';
import type { Source } from '../nouns/source.js';
import { NO_VALVE_OUT, SHEET_BESIDE, Setup, rowProblems, valveOutProblems, type Sheet } from '../nouns/sheet.js';
import { readCells } from './cells.js';
import { unitTyped } from './mixedUnits.js';
import { SETUP_KEYS, type SheetNames, type SheetTable } from './table.js';
import { firstRefused } from '../refusal.js';

// unitNamed()!: written by us.
// own.date!: it was tested.

const OF_SHEET = new Set<string>([
  'title',
  'kind',
  'date',
  'setAside',
  'stopped',
  'note',
  'source',
  'intakePort',
  'exhaustPort',
]);

/** What is known of a table beyond its text. */
export interface SheetHints {
  /** The unit lifts without one are in. */
  readonly liftUnit?: 'in' | 'mm' | undefined;
  /** Density of the air a mass flow was measured in, kg/m³. */
  readonly density?: number | undefined;
  /** The bench the file names, where it is known: a percent without full scales of its own is read by that bench's. */
  readonly bench?: Pick<Source, 'scales'> | undefined;
}

export interface SheetFile {
  /** What could be read, ready for the editor; stage and ids are the reader's to fill in. */
  readonly sheet: Omit<Sheet, 'id' | 'version' | 'stageId'>;
  /** The source and ports it names: found or made where it is put. */
  readonly names: SheetNames;
  readonly problems: readonly string[];
  readonly style: ColumnStyle | undefined;
  /** The unit bare lifts are likely in, where it is not the one they would be read in. */
  readonly liftUnit: 'in' | 'mm' | undefined;
  /** The unit of flows that are mass flows: they need the density of their air. */
  readonly massFlow: string | undefined;
}

/** A mass flow as a volume flow, to four figures, in the unit flows are shown in. */
function volumeFlow(text: string, density: number, system: System): string {
  return text.replace(/([\d.]+)\s*(kg\/h|kg\/s|g\/s|lb\/min)/gi, (_, figure: string, unit: string) => {
    const shown = unitFor('flow', system);
    const si = toSi(Number(figure), MASS_UNITS[unit.toLowerCase() as keyof typeof MASS_UNITS]) / density;
    return `${Number(fromSi(si, shown).toPrecision(4))} ${shown.symbol}`;
  });
}
const MASS_UNITS = {
  'kg/h': unitNamed('massFlow', 'kg/h')!,
  'kg/s': unitNamed('massFlow', 'kg/s')!,
  'g/s': unitNamed('massFlow', 'g/s')!,
  'lb/min': unitNamed('massFlow', 'lb/min')!,
};
const MASS = /(kg\/h|kg\/s|g\/s|lb\/min)/i;

/** The table with what the hints say written into its cells. */
function withHints(table: SheetTable, { liftUnit, density }: SheetHints, system: System): SheetTable['cells'] {
  return table.cells.map((cell) => ({
    ...cell,
    lift: liftUnit && unitTyped(cell.lift) === '' && cell.lift.trim() !== '' ? `${cell.lift} ${liftUnit}` : cell.lift,
    ...(density
      ? {
          intake: volumeFlow(cell.intake, density, system),
          exhaust: volumeFlow(cell.exhaust, density, system),
        }
      : {}),
  }));
}

/** A sheet from a table: set-up lines checked one by one, so that one bad line costs only itself. */
export function readSheetTable(table: SheetTable, name: string, system: System, hints: SheetHints = {}): SheetFile {
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
    else problems.push(`${key}: ${firstRefused(trial.error).message}`);
  }
  const ranges = Setup.shape.ranges.safeParse(
    table.ranges.map((r) => ({ name: r.name, intake: r.intake || null, exhaust: r.exhaust || null })),
  );
  if (ranges.success) setup.ranges = ranges.data;
  else problems.push(`range: ${firstRefused(ranges.error).message}`);
  const alone = Setup.parse(setup);
  const byBench = (alone.reads === 'percent' || alone.reads === 'differential') && alone.ranges.length === 0;
  const full = byBench && hints.bench ? onBench(alone, hints.bench, own.date ?? '9999-12-31') : alone;
  const massFlow = table.cells.map((c) => MASS.exec(`${c.intake} ${c.exhaust}`)?.[0]).find(Boolean);
  const cells = withHints(table, hints, system);
  const { rows: all, valveOut: out, problems: bad } = readCells(cells, full, system);
  const rows = withoutBad(all, full);
  const valveOut = valveOutProblems(full, out).length > 0 ? NO_VALVE_OUT : out;
  problems.push(...bad.slice(0, 50).map((p) => `Row ${p.row + 1}, ${p.column}: ${p.message}`));
  if (bad.length > 50) problems.push(`… and ${bad.length - 50} more.`);
  const port = (key: 'intakePort' | 'exhaustPort') => {
    const text = own[key] ?? '';
    if (text === '') return undefined;
    if (/^([1-9]|[1-3]\d|4[0-8])$/.test(text)) return Number(text);
    problems.push(`${key}: a port number is 1 to 48.`);
    return undefined;
  };
  const names: SheetNames = {
    ...(own.source ? { source: own.source.slice(0, 120) } : {}),
    intakePort: port('intakePort'),
    exhaustPort: port('exhaustPort'),
  };
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
      valveOut,
      ...SHEET_BESIDE,
      setAside: (own.setAside ?? '').slice(0, 200),
      stopped: (own.stopped ?? '').slice(0, 200),
      note: massFlow && hints.density ? noted(own.note ?? '', massFlow, hints.density) : (own.note ?? ''),
    },
    names,
    problems: massFlow && !hints.density ? [MASS_ASKED(massFlow), ...problems] : problems,
    style: table.style,
    liftUnit: likelyLiftUnit(
      table.cells.map((c) => c.lift),
      system,
    ),
    massFlow,
  };
}

const MASS_ASKED = (unit: string) =>
  `The flows are mass flows in ${unit}: give the density of the air they were measured in.`;
const noted = (note: string, unit: string, density: number) =>
  [note, `Mass flow in ${unit}, brought to volume with air of ${Number(density.toPrecision(4))} kg/m³.`]
    .filter(Boolean)
    .join('\n');

/** What would make the sheet unusable as a whole is left out: a lift that stands twice, a percent of no range. */
function withoutBad(rows: Sheet['rows'], setup: Setup): Sheet['rows'] {
  const bad = rowProblems(setup, rows).map((p) => p.path as [string, number, 'lift' | 'intake' | 'exhaust']);
  return rows.flatMap((row, i) => {
    const own = bad.filter(([, index]) => index === i).map(([, , field]) => field);
    if (own.includes('lift')) return [];
    return [
      {
        ...row,
        intake: own.includes('intake') ? null : row.intake,
        exhaust: own.includes('exhaust') ? null : row.exhaust,
      },
    ];
  });
}

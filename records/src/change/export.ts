/** The ledger as a table of plain figures, for CSV and for a spreadsheet. */
import { fromSi, unitFor, type Kind, type System, type Working } from '@alluvium/core';
import { workbookOf, type Workbook } from '../files/workbook.js';
import type { LedgerRow } from './ledger.js';
import { uncertaintyIn } from './stageGain.js';

type Cell = string | number;

/** One line a stage; a figure that cannot be said is an empty cell. */
export function ledgerTable(rows: readonly LedgerRow[], system: System): Cell[][] {
  const symbol = (kind: Kind) => unitFor(kind, system).symbol;
  const figure = (value: number | undefined, kind: Kind): Cell =>
    value === undefined ? '' : Number(fromSi(value, unitFor(kind, system)).toPrecision(5));
  const of = (w: Working | undefined) => figure(w?.value, w?.method.result.kind ?? 'ratio');
  const sides = ['intake', 'exhaust'] as const;
  const heading = [
    'stage',
    'date',
    'done',
    'hours',
    'parts',
    'cost',
    ...sides.flatMap((s) => [
      `${s} gain (${symbol('flow')})`,
      `${s} uncertainty (${symbol('flow')})`,
      `${s} gain (%)`,
      `${s} gain per hour (${symbol('flowPerTime')})`,
      `${s} gain for the money (${symbol('flowPerMoney')})`,
      `${s} since the first stage (${symbol('flow')})`,
      `${s} credit`,
    ]),
    `power (${symbol('power')})`,
    `torque (${symbol('torque')})`,
    'said',
  ];
  const lines = rows.map((row): Cell[] => [
    row.stage.name,
    row.stage.date ?? '',
    row.operations.map((o) => [o.side, o.kind, o.place].filter(Boolean).join(' ')).join('; '),
    row.time === undefined ? '' : row.time / 3600,
    row.operations.some((o) => o.parts) ? row.operations.reduce((s, o) => s + (o.parts?.si ?? 0), 0) : '',
    of(row.cost),
    ...sides.flatMap((s): Cell[] => {
      const entry = row.sides[s];
      if (!entry) return ['', '', '', '', '', '', ''];
      const { gain, share, book, credited, comparison } = entry.gain;
      return [
        of(gain),
        gain ? figure(uncertaintyIn(gain, book), 'flow') : '',
        share ? Number((100 * share.value).toPrecision(4)) : '',
        of(entry.perHour),
        of(entry.perMoney),
        of(entry.sum),
        credited ? 'credited' : comparison.sentence,
      ];
    }),
    of(row.power),
    of(row.torque),
    row.said.join(' '),
  ]);
  return [heading, ...lines];
}

export const ledgerWorkbook = (name: string, rows: readonly LedgerRow[], system: System): Workbook =>
  workbookOf(`Ledger ${name}`, ledgerTable(rows, system));

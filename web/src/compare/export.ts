import { fromSi, unitFor, type Side } from '@alluvium/core';
import { toCsv } from '@alluvium/records';
import { download } from '../charts/save.js';
import type { ActiveBuild } from '../state/build.js';
import type { CompareHead } from '../state/comparison.js';
import { liftRows } from './rows.js';

const round = (value: number, digits: number) => Number(value.toFixed(digits));

/** The comparison as a table of inches and cfm: lift, then flow and difference of each head. */
export function comparisonTable(heads: readonly CompareHead[], side: Side, active: ActiveBuild): (string | number)[][] {
  const inch = unitFor('lift', 'inch');
  const cfm = unitFor('flow', 'inch');
  const rows = liftRows(
    heads,
    side,
    active.build.watchLifts.map((w) => w.si),
    active.core.cam?.intakeLift,
  );
  return [
    ['build', active.build.name],
    ['side', side],
    ['flow', 'cfm at 28 inH2O'],
    [
      'lift (in)',
      ...heads.flatMap((h, i) => [
        `${h.letter} ${h.name}, ${h.stage.name}, ${h.sheet!.title}`,
        ...(i ? [`${h.letter} less ${heads[0]!.letter}`] : []),
      ]),
    ],
    ...rows.map((r) => [
      round(fromSi(r.lift, inch), 4),
      ...r.cells.flatMap((c, i) => [
        c.flow === undefined ? '' : round(fromSi(c.flow, cfm), 1),
        ...(i ? [c.gain === undefined ? (c.apart ?? '') : round(fromSi(c.gain, cfm), 1)] : []),
      ]),
    ]),
  ];
}

export async function saveComparison(
  kind: 'csv' | 'xlsx',
  heads: readonly CompareHead[],
  side: Side,
  active: ActiveBuild,
  name: string,
): Promise<void> {
  const table = comparisonTable(heads, side, active);
  if (kind === 'csv') return download(`${name}.csv`, toCsv(table), 'text/csv');
  const { default: write } = await import('write-excel-file/browser');
  await write(
    table.map((row) =>
      row.map((value) => (typeof value === 'number' ? { type: Number, value } : { type: String, value })),
    ),
  ).toFile(`${name}.xlsx`);
}

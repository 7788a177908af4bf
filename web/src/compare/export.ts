import { fromSi, unitFor, type Side, type System } from '@alluvium/core';
import { tabName, toCsv, widthsOf } from '@alluvium/records';
import { download } from '../charts/save.js';
import type { ActiveBuild } from '../data/build.js';
import type { CompareHead } from '../data/comparison.js';
import { saveWorkbook } from '../exchange/workbook.js';
import { liftRows } from './rows.js';

// h.sheet!, heads[]!: what is exported was flowed.

const round = (value: number, digits: number) => Number(value.toFixed(digits));

/** The comparison as a table in the units shown: lift, then flow and difference of each head. */
export function comparisonTable(
  heads: readonly CompareHead[],
  side: Side,
  active: ActiveBuild,
  system: System,
): (string | number)[][] {
  const length = unitFor('lift', system);
  const volume = unitFor('flow', system);
  const rows = liftRows(
    heads,
    side,
    active.build.watchLifts.map((w) => w.si),
    active.core.cam?.intakeLift,
  );
  return [
    ['build', active.build.name],
    ['side', side],
    ['flow', `${volume.symbol} at 28 inH2O`],
    [
      `lift (${length.symbol})`,
      ...heads.flatMap((h, i) => [
        `${h.letter} ${h.name}, ${h.stage.name}, ${h.sheet!.title} (${volume.symbol})`,
        ...(i ? [`${h.letter} less ${heads[0]!.letter} (${volume.symbol})`] : []),
      ]),
    ],
    ...rows.map((r) => [
      round(fromSi(r.lift, length), 4),
      ...r.cells.flatMap((c, i) => [
        c.flow === undefined ? '' : round(fromSi(c.flow.value, volume), 1),
        ...(i ? [c.gain === undefined ? (c.apart ?? '') : round(fromSi(c.gain.value, volume), 1)] : []),
      ]),
    ]),
  ];
}

export async function saveComparison(
  kind: 'csv' | 'xlsx',
  heads: readonly CompareHead[],
  side: Side,
  active: ActiveBuild,
  system: System,
  name: string,
): Promise<void> {
  const table = comparisonTable(heads, side, active, system);
  if (kind === 'csv') return download(`${name}.csv`, toCsv(table), 'text/csv');
  const frozen = table.findIndex((row) => row.length > 2 || String(row[0]).startsWith('lift (')) + 1;
  await saveWorkbook(name, {
    name: tabName(`${active.build.name} ${side}`),
    rows: table,
    widths: widthsOf(table.slice(frozen - 1)),
    frozen,
  });
}

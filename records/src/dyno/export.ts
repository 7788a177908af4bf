/** Pulls, forecasts and calls as tables of plain figures. */
import { fromSi, unitFor, type System } from '@alluvium/core';
import { workbookOf, type Workbook } from '../files/workbook.js';
import { PULL_KINDS, PULL_READS, type Pull, type PullQuantity } from '../nouns/dyno.js';
import type { ScoredForecast } from './trust.js';

type Cell = string | number;
/** Every row of every pull, with the pull's name in front: read back as several pulls of one file. */
export function pullsTable(pulls: readonly Pull[], system: System): Cell[][] {
  const used = PULL_READS.filter((c) => c === 'speed' || pulls.some((p) => p.rows.some((r) => r[c])));
  const unit = (c: PullQuantity) => unitFor(PULL_KINDS[c], system);
  const heading = ['run', ...used.map((c) => (unit(c).symbol ? `${c} (${unit(c).symbol})` : c))];
  return [
    heading,
    ...pulls.flatMap((p) =>
      p.rows.map((r): Cell[] => [
        p.title,
        ...used.map((c): Cell => {
          const q = r[c];
          return q ? Number(fromSi(q.si, unit(c)).toPrecision(6)) : '';
        }),
      ]),
    ),
  ];
}

export const pullsWorkbook = (pulls: readonly Pull[], system: System): Workbook =>
  workbookOf('Pulls', pullsTable(pulls, system));

export function forecastsTable(scored: readonly ScoredForecast[], system: System): Cell[][] {
  const power = unitFor('power', system);
  const figure = (v: number) => Number(fromSi(v, power).toPrecision(5));
  return [
    [
      'made on',
      'by',
      'estimate',
      `forecast (${power.symbol})`,
      `uncertainty (${power.symbol})`,
      'pulled on',
      `made (${power.symbol})`,
      'off (%)',
      'in uncertainties',
    ],
    ...scored.map((s): Cell[] => [
      s.forecast.made,
      s.forecast.by,
      s.forecast.content.method,
      figure(s.forecast.content.power),
      figure(s.forecast.content.u),
      s.pull.date ?? '',
      figure(s.made),
      Number((100 * s.off).toPrecision(3)),
      s.z ? Number(s.z.value.toPrecision(3)) : '',
    ]),
  ];
}

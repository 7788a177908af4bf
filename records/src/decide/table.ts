/** Costs and the matrix as tables of plain figures, for CSV and for a spreadsheet. */
import { fromSi, unitFor, type Ranked, type Say } from '@alluvium/core';
import { workbookOf, type Workbook } from '../files/workbook.js';
import type { Build } from '../nouns/build.js';
import { costOfLines, exchangeOf } from './cost.js';
import { matrixOf } from './matters.js';
import { headText, type WayRead } from './ways.js';

type Cell = string | number;
const figure = (v: number): number => Number(v.toPrecision(7));

/** One line a line of cost, and one for each way's sum. */
export function costTable(ways: readonly WayRead[], build: Build): Cell[][] {
  const money = build.currency ? ` (${build.currency})` : '';
  const heading = [
    'way',
    'for',
    'what',
    'pieces or hours',
    'price of one',
    'currency',
    'exchange rate',
    'tax',
    'guess (%)',
    'from whom',
    'date',
    `cost${money}`,
  ];
  const lines = ways.flatMap((w) => {
    const costs = costOfLines(w, build);
    const rows = w.way.lines.map((l, i): Cell[] => {
      const cost = costs[i]?.value;
      return [
        w.way.name,
        l.kind,
        l.text,
        l.quantity,
        l.price?.si ?? '',
        l.currency || build.currency,
        exchangeOf(l, build) ?? '',
        l.tax,
        l.guess ? figure(100 * l.guess.si) : '',
        l.supplier,
        l.date ?? '',
        cost === undefined ? '' : figure(cost),
      ];
    });
    const sum: Cell[] = [
      w.way.name,
      'together',
      w.open.join(' '),
      '',
      '',
      build.currency,
      '',
      '',
      '',
      '',
      '',
      figure(w.cost.sum.value),
    ];
    return [...rows, sum];
  });
  return [heading, ...lines];
}

/** One line a matter, three columns a way: figure in words, mark, evidence; then how often each comes first. */
export function matrixTable(ways: readonly WayRead[], build: Build, ranked: Ranked, say: Say): Cell[][] {
  const power = unitFor('power', say.system);
  const heading = ['what matters', 'weight', ...ways.flatMap((w) => [w.way.name, 'mark (0 to 1)', 'evidence'])];
  const three = (of: (w: WayRead, i: number) => Cell): Cell[] => ways.flatMap((w, i) => [of(w, i), '', '']);
  return [
    heading,
    ['head', '', ...three(headText)],
    [`power (${power.symbol})`, '', ...three((w) => (w.power ? figure(fromSi(w.power.value, power)) : ''))],
    ...matrixOf(ways, build, say).map((row): Cell[] => [
      row.name,
      row.weight,
      ...row.cells.flatMap((c): Cell[] => [c.text, figure(c.mark), c.evidence]),
    ]),
    ['stopped by', '', ...three((w) => w.stops.join('; '))],
    ['comes first (%)', '', ...three((_, i) => figure(100 * (ranked.wins[i] ?? 0)))],
  ];
}

export const costWorkbook = (ways: readonly WayRead[], build: Build): Workbook =>
  workbookOf('Costs', costTable(ways, build));
export const matrixWorkbook = (ways: readonly WayRead[], build: Build, ranked: Ranked, say: Say): Workbook =>
  workbookOf('Matrix', matrixTable(ways, build, ranked, say));

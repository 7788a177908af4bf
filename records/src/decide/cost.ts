/** What a way costs: its lines in the build's currency, and those that cannot be counted yet. */
import { wayCost, type CostLine, type WayCost, type Working } from '@alluvium/core';
import type { Build } from '../nouns/build.js';
import type { CostLineRecord, Way } from '../nouns/decide.js';

type Money = Pick<Build, 'currency' | 'rates'>;

export const lineName = (line: Pick<CostLineRecord, 'text' | 'kind'>): string => line.text || line.kind;

/** Of the build's currency for one of the line's; undefined where nobody typed a rate. */
export const exchangeOf = (line: Pick<CostLineRecord, 'currency'>, build: Money): number | undefined =>
  line.currency === '' || line.currency === build.currency
    ? 1
    : build.rates.find((r) => r.currency === line.currency)?.rate;

/** One line as core counts it; a sentence where it cannot be counted yet. */
function lineOf(line: CostLineRecord, i: number, build: Money): CostLine | string {
  const name = lineName(line);
  if (!line.price) return `${name}: no price yet.`;
  const exchange = exchangeOf(line, build);
  if (exchange === undefined) return `${name}: no exchange rate for ${line.currency}.`;
  return {
    id: String(i),
    name,
    quantity: line.quantity,
    price: line.price.si,
    exchange,
    tax: line.tax,
    guess: line.guess?.si ?? 0,
  };
}

/** What each line of a way came to, in the order of its lines; undefined where one could not be counted. */
export function costOfLines(
  { way, cost }: { readonly way: Pick<Way, 'lines'>; readonly cost: WayCost },
  build: Money,
): (Working | undefined)[] {
  const counted = cost.lines.values();
  return way.lines.map((l) => (l.price && exchangeOf(l, build) !== undefined ? counted.next().value : undefined));
}

/** What a way costs, and the lines that could not be counted. */
export function costOfWay(
  way: Pick<Way, 'id' | 'lines'>,
  build: Money & Pick<Build, 'tax'>,
): { readonly cost: WayCost; readonly open: readonly string[] } {
  const read = way.lines.map((line, i) => lineOf(line, i, build));
  return {
    cost: wayCost(
      way.id,
      read.filter((l) => typeof l !== 'string'),
      build.tax?.si ?? 0,
    ),
    open: read.filter((l) => typeof l === 'string'),
  };
}

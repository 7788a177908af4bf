import { COST_KINDS, type CostKind } from '@alluvium/core';
import { CostLine, type CostLineRecord, type ListPrice } from '@alluvium/records';

/** A line of cost with nothing but what it is for. */
export const blankLine = (kind: CostKind, more: Partial<CostLineRecord> = {}): CostLineRecord => ({
  ...CostLine.parse({ kind }),
  ...more,
});

/** A price list in the order of the work. */
export const inOrder = (prices: readonly ListPrice[]): ListPrice[] =>
  [...prices].sort(
    (a, b) =>
      COST_KINDS.indexOf(a.line.kind) - COST_KINDS.indexOf(b.line.kind) || a.line.text.localeCompare(b.line.text),
  );

/** Names of the sets of a price list, each once, in order. */
export const setsOf = (prices: readonly ListPrice[]): string[] =>
  [...new Set(prices.flatMap((p) => p.sets))].sort((a, b) => a.localeCompare(b));

/** What a line is called where several stand to choose from. */
export const lineLabel = (line: CostLineRecord): string =>
  [line.text ? `${line.kind}: ${line.text}` : line.kind, line.price?.typed, line.supplier].filter(Boolean).join(' · ');

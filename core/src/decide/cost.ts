/** What a way to go costs: line by line, in one currency, with what is guessed of it. */
import { work, noted, type Method, type Working } from '../method/method.js';
import { shareLeaf } from '../uncertainty/leaves.js';
import { standardUncertainty, type Leaf } from '../uncertainty/leaf.js';
import type { LeafBook } from '../uncertainty/working.js';
import { refusal } from '../refusal/refusal.js';

/** What a line of a price is for, in the order of the work. */
export const COST_KINDS = [
  'head or core',
  'core charge',
  'core returned',
  'freight',
  'duty',
  'cleaning',
  'crack check',
  'guides',
  'valve job',
  'seats',
  'valves',
  'springs and retainers',
  'machining',
  'milling',
  'porting',
  'bench',
  'gaskets',
  'bolts',
  'pushrods',
  'rockers',
  'manifold',
  'header',
  'adapter',
  'mending',
  'rings and balance',
  'contingency',
  'other',
] as const;
export type CostKind = (typeof COST_KINDS)[number];

/** Tax of a line: in its price, still to come, or none. */
export const TAXES = ['included', 'added', 'none'] as const;
export type Tax = (typeof TAXES)[number];

export interface CostLine {
  readonly id: string;
  readonly name: string;
  /** Pieces, or hours. */
  readonly quantity: number;
  /** Of one, in the line's currency; what comes back is negative. */
  readonly price: number;
  /** Of the sum's currency for one of the line's. */
  readonly exchange: number;
  readonly tax: Tax;
  /** How far a guess may be off, a share either way; 0 for a quote. */
  readonly guess: number;
}

export const lineCost: Method<{ quantity: number; price: number; exchange: number; tax: number }> = {
  id: 'line-cost',
  title: 'Cost of a line',
  formula: 'K = n\\,p\\,x\\,(1 + t)',
  inputs: {
    quantity: { label: 'pieces or hours', symbol: 'n', kind: 'ratio' },
    price: { label: 'price of one', symbol: 'p', kind: 'money' },
    exchange: { label: 'exchange rate', symbol: 'x', kind: 'ratio' },
    tax: { label: 'tax still to come', symbol: 't', kind: 'percent' },
  },
  result: { label: 'cost of the line', symbol: 'K', kind: 'money' },
  source: 'Arithmetic.',
  compute: ({ quantity, price, exchange, tax }) => {
    if (!(exchange > 0)) throw refusal('exchangeNotAboveZero');
    if (quantity < 0) throw refusal('quantityNegative');
    return quantity * price * exchange * (1 + tax);
  },
};

export const costSum: Method<{ costs: readonly number[] }> = {
  id: 'cost-sum',
  title: 'What a way to go costs',
  formula: 'K = \\sum_i K_i',
  inputs: { costs: { label: 'cost of each line', symbol: 'K_i', kind: 'money' } },
  result: { label: 'cost', symbol: 'K', kind: 'money' },
  source: 'Arithmetic.',
  caution: 'What nobody wrote down is not in it.',
  compute: ({ costs }) => costs.reduce((sum, c) => sum + c, 0),
};

/** Money for each of what is gained over the way it is held against. */
const costPer = (
  id: string,
  each: string,
  more: string,
  symbol: string,
): Method<{ cost: number; base: number; gain: number }> => ({
  id,
  title: `Money for each ${each} gained`,
  formula: `c = \\frac{K - K_0}{${symbol} - ${symbol}_0}`,
  inputs: {
    cost: { label: 'cost of this way', symbol: 'K', kind: 'money' },
    base: { label: 'cost of the way it is held against', symbol: 'K_0', kind: 'money' },
    gain: { label: `${each} more than that`, symbol: `${symbol} - ${symbol}_0`, kind: 'ratio' },
  },
  result: { label: `money for each ${each} gained`, symbol: 'c', kind: 'money' },
  source: 'Definition.',
  compute: ({ cost, base, gain }) => {
    if (!(gain > 0)) throw refusal('gainsNothing', more);
    return (cost - base) / gain;
  },
});
export const costPerGain = costPer('cost-per-gain', 'horsepower', 'makes no more power', 'P');
export const costPerFlow = costPer('cost-per-flow', 'cfm', 'flows no more', 'Q');
export const costPerTorque = costPer('cost-per-torque', 'lb ft', 'makes no more torque', 'T');

export interface WayCost {
  readonly lines: readonly Working[];
  readonly sum: Working;
  readonly book: LeafBook;
  /** Standard uncertainty of the sum, money. */
  readonly u: number;
}

/** The sum of a way's lines; guesses are independent of each other (JCGM 100:2008, 5.1.2). `tax` is the rate where it is added. */
export function wayCost(way: string, lines: readonly CostLine[], tax: number): WayCost {
  const guesses: { leaf: Leaf; change: number }[] = [];
  const worked = lines.map((line) => {
    const cost = work(lineCost, {
      quantity: line.quantity,
      price: noted(line.price, line.guess > 0 ? 'a guess' : 'a quote'),
      exchange: line.exchange,
      tax: noted(line.tax === 'added' ? tax : 0, line.tax === 'included' ? 'in the price' : ''),
    });
    if (line.guess > 0) {
      const leaf: Leaf = {
        ...shareLeaf(`cost:${way}:${line.id}`, line.name, line.guess),
        spread: { shape: 'uniform', half: line.guess },
        source: 'a guess of the shop',
      };
      guesses.push({ leaf, change: cost.value * standardUncertainty(leaf.spread) });
    }
    return cost;
  });
  const leaf = `cost:${way}`;
  const sum = { ...work(costSum, { costs: worked.map((w) => w.value) }), leaf };
  return {
    lines: worked,
    sum,
    book: { leaves: new Map(guesses.map((g) => [g.leaf.id, g.leaf])), made: new Map([[leaf, guesses]]) },
    u: Math.hypot(...guesses.map((g) => g.change)),
  };
}

export const powerForMoney: Method<{ amount: number; power: number; cost: number }> = {
  id: 'power-for-money',
  title: 'Power that an amount of money buys',
  formula: '\\Delta P_a = \\Delta P\\,\\frac{a}{K}',
  inputs: {
    amount: { label: 'the amount', symbol: 'a', kind: 'money' },
    power: { label: 'power it adds', symbol: '\\Delta P', kind: 'power' },
    cost: { label: 'what it costs', symbol: 'K', kind: 'money' },
  },
  result: { label: 'power for that amount', symbol: '\\Delta P_a', kind: 'power' },
  source: 'Proportion.',
  caution: 'Half a manifold buys nothing: it compares, it does not divide.',
  compute: ({ amount, power, cost }) => {
    if (!(cost > 0)) throw refusal('costsNothing');
    return (power * amount) / cost;
  },
};

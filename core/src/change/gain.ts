/** What a stage of work bought, and what it cost. */
import type { Method } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

export const workCost: Method<{ time: number; rate: number; parts: number }> = {
  id: 'work-cost',
  title: 'What a stage cost',
  formula: 'K = t\\,r + p',
  inputs: {
    time: { label: 'hours worked', symbol: 't', kind: 'time' },
    rate: { label: 'what an hour of the shop costs', symbol: 'r', kind: 'money' },
    parts: { label: 'parts and outside work', symbol: 'p', kind: 'money' },
  },
  result: { label: 'cost of the stage', symbol: 'K', kind: 'money' },
  source: 'Arithmetic; the rate is for one hour.',
  compute: ({ time, rate, parts }) => {
    if (time < 0 || rate < 0 || parts < 0) throw refusal('costNegative');
    return (time / 3600) * rate + parts;
  },
};

export const gainPerHour: Method<{ gain: number; time: number }> = {
  id: 'gain-per-hour',
  title: 'Gain for each hour',
  formula: 'g_t = \\frac{\\Delta Q}{t}',
  inputs: {
    gain: { label: 'gain in flow', symbol: '\\Delta Q', kind: 'flow' },
    time: { label: 'hours worked', symbol: 't', kind: 'time' },
  },
  result: { label: 'gain for each hour', symbol: 'g_t', kind: 'flowPerTime' },
  source: 'Definition.',
  compute: ({ gain, time }) => {
    if (time <= 0) throw refusal('noHours');
    return gain / time;
  },
};

export const gainPerMoney: Method<{ gain: number; cost: number }> = {
  id: 'gain-per-money',
  title: 'Gain for the money',
  formula: 'g_K = \\frac{\\Delta Q}{K}',
  inputs: {
    gain: { label: 'gain in flow', symbol: '\\Delta Q', kind: 'flow' },
    cost: { label: 'cost of the stage', symbol: 'K', kind: 'money' },
  },
  result: { label: 'gain for the money', symbol: 'g_K', kind: 'flowPerMoney' },
  source: 'Definition.',
  compute: ({ gain, cost }) => {
    if (cost <= 0) throw refusal('noCost');
    return gain / cost;
  },
};

export const gainAdded: Method<{ gains: readonly number[] }> = {
  id: 'gain-added',
  title: 'Gains of the stages added up',
  formula: '\\Delta Q = \\sum_i \\Delta Q_i',
  inputs: { gains: { label: 'gain of each stage', symbol: '\\Delta Q_i', kind: 'flow' } },
  result: { label: 'gain since the first stage', symbol: '\\Delta Q', kind: 'flow' },
  source: 'Arithmetic.',
  caution: 'Stages whose test changed with the head are left out of the sum.',
  compute: ({ gains }) => gains.reduce((sum, g) => sum + g, 0),
};

/** A forecast held against what the re-flow found, in standard uncertainties of the two together. */
export const forecastScore: Method<{ found: number; forecast: number; foundU: number; forecastU: number }> = {
  id: 'forecast-score',
  title: 'A forecast against what was found',
  formula: 'z = \\frac{\\Delta Q - \\Delta Q_f}{\\sqrt{u^2 + u_f^2}}',
  inputs: {
    found: { label: 'gain found', symbol: '\\Delta Q', kind: 'flow' },
    forecast: { label: 'gain forecast', symbol: '\\Delta Q_f', kind: 'flow' },
    foundU: { label: 'uncertainty of what was found', symbol: 'u', kind: 'flow' },
    forecastU: { label: 'uncertainty of the forecast', symbol: 'u_f', kind: 'flow' },
  },
  result: { label: 'off by, in uncertainties', symbol: 'z', kind: 'ratio' },
  source: 'JCGM 100:2008, 5.1.2.',
  caution: 'Within 2 either way the forecast held; one forecast says little of the one who made it.',
  compute: ({ found, forecast, foundU, forecastU }) => {
    const u = Math.hypot(foundU, forecastU);
    if (!(u > 0)) throw refusal('noUncertainty');
    return (found - forecast) / u;
  },
};

// find()!, unitNamed()!: written by us.

/**
 * The one table of kinds of quantity: which units each kind knows, which it shows in the inch and the metric system,
 * and with how many digits. A value in SI is `typed × factor + offset`.
 *
 * Conversion factors: NIST Special Publication 811 (2008), appendix B; the inch of water is the conventional
 * one, 249.089 Pa; the horsepower is mechanical, 550 ft·lbf/s.
 */
export interface Unit {
  /** Symbol as shown. */
  readonly symbol: string;
  readonly factor: number;
  readonly offset?: number;
  /** Digits after the decimal point when shown. */
  readonly digits: number;
  /** Other spellings understood when typed, lower case, without spaces. */
  readonly also?: readonly string[];
}

export type System = 'inch' | 'metric';

export interface KindSpec {
  /** What the kind is called in a sentence: "a length". */
  readonly name: string;
  readonly units: readonly Unit[];
  readonly inch: string;
  readonly metric: string;
  /** A whole number of 10 or more without a unit means thousandths of an inch (the way lift is spoken). */
  readonly thousandths?: boolean;
  /** `1,250` is twelve hundred and fifty, not a decimal comma. */
  readonly grouped?: boolean;
  /** `10:1` is understood. */
  readonly colon?: boolean;
  /** Inches below one are shown without the leading zero: `.480`. */
  readonly bareFraction?: boolean;
}

const INCH = 0.0254;
const FOOT = 0.3048;
const CUBIC_INCH = INCH ** 3;
const CUBIC_FOOT = FOOT ** 3;
const POUND_FORCE = 4.4482216152605;
const HORSEPOWER = 550 * FOOT * POUND_FORCE;
const POUND_FOOT = POUND_FORCE * FOOT;
const CFM = CUBIC_FOOT / 60;

const lengths: readonly Unit[] = [
  { symbol: 'in', factor: INCH, digits: 3, also: ['"', '”', 'inch', 'inches', "''"] },
  { symbol: 'mm', factor: 1e-3, digits: 1 },
  { symbol: 'thou', factor: INCH / 1000, digits: 0, also: ['mil', 'mils'] },
  { symbol: 'cm', factor: 1e-2, digits: 2 },
  { symbol: 'm', factor: 1, digits: 4 },
  { symbol: 'ft', factor: FOOT, digits: 2 },
];

const volumes: readonly Unit[] = [
  { symbol: 'cc', factor: 1e-6, digits: 1, also: ['cm3', 'cm³', 'ml'] },
  { symbol: 'in³', factor: CUBIC_INCH, digits: 2, also: ['in3', 'cuin', 'ci', 'cid', 'in^3'] },
  { symbol: 'L', factor: 1e-3, digits: 3, also: ['litre', 'liter', 'litres', 'liters'] },
];

const pressures: readonly Unit[] = [
  {
    symbol: 'inH2O',
    factor: 249.089,
    digits: 1,
    also: ['in', '"', 'inh₂o', 'inwater', 'inofwater', '"h2o', 'inwc', 'in.h2o'],
  },
  { symbol: 'kPa', factor: 1000, digits: 2 },
  { symbol: 'mmH2O', factor: 9.80665, digits: 0, also: ['mm', 'mmwater', 'mmwc'] },
  { symbol: 'cmH2O', factor: 98.0665, digits: 1, also: ['cm'] },
  { symbol: 'mbar', factor: 100, digits: 1, also: ['hpa'] },
  { symbol: 'bar', factor: 1e5, digits: 2 },
  { symbol: 'psi', factor: 6894.757293168, digits: 1 },
  { symbol: 'inHg', factor: 3386.389, digits: 2 },
  { symbol: 'Pa', factor: 1, digits: 0 },
];

const without = (units: readonly Unit[], ...spellings: string[]): Unit[] =>
  units.map((u) => ({ ...u, also: (u.also ?? []).filter((s) => !spellings.includes(s)) }));

const kind = <T extends Record<string, KindSpec>>(table: T): T => table;

export const KINDS = kind({
  length: { name: 'a length', units: lengths, inch: 'in', metric: 'mm' },
  lift: {
    name: 'a lift',
    units: lengths.map((u) => (u.symbol === 'mm' ? { ...u, digits: 2 } : u)),
    inch: 'in',
    metric: 'mm',
    thousandths: true,
    bareFraction: true,
  },
  height: {
    name: 'a height above the sea',
    units: [
      { symbol: 'ft', factor: FOOT, digits: 0, also: ['feet', "'"] },
      { symbol: 'm', factor: 1, digits: 0 },
      { symbol: 'km', factor: 1000, digits: 2 },
    ],
    inch: 'ft',
    metric: 'm',
  },
  area: {
    name: 'an area',
    units: [
      { symbol: 'in²', factor: INCH ** 2, digits: 2, also: ['in2', 'sqin', 'in^2'] },
      { symbol: 'mm²', factor: 1e-6, digits: 0, also: ['mm2', 'sqmm'] },
      { symbol: 'cm²', factor: 1e-4, digits: 2, also: ['cm2', 'sqcm'] },
    ],
    inch: 'in²',
    metric: 'mm²',
  },
  volume: { name: 'a volume', units: volumes, inch: 'cc', metric: 'cc' },
  displacement: {
    name: 'a displacement',
    units: [volumes[1]!, { ...volumes[2]!, digits: 2 }, volumes[0]!].map((u) =>
      u.symbol === 'in³' ? { ...u, digits: 1 } : u,
    ),
    inch: 'in³',
    metric: 'L',
  },
  flow: {
    name: 'a flow',
    units: [
      { symbol: 'cfm', factor: CFM, digits: 1, also: ['ft3/min', 'ft³/min', 'scfm'] },
      { symbol: 'L/s', factor: 1e-3, digits: 1, also: ['l/sec', 'lps'] },
      { symbol: 'm³/h', factor: 1 / 3600, digits: 0, also: ['m3/h', 'cmh'] },
      { symbol: 'm³/min', factor: 1 / 60, digits: 2, also: ['m3/min'] },
    ],
    inch: 'cfm',
    metric: 'L/s',
  },
  pressure: { name: 'a pressure', units: without(pressures, 'in', '"', 'mm', 'cm'), inch: 'psi', metric: 'bar' },
  depression: { name: 'a depression', units: pressures, inch: 'inH2O', metric: 'kPa' },
  velocity: {
    name: 'a velocity',
    units: [
      { symbol: 'ft/s', factor: FOOT, digits: 0, also: ['fps'] },
      { symbol: 'm/s', factor: 1, digits: 0 },
      { symbol: 'ft/min', factor: FOOT / 60, digits: 0, also: ['fpm'] },
    ],
    inch: 'ft/s',
    metric: 'm/s',
  },
  power: {
    name: 'a power',
    units: [
      { symbol: 'hp', factor: HORSEPOWER, digits: 0, also: ['bhp', 'horsepower'] },
      { symbol: 'kW', factor: 1000, digits: 0 },
      { symbol: 'PS', factor: 735.49875, digits: 0, also: ['cv', 'ch'] },
    ],
    inch: 'hp',
    metric: 'kW',
    grouped: true,
  },
  torque: {
    name: 'a torque',
    units: [
      { symbol: 'lb ft', factor: POUND_FOOT, digits: 0, also: ['lbft', 'ftlb', 'lb-ft', 'ft-lb', 'lb·ft'] },
      { symbol: 'N·m', factor: 1, digits: 0, also: ['nm', 'n-m'] },
    ],
    inch: 'lb ft',
    metric: 'N·m',
    grouped: true,
  },
  torquePerVolume: {
    name: 'a torque per displacement',
    units: [
      { symbol: 'lb ft/in³', factor: POUND_FOOT / CUBIC_INCH, digits: 3, also: ['lbft/in3', 'lbft/in³', 'lbft/ci'] },
      { symbol: 'N·m/L', factor: 1000, digits: 1, also: ['nm/l'] },
    ],
    inch: 'lb ft/in³',
    metric: 'N·m/L',
  },
  powerPerFlow: {
    name: 'a power per flow',
    units: [
      { symbol: 'hp/cfm', factor: HORSEPOWER / CFM, digits: 3 },
      { symbol: 'kW/(L/s)', factor: 1e6, digits: 3, also: ['kws/l'] },
    ],
    inch: 'hp/cfm',
    metric: 'kW/(L/s)',
  },
  rotation: {
    name: 'a speed in rpm',
    units: [
      { symbol: 'rpm', factor: 1 / 60, digits: 0, also: ['rev/min', 'r/min', 'min-1'] },
      { symbol: '1/s', factor: 1, digits: 1, also: ['rps', 'hz'] },
    ],
    inch: 'rpm',
    metric: 'rpm',
    grouped: true,
  },
  angle: {
    name: 'an angle',
    units: [
      { symbol: '°', factor: Math.PI / 180, digits: 1, also: ['deg', 'degree', 'degrees'] },
      { symbol: 'rad', factor: 1, digits: 4 },
    ],
    inch: '°',
    metric: '°',
  },
  temperature: {
    name: 'a temperature',
    units: [
      { symbol: '°F', factor: 5 / 9, offset: 459.67 * (5 / 9), digits: 0, also: ['f', 'degf'] },
      { symbol: '°C', factor: 1, offset: 273.15, digits: 1, also: ['c', 'degc'] },
      { symbol: 'K', factor: 1, digits: 1 },
    ],
    inch: '°F',
    metric: '°C',
  },
  force: {
    name: 'a force',
    units: [
      { symbol: 'lb', factor: POUND_FORCE, digits: 1, also: ['lbs', 'lbf'] },
      { symbol: 'N', factor: 1, digits: 0 },
      { symbol: 'kgf', factor: 9.80665, digits: 1, also: ['kg'] },
    ],
    inch: 'lb',
    metric: 'N',
  },
  rate: {
    name: 'a spring rate',
    units: [
      { symbol: 'lb/in', factor: POUND_FORCE / INCH, digits: 0, also: ['lbs/in', 'lbf/in'] },
      { symbol: 'N/mm', factor: 1000, digits: 1 },
    ],
    inch: 'lb/in',
    metric: 'N/mm',
  },
  massFlow: {
    name: 'a mass flow',
    units: [
      { symbol: 'lb/min', factor: 0.45359237 / 60, digits: 1 },
      { symbol: 'kg/s', factor: 1, digits: 4 },
      { symbol: 'kg/h', factor: 1 / 3600, digits: 1 },
      { symbol: 'g/s', factor: 1e-3, digits: 2 },
      { symbol: 'lb/h', factor: 0.45359237 / 3600, digits: 1, also: ['lb/hr', 'lbs/hr', 'lbs/h'] },
    ],
    inch: 'lb/min',
    metric: 'kg/s',
  },
  density: {
    name: 'a density',
    units: [
      { symbol: 'kg/m³', factor: 1, digits: 3, also: ['kg/m3'] },
      { symbol: 'lb/ft³', factor: 0.45359237 / CUBIC_FOOT, digits: 4, also: ['lb/ft3'] },
    ],
    inch: 'lb/ft³',
    metric: 'kg/m³',
  },
  mass: {
    name: 'a mass',
    units: [
      { symbol: 'lb', factor: 0.45359237, digits: 4, also: ['lbs'] },
      { symbol: 'g', factor: 1e-3, digits: 3 },
      { symbol: 'kg', factor: 1, digits: 3 },
    ],
    inch: 'lb',
    metric: 'g',
  },
  heatTransfer: {
    name: 'a heat transfer coefficient',
    units: [{ symbol: 'W/(m² K)', factor: 1, digits: 0 }],
    inch: 'W/(m² K)',
    metric: 'W/(m² K)',
  },
  time: {
    name: 'a time',
    units: [
      { symbol: 'h', factor: 3600, digits: 1, also: ['hr', 'hrs', 'hour', 'hours'] },
      { symbol: 'min', factor: 60, digits: 0, also: ['minutes'] },
    ],
    inch: 'h',
    metric: 'h',
  },
  flowPerTime: {
    name: 'a gain for each hour',
    units: [
      { symbol: 'cfm/h', factor: CFM / 3600, digits: 1 },
      { symbol: '(L/s)/h', factor: 1e-3 / 3600, digits: 2 },
    ],
    inch: 'cfm/h',
    metric: '(L/s)/h',
  },
  flowPerMoney: {
    name: 'a gain for a hundred of money',
    units: [
      { symbol: 'cfm per 100', factor: CFM / 100, digits: 1 },
      { symbol: 'L/s per 100', factor: 1e-3 / 100, digits: 2 },
    ],
    inch: 'cfm per 100',
    metric: 'L/s per 100',
  },
  percent: {
    name: 'a percentage',
    units: [{ symbol: '%', factor: 0.01, digits: 1, also: ['pct', 'percent'] }],
    inch: '%',
    metric: '%',
  },
  ratio: {
    name: 'a ratio',
    units: [{ symbol: '', factor: 1, digits: 3, also: [':1'] }],
    inch: '',
    metric: '',
    colon: true,
  },
  compression: {
    name: 'a compression ratio',
    units: [{ symbol: ':1', factor: 1, digits: 1 }],
    inch: ':1',
    metric: ':1',
    colon: true,
  },
  count: { name: 'a whole number', units: [{ symbol: '', factor: 1, digits: 0 }], inch: '', metric: '', grouped: true },
  money: { name: 'a sum of money', units: [{ symbol: '', factor: 1, digits: 0 }], inch: '', metric: '', grouped: true },
});

export type Kind = keyof typeof KINDS;

export const kindSpec = (k: Kind): KindSpec => KINDS[k];

/** The unit a kind is shown in under a system. */
export function unitFor(k: Kind, system: System): Unit {
  const spec = kindSpec(k);
  const symbol = spec[system];
  return spec.units.find((u) => u.symbol === symbol)!;
}

/** The unit with that symbol, or undefined. */
export const unitNamed = (k: Kind, symbol: string): Unit | undefined =>
  kindSpec(k).units.find((u) => u.symbol === symbol);

/** From a number in `unit` to SI. */
export const toSi = (value: number, unit: Unit): number => value * unit.factor + (unit.offset ?? 0);

/** From SI to a number in `unit`. */
export const fromSi = (si: number, unit: Unit): number => (si - (unit.offset ?? 0)) / unit.factor;

const shorthand = (k: Kind, symbol: string) => (value: number) => toSi(value, unitNamed(k, symbol)!);

/** Shorthands for code and tests that speak in the trade's units: `inches(2.08)`, `cfm(252)`. All return SI. */
export const inches = shorthand('length', 'in');
export const millimetres = shorthand('length', 'mm');
export const squareInches = shorthand('area', 'in²');
export const cubicInches = shorthand('volume', 'in³');
export const cubicCentimetres = shorthand('volume', 'cc');
export const cfm = shorthand('flow', 'cfm');
export const inchesOfWater = shorthand('depression', 'inH2O');
export const feetPerSecond = shorthand('velocity', 'ft/s');
export const horsepower = shorthand('power', 'hp');
export const poundFeet = shorthand('torque', 'lb ft');
export const rpm = shorthand('rotation', 'rpm');
export const degrees = shorthand('angle', '°');
export const celsius = shorthand('temperature', '°C');
export const pounds = shorthand('force', 'lb');
export const poundsPerInch = shorthand('rate', 'lb/in');
export const psi = shorthand('pressure', 'psi');
export const horsepowerPerCfm = shorthand('powerPerFlow', 'hp/cfm');
export const poundFeetPerCubicInch = shorthand('torquePerVolume', 'lb ft/in³');

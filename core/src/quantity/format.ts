import { fromSi, kindSpec, unitFor, type Kind, type System, type Unit } from './units.js';

/** How figures are written beside their units: the decimal sign, and what parts the thousands from 10 000 up. */
export interface Figures {
  readonly system: System;
  readonly decimal: '.' | ',';
  readonly group: '' | '.' | ',' | '\u202f';
  readonly days: DayOrder;
}
/** `2026-05-31`, `31 May 2026` or `May 31, 2026`: the month has its name where the order could be mistaken. */
export type DayOrder = 'year first' | 'day first' | 'month first';
/** Units alone: a decimal point, nothing parted, days with the year first. */
export type Style = System | Figures;

const systemOf = (style: Style): System => (typeof style === 'string' ? style : style.system);

/** Below this four figures stand together, as a speed is written: 6400, but 12,000. */
const PARTED_FROM = 10_000;

/** Figures written with a point, as `toFixed` gives them, in the style's own signs. */
function inSigns(plain: string, style: Style): string {
  if (typeof style === 'string') return plain;
  const [whole = '', part] = plain.split('.');
  const parted = Number(whole) >= PARTED_FROM ? whole.replace(/\B(?=(\d{3})+$)/g, style.group) : whole;
  return part === undefined ? parted : parted + style.decimal + part;
}

/** A number without a kind, as a coefficient or Mach number, with a true minus sign. */
export function plainNumber(value: number, digits: number, style: Style): string {
  if (!Number.isFinite(value)) return '–';
  const text = Math.abs(value).toFixed(digits);
  return (value < 0 && Number(text) !== 0 ? '−' : '') + inSigns(text, style);
}

export interface FormatOptions {
  readonly unit?: Unit;
  readonly digits?: number;
  /** Write `+` before a gain. */
  readonly signed?: boolean;
}

/** The figure alone, in the system's unit, with a true minus sign: `.480`, `188.1`, `−2`. */
export function formatNumber(si: number, kind: Kind, style: Style, options: FormatOptions = {}): string {
  const unit = options.unit ?? unitFor(kind, systemOf(style));
  const value = fromSi(si, unit);
  if (!Number.isFinite(value)) return '–';
  const digits = options.digits ?? unit.digits;
  let text = Math.abs(value).toFixed(digits);
  if (kindSpec(kind).bareFraction && unit.symbol === 'in') text = text.replace(/^0\./, '.');
  const nought = Number(text) === 0;
  const sign = nought ? '' : value < 0 ? '−' : options.signed ? '+' : '';
  return sign + inSigns(text, style);
}

/** The figure with its unit: `188.1 cfm`, `9.5:1`, `80.3 %`. Lift in inches stands bare, as it is spoken: `.480`. */
export function format(si: number, kind: Kind, style: Style, options: FormatOptions = {}): string {
  const unit = options.unit ?? unitFor(kind, systemOf(style));
  const figure = formatNumber(si, kind, style, options);
  if (unit.symbol === '' || (kindSpec(kind).bareFraction && unit.symbol === 'in')) return figure;
  return unit.symbol.startsWith(':') || unit.symbol === '°' ? figure + unit.symbol : `${figure}\u00a0${unit.symbol}`;
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A day of the form `2026-05-31` in the style's order; anything else as it stands. */
export function formatDay(iso: string, style: Style): string {
  const [, year, month, day] = /^(\d{4})-(\d{2})-(\d{2})$/.exec(iso) ?? [];
  const name = MONTHS[Number(month) - 1];
  if (typeof style === 'string' || style.days === 'year first' || !name) return iso;
  return style.days === 'day first' ? `${Number(day)} ${name} ${year}` : `${name} ${Number(day)}, ${year}`;
}

/** A sentence-writer's view of one style: `say.of(q, 'flow')`, `say.number(mach, 2)`. */
export interface Say {
  readonly system: System;
  readonly of: (si: number, kind: Kind, options?: FormatOptions) => string;
  readonly number: (value: number, digits: number) => string;
  readonly day: (iso: string) => string;
}

export const sayIn = (style: Style): Say => ({
  system: systemOf(style),
  of: (si, kind, options) => format(si, kind, style, options),
  number: (value, digits) => plainNumber(value, digits, style),
  day: (iso) => formatDay(iso, style),
});

import { fromSi, kindSpec, unitFor, type Kind, type System, type Unit } from './units.js';

export interface FormatOptions {
  readonly unit?: Unit;
  readonly digits?: number;
  /** Write `+` before a gain. */
  readonly signed?: boolean;
}

/** The figure alone, in the system's unit, with a true minus sign: `.480`, `188.1`, `−2`. */
export function formatNumber(si: number, kind: Kind, system: System, options: FormatOptions = {}): string {
  const unit = options.unit ?? unitFor(kind, system);
  const value = fromSi(si, unit);
  if (!Number.isFinite(value)) return '–';
  const digits = options.digits ?? unit.digits;
  let text = Math.abs(value).toFixed(digits);
  if (kindSpec(kind).bareFraction && unit.symbol === 'in') text = text.replace(/^0\./, '.');
  const nought = Number(text) === 0;
  const sign = nought ? '' : value < 0 ? '−' : options.signed ? '+' : '';
  return sign + text;
}

/** The figure with its unit: `188.1 cfm`, `9.5:1`, `80.3 %`. Lift in inches stands bare, as it is spoken: `.480`. */
export function format(si: number, kind: Kind, system: System, options: FormatOptions = {}): string {
  const unit = options.unit ?? unitFor(kind, system);
  const figure = formatNumber(si, kind, system, options);
  if (unit.symbol === '' || (kindSpec(kind).bareFraction && unit.symbol === 'in')) return figure;
  return unit.symbol.startsWith(':') || unit.symbol === '°' ? figure + unit.symbol : `${figure}\u00a0${unit.symbol}`;
}

/** A sentence-writer's view of one system: `say.flow(q)`, `say.lift(l)`. */
export interface Say {
  readonly system: System;
  readonly of: (si: number, kind: Kind, options?: FormatOptions) => string;
}

export const sayIn = (system: System): Say => ({
  system,
  of: (si, kind, options) => format(si, kind, system, options),
});

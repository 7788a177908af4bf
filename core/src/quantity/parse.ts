import { fromSi, kindSpec, toSi, unitFor, unitNamed, type Kind, type System, type Unit } from './units.js';
import { refusal, type Refusal } from '../refusal/refusal.js';

// unitNamed()!: it was met in the list of units.

/** A measured or stated value: SI beside the text as typed, which always carries its unit. */
export interface Quantity {
  readonly si: number;
  readonly typed: string;
}

/** A value written as a hand would, to so many digits of a unit named by its symbol, so that text and value agree. */
export function written(si: number, kind: Kind, symbol: string, digits: number): Quantity {
  const unit = unitNamed(kind, symbol)!;
  const text = fromSi(si, unit).toFixed(digits);
  return { si: toSi(Number(text), unit), typed: `${text} ${symbol}` };
}

export type Parsed =
  | { readonly ok: true; readonly quantity: Quantity; readonly unit: Unit }
  | { readonly ok: false; readonly refusal: Refusal; /** Its sentence. */ readonly problem: string };

/** A text that means no quantity, and why. */
export const refused = (why: Refusal): Parsed => ({ ok: false, refusal: why, problem: why.message });

const squeeze = (text: string): string => text.toLowerCase().replace(/\s+/g, '');

function findUnit(kind: Kind, spelling: string): Unit | undefined {
  const s = squeeze(spelling);
  return kindSpec(kind).units.find((u) => squeeze(u.symbol) === s || (u.also ?? []).includes(s));
}

/** `2.02`, `.45`, `2,02`, `1 7/8`, `7/8`, `-3`, `+19`; undefined when it is no number. */
function readNumber(text: string, grouped: boolean): number | undefined {
  const t = text.trim();
  const fraction = /^([+-]?)(?:(\d+)\s+)?(\d+)\s*\/\s*(\d+)$/.exec(t);
  if (fraction) {
    const [, sign, whole, top, bottom] = fraction;
    if (Number(bottom) === 0) return undefined;
    return (sign === '-' ? -1 : 1) * (Number(whole ?? 0) + Number(top) / Number(bottom));
  }
  const plain = grouped && /^[+-]?\d{1,3}(,\d{3})+(\.\d+)?$/.test(t) ? t.replaceAll(',', '') : t.replace(',', '.');
  return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain) ? Number(plain) : undefined;
}

/**
 * Understands what people type: `450` or `.450` or `11.4mm` for a lift, `2.02`, `51 mm`, `10:1`, `1 7/8`.
 *
 * A bare number takes the unit of `system`, or `bare` when given. In a kind spoken in thousandths a bare whole number
 * from 10 up means thousandths of an inch under the inch system. The returned `typed` keeps the digits as typed and
 * always names the unit, so that it can be read again anywhere without a system.
 */
export function parseQuantity(text: string, kind: Kind, system: System = 'inch', bare?: string): Parsed {
  const spec = kindSpec(kind);
  const t = text
    .trim()
    .replace(/\u2212/g, '-')
    // Thin spaces part thousands, as the program may write them itself.
    .replace(/(?<=\d)[\u2009\u202f](?=\d{3})/g, '')
    .replace(/\u00a0/g, ' ');
  if (t === '') return refused(refusal('nothingTyped', spec.name));
  const clean = spec.colon ? t.replace(/\s*:\s*1$/, '') : t;
  const match = /^([+-]?(?:\d+\s+\d+\s*\/\s*\d+|\d+\s*\/\s*\d+|[\d.,]+(?:e[+-]?\d+)?))\s*(.*)$/i.exec(clean);
  const value = match ? readNumber(match[1]!, spec.grouped ?? false) : undefined;
  if (!match || value === undefined || !Number.isFinite(value)) {
    return refused(refusal('notThisKind', t, spec.name, example(kind, system)));
  }
  const suffix = match[2]!.trim();
  if (suffix !== '') {
    const unit = findUnit(kind, suffix);
    if (!unit) return refused(refusal('notAUnit', suffix, spec.name.replace(/^an? /, ''), example(kind, system)));
    return { ok: true, quantity: { si: toSi(value, unit), typed: joinUnit(match[1]!.trim(), unit) }, unit };
  }
  const unit = bare === undefined ? unitFor(kind, system) : (findUnit(kind, bare) ?? unitFor(kind, system));
  const digits = match[1]!.trim();
  if (spec.thousandths && unit.symbol === 'in' && value >= 10 && /^\d+$/.test(digits)) {
    return { ok: true, quantity: { si: toSi(value / 1000, unit), typed: `${thousandths(digits)} in` }, unit };
  }
  return { ok: true, quantity: { si: toSi(value, unit), typed: joinUnit(digits, unit) }, unit };
}

const joinUnit = (digits: string, unit: Unit): string =>
  unit.symbol.startsWith(':') || unit.symbol === '°' ? `${digits}${unit.symbol}` : `${digits} ${unit.symbol}`.trim();

/** `400` → `.400`, `1050` → `1.050`, `50` → `.050`. */
const thousandths = (digits: string): string => (Number(digits) / 1000).toFixed(3).replace(/^0\./, '.');

function example(kind: Kind, system: System): string {
  const samples: Partial<Record<Kind, [string, string]>> = {
    lift: ['450, .450 or 11.4 mm', '11.4, or .450 in'],
    length: ['2.02, 1 7/8 or 51 mm', '51, or 2.02 in'],
    flow: ['188.9, or 89 L/s', '89, or 188.9 cfm'],
    depression: ['28, or 7 kPa', '7, or 28 inH2O'],
    compression: ['10:1 or 10', '10:1 or 10'],
    power: ['290, or 216 kW', '216, or 290 hp'],
    temperature: ['68, or 20 °C', '20, or 68 °F'],
  };
  const sample = samples[kind]?.[system === 'inch' ? 0 : 1];
  return sample
    ? `Type it like ${sample}.`
    : `Type a number${unitFor(kind, system).symbol ? ` in ${unitFor(kind, system).symbol}` : ''}.`;
}

/** The quantity a well-formed text means. @throws Refusal with the sentence when it means none. */
export function quantity(text: string, kind: Kind, system: System = 'inch'): Quantity {
  const parsed = parseQuantity(text, kind, system);
  if (!parsed.ok) throw parsed.refusal;
  return parsed.quantity;
}

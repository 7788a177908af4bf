/** A difference between two states of a record, as it is read on the screen. */
import type { Difference } from './merge.js';

const NAMES: Readonly<Record<string, string>> = { stopped: 'why the run stopped', setup: 'set-up' };
const plain = (name: string) => NAMES[name] ?? name.replace(/Id$/, '').replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);

/** A value in a line: as it was typed, `–` for none. */
export const valueWords = (value: unknown): string => {
  if (value === null || value === undefined || value === '') return '–';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value !== 'object') return String(value);
  if ('typed' in value) return String(value.typed);
  if (Array.isArray(value)) return value.map(valueWords).join(' / ') || '–';
  return (
    Object.entries(value)
      .filter(([, v]) => v !== null && v !== '' && !(Array.isArray(v) && v.length === 0))
      .map(([k, v]) => (k === 'lift' || k === 'pulls' ? valueWords(v) : `${plain(k)} ${valueWords(v)}`))
      .join(', ') || '–'
  );
};

/** A lift as it was typed, for a row named by it. */
function lift(name: string, states: readonly object[]): string {
  const rows = states.flatMap((v) => (v as { rows?: { lift: { si: number; typed: string } }[] | null }).rows ?? []);
  return rows.find((r) => r.lift.si.toFixed(6) === name)?.lift.typed ?? name;
}

/** Where two states differ: `row .400 in, intake`, `bore`. */
export const placeWords = ({ path: [first, second, ...rest] }: Difference, states: readonly object[]): string =>
  first === 'rows' && second !== undefined
    ? `row ${lift(second, states)}${rest.map((r) => (r === 'pulls' ? '' : `, ${plain(r)}`)).join('')}`
    : [first, second, ...rest]
        .filter((name) => name !== undefined)
        .map(plain)
        .join(', ');

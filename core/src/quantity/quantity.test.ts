import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { format, formatDay, formatNumber, plainNumber, sayIn, type Figures } from './format.js';
import { parseQuantity, quantity, written } from './parse.js';
import {
  KINDS,
  cfm,
  fromSi,
  horsepower,
  inches,
  inchesOfWater,
  kindSpec,
  poundFeet,
  psi,
  toSi,
  unitFor,
  type Kind,
} from './units.js';

const read = (text: string, kind: Kind, system: 'inch' | 'metric' = 'inch') => quantity(text, kind, system).si;

describe('units', () => {
  // NIST Special Publication 811 (2008), appendix B.8.
  it('convert as NIST SP 811 tabulates', () => {
    expect(inches(1)).toBeCloseTo(0.0254, 12);
    expect(cfm(1)).toBeCloseTo(4.719474e-4, 10);
    expect(horsepower(1)).toBeCloseTo(7.456999e2, 4);
    expect(poundFeet(1)).toBeCloseTo(1.355818, 6);
    expect(psi(1)).toBeCloseTo(6.894757e3, 3);
    expect(inchesOfWater(1)).toBeCloseTo(2.49089e2, 3);
    expect(read('68 °F', 'temperature')).toBeCloseTo(293.15, 6);
  });

  it('go to SI and back unchanged, every unit of every kind', () => {
    const kinds = Object.keys(KINDS) as Kind[];
    fc.assert(
      fc.property(fc.constantFrom(...kinds), fc.double({ min: -1e6, max: 1e6, noNaN: true }), (kind, value) => {
        for (const unit of kindSpec(kind).units) expect(fromSi(toSi(value, unit), unit)).toBeCloseTo(value, 6);
      }),
    );
  });

  it('every kind has the units it shows', () => {
    for (const kind of Object.keys(KINDS) as Kind[]) {
      expect(unitFor(kind, 'inch')).toBeDefined();
      expect(unitFor(kind, 'metric')).toBeDefined();
    }
  });
});

describe('typing', () => {
  it.each([
    ['450', 'lift', 0.45 * 0.0254, '.450 in'],
    ['.450', 'lift', 0.45 * 0.0254, '.450 in'],
    ['1050', 'lift', 1.05 * 0.0254, '1.050 in'],
    ['11.4mm', 'lift', 0.0114, '11.4 mm'],
    ['10,2 mm', 'lift', 0.0102, '10,2 mm'],
    ['2.02', 'length', 2.02 * 0.0254, '2.02 in'],
    ['51 mm', 'length', 0.051, '51 mm'],
    ['1 7/8', 'length', 1.875 * 0.0254, '1 7/8 in'],
    ['2.02"', 'length', 2.02 * 0.0254, '2.02 in'],
    ['10:1', 'compression', 10, '10:1'],
    ['9.5', 'compression', 9.5, '9.5:1'],
    ['28', 'depression', 28 * 249.089, '28 inH2O'],
    ['28 in', 'depression', 28 * 249.089, '28 inH2O'],
    ['42.5 %', 'percent', 0.425, '42.5 %'],
    ['3,200', 'money', 3200, '3,200'],
    ['5,600 rpm', 'rotation', 5600 / 60, '5,600 rpm'],
    ['12\u202f000 rpm', 'rotation', 200, '12000 rpm'],
    ['−3', 'flow', cfm(-3), '-3 cfm'],
    ['+19', 'flow', cfm(19), '+19 cfm'],
  ] as const)('%s as %s', (text, kind, si, typed) => {
    const got = quantity(text, kind);
    expect(got.si).toBeCloseTo(si, 9);
    expect(got.typed).toBe(typed);
  });

  it('takes a bare number in the unit of the system', () => {
    expect(read('51', 'length', 'metric')).toBeCloseTo(0.051, 9);
    expect(read('11.4', 'lift', 'metric')).toBeCloseTo(0.0114, 9);
  });

  it.each([
    ['abc', 'lift', '“abc” is not a lift. Type it like 450, .450 or 11.4 mm.'],
    ['12 furlongs', 'length', '“furlongs” is not a unit of length. Type it like 2.02, 1 7/8 or 51 mm.'],
    ['', 'flow', 'Type a flow.'],
    ['1/0', 'length', '“1/0” is not a length. Type it like 2.02, 1 7/8 or 51 mm.'],
    ['1.2.3', 'flow', '“1.2.3” is not a flow. Type it like 188.9, or 89 L/s.'],
    ['=1+1', 'flow', '“=1+1” is not a flow. Type it like 188.9, or 89 L/s.'],
  ] as const)('says what is wrong with %s', (text, kind, problem) => {
    expect(parseQuantity(text, kind)).toMatchObject({ ok: false, problem });
  });

  it('reads its own typed text again to the same value, whatever the system', () => {
    const kinds = Object.keys(KINDS) as Kind[];
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        fc.double({ min: 0.001, max: 9999, noNaN: true }),
        fc.nat(4),
        (kind, value, digits) => {
          const first = quantity(value.toFixed(digits), kind);
          for (const system of ['inch', 'metric'] as const) {
            const again = quantity(first.typed, kind, system);
            expect(again.si).toBe(first.si);
            expect(again.typed).toBe(first.typed);
          }
        },
      ),
    );
  });

  it('never throws on any text', () => {
    fc.assert(fc.property(fc.string(), (text) => void parseQuantity(text, 'lift')));
  });
});

describe('showing', () => {
  it('writes lift as it is spoken', () => {
    expect(format(inches(0.48), 'lift', 'inch')).toBe('.480');
    expect(format(inches(1.05), 'lift', 'inch')).toBe('1.050');
    expect(format(inches(0.48), 'lift', 'metric')).toBe('12.19\u00a0mm');
  });
  it('writes gains with a plus, losses with a true minus, and nought with neither', () => {
    expect(formatNumber(cfm(5), 'flow', 'inch', { signed: true, digits: 0 })).toBe('+5');
    expect(formatNumber(cfm(-2), 'flow', 'inch', { signed: true, digits: 0 })).toBe('−2');
    expect(formatNumber(cfm(-0.2), 'flow', 'inch', { signed: true, digits: 0 })).toBe('0');
  });
  // SI Brochure (BIPM, 9th edition, 5.4.4): point or comma is the decimal marker; four figures need not be parted.
  it.each([
    ['.', '', '12000.5', '.480'],
    ['.', ',', '12,000.5', '.480'],
    [',', '\u202f', '12\u202f000,5', ',480'],
    [',', '.', '12.000,5', ',480'],
  ] as const)('writes numbers with %s and “%s” between thousands', (decimal, group, thousands, lift) => {
    const style: Figures = { system: 'inch', decimal, group, days: 'year first' };
    expect(plainNumber(12_000.5, 1, style)).toBe(thousands);
    expect(plainNumber(-12_000.5, 1, style)).toBe(`−${thousands}`);
    expect(formatNumber(6400 / 60, 'rotation', style)).toBe('6400');
    expect(format(inches(0.48), 'lift', style)).toBe(lift);
    expect(sayIn(style).number(0.5, 2)).toBe(decimal === '.' ? '0.50' : '0,50');
  });
  it('writes a day in the order chosen, and leaves what is no day alone', () => {
    const in_ = (days: Figures['days']) => ({ system: 'inch', decimal: '.', group: '', days }) as const;
    expect(formatDay('2026-05-03', in_('year first'))).toBe('2026-05-03');
    expect(formatDay('2026-05-03', in_('day first'))).toBe('3 May 2026');
    expect(formatDay('2026-05-03', in_('month first'))).toBe('May 3, 2026');
    expect(formatDay('2026-05-03', 'metric')).toBe('2026-05-03');
    expect(formatDay('', in_('day first'))).toBe('');
    expect(formatDay('2026-13-03', in_('day first'))).toBe('2026-13-03');
  });
  it('joins the unit where it belongs', () => {
    expect(format(9.5, 'compression', 'inch')).toBe('9.5:1');
    expect(format(0.803, 'percent', 'inch')).toBe('80.3\u00a0%');
  });
});

describe('written to so many digits', () => {
  it.each([
    [0.0472, 'flow', 'cfm', 2],
    [294.26, 'temperature', '°C', 1],
    [0.64271, 'percent', '%', 3],
    [-12.4, 'rotation', 'rpm', 0],
  ] as const)('%d %s: text and value agree', (si, kind, symbol, digits) => {
    const quantity = written(si, kind, symbol, digits);
    const read = parseQuantity(quantity.typed, kind);
    expect(read.ok && Math.abs(read.quantity.si - quantity.si)).toBeLessThan(1e-12);
    expect(quantity.typed.endsWith(` ${symbol}`)).toBe(true);
  });
});

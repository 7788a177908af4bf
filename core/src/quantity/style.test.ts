import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { columnStyle, likelyLiftUnit, readTyped, withPoint } from './style.js';
import { cfm, horsepower, rpm } from './units.js';

describe('the decimal sign of a column', () => {
  it.each([
    [['188,2', '201', '12,75'], ',', true],
    [['0,050', '0,100'], ',', true],
    [['1.234,5'], ',', true],
    [['1,234.5', '987'], '.', true],
    [['1,234,567'], '.', true],
    [['.100', '.200'], '.', true],
    [['1.200', '1.450'], '.', true],
    [['1,234', '987'], '.', false],
  ] as const)('%j', (texts, sign, sure) => {
    expect(columnStyle(texts)).toMatchObject({ sign, sure });
  });
  it('is unknown where no figure has one, and refused where both are used', () => {
    expect(columnStyle(['188', 'n/a', ''])).toBeUndefined();
    expect(() => columnStyle(['2,5', '3.75'])).toThrow('has a decimal point and “2,5” a decimal comma');
  });
  it('any column of figures written by one hand reads back to the same figures', () => {
    const figures = fc.array(
      fc.double({ min: 0.01, max: 2e6, noNaN: true }).map((n) => Number(n.toFixed(2))),
      { minLength: 1 },
    );
    fc.assert(
      fc.property(figures, fc.constantFrom('.', ','), fc.boolean(), (values, sign, grouped) => {
        const written = values.map((v) => {
          const [whole, decimals] = v.toFixed(2).split('.') as [string, string];
          const group = sign === '.' ? ',' : '.';
          return `${grouped ? whole.replace(/\B(?=(\d{3})+$)/g, group) : whole}${sign}${decimals}`;
        });
        const style = columnStyle(written)!;
        expect(style).toEqual({ sign, sure: true });
        expect(written.map((t) => Number(withPoint(t, style.sign).replace(',', '.')))).toEqual(values);
      }),
    );
  });
});

describe('a figure that could be read both ways', () => {
  const si = (text: string, kind: Parameters<typeof readTyped>[1]) => {
    const read = readTyped(text, kind);
    return read.ok ? read.quantity.si : read.problem;
  };
  it('is the believable one, and keeps what it was understood as', () => {
    expect(si('1,234', 'flow')).toBeCloseTo(cfm(1234), 12);
    expect(si('12,345', 'flow')).toBeCloseTo(cfm(12.345), 12);
    expect(si('1.200 hp', 'power')).toBeCloseTo(horsepower(1200), 6);
    expect(si('5.600', 'rotation')).toBeCloseTo(rpm(5600), 9);
    expect(si('1,250', 'lift')).toBeCloseTo(1.25 * 0.0254, 12);
    const read = readTyped('1,234', 'flow');
    expect(read.ok && read.quantity.typed).toBe('1234 cfm');
  });
  it('is asked about where both are, or neither is', () => {
    expect(si('3.200', 'money')).toContain('can be read as 3.200 or as 3200');
    expect(si('3,200', 'money')).toBe(3200);
    expect(si('9,999 in', 'length')).toBeCloseTo(9.999 * 0.0254, 12);
    expect(si('5,000', 'volume')).toBeCloseTo(5e-6, 15);
    expect(si('3,000', 'force')).toContain('can be read as 3.000 or as 3000');
    expect(si('1,500', 'velocity')).toBeCloseTo(457.2, 9);
  });
  it('is left alone where there is nothing to ask', () => {
    expect(si('0,450', 'lift')).toBeCloseTo(0.45 * 0.0254, 12);
    expect(si('188.923', 'flow')).toBeCloseTo(cfm(188.923), 12);
    expect(si('2,5', 'flow')).toBeCloseTo(cfm(2.5), 12);
    expect(si('nonsense', 'flow')).toContain('is not a flow');
  });
});

describe('bare lifts', () => {
  it('past any valve’s lift in inches are likely millimetres, and the other way round', () => {
    expect(likelyLiftUnit(['2,5', '5', '7,5', '10'], 'inch')).toBe('mm');
    expect(likelyLiftUnit(['.1', '.2', '.3'], 'metric')).toBe('in');
    expect(likelyLiftUnit(['.100', '.200', '.300'], 'inch')).toBeUndefined();
    expect(likelyLiftUnit(['100', '200', '300'], 'inch')).toBeUndefined();
    expect(likelyLiftUnit(['2', '4', '6'], 'metric')).toBeUndefined();
    expect(likelyLiftUnit(['2 mm', '4 mm', '6 mm'], 'inch')).toBeUndefined();
  });
});

import { horsepower, rpm } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { splitTable } from './csv.js';
import { headingsOf, readPullTable } from './pullTable.js';

const read = (text: string, laid: Parameters<typeof readPullTable>[2] = [], system: 'inch' | 'metric' = 'inch') =>
  readPullTable(splitTable(text), system, laid);
const hp = (q: { si: number } | null) => (q ? Math.round(q.si / horsepower(1)) : q);

/** Twenty ways of heading the same two rows: 220 hp at 4000 rpm, 270 at 5000. Made for this test. */
const FILES: readonly [name: string, text: string][] = [
  ['plain', 'RPM,HP\n4000,220\n5000,270\n'],
  ['torque beside it', 'RPM,HP,lb-ft\n4000,220,289\n5000,270,284\n'],
  ['units in brackets', 'Engine speed (rpm);Power (hp)\n4000;220\n5000;270\n'],
  ['units in square brackets', 'N [rpm];P [hp]\n4000;220\n5000;270\n'],
  ['kilowatts and a decimal comma', 'Speed;Power (kW)\n4000;164,05\n5000;201,34\n'],
  ['PS', 'rpm;PS\n4000;223,05\n5000;273,75\n'],
  ['a row of units', 'Speed\tPower\nrpm\thp\n4000\t220\n5000\t270\n'],
  ['a title above', 'Cell 2, third pull\n\nrpm,power (hp)\n4000,220\n5000,270\n'],
  ['torque alone, pound feet', 'rpm,torque (lb ft)\n4000,288.86\n5000,283.61\n'],
  ['torque alone, newton metres', 'Engine RPM,Nm\n4000,391.64\n5000,384.52\n'],
  ['corrected power', 'RPM,Corrected HP\n4000,220\n5000,270\n'],
  ['wheel power', 'rpm,whp\n4000,220\n5000,270\n'],
  ['columns turned round', 'hp,rpm\n220,4000\n270,5000\n'],
  ['much beside', 'time,rpm,oil,hp,egt\n0.1,4000,90,220,700\n0.2,5000,91,270,720\n'],
  ['thousands grouped', 'rpm;hp\n4.000;220\n5.000;270\n'],
  ['German', 'Drehzahl;Leistung (PS)\n4000;223,05\n5000;273,75\n'],
  ['units in the cells', 'rpm,power\n4000 rpm,220 hp\n5000 rpm,270 hp\n'],
  ['quotes', '"rpm","hp"\n"4000","220"\n"5000","270"\n'],
  ['brake power', 'Engine speed,Brake power (hp)\n4000,220\n5000,270\n'],
  ['none', '4000 220\n5000 270\n'.replace(/ /g, '\t')],
];

describe('dyno files of twenty headings', () => {
  it.each(FILES)('%s', (_, text) => {
    const { rows, problems } = read(text);
    expect(problems).toEqual([]);
    expect(rows).toHaveLength(2);
    expect(rows.map((r) => Math.round(r.speed.si / rpm(1)))).toEqual([4000, 5000]);
    const power = (r: (typeof rows)[number]) =>
      hp(r.power) ?? Math.round((r.torque!.si * 2 * Math.PI * r.speed.si) / horsepower(1));
    expect(rows.map(power)).toEqual([220, 270]);
  });
  it('a wrong unit is never silent: watts beside horsepower, rpm as hertz', () => {
    expect(
      read('rpm,power (W)\n4000,220\n').problems.length + read('rpm,power (W)\n4000,220\n').rows.length,
    ).toBeGreaterThan(0);
    // 220 W is no power an engine of this kind makes: the row reads what it says, and a torque beside it would disagree.
    expect(read('rpm,power (bananas)\n4000,220\n').problems[0]!.message).toContain('power');
    expect(read('rpm,power\n4000,220\n').notices).toContain('The column of power names no unit: it is read as hp.');
    expect(read('rpm,power\n4000,220 hp\n5000,201 kW\n').rows.map((r) => hp(r.power))).toEqual([220, 270]);
  });
});

describe('what else a dyno writes', () => {
  it('is read with its units: air over fuel, manifold, temperature, fuel and air', () => {
    const { rows, notices } = read(
      'rpm,hp,A/F,MAP (kPa),IAT (°C),Fuel flow (lb/h),Air (kg/h)\n5000,270,12.9,96,31,130,760\n',
    );
    const [row] = rows;
    expect(row!.lambda!.si).toBeCloseTo(12.9 / 14.7, 3);
    expect(row!.manifold!.si).toBeCloseTo(96_000, 6);
    expect(row!.temperature!.si).toBeCloseTo(304.15, 6);
    expect(row!.fuel!.si).toBeCloseTo((130 * 0.45359237) / 3600, 9);
    expect(row!.air!.si).toBeCloseTo(760 / 3600, 9);
    expect(notices).toEqual(['Air over fuel is read as petrol’s: 14.7 is lambda 1.']);
  });
  it('several pulls of one file are told apart: by a run column, by headings that stand again, by a speed that starts again', () => {
    const names = (text: string) => read(text).pulls.map((p) => [p.name, p.rows.length]);
    expect(names('run,rpm,hp\nA1,4000,220\nA1,5000,270\nB1,4000,230\nB1,5000,281\n')).toEqual([
      ['A1', 2],
      ['B1', 2],
    ]);
    expect(names('rpm,hp\n4000,220\n5000,270\nrpm,hp\n4000,230\n5000,281\n')).toEqual([
      ['', 2],
      ['', 2],
    ]);
    expect(names('rpm,hp\n3000,150\n4000,220\n5000,270\n3000,155\n4000,230\n')).toEqual([
      ['', 3],
      ['', 2],
    ]);
    // A pull that wobbles is one pull.
    expect(names('rpm,hp\n4000,220\n3990,219\n5000,270\n')).toEqual([['', 3]]);
  });
});

describe('columns laid down by hand', () => {
  const odd = 'Kanal 1;Kanal 2;Kanal 3\n4000;164,05;0,88\n5000;201,34;0,87\n';
  it('are asked for where no heading is known, and read as said', () => {
    const first = read(odd);
    expect(first.rows).toEqual([]);
    expect(first.problems[0]!.message).toContain('lay the columns down by hand');
    expect(headingsOf(first.columns)).toEqual(['Kanal 1', 'Kanal 2', 'Kanal 3']);
    const { rows, problems } = read(odd, [
      { column: 'speed', unit: 'rpm' },
      { column: 'power', unit: 'kW' },
      { column: 'lambda', unit: '' },
    ]);
    expect(problems).toEqual([]);
    expect(rows.map((r) => hp(r.power))).toEqual([220, 270]);
    expect(rows[0]!.lambda!.si).toBeCloseTo(0.88, 9);
  });
  it('are known again by their headings, and by these alone', () => {
    const map = {
      id: 'm',
      version: 1,
      headings: ['Kanal 1', 'Kanal 2', 'Kanal 3'],
      columns: [{ column: 'speed' as const, unit: 'rpm' }, { column: 'power' as const, unit: 'kW' }, null],
    };
    expect(read(odd, [map]).rows.map((r) => hp(r.power))).toEqual([220, 270]);
    expect(read('Kanal 1;Kanal 2\n4000;164\n', [map]).rows).toEqual([]);
    // A file whose headings are known is not touched by somebody else’s map.
    expect(read('rpm,hp\n4000,220\n', [map]).rows).toHaveLength(1);
  });
});

describe('what is no pull', () => {
  it.each([
    ['nothing', ''],
    ['text', 'Dear customer,\nyour engine made good power.\n'],
    ['one column', 'rpm\n4000\n5000\n'],
    ['power without a speed', 'hp\n220\n270\n'],
  ])('%s is refused with a sentence', (_, text) => {
    const { rows, problems } = read(text);
    expect(rows).toEqual([]);
    expect(problems.length).toBeGreaterThan(0);
  });
  it('two units in one column are read as each cell says, and that is never silent', () => {
    const { rows, notices } = read(
      'rpm,power (hp),torque (lb ft)\n4000,220,288.9\n4400,180.5 kW,288.9\n4800,258 hp,282.3\n',
    );
    expect(rows.map((r) => Math.round(r.power!.si / 745.7))).toEqual([220, 242, 258]);
    expect(notices).toContain('The column of power is in hp, but for cells in kW: each is read as it says.');
  });
  it('rows that fall, stand twice or have gaps stay what they are; text among figures is named by its line', () => {
    const { rows, problems } = read('rpm,hp\n5000,270\n4800,262\n4800,261\nmisfire,1\n4600,\n4400,240\n');
    expect(rows).toHaveLength(4);
    expect(problems.map((p) => p.line)).toEqual([5, 6]);
  });
});

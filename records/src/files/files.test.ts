import { cfm } from '@alluvium/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fingerprint } from '../fingerprint.js';
import { Setup, Sheet } from '../nouns/sheet.js';
import { toCoreRows } from '../toCore.js';
import { emptyCells, looksSwapped, readCells, writeCells, type Cells } from './cells.js';
import { readSheetTable } from './readSheet.js';
import { splitTable, toCsv } from './csv.js';
import { readTable, sheetTable } from './table.js';

const flow = Setup.parse({});
const cell = (lift: string, intake = '', exhaust = '', more: Partial<Cells> = {}): Cells => ({
  ...emptyCells(),
  lift,
  intake,
  exhaust,
  ...more,
});
const fromText = (text: string) => readSheetTable(readTable(splitTable(text)), 'file', 'inch');
const figures = (text: string) =>
  fromText(text).sheet.rows.map((r) => [
    r.lift.typed,
    r.intake?.pulls[0]?.typed ?? null,
    r.exhaust?.pulls[0]?.typed ?? null,
  ]);

describe('cells', () => {
  it('become rows in order of lift; empty rows are passed over', () => {
    const { rows, problems } = readCells([cell('300', '149', '110'), emptyCells(), cell('.100', '58')], flow, 'inch');
    expect(problems).toEqual([]);
    expect(rows.map((r) => [r.lift.typed, r.intake?.pulls[0]?.typed, r.exhaust])).toEqual([
      ['.100 in', '58 cfm', null],
      ['.300 in', '149 cfm', expect.objectContaining({ noisy: false })],
    ]);
  });
  it('read several pulls, a depression not held, a mark for noise, a dash for not read', () => {
    const { rows } = readCells([cell('.400', '188.2 / 188.9 @ 27.5 ~', '-', { missing: 'guide' })], flow, 'inch');
    expect(rows[0]!.intake).toMatchObject({
      pulls: [{ typed: '188.2 cfm' }, { typed: '188.9 cfm' }],
      depression: { typed: '27.5 inH2O' },
      noisy: true,
    });
    expect(rows[0]!.exhaust).toBeNull();
    expect(rows[0]!.missing).toBe('guide');
  });
  it.each([
    [cell('.300', 'lots'), 'intake', /“lots” is not a flow/, 'notThisKind'],
    [cell('three', '149'), 'lift', /“three” is not a lift/, 'notThisKind'],
    [cell('', '149'), 'lift', /Type a lift/, 'nothingTyped'],
    [cell('.300', '-149'), 'intake', /between 0 and about 4,200/, 'unbelievable'],
    [cell('.300', '1490000'), 'intake', /between 0 and about 4,200/, 'unbelievable'],
    [cell('9', '149'), 'lift', /between 0 and 3.000 in/, 'unbelievable'],
    [cell('.300', '149 @ 0'), 'intake', /depression must lie/, 'unbelievable'],
    [cell('.300', '=SUM(A1)'), 'intake', /is not a flow/, 'notThisKind'],
  ] as const)('say what is wrong, at the cell', (wrong, column, message, code) => {
    const { problems } = readCells([cell('.100', '58'), wrong], flow, 'inch');
    expect(problems).toEqual([{ row: 1, column, code, message: expect.stringMatching(message) }]);
  });
  it('a doubled lift is said at the second one', () => {
    const { problems } = readCells([cell('.300', '149'), cell('300', '150')], flow, 'inch');
    expect(problems).toEqual([
      { row: 1, column: 'lift', code: 'liftTwice', message: expect.stringContaining('stands in row 1 too') },
    ]);
  });
  it('a percent needs a range with a full scale in its direction', () => {
    const setup = Setup.parse({ reads: 'percent', ranges: [{ name: '4', intake: '295.6 cfm' }] });
    const { problems } = readCells([cell('.300', '50', '40', { intakeRange: '4', exhaustRange: '4' })], setup, 'inch');
    expect(problems).toEqual([
      {
        row: 0,
        column: 'exhaustRange',
        code: 'nameTheRange',
        message: expect.stringContaining('full scale in the exhaust direction'),
      },
    ]);
  });
  it('a bench of one range needs no range typed; a scale missing on one side leaves the other what it is', () => {
    const setup = Setup.parse({ reads: 'percent', ranges: [{ name: '4', intake: '295.6 cfm' }] });
    const { rows, problems } = readCells([cell('.300', '50', '40')], setup, 'inch');
    expect(problems.map((p) => p.column)).toEqual(['exhaustRange']);
    const { intake, exhaust } = toCoreRows({ setup, rows } as Sheet)[0]!;
    // 50 % of 295.6 cfm.
    expect((intake!.pulls[0]! * intake!.fullScale!) / cfm(1)).toBeCloseTo(147.8, 9);
    expect(exhaust).toBeUndefined();
    const two = Setup.parse({
      reads: 'percent',
      ranges: [
        { name: '4', intake: '295.6 cfm' },
        { name: '5', intake: '400 cfm' },
      ],
    });
    expect(readCells([cell('.300', '50', '')], two, 'inch').problems).toMatchObject([{ column: 'intakeRange' }]);
  });
  it('200,000 rows are refused at once', () => {
    const { rows, problems } = readCells(
      Array.from({ length: 200_000 }, () => cell('.1', '1')),
      flow,
      'inch',
    );
    expect(rows).toEqual([]);
    expect(problems).toHaveLength(1);
  });
  it('written and read again are the same rows', () => {
    const number = fc.integer({ min: 1, max: 3999 }).map((n) => String(n / 10));
    const reading = fc.record({
      pulls: fc.array(number, { minLength: 1, maxLength: 3 }),
      noisy: fc.boolean(),
      at: fc.option(fc.integer({ min: 5, max: 60 })),
    });
    const text = (r: { pulls: string[]; noisy: boolean; at: number | null }) =>
      `${r.pulls.join(' / ')}${r.at ? ` @ ${r.at}` : ''}${r.noisy ? ' ~' : ''}`;
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 10, max: 990 }), { minLength: 1, maxLength: 12 }),
        fc.array(reading, { minLength: 12, maxLength: 12 }),
        fc.constantFrom('inch', 'metric'),
        (lifts, readings, system) => {
          const first = readCells(
            lifts.map((l, i) => cell(`${(l / 1000).toFixed(3)} in`, text(readings[i]!))),
            flow,
            'inch',
          );
          expect(first.problems).toEqual([]);
          const again = readCells(writeCells(first.rows), flow, system as 'inch');
          expect(again.problems).toEqual(system === 'inch' ? [] : again.problems);
          if (system === 'inch') expect(fingerprint(again.rows)).toBe(fingerprint(first.rows));
        },
      ),
    );
  });
  it('swapped columns are noticed, a true sheet is not suspected', () => {
    const rows = (pairs: [string, string][]) =>
      readCells(
        pairs.map(([i, e], k) => cell(`.${k + 1}00`, i, e)),
        flow,
        'inch',
      ).rows;
    expect(
      looksSwapped(
        rows([
          ['44', '58'],
          ['83', '109'],
          ['110', '149'],
          ['126', '172'],
        ]),
      ),
    ).toBe(true);
    expect(
      looksSwapped(
        rows([
          ['58', '44'],
          ['109', '83'],
          ['149', '110'],
          ['172', '126'],
        ]),
      ),
    ).toBe(false);
  });
});

describe('flow sheet CSV', () => {
  const want = [
    ['.100 in', '58 cfm', '44 cfm'],
    ['.200 in', '109 cfm', '83 cfm'],
  ];
  it.each([
    ['commas', 'lift,intake,exhaust\n.100,58,44\n.200,109,83\n'],
    ['semicolons and CRLF', 'lift;intake;exhaust\r\n.100;58;44\r\n.200;109;83\r\n'],
    ['tabs', 'lift\tintake\texhaust\n.100\t58\t44\n.200\t109\t83'],
    ['a byte order mark', '\uFEFFlift,intake,exhaust\n.100,58,44\n.200,109,83'],
    ['a unit row', 'lift,intake,exhaust\nin,cfm,cfm\n.100,58,44\n.200,109,83'],
    ['units in the headings', 'Lift (in),Intake (cfm),Exhaust (cfm)\n.100,58,44\n.200,109,83'],
    ['other order and names', 'Exh;Valve lift;Int\n44;.100;58\n83;.200;109'],
    ['no heading', '.100 58 44\n.200 109 83'],
    ['thousandths', 'lift,intake,exhaust\n100,58,44\n200,109,83'],
    ['comments, blank lines, quotes', '# bench\n\n"lift","intake","exhaust"\n".100","58","44"\n\n.200,109,83'],
  ])('with %s', (_, text) => {
    expect(figures(text)).toEqual(want);
    expect(fromText(text).problems).toEqual([]);
  });
  it('with a decimal comma and metric units', () => {
    expect(figures('lift;intake;exhaust\nmm;L/s;L/s\n2,54;27,4;20,8\n5,08;51,4;39,2')).toEqual([
      ['2,54 mm', '27,4 L/s', '20,8 L/s'],
      ['5,08 mm', '51,4 L/s', '39,2 L/s'],
    ]);
  });
  it('reads set-up lines, and one bad line costs only itself', () => {
    const { sheet, problems } = fromText(
      'title,Port 3\ndepression,10 inH2O\nbore,lots\nexhaustPipe,piped\nrange,4,295.6 cfm,317.5 cfm\nlift,intake\n.1,58\n',
    );
    expect(sheet.title).toBe('Port 3');
    expect(sheet.setup).toMatchObject({
      depression: { typed: '10 inH2O' },
      bore: null,
      exhaustPipe: 'piped',
      ranges: [{ name: '4' }],
    });
    expect(problems).toEqual(['bore: “lots” is not a length. Type it like 2.02, 1 7/8 or 51 mm.']);
  });
  it.each([
    ['nothing', '', /no rows of lift and flow/],
    ['a letter', 'Dear customer,\nyour head flows well.', /neither a set-up line nor a column heading/],
    ['an unknown column', 'lift,intake,colour\n.1,58,red', /The column “colour” is not known/],
    ['text in a row', 'lift,intake\n.1,58\n.2,much', /Row 2, intake: “much” is not a flow/],
    ['200,000 lines', 'lift,intake\n' + '.1,58\n'.repeat(200_000), /at most 400 rows/],
  ])('says what is wrong with %s', (_, text, message) => {
    expect(fromText(text).problems.join('\n')).toMatch(message);
  });
  it('a sheet written and read again loses nothing', () => {
    const text =
      'title,"Port 3, bare"\nkind,claim\ndate,2026-02-05\nreads,percent\ndepression,25 inH2O\nbore,98.0 mm\nentry,radius\nexhaustPipe,bare\nholesClosed,yes\nvalve,own\nfactor,1.01\nintakeLeak,2 cfm\nmeterTemperature,75 °F\nportTemperature,68 °F\nstopped,guide\nnote,"two\nlines"\nrange,4,295.6 cfm,317.5 cfm\nlift,intakeRange,intake,exhaustRange,exhaust,missing\n.100,4,19.6 / 19.8,4,13.9,\n.200,4,36.9 @ 24 ~,,,seal\n';
    const first = fromText(text);
    expect(first.problems).toEqual([]);
    const again = fromText(toCsv(sheetTable(first.sheet)));
    expect(again.problems).toEqual([]);
    expect(fingerprint(again.sheet)).toBe(fingerprint(first.sheet));
  });
  it('a cell that a spreadsheet would run as a formula is made harmless', () => {
    const csv = toCsv([
      ['title', '=HYPERLINK("http://x")'],
      ['note', '@SUM(1)'],
      ['.100', '-3'],
      ['.200', '+19'],
    ]);
    expect(csv).toContain(`"'=HYPERLINK`);
    expect(csv).toContain("'@SUM");
    expect(csv).toContain('.100,-3');
    expect(csv).toContain('.200,+19');
  });
  it('what would spoil the whole sheet is left out, as it says', () => {
    const { sheet, problems } = fromText(
      'reads,percent\nrange,4,295.6 cfm,\nlift,intakeRange,intake,exhaustRange,exhaust\n.100,4,20,,\n.100,4,21,,\n.200,9,40,4,30\n',
    );
    expect(problems.join('\n')).toMatch(/stands in row 1 too/);
    expect(sheet.rows.map((r) => [r.lift.typed, r.intake?.range ?? null, r.exhaust])).toEqual([
      ['.100 in', '4', null],
      ['.200 in', null, null],
    ]);
    // What is left goes through the schema the server uses.
    expect(Sheet.safeParse({ ...sheet, id: 's', stageId: 'x' }).success).toBe(true);
  });
  it('finds the decimal comma from the whole table, asks where it cannot, refuses both at once', () => {
    expect(figures('lift;intake\n2,5 mm;1.034,5 L/s\n5 mm;58,2\n')[0]).toEqual(['2,5 mm', '1034.5 L/s', null]);
    const asked = readTable(splitTable('lift;intake\n.100;1,234\n.200;2,345\n'));
    expect(asked.style).toEqual({ sign: '.', sure: true });
    const open = readTable(splitTable('lift;intake\n1;1,234\n2;2,345\n'));
    expect(open.style).toMatchObject({ sure: false, sample: '1,234' });
    const said = readSheetTable(readTable(splitTable('lift;intake\n1 mm;1,234\n'), ','), 'f', 'metric');
    expect(said.sheet.rows[0]!.intake!.pulls[0]).toMatchObject({ typed: '1.234 L/s' });
    expect(fromText('lift;intake\n.100;58,2\n.200;109.4\n').problems.join()).toContain(
      'write all figures of a table in one way',
    );
  });
  it('a mass flow asks for the density of its air, and is brought to volume with it', () => {
    const table = readTable(splitTable('lift (mm),intake (kg/h)\n2.5,100\n5,210\n'));
    const asked = readSheetTable(table, 'f', 'metric');
    expect(asked.massFlow).toBe('kg/h');
    expect(asked.problems[0]).toContain('give the density of the air');
    const read = readSheetTable(table, 'f', 'metric', { density: 1.204 });
    // 100 kg/h at 1.204 kg/m³ is 83.06 m³/h, 23.07 L/s: by hand.
    expect(read.sheet.rows[0]!.intake!.pulls[0]).toMatchObject({ typed: '23.07 L/s' });
    expect(read.sheet.note).toContain('air of 1.204 kg/m³');
    expect(read.problems).toEqual([]);
  });
  it.each(['constructor', '__proto__', 'toString'])('a column called %s is no column of a sheet', (name) => {
    const { sheet, problems } = fromText(`lift,intake,${name}\n.100,58,1\n`);
    expect(problems.join()).toContain(`The column “${name}” is not known`);
    expect(sheet.rows).toHaveLength(1);
  });
  it('never throws, whatever the text', () => {
    fc.assert(fc.property(fc.string(), (text) => void fromText(text)));
  });
});

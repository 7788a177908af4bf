// @vitest-environment node
import { SAME_LIFT } from '@alluvium/core';
import {
  Sheet,
  readSheetTable,
  readTable,
  sheetTable,
  sheetWorkbook,
  splitTable,
  toCsv,
  type SheetFile,
} from '@alluvium/records';
import fc from 'fast-check';
import { readSheet } from 'read-excel-file/node';
import { describe, expect, it } from 'vitest';
import write from 'write-excel-file/node';
import { zipSync } from 'fflate';
import { TooLarge, cellsOf, optionsOf, textsOf, workbookCells } from './workbook.js';

/** Any text a hand could put into a title or a note, delimiters, quotes and formulas among it. */
const nasty = fc.constantFrom(
  ';',
  '\t',
  ',',
  '"',
  "'",
  '=',
  '+1+HYPERLINK("x")',
  '-1+cmd|x',
  '’',
  '²',
  '#',
  '@',
  '\n',
  '  ',
);
const anyText = fc
  .array(fc.oneof(nasty, fc.string({ maxLength: 12 }), fc.constantFrom('port 3', '1.5', '2,5')), { maxLength: 6 })
  .map((parts) => parts.join(''))
  // A file holds no control letters: neither format can.
  .map((t) => t.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|\r/g, ''));
const line = anyText.map((t) =>
  t
    .replace(/[\t\n]/g, ' ')
    .trim()
    .slice(0, 100),
);
const flow = fc.integer({ min: 1, max: 4000 }).map((n) => `${(n / 10).toFixed(1)} cfm`);
const reading = fc.record({
  pulls: fc.array(flow, { minLength: 1, maxLength: 3 }),
  depression: fc.option(fc.constantFrom('27.5 inH2O', '6.9 kPa')),
  noisy: fc.boolean(),
});
const sheets = fc
  .record({
    title: line.filter((t) => t !== ''),
    kind: fc.constantFrom('measured', 'claim'),
    date: fc.option(fc.constantFrom('2026-05-02', '2024-02-29')),
    note: anyText.map((t) => t.trim()),
    stopped: line,
    setup: fc.record({
      depression: fc.option(fc.constantFrom('28 inH2O', '7.0 kPa')),
      bore: fc.option(fc.constantFrom('98.0 mm', '4.030 in')),
      portKind: line,
    }),
    rows: fc.uniqueArray(
      fc.record({
        lift: fc.integer({ min: 20, max: 900 }).map((n) => `${(n / 1000).toFixed(3).replace(/^0/, '')} in`),
        intake: fc.option(reading),
        exhaust: fc.option(reading),
        missing: line,
        note: line,
      }),
      { selector: (r) => r.lift, minLength: 1, maxLength: 8 },
    ),
  })
  .map((s) => Sheet.parse({ ...s, id: 's', stageId: 'x' }));

/** A number that is this one but for the last of the twelve figures a file holds. */
const nearly = (x: number): unknown => expect.closeTo(x, 10 - Math.ceil(Math.log10(Math.abs(x))));

/** What a file carries of a sheet: texts to the letter, quantities as values. */
const content = (sheet: SheetFile['sheet'] | Sheet, number: (si: number) => unknown = (si) => si) => {
  const value = (q: { si: number } | null) => (q === null ? null : number(q.si));
  const side = (r: Sheet['rows'][number]['intake']) =>
    r && { ...r, pulls: r.pulls.map((p) => value(p as { si: number })), depression: value(r.depression) };
  return {
    title: sheet.title,
    kind: sheet.kind,
    date: sheet.date,
    note: sheet.note,
    stopped: sheet.stopped,
    portKind: sheet.setup.portKind,
    depression: value(sheet.setup.depression),
    bore: value(sheet.setup.bore),
    rows: sheet.rows.map((r) => ({
      lift: Math.round(r.lift.si / SAME_LIFT),
      intake: side(r.intake),
      exhaust: side(r.exhaust),
      missing: r.missing,
      note: r.note,
    })),
  };
};
const names = { source: 'Bench 1; the old “one”', intakePort: 3 };

describe('any sheet, with any text in it', () => {
  it('goes through CSV and comes back equal', () => {
    fc.assert(
      fc.property(sheets, (sheet) => {
        const read = readSheetTable(readTable(splitTable(toCsv(sheetTable(sheet, names)))), 'file', 'inch');
        expect(read.problems).toEqual([]);
        expect(content(read.sheet)).toEqual(content(sheet, nearly));
        expect(read.names).toMatchObject(names);
      }),
      { numRuns: 300 },
    );
  });

  it('goes through XLSX and comes back equal, in either system', async () => {
    await fc.assert(
      fc.asyncProperty(sheets, fc.constantFrom('inch' as const, 'metric' as const), async (sheet, system) => {
        const book = sheetWorkbook(sheet, names, system);
        const file = await write(cellsOf(book), optionsOf(book)).toBuffer();
        const read = readSheetTable(readTable(textsOf(await readSheet(file))), 'file', system);
        expect(read.problems).toEqual([]);
        expect(content(read.sheet)).toEqual(content(sheet, nearly));
      }),
      { numRuns: 60 },
    );
  });
});

describe('a workbook', () => {
  it('holds a word that every object of the language has of its own', async () => {
    const rows = Object.getOwnPropertyNames(Object.prototype).map((word) => [word, 1]);
    const book = { name: 'Words', rows, widths: [20, 8], frozen: 0 };
    const file = await write(cellsOf(book), optionsOf(book)).toBuffer();
    expect(textsOf(await readSheet(file))).toEqual(rows.map(([word]) => [word, '1']));
  });
  const sheet = Sheet.parse({
    id: 's',
    stageId: 'x',
    title: 'Port 3: bare [first]',
    setup: {},
    rows: [
      { lift: '.100 in', intake: { pulls: ['63.0 cfm'] } },
      { lift: '5 mm', intake: { pulls: ['120 cfm', '121 cfm'] } },
    ],
  });
  it('holds numbers as numbers, in the units its headings name, with its heading in view', () => {
    const book = sheetWorkbook(sheet, {}, 'inch');
    expect(book.name).toBe('Port 3  bare  first');
    const at = book.rows.findIndex((r) => r[0] === 'lift (in)');
    expect(book.frozen).toBe(at + 1);
    expect(book.rows[at]!.slice(0, 3)).toEqual(['lift (in)', 'intakeRange', 'intake (cfm)']);
    expect(book.rows[at + 1]).toEqual([0.1, '', 63, '', '', '']);
    expect(book.rows[at + 2]!.slice(0, 3)).toEqual([0.196850393701, '', '120 cfm / 121 cfm']);
    expect(sheetWorkbook(sheet, {}, 'metric').rows[at + 2]![0]).toBe(5);
  });
});

describe('a packed file that unpacks to too much', () => {
  it.each([
    ['one large file', { 'xl/worksheets/sheet1.xml': new Uint8Array(61_000_000) }],
    ['very many small ones', Object.fromEntries(Array.from({ length: 600 }, (_, i) => [`f${i}`, new Uint8Array(1)]))],
  ])('%s is refused before it is unpacked', async (_, files) => {
    const packed = zipSync(files, { level: 9 });
    expect(packed.length).toBeLessThan(200_000);
    await expect(workbookCells(new File([packed], 'bomb.xlsx'))).rejects.toThrow(TooLarge);
  });
});

describe('a spoilt workbook', () => {
  it('is refused or read, and nothing else', async () => {
    const book = {
      name: 'S',
      rows: [
        ['lift (in)', 'intake (cfm)'],
        [0.1, 61.2],
        [0.2, 112],
      ],
      widths: [10, 10],
      frozen: 1,
    };
    const file = await write(cellsOf(book), optionsOf(book)).toBuffer();
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ at: fc.nat(), byte: fc.integer({ min: 0, max: 255 }) }), { minLength: 1, maxLength: 12 }),
        fc.option(fc.nat({ max: 400 })),
        async (edits, cut) => {
          const spoilt = Uint8Array.from(file);
          for (const { at, byte } of edits) spoilt[at % spoilt.length] = byte;
          const packed = new File([cut === null ? spoilt : spoilt.slice(0, -cut - 1)], 'x.xlsx');
          const cells = await workbookCells(packed).catch((error: unknown) => error);
          if (cells instanceof Error) return;
          for (const row of cells as unknown[][]) for (const cell of row) expect(typeof cell).toBe('string');
        },
      ),
      { numRuns: Number(process.env.FUZZ ?? 60), seed: 20261126 },
    );
  });
});

/**
 * Every reader of what people bring: broken text ends in sentences, never in a throw, and never takes long. The number of
 * inputs a reader gets is FUZZ; `npm run proof` gives ten thousand. A run that fails names its seed; those that failed
 * once are kept in SEEDS.
 */
import { readFileSync } from 'node:fs';
import { readTyped, columnStyle, parseQuantity, withPoint, type Kind } from '@alluvium/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  BenchAsks,
  InstrumentSays,
  claimBundle,
  emptySection,
  isClaimTable,
  outlinesOfDxf,
  readBundle,
  readCells,
  readClaimTable,
  readLine,
  readOutlineCsv,
  readSections,
  readSheetTable,
  readTable,
  sheetTable,
  splitTable,
  toCsv,
  writeOutlineCsv,
} from '../index.js';

const RUNS = Number(process.env.FUZZ ?? 80);
/** Seeds of runs that once failed. */
const SEEDS: readonly number[] = [1, 20261126];

const demo = JSON.parse(readFileSync('demo/bundle.json', 'utf8')) as Record<string, unknown>;
const { bundle } = readBundle(demo);
/** Real exports, to be spoilt. */
const EXPORTS = [
  ...bundle.sheets.slice(0, 6).map((s) => toCsv(sheetTable(s))),
  writeOutlineCsv([{ station: 0.01, shape: { kind: 'round', width: 0.04 } }]),
  'head,maker,source,lift (in),intake (cfm),exhaust (cfm)\nLongreach 212,Tall Pine,flyer,.100,61,48\n',
];
const NASTY = [
  '"',
  '\n',
  '\t',
  ',',
  ';',
  "'",
  '=',
  '@',
  '(',
  '[',
  ')',
  '\u0000',
  '\uFEFF',
  '\uD800',
  '__proto__',
  'constructor',
  '1e999',
  '-0',
  'NaN',
  '٣',
  '½',
  '1,234.5',
  '1.234,5',
  '#',
  'lift',
  'in',
  'mm',
  '%',
  '/',
  '|',
  '~',
];

/** A text with some of it cut out, doubled, or replaced by what trips readers. */
const spoilt = (texts: readonly string[]) =>
  fc
    .tuple(
      fc.constantFrom(...texts),
      fc.array(
        fc.record({
          at: fc.nat(),
          cut: fc.nat({ max: 30 }),
          put: fc.constantFrom('', ...NASTY),
          times: fc.integer({ min: 1, max: 40 }),
        }),
        { minLength: 1, maxLength: 8 },
      ),
    )
    .map(([text, edits]) =>
      edits.reduce((t, { at, cut, put, times }) => {
        const i = at % (t.length + 1);
        return t.slice(0, i) + put.repeat(times) + t.slice(i + cut);
      }, text),
    );
const anyText = fc.oneof(
  spoilt(EXPORTS),
  fc.string({ unit: 'binary', maxLength: 400 }),
  fc.array(fc.constantFrom(...NASTY), { maxLength: 60 }).map((p) => p.join('')),
);
const anyTable = fc.oneof(anyText.map(splitTable), fc.array(fc.array(anyText, { maxLength: 6 }), { maxLength: 12 }));
/** A way into a bundle, and what is put there instead. */
const spoiling = fc.record({
  way: fc.array(fc.nat(), { minLength: 2, maxLength: 8 }),
  value: fc.jsonValue({ maxDepth: 3 }),
  key: fc.constantFrom(...NASTY),
});
/** The demo with one value gone, replaced, or put under another name, at any depth: as text, since that is how it comes. */
function spoiltBundle({ way, value, key }: { way: readonly number[]; value: unknown; key: string }): unknown {
  const copy = structuredClone(demo);
  let at: Record<string, unknown> = copy;
  for (const step of way) {
    const keys = Object.keys(at);
    if (keys.length === 0) break;
    const next = keys[step % keys.length]!;
    const inner = at[next];
    if (typeof inner === 'object' && inner !== null && step % 7 !== 0) {
      at = inner as Record<string, unknown>;
      continue;
    }
    if (step % 3 === 0) delete at[next];
    else Object.defineProperty(at, step % 5 === 0 ? key : next, { value, enumerable: true, configurable: true });
    break;
  }
  return JSON.parse(JSON.stringify(copy));
}

const SETUP = { reads: 'flow' as const, ranges: [] };
const cells = (text: string) => ({
  lift: text,
  intake: text,
  exhaust: text,
  intakeRange: text,
  exhaustRange: text,
  missing: text,
  comment: text,
});
const READERS: readonly (readonly [string, fc.Arbitrary<any>, (input: any) => unknown])[] = [
  ['splitTable', anyText, splitTable],
  ['a flow sheet', anyTable, (t) => readSheetTable(readTable(t), 'x', 'inch')],
  [
    'claims',
    anyTable,
    (t) =>
      isClaimTable(t)
        ? claimBundle(readClaimTable(t, 'inch'), { heads: [], sources: [] } as never, 'inch', {
            of: String,
            kind: String,
          } as never)
        : t,
  ],
  ['cells', anyText, (t) => readCells([cells(t)], SETUP, 'metric')],
  ['outlines', anyText, readOutlineCsv],
  [
    'sections',
    anyText,
    (t) => readSections([{ ...emptySection(), station: t, width: t, height: t, radius: t }], 'inch'),
  ],
  [
    'a quantity',
    anyText,
    (t) =>
      (['flow', 'length', 'depression', 'angle'] as Kind[]).map((k) => [
        parseQuantity(t, k),
        readTyped(t, k),
        withPoint(t, ','),
      ]),
  ],
  ['an instrument', anyText, (t) => [readLine(InstrumentSays, t), readLine(BenchAsks, t)]],
  ['a bundle', spoiling, (how) => readBundle(spoiltBundle(how))],
  ['anything as a bundle', fc.jsonValue(), (b) => readBundle(b)],
  [
    'a drawing',
    fc.array(
      fc.record(
        {
          type: fc.constantFrom('CIRCLE', 'LWPOLYLINE', 'POLYLINE', 'INSERT'),
          layer: anyText,
          radius: fc.double(),
          center: fc.record({ x: fc.double(), y: fc.double() }),
          vertices: fc.array(fc.record({ x: fc.double(), y: fc.double(), bulge: fc.double() }), { maxLength: 8 }),
          shape: fc.boolean(),
        },
        { requiredKeys: ['type'] },
      ),
      { maxLength: 6 },
    ),
    (e) => outlinesOfDxf(e, undefined),
  ],
];

describe('no reader throws', () => {
  it.each(READERS)('%s', (_, arbitrary, read) => {
    for (const seed of SEEDS)
      fc.assert(
        fc.property(arbitrary, (input) => {
          read(input);
        }),
        { seed, numRuns: RUNS },
      );
  });
});

describe('no cell takes long', () => {
  const LENGTH = 60_000;
  const cellsOfOne = [
    '1',
    ' ',
    '.',
    'a',
    '(',
    '[(',
    '1,',
    '1/',
    '1 | ',
    '+-',
    '"',
    ';',
    '1 1/2 ',
    '~',
    '@',
    '1e',
    '-',
    '1 in ',
    '1 to ',
    '(\n',
    ',111',
    '+1',
    "'",
  ].map((part) => part.repeat(Math.ceil(LENGTH / part.length)));
  const sheets: readonly (readonly [string, (text: string) => unknown])[] = [
    [
      'as a cell',
      (t) =>
        readSheetTable(
          readTable([
            ['lift', 'intake'],
            [t, t],
          ]),
          'x',
          'inch',
        ),
    ],
    [
      'as a heading',
      (t) =>
        readTable([
          [`lift ${t}`, `x${t}`],
          ['lift', `intake${t}`],
          ['.1', '2'],
        ]),
    ],
    [
      'as a claim',
      (t) =>
        readClaimTable(
          [
            ['head', 'maker', 'source', 'lift', `intake${t}`],
            [t, t, t, t, t],
          ],
          'inch',
        ),
    ],
    ['as an outline', (t) => readOutlineCsv(`x${t},y${t}\n1,2\n`)],
    ['as a quantity', (t) => [parseQuantity(t, 'flow'), readTyped(t, 'lift'), columnStyle([t, t]), withPoint(t, ',')]],
    ['as a text', (t) => toCsv([[t, `${t}x`, `+${t}x`]]) && splitTable(t)],
  ];
  // A quadratic pattern takes ten seconds for one of these; the bound is far from any machine's noise.
  it.each(sheets)('%s of 60,000 letters', (_, read) => {
    for (const text of cellsOfOne) {
      const began = performance.now();
      read(text);
      expect(performance.now() - began, JSON.stringify(text.slice(0, 8))).toBeLessThan(2_000);
    }
  });
  it('a file of a million points is told to be too much', () => {
    const text = `x,y\n${'1,2\n'.repeat(200_000)}`;
    expect(readOutlineCsv(text).problems.join(' ')).toContain('200000 points; at most 5000');
  });
  it('three hundred thousand broken stages are said in at most five hundred sentences', () => {
    const stages = Array.from({ length: 60_000 }, (_, i) => ({
      id: `s${i}`,
      headId: 'h',
      parentId: `s${(i + 1) % 60_000}`,
      name: 's',
    }));
    const read = readBundle({ format: 'alluvium-bundle', version: 1, heads: [{ id: 'h', name: 'H' }], stages });
    expect(read.problems.length).toBeGreaterThan(0);
    expect(read.problems.length).toBeLessThanOrEqual(500);
  });
});

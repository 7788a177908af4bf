import { readFileSync } from 'node:fs';
import { inches, sayIn, type System } from '@alluvium/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  CLAIM_COLUMNS,
  claimBundle,
  idOf,
  isClaimTable,
  readBundle,
  readClaimTable,
  splitTable,
  wholesOf,
  type KnownHere,
} from '../index.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const here: KnownHere = { sources: bundle.sources, heads: wholesOf(bundle) };
const nowhere: KnownHere = { sources: [], heads: [] };
const read = (text: string, known = nowhere, system: System = 'inch') =>
  claimBundle(readClaimTable(splitTable(text), system), known, system, sayIn(system));
const records = (text: string, known = nowhere) => {
  const made = read(text, known);
  expect(made.problems).toEqual([]);
  const ids = new Set(
    known.heads
      .flatMap((h) => [h.head.id, ...[...h.stages, ...h.ports].map((s) => s.id)])
      .concat(known.sources.map((s) => s.id)),
  );
  const { bundle: found, problems } = readBundle(JSON.parse(made.text), (_, id) => ids.has(id));
  expect(problems).toEqual([]);
  return found;
};

const FLOWS = `source,head,side,lift (in),flow,depression,port
A flyer,New head,intake,.200,120,28 inH2O,3
A flyer,New head,intake,.400,210,28 inH2O,3
A flyer,New head,exhaust,.400,150,28 inH2O,3
`;

describe('a table of claims', () => {
  it('is told from a flow sheet by its heading', () => {
    expect(isClaimTable(splitTable(FLOWS))).toBe(true);
    expect(isClaimTable(splitTable('lift,intake,exhaust\n.1,60,50'))).toBe(false);
  });
  it('makes one sheet a source, head and set of conditions; what is not stated stays unknown', () => {
    const { sources, heads, stages, ports, sheets } = records(FLOWS);
    expect([sources.length, heads.length, stages.length, ports.length, sheets.length]).toEqual([1, 1, 1, 2, 1]);
    expect(sheets[0]).toMatchObject({
      kind: 'claim',
      title: 'A flyer',
      sourceId: sources[0]!.id,
      intakePortId: ports.find((p) => p.side === 'intake')!.id,
      setup: { depression: { typed: '28 inH2O' }, bore: null, entry: 'unknown', exhaustPipe: 'unknown' },
    });
    expect(sheets[0]!.rows.map((r) => [r.lift.si, r.intake?.pulls[0]!.typed, r.exhaust?.pulls[0]!.typed])).toEqual([
      [expect.closeTo(inches(0.2), 9), '120 cfm', undefined],
      [expect.closeTo(inches(0.4), 9), '210 cfm', '150 cfm'],
    ]);
    expect(records(FLOWS.replace(/,28 inH2O,3\n$/, ',,3\n')).sheets).toHaveLength(2);
  });
  it('brought in twice it makes no doubles: the same text has the same ids', () => {
    expect(read(FLOWS).text).toBe(read(FLOWS).text);
    expect(idOf('head', 'A', 'b')).toBe(idOf('head', 'a', 'B'));
    expect(idOf('head', 'ab', '')).not.toBe(idOf('head', 'a', 'b'));
    // FNV-1a 64 of "a", from the reference vectors of Fowler, Noll and Vo (draft-eastlake-fnv).
    expect(idOf('x', 'a')).toBe('x-af63dc4c8601ec8c');
  });
  it('goes onto heads, stages, ports and sources that are here, by their names', () => {
    const found = records(
      `source,head,stage,side,lift,flow,port\nottermoor FLYER,om-230,,in,.300,200,3\nPellam catalogue,P6-205,bowl blend,in,.300,170,`,
      here,
    );
    expect([found.sources, found.heads, found.stages, found.ports]).toEqual([[], [], [], []]);
    expect(found.sheets.map((s) => [s.stageId, s.sourceId])).toEqual([
      ['om-received', 'ottermoor-flyer'],
      ['p6-bowl', 'pellam-catalogue'],
    ]);
    expect(found.sheets[0]!.intakePortId).toBe('ottermoor-230-i3');
  });
  it('takes both sides in columns of their own, sizes, and powers', () => {
    const found = records(
      `source;head;lift;intake;exhaust;item;value;side;power;speed;displacement;cylinders;date
A flyer;New head;10 mm;90 L/s;70 L/s;;;;;;;;2026-03-01
A flyer;New head;;;;valve diameter;51 mm;intake;;;;;
A flyer;New head;;;;Chamber volume;64;;;;;;
A flyer;New head;;;;;;;410 hp;6800;4.2 L;6;
`,
    );
    expect(found.sheets[0]!.rows[0]).toMatchObject({
      lift: { typed: '10 mm' },
      intake: { pulls: [{ typed: '90 L/s' }] },
      exhaust: { pulls: [{ typed: '70 L/s' }] },
    });
    expect(found.sheets[0]!.date).toBe('2026-03-01');
    expect(found.measures.map((m) => [m.item, m.side, m.value.typed])).toEqual([
      ['valve diameter', 'intake', '51 mm'],
      ['chamber volume', null, '64 cc'],
    ]);
    expect(found.reports[0]).toMatchObject({ power: { typed: '410 hp' }, speed: { typed: '6800 rpm' }, cylinders: 6 });
  });
});

describe('what is wrong with a table of claims', () => {
  const says = (text: string, known = nowhere) => read(text, known).problems.map((p) => `${p.place}: ${p.message}`);
  it.each([
    ['a claim without lift', 'F,H,in,,200,,', 'line 2, lift: A flow without its lift claims nothing: at which lift?'],
    ['a lift without flow', 'F,H,in,.3,,,', 'line 2, flow: A lift without a flow claims nothing.'],
    ['a line that claims nothing', 'F,H,in,,,,', 'line 2, item: This line claims no flow, size or power.'],
    ['a lift that is none', 'F,H,in,wide,200,,', 'line 2, lift: “wide” is not a lift.'],
    ['a flow that is none', 'F,H,in,.3,lots,,', 'line 2, flow: “lots” is not a flow.'],
    ['a flow beyond belief', 'F,H,in,.3,9000,,', 'line 2, flow: A flow must lie between 0 and about 4,200 cfm.'],
    ['no side', 'F,H,,.3,200,,', 'line 2, side: Say whether this flow is intake or exhaust.'],
    ['another side', 'F,H,left,.3,200,,', 'line 2, side: “left” is neither intake nor exhaust.'],
    ['no head', 'F,,in,.3,200,,', 'line 2, head: Say which head the claim is about.'],
    ['no source', ',H,in,.3,200,,', 'line 2, source: A claim needs its source.'],
    ['an unknown size', 'F,H,in,,,girth,3', 'line 2, item: “girth” is no size this program knows.'],
    ['a size without side', 'F,H,,,,throat,1.6', 'line 2, side: Say whether this throat is intake or exhaust.'],
    ['a size without value', 'F,H,in,,,throat,', 'line 2, value: Say which throat is claimed.'],
  ])('%s', (_, line, sentence) => {
    const all = says(`source,head,side,lift,flow,item,value\n${line}\n`);
    expect(all).toHaveLength(1);
    expect(all[0]).toContain(sentence);
  });
  it('conditions, dates, ports and powers are checked where they stand', () => {
    const all = says(
      `source,head,side,lift,flow,bore,entry,date,port,power,speed,displacement,cylinders
F,H,in,.3,200,9 m,sideways,March,first,,,,
F,H,,,,,,,,400 hp,,,many
`,
    );
    expect(all).toEqual([
      'line 2, date: Write the date as 2026-05-31.',
      'line 2, port: “first” is no port: write its number, 1 to 48.',
      'line 2, bore: The bore fixture must lie between 20 and 600 mm.',
      expect.stringContaining('line 2, entry: '),
      'line 3, speed: At which engine speed?',
      'line 3, displacement: Of which displacement?',
      'line 3, cylinders: How many cylinders?',
    ]);
  });
  it('units mixed in one column are said, and a unit in the heading settles it', () => {
    const mixed = 'source,head,side,lift,flow\nF,H,in,.200,120\nF,H,in,10 mm,200\n';
    expect(says(mixed)).toEqual([
      'column lift: Some figures are in mm, others have no unit and would be read as in: write the unit with each, or in the heading.',
    ]);
    expect(says(mixed.replace('.200', '.200 in'))).toEqual([]);
    const metric = read('source,head,side,lift (mm),flow [L/s]\nF,H,in,10,90\n');
    expect(metric.problems).toEqual([]);
    expect(JSON.parse(metric.text).sheets[0].rows[0]).toMatchObject({ lift: '10 mm', intake: { pulls: ['90 L/s'] } });
    // The same unit written out is no mixture.
    expect(says('source,head,side,lift,flow\nF,H,in,.200 in,120\nF,H,in,.300,160\n')).toEqual([]);
  });
  it('a flow claimed twice, an unknown column, and an empty table are said', () => {
    expect(says('source,head,side,lift,flow\nF,H,in,.200,120\nF,H,in,.200,130\n')[0]).toContain('twice');
    expect(says('source,head,side,lift,flow,colour\nF,H,in,.200,120,red\n')[0]).toContain('“colour” is not known');
    expect(says('source,head,lift,flow\n')).toEqual(['file: There is no claim below the heading.']);
  });
  it('a lift beyond the valve and an exhaust above its intake are asked about, not refused', () => {
    const { problems, questions } = read(
      'source,head,lift,intake,exhaust\nF,OM-230,.500,200,215\nF,OM-230,1.300,220,180\n',
      here,
    );
    expect(problems).toEqual([]);
    expect(questions).toEqual([
      expect.stringMatching(/^OM-230: Lift 1\.300 lies beyond half the valve’s diameter/),
      expect.stringMatching(/^F: At \.500 the exhaust is said to flow more than the intake/),
    ]);
    const own = read(
      'source,head,side,lift,flow,item,value\nF,H,in,1.200,200,,\nF,H,in,,,valve diameter,2.02\n',
    ).questions;
    expect(own[0]).toContain('1.200');
  });
});

describe('any table at all', () => {
  const text = fc.oneof(
    fc.string({ maxLength: 12 }),
    fc.constantFrom(
      '',
      '.300',
      '10 mm',
      '200',
      '-5',
      '1/0',
      'intake',
      'ex',
      'throat',
      'unknown',
      '28 inH2O',
      '2026-13-40',
    ),
  );
  const heading = fc.shuffledSubarray([...CLAIM_COLUMNS, 'lift (mm)', 'flow [L/s]', 'colour'], { minLength: 1 });
  it('is read without a throw; what comes of it without a problem is a sound bundle', () => {
    fc.assert(
      fc.property(heading, fc.array(fc.array(text, { maxLength: 26 }), { maxLength: 8 }), (columns, rows) => {
        const table = [['source', 'head', ...columns], ...rows.map((r) => ['S', 'H', ...r])];
        const claims = readClaimTable(table, 'inch');
        const made = claimBundle(claims, nowhere, 'inch', sayIn('inch'));
        const { problems } = readBundle(JSON.parse(made.text));
        if (made.problems.length === 0) expect(problems).toEqual([]);
        // Every problem says where it stands.
        for (const p of made.problems) expect(p.place).toMatch(/^(line \d+|column \w+|file)/);
      }),
      { numRuns: 200 },
    );
  });
  it('every flow that is claimed soundly comes back from the bundle as it was', () => {
    const flow = fc.double({ min: 1, max: 900, noNaN: true }).map((q) => q.toFixed(1));
    const lifts = fc.uniqueArray(fc.integer({ min: 20, max: 900 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(lifts, fc.array(flow, { minLength: 12, maxLength: 12 }), (thousandths, flows) => {
        const lines = thousandths.map((l, i) => `S,H,intake,${(l / 1000).toFixed(3)} in,${flows[i]}`);
        const { sheets } = records(`source,head,side,lift,flow\n${lines.join('\n')}\n`);
        const order = thousandths.map((l, i) => [l, flows[i]!] as const).sort((a, b) => a[0] - b[0]);
        expect(sheets[0]!.rows.map((r) => [Math.round(r.lift.si / inches(0.001)), r.intake!.pulls[0]!.typed])).toEqual(
          order.map(([l, q]) => [l, `${q} cfm`]),
        );
      }),
      { numRuns: 50 },
    );
  });
});

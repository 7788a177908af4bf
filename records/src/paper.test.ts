/** Sheets typed from paper: the bench they were read on, the ports and bores they belong to, what they still owe. */
import { cfm, evaluateTarget, inches, sayIn } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import {
  Build,
  Measure,
  Sheet,
  Source,
  believing,
  corrected,
  evaluateHead,
  evaluateSheetOf,
  expectations,
  familiesOf,
  mostCrowded,
  mostGained,
  onBench,
  owedOfBuild,
  owedOfHead,
  owedOfSheet,
  pickSheet,
  rangeDoubts,
  rangeDoubtWords,
  readBundle,
  readSheetTable,
  readTable,
  scalesOn,
  secondLooks,
  secondLookWords,
  sheetTable,
  sizeOf,
  testedTwice,
  toCoreBuild,
  wholesOf,
  withScales,
  type WholeHead,
} from './index.js';

const say = sayIn('inch');
const plain = (text: string) => text.replaceAll('\u00a0', ' ');

/** One head with what is given; rows are `[lift in, intake cfm, exhaust cfm]`. */
function head(parts: {
  id?: string;
  ports?: object[];
  stages?: object[];
  measures?: object[];
  sheets: {
    rows: [number, number | string | null, (number | string | null)?][];
    setup?: object;
    [field: string]: unknown;
  }[];
}): WholeHead {
  const id = parts.id ?? 'h';
  const { bundle, problems } = readBundle({
    format: 'alluvium-bundle',
    version: 1,
    sources: [{ id: 'bench', name: 'Shop bench' }],
    heads: [{ id, name: `Head ${id}`, intakeValves: 1, cylinders: 4 }],
    stages: parts.stages ?? [{ id: `${id}-s`, headId: id, name: 'as received' }],
    ports: parts.ports ?? [1, 2].map((number) => ({ id: `${id}-p${number}`, headId: id, side: 'intake', number })),
    measures: parts.measures ?? [],
    sheets: parts.sheets.map(({ rows, setup, ...fields }, i) => ({
      id: `${id}-f${i}`,
      stageId: `${id}-s`,
      title: `sheet ${i + 1}`,
      sourceId: 'bench',
      setup: { depression: '28 inH2O', entry: 'clay', valve: 'own', ...setup },
      rows: rows.map(([lift, intake, exhaust]) => ({
        lift: `${lift} in`,
        intake: intake === null ? null : { pulls: [typeof intake === 'number' ? `${intake} cfm` : intake] },
        exhaust:
          exhaust === null || exhaust === undefined
            ? null
            : { pulls: [typeof exhaust === 'number' ? `${exhaust} cfm` : exhaust] },
      })),
      ...fields,
    })),
  });
  expect(problems).toEqual([]);
  return wholesOf(bundle)[0]!;
}

describe('a bench owns its full scales', () => {
  const bench = Source.parse({
    id: 'bench',
    name: 'Shop bench',
    scales: [
      { since: '2025-01-01', ranges: [{ name: '3', intake: '295.6 cfm', exhaust: '317.5 cfm' }] },
      { since: '2026-03-01', ranges: [{ name: '3', intake: '301 cfm', exhaust: '317.5 cfm' }] },
    ],
  });
  it('one per range and direction: 42.5 % of 295.6 is 125.6 intake, 40 % of 317.5 is 127.0 exhaust', () => {
    const sheet = Sheet.parse({
      id: 'f',
      stageId: 'h-s',
      title: 'paper',
      setup: onBench({ reads: 'percent', depression: '28 inH2O', scales: null, ranges: [] }, bench, '2025-06-01'),
      rows: [
        {
          lift: '.200 in',
          intake: { pulls: ['42.5 %'], range: '3' },
          exhaust: { pulls: ['40 %'], range: '3' },
        },
      ],
    });
    expect(sheet.setup.scales).toBe('2025-01-01');
    const result = evaluateSheetOf(head({ sheets: [] }), sheet);
    expect(result.intake.points[0]!.flow.value / cfm(1)).toBeCloseTo(125.6, 1);
    expect(result.exhaust.points[0]!.flow.value / cfm(1)).toBeCloseTo(127, 1);
  });
  it('moved to a new full scale: each day has its own; one of a day is replaced', () => {
    expect(scalesOn(bench, '2026-02-28')!.since).toBe('2025-01-01');
    expect(scalesOn(bench, '2026-03-01')!.since).toBe('2026-03-01');
    expect(scalesOn(bench, '2020-01-01')!.since).toBe('2025-01-01');
    expect(scalesOn({ scales: [] }, '2026-01-01')).toBeUndefined();
    const ranges = [{ name: '3', intake: { si: cfm(300), typed: '300 cfm' }, exhaust: null }];
    expect(withScales(bench, '2026-03-01', ranges).scales).toHaveLength(2);
    expect(withScales(bench, '2026-05-01', ranges).scales.map((s) => s.since)).toEqual([
      '2025-01-01',
      '2026-03-01',
      '2026-05-01',
    ]);
  });
  it('a test moved to a bench without any keeps those it was read by as its own', () => {
    const read = onBench({ scales: null, ranges: [] }, bench, '2025-06-01');
    expect(read.scales).toBe('2025-01-01');
    expect(onBench(read, { scales: [] }, '2025-06-01')).toEqual({ scales: null, ranges: read.ranges });
    expect(onBench(read, undefined, '2025-06-01').scales).toBeNull();
  });
  it('reads a percent file that names it and brings no full scales; without the bench such rows are left out', () => {
    const table = readTable([
      ['source', 'Shop bench'],
      ['date', '2025-06-01'],
      ['reads', 'percent'],
      ['lift', 'intake range', 'intake'],
      ['.200', '3', '42.5'],
    ]);
    const read = readSheetTable(table, 'paper', 'inch', { bench });
    expect([read.problems, read.sheet.setup.scales]).toEqual([[], '2025-01-01']);
    expect(read.sheet.rows[0]!.intake).toMatchObject({ range: '3', pulls: [{ typed: '42.5 %' }] });
    expect(readSheetTable(table, 'paper', 'inch').sheet.rows[0]!.intake).toBeNull();
  });
  it('two sets of one day, or a range named twice, are refused with a sentence', () => {
    const set = (since: string, names: string[]) => ({
      since,
      ranges: names.map((name) => ({ name, intake: '100 cfm' })),
    });
    const said = (scales: object[]) => Source.safeParse({ id: 'b', name: 'B', scales }).error?.issues[0]?.message;
    expect(said([set('2026-01-01', ['1']), set('2026-01-01', ['2'])])).toBe(
      'Two sets of full scales begin on 2026-01-01.',
    );
    expect(said([set('2026-01-01', ['1', '1'])])).toBe('Range 1 is named twice.');
  });
  it('a figure put right for the whole bench is put right at the bench; for one session only there', () => {
    const sheet = Sheet.parse({
      id: 'f',
      stageId: 's',
      title: 'paper',
      sourceId: 'bench',
      setup: { reads: 'percent', scales: '2025-01-01', ranges: bench.scales[0]!.ranges },
    });
    const correction = {
      what: 'full scale' as const,
      range: '3',
      side: 'intake' as const,
      from: { si: cfm(295.6), typed: '295.6 cfm' },
      to: { si: cfm(296.5), typed: '296.5 cfm' },
      sessionId: null,
    };
    const all = corrected({ bench, sheets: [sheet], sessions: [], readings: [] }, correction);
    expect(all.bench!.scales[0]!.ranges[0]!.intake!.typed).toBe('296.5 cfm');
    expect(all.bench!.scales[1]).toEqual(bench.scales[1]);
    expect(all.sheets[0]!.setup.scales).toBe('2025-01-01');
  });
});

describe('a typed sheet is asked as the bench asks', () => {
  const sheet = (rows: [number, string, string][], reads = 'percent') =>
    Sheet.parse({
      id: 'f',
      stageId: 's',
      title: 'paper',
      setup: {
        reads,
        ranges: [
          { name: '2', intake: '150 cfm' },
          { name: '3', intake: '300 cfm' },
        ],
      },
      rows: rows.map(([lift, percent, range]) => ({ lift: `${lift} in`, intake: { pulls: [percent], range } })),
    });
  it('past full scale, under half of it, a range unlike its neighbours’', () => {
    const doubts = rangeDoubts(
      sheet([
        [0.1, '30 %', '3'],
        [0.2, '60 %', '3'],
        [0.3, '80 %', '2'],
        [0.4, '85 %', '3'],
        [0.5, '103 %', '3'],
      ]),
    );
    expect(doubts.map((d) => [d.lift.typed, d.what, d.instead])).toEqual([
      ['0.1 in', 'under half', '2'],
      ['0.3 in', 'unlike its neighbours', '3'],
      ['0.5 in', 'past the end', undefined],
    ]);
    expect(doubts.map((d) => rangeDoubtWords([d]))).toEqual([
      'At 0.1 in the intake uses less than half of range 3: range 2 would have read finer.',
      'At 0.3 in the intake stands on range 2, the rows beside it on 3. Is the range right?',
      'At 0.5 in the intake reads past the end of range 3: no range of this bench reaches so far.',
    ]);
  });
  it('a differential of 30 % is more than half of its flow; a bench that reads flow is asked nothing', () => {
    expect(rangeDoubts(sheet([[0.2, '30 %', '3']], 'differential'))).toEqual([]);
    expect(rangeDoubts({ ...sheet([]), setup: { ...sheet([]).setup, reads: 'flow' } })).toEqual([]);
  });
});

describe('a port of two bores', () => {
  // Check values of the trade, no source: 287 → 297 and 276 → 295 at .400 on the two bores of one pair of ports.
  const two = head({
    sheets: [
      {
        rows: [
          [0.3, 240],
          [0.4, 287],
        ],
        setup: { bore: '4.000 in' },
        intakePortId: 'h-p1',
      },
      {
        rows: [
          [0.3, 241],
          [0.4, 297],
        ],
        setup: { bore: '4.155 in' },
        intakePortId: 'h-p1',
      },
      {
        rows: [
          [0.3, 233],
          [0.4, 276],
        ],
        setup: { bore: '4.000 in' },
        intakePortId: 'h-p2',
      },
      {
        rows: [
          [0.3, 238],
          [0.4, 295],
        ],
        setup: { bore: '4.155 in' },
        intakePortId: 'h-p2',
      },
    ],
  });
  const families = familiesOf(two, 'h-s', 'intake');
  it('is one family each, with what the bore costs at each lift', () => {
    expect(families.map((f) => [f.kind, f.port, f.members.map((m) => m.name)])).toEqual([
      ['bore', 'port 1', ['4.000 in bore', '4.155 in bore']],
      ['bore', 'port 2', ['4.000 in bore', '4.155 in bore']],
    ]);
    expect(families.map((f) => f.steps.map((s) => Math.round(s.gain!.value / cfm(1))))).toEqual([
      [1, 10],
      [5, 19],
    ]);
  });
  it('the second port is the more crowded one', () => {
    expect(mostCrowded(families)!.port).toBe('port 2');
    expect(mostGained(mostCrowded(families)!)!.share!.value).toBeCloseTo(19 / 276, 9);
  });
  it('valve sizes and notches are families too; what differs in two things is none', () => {
    const kinds = (a: object, b: object) =>
      familiesOf(
        head({
          sheets: [
            {
              rows: [
                [0.3, 240],
                [0.4, 280],
              ],
              setup: a,
              intakePortId: 'h-p1',
            },
            {
              rows: [
                [0.3, 245],
                [0.4, 290],
              ],
              setup: b,
              intakePortId: 'h-p1',
            },
          ],
        }),
        'h-s',
        'intake',
      ).map((f) => [f.kind, ...f.members.map((m) => m.name)]);
    expect(
      kinds({ valve: 'other', intakeFlowValve: '2.02 in' }, { valve: 'other', intakeFlowValve: '1.94 in' }),
    ).toEqual([['valve', '1.94 in valve', '2.02 in valve']]);
    expect(kinds({ notch: 'chamfer', notchToRing: 'yes' }, { notch: 'none' })).toEqual([
      ['notch', 'no notch', 'notch: chamfer, to the ring land'],
    ]);
    expect(kinds({ bore: '4 in', notch: 'none' }, { bore: '4.1 in', notch: 'radius' })).toEqual([]);
    expect(kinds({ bore: '4 in' }, { bore: '4 in' })).toEqual([]);
  });
  it('a sheet set aside is in none', () => {
    const aside = { ...two, sheets: two.sheets.map((s, i) => (i === 1 ? { ...s, setAside: 'leaked' } : s)) };
    expect(familiesOf(aside, 'h-s', 'intake').map((f) => f.port)).toEqual(['port 2']);
  });
});

describe('one port tested twice', () => {
  const again = head({
    sheets: [
      {
        rows: [
          [0.3, 240],
          [0.5, 280],
        ],
        intakePortId: 'h-p1',
        date: '2026-03-01',
        setup: { bore: '4 in' },
      },
      {
        rows: [
          [0.3, 244],
          [0.5, 288],
        ],
        intakePortId: 'h-p1',
        date: '2026-05-01',
        setup: { bore: '4 in' },
      },
      {
        rows: [
          [0.3, 250],
          [0.5, 290],
        ],
        intakePortId: 'h-p2',
        date: '2026-02-01',
        setup: { bore: '4 in' },
      },
    ],
  });
  const build = Build.parse({
    id: 'b',
    name: 'B',
    bore: '4 in',
    stroke: '3.5 in',
    cylinders: 4,
    power: '300 hp',
    speed: '6000 rpm',
    cam: { intakeLift: '.500 in' },
  });
  const core = toCoreBuild(build);
  const pooled = (whole: WholeHead) =>
    evaluateHead(build, core, evaluateTarget(core), whole, 'h-s', null).pooled.map((s) => s.id);
  it('is read as one until somebody believes one of the two; the reason stays', () => {
    const [twice] = testedTwice(again, 'h-s');
    expect(twice!.sheets.map((s) => s.id)).toEqual(['h-f0', 'h-f1']);
    expect(pooled(again)).toHaveLength(2);
    const [changed] = believing(twice!, again.sheets[0]!, 'the plate leaked');
    expect(changed).toMatchObject({ id: 'h-f1', setAside: 'the plate leaked' });
    const decided = { ...again, sheets: again.sheets.map((s) => (s.id === changed!.id ? changed! : s)) };
    expect(pooled(decided)).toEqual(['h-f0']);
    expect(pickSheet(decided, 'h-s')!.id).not.toBe('h-f1');
    const [now] = testedTwice(decided, 'h-s');
    expect(now!.believed.map((s) => s.id)).toEqual(['h-f0']);
    // And back to both as one.
    expect(believing(now!, null, '')).toEqual([expect.objectContaining({ id: 'h-f1', setAside: '' })]);
  });
});

describe('a reading far off asks for a second look', () => {
  it('against the port beside it, the stage before, and the call', () => {
    const stages = [
      { id: 'h-s0', headId: 'h', name: 'as received', position: 0 },
      { id: 'h-s', headId: 'h', name: 'valve job', position: 1, parentId: 'h-s0' },
    ];
    const whole = head({
      stages,
      sheets: [
        {
          rows: [
            [0.3, 200],
            [0.5, 250],
          ],
          intakePortId: 'h-p1',
          setup: { bore: '4 in' },
        },
        {
          rows: [
            [0.3, 170],
            [0.5, 248],
          ],
          intakePortId: 'h-p2',
          setup: { bore: '4 in' },
        },
        {
          rows: [
            [0.3, 195],
            [0.5, 240],
          ],
          intakePortId: 'h-p2',
          stageId: 'h-s0',
          setup: { bore: '4 in' },
        },
      ],
    });
    const looks = (at: number) =>
      secondLooks(expectations(whole, whole.sheets[at]!), evaluateSheetOf(whole, whole.sheets[at]!));
    const [look, ...more] = looks(1);
    expect(more).toEqual([]);
    expect(plain(secondLookWords(look!, say))).toBe(
      'At .300 the intake reads 170 cfm, 15 % under port 1. Look at the range, at leaks and at the plate before it is believed.',
    );
    expect(looks(0).map((l) => l.lift / inches(1))).toEqual([expect.closeTo(0.3, 9)]);
  });
});

describe('what is owed', () => {
  it('by a sheet: the facts nobody gave, a side without rows, noise; each goes when it is filled or excused', () => {
    const { sheets } = head({
      sheets: [
        {
          rows: [
            [0.3, 200],
            [0.5, '250 cfm'],
          ],
          intakePortId: 'h-p1',
          date: '2026-03-01',
        },
      ],
    });
    const keys = (s: Sheet) =>
      owedOfSheet(s)
        .filter((o) => !o.excuse)
        .map((o) => o.key);
    expect(keys(sheets[0]!)).toEqual(['exhaust rows', 'bore', 'holesClosed']);
    const more = {
      ...sheets[0]!,
      excused: { 'exhaust rows': 'intake only' },
      setup: { ...sheets[0]!.setup, holesClosed: 'yes' as const },
    };
    expect(keys(more)).toEqual(['bore']);
    expect(owedOfSheet(more).find((o) => o.key === 'bore')).toMatchObject({
      field: 'setup.bore',
      text: 'Bore fixture: not known.',
    });
    const noisy = { ...more, rows: more.rows.map((r) => ({ ...r, intake: { ...r.intake!, noisy: true } })) };
    expect(owedOfSheet(noisy).at(-1)!.text).toBe('Intake at 0.3 in and 0.5 in: marked as noise, take it again.');
  });
  it('by a head: sizes, sides, its unfinished sheets; a size of an earlier stage is taken', () => {
    const whole = head({
      sheets: [{ rows: [[0.3, 200]], intakePortId: 'h-p1' }],
      measures: [
        { id: 'm1', stageId: 'h-s', side: 'intake', item: 'valve diameter', value: '2.02 in' },
        { id: 'm2', stageId: 'h-s', side: 'intake', item: 'roof length', value: '120 mm' },
        { id: 'm3', stageId: 'h-s', side: 'intake', item: 'floor length', value: '100 mm' },
      ],
    });
    const keys = owedOfHead(whole, 'h-s').map((o) => o.key);
    expect(keys).not.toContain('size valve diameter intake');
    expect(keys).not.toContain('size port length intake');
    expect(keys).toEqual(
      expect.arrayContaining(['size throat intake', 'flow exhaust h-s', 'sheet h-f0', 'arrival', 'material']),
    );
    // Roof and floor averaged to the centreline.
    expect(sizeOf(whole.measures, 'port length', 'intake')!.value).toBeCloseTo(0.11, 12);
    expect(sizeOf(whole.measures, 'port length', 'intake')!.note).toMatch(/mean of roof and floor/);
  });
  it('by an engine: what the verdict would otherwise assume', () => {
    const build = Build.parse({
      id: 'b',
      name: 'B',
      displacement: '350 cuin',
      cylinders: 8,
      power: '300 hp',
      speed: '6000 rpm',
      excused: { budget: 'own engine' },
    });
    const owed = owedOfBuild(build, 0);
    expect(owed.map((o) => o.key)).toEqual(expect.arrayContaining(['bore', 'stroke', 'cam', 'manifold', 'lineup']));
    expect(owed.find((o) => o.key === 'budget')!.excuse).toBe('own engine');
  });
});

describe('two heads of one engine', () => {
  it('are judged together: the worst port of either decides, whichever is asked for', () => {
    const side = (id: string, flows: [number, number], pairOf: string | null) => ({
      heads: [{ id, name: id, intakeValves: 1, pairOf }],
      stages: [{ id: `${id}-s`, headId: id, name: 'as received' }],
      ports: [{ id: `${id}-p`, headId: id, side: 'intake', number: 1, nickname: 'long' }],
      sheets: [
        {
          id: `${id}-f`,
          stageId: `${id}-s`,
          title: id,
          intakePortId: `${id}-p`,
          setup: { depression: '28 inH2O', bore: '4 in' },
          rows: flows.map((q, i) => ({ lift: `${0.3 + 0.2 * i} in`, intake: { pulls: [`${q} cfm`] } })),
        },
      ],
    });
    const [left, right] = [side('left', [200, 250], null), side('right', [190, 231], 'left')];
    const { bundle, problems } = readBundle({
      format: 'alluvium-bundle',
      version: 1,
      ...Object.fromEntries(
        (['heads', 'stages', 'ports', 'sheets'] as const).map((k) => [k, [...left[k], ...right[k]]]),
      ),
    });
    expect(problems).toEqual([]);
    const build = Build.parse({
      id: 'b',
      name: 'B',
      bore: '4 in',
      stroke: '3.5 in',
      cylinders: 8,
      power: '400 hp',
      speed: '6000 rpm',
      cam: { intakeLift: '.500 in' },
    });
    const core = toCoreBuild(build);
    const wholes = wholesOf(bundle);
    const match = (id: string) => {
      const whole = wholes.find((w) => w.head.id === id)!;
      return evaluateHead(build, core, evaluateTarget(core), whole, `${id}-s`, null).match;
    };
    expect(match('left').runners.map((r) => r.name)).toEqual(['long', 'right: long']);
    expect(match('left').deciding!.name).toBe('right: long');
    expect(match('right').deciding!.name).toBe('long');
    expect(match('left').intake!.best.flow).toBeCloseTo(cfm(231), 9);
  });
});

describe('a set-up in a file', () => {
  it('carries all of it, and comes back the same', () => {
    const { sheets } = head({
      sheets: [
        {
          rows: [[0.3, 200]],
          setAside: 'plate leaked',
          setup: {
            entrySize: '0.5 in',
            entryShape: 'quarter round',
            guides: 'yes',
            chamber: 'milled',
            backCut: 'no',
            notch: 'chamfer',
            notchToRing: 'no',
            plug: 'fourteen millimetre',
            plugReach: '3 mm',
            barometer: '1013 mbar',
            zero: 'held all day',
          },
        },
      ],
    });
    const back = readSheetTable(readTable(sheetTable(sheets[0]!)), '', 'inch');
    expect(back.problems).toEqual([]);
    expect(back.sheet.setup).toEqual(sheets[0]!.setup);
    expect(back.sheet.setAside).toBe('plate leaked');
  });
});

describe('a size at a lift or a point', () => {
  it('says where it was taken, or is refused at that field', () => {
    const said = (m: object) =>
      Measure.safeParse({ id: 'm', stageId: 's', ...m }).error?.issues.map((i) => [i.path.join('.'), i.message]);
    expect(said({ item: 'edge to wall', side: 'intake', value: '3 mm' })).toEqual([
      ['lift', 'Say at which lift the edge to wall was taken.'],
    ]);
    expect(said({ item: 'wall thickness', value: '5 mm' })).toEqual([['place', 'Name the point of the wall.']]);
    expect(
      said({
        item: 'wall thickness',
        value: '5 mm',
        place: 'behind the pushrod',
        least: '3 mm',
        spot: { x: 0.2, y: 0.4 },
      }),
    ).toBeUndefined();
  });
});

import { readFileSync } from 'node:fs';
import { evaluateSurvey, millimetres, signedArea } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { Measure, Operation, Section, Survey } from '../nouns/index.js';
import { sectionProblem, toCoreSections } from '../sections.js';
import { changedSince, surveyAt } from '../select.js';
import { wholesOf } from '../wholes.js';
import { readBundle } from './bundle.js';
import {
  centred,
  outlinesOfDxf,
  readOutlineCsv,
  writeOutlineCsv,
  writeOutlineDxf,
  writeOutlineSvg,
} from './outlines.js';
import { emptySection, nextStation, readSections, writeSection, type SectionCells } from './sectionCells.js';

const { bundle } = readBundle(JSON.parse(readFileSync(new URL('../../../demo/bundle.json', import.meta.url), 'utf8')));
const row = (cells: Partial<SectionCells>): SectionCells => ({ ...emptySection(), ...cells });

describe('sections as cells', () => {
  it('every section of the demo is written and read again as it was', () => {
    for (const survey of bundle.surveys) {
      const { sections, problems } = readSections(survey.sections.map(writeSection), 'inch');
      expect(problems).toEqual([]);
      expect(sections).toEqual(survey.sections);
    }
  });
  it('a length without a unit is in the user’s, and keeps it', () => {
    const read = (system: 'inch' | 'metric') =>
      readSections([row({ station: '0', shape: 'round', width: '2.5' })], system).sections[0]!;
    expect(read('inch').width!.typed).toBe('2.5 in');
    expect(read('inch').width!.si).toBeCloseTo(0.0635, 12);
    expect(read('metric').width!.typed).toBe('2.5 mm');
  });
  it('a wall typed bare beside millimetres is asked about, never taken for inches', () => {
    const cells = row({ station: '5 mm', width: '30 mm', height: '40 mm', roof: '7' });
    const { sections, problems } = readSections([cells], 'inch');
    expect(sections).toEqual([]);
    expect(problems).toMatchObject([{ column: 'roof', message: expect.stringContaining('7 mm or 7 in') as string }]);
    expect(readSections([{ ...cells, roof: '7 mm' }], 'inch').problems).toEqual([]);
    expect(readSections([{ ...cells, station: '5' }], 'metric').problems).toEqual([]);
  });
  it('a wall is its thickness and what lies behind; alone it is water', () => {
    const { sections } = readSections(
      [
        row({
          station: '5',
          width: '30',
          height: '40',
          roof: '3.9',
          floor: '4.1 sp',
          rear: '2.9mm pushrod',
          front: '6 outside',
        }),
      ],
      'metric',
    );
    const { roof, floor, rear, front } = sections[0]!.walls;
    expect([roof, floor, rear, front].map((w) => [w!.thickness.typed, w!.behind])).toEqual([
      ['3.9 mm', 'water'],
      ['4.1 mm', 'spring seat'],
      ['2.9 mm', 'pushrod'],
      ['6 mm', 'outside'],
    ]);
  });
  it.each([
    [{ station: 'far', width: '30', height: '40' }, 'station', '“far” is not a length.'],
    [{ width: '30', height: '40' }, 'station', 'Say how far along the port this is.'],
    [{ station: '5', width: '30' }, 'height', 'A rectangle section needs its height.'],
    [{ station: '5', shape: 'blob', width: '30' }, 'shape', '“blob” is none of round, rectangle'],
    [{ station: '5', width: '30', height: '40', roof: '4 lava' }, 'roof', '“lava” is none of water, guide'],
    [{ station: '5', width: '30', height: '40', roof: 'thick' }, 'roof', '“thick” is no wall.'],
    [{ station: '5', width: '30', height: '40', roof: '900' }, 'roof', 'A wall must lie between 0 and 200 mm.'],
    [{ station: '5', width: '30', height: '40', radius: '16' }, 'radius', 'more than half the shorter side'],
    [{ station: '5', shape: 'D', width: '40', height: '10' }, 'height', 'half as high'],
    [{ station: '5', width: '30', height: '40', branch: '3' }, 'branch', 'A branch is 1 or 2'],
    [{ station: '5', width: '30', height: '40', place: 'knee' }, 'place', '“knee” is none of opening'],
    [{ station: '5', width: '30', height: '40', angle: '95' }, 'angle', 'The cut must lie within 80°.'],
  ] as const)('says what is wrong with %j, in its cell', (cells, column, message) => {
    const { sections, problems } = readSections([row(cells)], 'metric');
    expect(sections).toEqual([]);
    expect(problems[0]).toMatchObject({ row: 0, column });
    expect(problems[0]!.message).toContain(message);
  });
  it('passes over empty rows and finds a station that stands twice', () => {
    const one = { station: '5 mm', width: '30', height: '40' };
    const { problems } = readSections([row(one), row({}), row({ ...one, width: '31' })], 'metric');
    expect(problems).toEqual([
      { row: 2, column: 'station', code: 'stationTwice', message: 'Station 5 mm stands in row 1 too.' },
    ]);
    expect(readSections([row({ ...one, branch: '1' }), row({ ...one, branch: '2' })], 'metric').problems).toEqual([]);
  });
  it('offers the next station by the last step, in the unit typed', () => {
    const rows = (...stations: string[]) => stations.map((station) => row({ station }));
    expect(nextStation(rows('0 mm', '5 mm', ''), 'inch')).toBe('10 mm');
    expect(nextStation(rows('0', '.25'), 'inch')).toBe('0.5');
    expect(nextStation(rows('10', '20', '20'), 'metric')).toBe('30');
    expect(nextStation(rows('5 mm'), 'inch')).toBeUndefined();
  });
});

describe('a survey', () => {
  const survey = (sections: unknown[]) => Survey.safeParse({ id: 's', stageId: 'x', title: 'Port 3', sections });
  it('refuses an outline that crosses itself, with the place', () => {
    const mm = (points: number[][]) => points.map(([x, y]) => [x! / 1000, y! / 1000]);
    const bow = {
      station: '5 mm',
      shape: 'outline',
      outline: mm([
        [0, 0],
        [20, 20],
        [20, 0],
        [0, 20],
      ]),
    };
    expect(survey([bow]).error!.issues[0]).toMatchObject({
      path: ['sections', 0, 'outline'],
      message: 'The outline crosses itself at 10.0, 10.0 mm, between points 1 and 3.',
    });
    expect(survey([{ ...bow, outline: bow.outline.slice(0, 2) }]).error!.issues[0]!.message).toBe(
      'An outline needs at least three points.',
    );
    expect(
      sectionProblem(
        Section.parse({
          ...bow,
          outline: mm([
            [0, 0],
            [20, 0],
            [0, 20],
          ]),
        }),
      ),
    ).toBeUndefined();
  });
  it('refuses a station twice, and more sections than any port has', () => {
    const one = { station: '5 mm', width: '30 mm', height: '40 mm' };
    expect(survey([one, { ...one, width: '31 mm' }]).error!.issues[0]!.message).toBe(
      'Station 5 mm stands in row 1 too.',
    );
    const many = Array.from({ length: 401 }, (_, i) => ({ ...one, station: `${i} mm` }));
    expect(survey(many).error!.issues[0]!.message).toBe('A survey has at most 400 sections.');
  });
  it('of the demo closes against what was poured within 2 %, and its choke is the pinch measured', () => {
    for (const s of bundle.surveys.filter((x) => x.id !== 'v5-divided')) {
      const result = evaluateSurvey(toCoreSections(s));
      const at = (item: string) =>
        bundle.measures
          .filter((m) => m.stageId === s.stageId && m.item === item && m.side === 'intake')
          .map((m) => m.value.si);
      const volumes = at('port volume');
      const mean = volumes.reduce((a, b) => a + b, 0) / volumes.length;
      expect(Math.abs(result.volume!.value / mean - 1)).toBeLessThan(0.02);
      expect(result.choke!.area.value / at('pinch')[0]!).toBeCloseTo(1, 2);
    }
  });
  it('is handed down the stages, its own port first', () => {
    const whole = wholesOf(bundle).find((w) => w.head.id === 'corrow-417')!;
    expect(surveyAt(whole, '417-bowl', 'intake')!.id).toBe('417-sawn');
    expect(surveyAt(whole, '417-pinch', 'intake')!.id).toBe('417-pinch-mould');
    expect(surveyAt(whole, '417-pinch', 'exhaust')).toBeUndefined();
    const other = { ...whole.surveys[0]!, id: 'p1', portId: 'corrow-417-i1', date: '2025-01-01' };
    const two = { ...whole, surveys: [...whole.surveys, other] };
    expect(surveyAt(two, '417-received', 'intake', 'corrow-417-i1')!.id).toBe('p1');
  });
});

describe('a sheet older than a change', () => {
  const whole = wholesOf(bundle).find((w) => w.head.id === 'corrow-417')!;
  const sheet = whole.sheets.find((s) => s.id === '417-received-p3')!;
  const valve = (date: string, value: string) =>
    Measure.parse({ id: date, stageId: sheet.stageId, item: 'valve diameter', side: 'intake', value, date });
  it('is told by what was measured anew since', () => {
    const at = (...measures: ReturnType<typeof valve>[]) => changedSince({ measures, operations: [] }, sheet);
    expect(at(valve('2026-02-01', '1.850 in'), valve('2026-05-01', '1.900 in'))).toEqual([
      'valve diameter, intake, 2026-05-01',
    ]);
    expect(at(valve('2026-02-01', '1.850 in'), valve('2026-05-01', '1.851 in'))).toEqual([]);
    expect(at(valve('2026-01-01', '1.850 in'), valve('2026-02-01', '1.900 in'))).toEqual([]);
  });
  it('is told by work done since on its own side and port', () => {
    const work = (date: string | null, side: 'intake' | 'exhaust' | null, portId: string | null = null) =>
      Operation.parse({ id: 'o', stageId: sheet.stageId, kind: side ? 'valve job' : 'milled', side, portId, date });
    const since = (o: ReturnType<typeof work>, side: 'intake' | 'exhaust') =>
      changedSince({ measures: [], operations: [o] }, sheet, side);
    expect(since(work('2026-05-01', 'intake'), 'intake')).toEqual(['valve job, 2026-05-01']);
    expect(since(work('2026-05-01', null), 'exhaust')).toEqual(['milled, 2026-05-01']);
    for (const none of [
      since(work('2026-05-01', 'exhaust'), 'intake'),
      since(work('2020-01-01', 'intake'), 'intake'),
      since(work(null, 'intake'), 'intake'),
      since(work('2026-05-01', 'intake', 'another-port'), 'intake'),
    ])
      expect(none).toEqual([]);
  });
});

describe('outlines in files', () => {
  const shapes = [
    { station: millimetres(5), shape: { kind: 'round', width: millimetres(40) } as const },
    {
      station: millimetres(10),
      shape: { kind: 'rectangle', width: millimetres(30), height: millimetres(44), radius: millimetres(8) } as const,
    },
  ];
  it('CSV goes out and comes back, each at its station', () => {
    const { outlines, problems } = readOutlineCsv(writeOutlineCsv(shapes));
    expect(problems).toEqual([]);
    expect(outlines.map((o) => o.station)).toEqual([0.005, 0.01]);
    expect((signedArea(outlines[0]!.points) * 1e6) / (Math.PI * 400)).toBeCloseTo(1, 2);
  });
  it.each(['constructor', '__proto__', 'toString', 'furlong'])('a unit that is none is refused: %s', (unit) => {
    expect(readOutlineCsv(`x (${unit}),y\n0,0\n1,0\n0,1\n`).problems[0]).toContain('is none of mm, cm, in, m');
  });
  it('CSV says its unit, and may part outlines by empty lines', () => {
    const { outlines } = readOutlineCsv('x (in);y (in)\n0;0\n1;0\n0;1\n\n0;0\n2,0;0\n0;2\n');
    expect(outlines).toHaveLength(2);
    expect(Math.abs(signedArea(outlines[1]!.points)) / 0.0254 ** 2).toBeCloseTo(2, 9);
  });
  it.each([
    ['', 'The first line must name the columns x and y.'],
    ['a,b\n1,2', 'The first line must name the columns x and y.'],
    ['x (furlong),y\n1,2', 'The unit of “x (furlong)” is none of mm, cm, in, m.'],
    ['x,y\n1,2\nhere,there\n3,4', 'Line 3: “here, there” is no point.'],
    ['x,y\n1,2\n3,4', 'outline 1 has fewer than three points.'],
  ])('CSV %j is told', (text, message) => {
    expect(readOutlineCsv(text).problems.join(' ')).toContain(message);
  });
  it('DXF polylines with bulges and circles become outlines, by the drawing’s unit', () => {
    const bulge = Math.tan(Math.PI / 8);
    const square = [
      { x: 0, y: 0, bulge },
      { x: 10, y: 0, bulge },
      { x: 10, y: 10, bulge },
      { x: 0, y: 10, bulge },
    ];
    const { outlines, problems } = outlinesOfDxf(
      [
        { type: 'LWPOLYLINE', layer: 'station 30', vertices: square, shape: true },
        { type: 'CIRCLE', layer: '0', center: { x: 5, y: 5 }, radius: 20 },
        { type: 'LWPOLYLINE', vertices: square.slice(0, 3) },
        { type: 'TEXT' },
      ],
      4,
    );
    expect(problems).toEqual(['The polyline lwpolyline 3 is not closed.']);
    expect(outlines[0]!.station).toBeCloseTo(0.03, 12);
    // Four quarter circles on a square of side 10 are the circle round it: radius 5√2.
    expect(Math.abs(signedArea(outlines[0]!.points)) * 1e6).toBeCloseTo(Math.PI * 50, 0);
    expect(Math.abs(signedArea(outlines[1]!.points)) * 1e6).toBeCloseTo(Math.PI * 400, -1);
    expect(
      outlinesOfDxf([{ type: 'CIRCLE', center: { x: 0, y: 0 }, radius: 1 }], 1).outlines[0]!.points[0]![0],
    ).toBeCloseTo(0.0254, 9);
  });
  it('DXF without an outline says so', () => {
    expect(outlinesOfDxf([{ type: 'LINE' }], undefined).problems).toEqual(['There is no closed outline in this file.']);
  });
  it('DXF and SVG are written in millimetres with a name a station', () => {
    const dxf = writeOutlineDxf(shapes);
    expect(dxf).toContain('$INSUNITS\n70\n4\n');
    expect(dxf.match(/^station 10$/gm)!.length).toBeGreaterThan(90);
    const svg = writeOutlineSvg(shapes);
    expect(svg).toContain('width="75.000mm" height="44.000mm" viewBox="0 0 75.000 44.000"');
    expect(svg).toContain('id="station-10"');
  });
  it('an outline lies about the middle of its box', () => {
    expect(
      centred([
        [1, 1],
        [3, 1],
        [3, 5],
      ]),
    ).toEqual([
      [-1, -2],
      [1, -2],
      [1, 2],
    ]);
  });
});

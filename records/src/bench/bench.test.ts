import { cfm, inches, sayIn } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import {
  BenchAsks,
  BenchSetup,
  Calibration,
  Call,
  Command,
  Hello,
  InstrumentSays,
  MAX_LINE,
  Plan,
  RawReading,
  Session,
  Sheet,
  VelocityMap,
  blankSetup,
  calibrationDoubts,
  checksOf,
  daysBetween,
  factorOf,
  gapsOf,
  isComplete,
  liftText,
  liftsOf,
  oddPulls,
  owedOf,
  plannedPoints,
  pointsLeft,
  questionsOf,
  readLine,
  scoredCalls,
  setupDoubts,
  sheetSetup,
  swirlOf,
  takenOver,
  timeLeft,
  unanswered,
  unknowns,
  withReadings,
} from '../index.js';

const say = sayIn('inch');
const answered = BenchSetup.parse({
  depression: '28 inH2O',
  bore: '98 mm',
  entry: 'radius',
  exhaustPipe: 'bare',
  holesClosed: 'yes',
  springs: 'light',
  valve: 'own',
  portKind: 'long runner',
  gasket: 'on',
  leakTest: 'unknown',
  calibration: 'none',
});
const both = ['intake', 'exhaust'] as const;
let serial = 0;
const reading = (more: object = {}) =>
  RawReading.parse({
    id: `r${++serial}`,
    sessionId: 's',
    setup: 0,
    number: 3,
    side: 'intake',
    lift: '.100 in',
    flow: '60 cfm',
    at: new Date(Date.UTC(2026, 4, 8, 10, 0, serial)).toISOString(),
    ...more,
  });

describe('the gate', () => {
  it('asks every question that applies, and no other', () => {
    const fields = (s: BenchSetup, sides: readonly ('intake' | 'exhaust')[]) =>
      questionsOf(s, sides).map((q) => q.field);
    expect(fields(blankSetup(), both)).not.toContain('pipeLength');
    expect(fields({ ...answered, exhaustPipe: 'piped' }, both)).toEqual(
      expect.arrayContaining(['pipeDiameter', 'pipeLength']),
    );
    expect(fields({ ...answered, exhaustPipe: 'piped' }, ['intake'])).not.toContain('exhaustPipe');
    expect(fields({ ...answered, valve: 'other' }, ['intake'])).toContain('intakeFlowValve');
    expect(fields({ ...answered, valve: 'other' }, ['intake'])).not.toContain('exhaustFlowValve');
  });
  it('is shut until each is answered; unknown is an answer and stays one', () => {
    expect(unanswered(blankSetup(), both)).toHaveLength(11);
    expect(unanswered(answered, both)).toEqual([]);
    const vague = { ...answered, bore: 'unknown' as const, gasket: 'unknown' as const };
    expect(unanswered(vague, both)).toEqual([]);
    expect(unknowns(vague, both)).toEqual(['bore fixture', 'head gasket on the fixture', 'leak test, valves shut']);
    expect(sheetSetup(vague, undefined)).toMatchObject({ bore: null, gasket: 'unknown' });
  });
  it('a leak test that is done needs its figures, a percent bench its full scales', () => {
    expect(unanswered({ ...answered, leakTest: 'done' }, both).map((u) => u.sentence)).toEqual([
      'The leak test is done, but no intake figure is noted.',
      'The leak test is done, but no exhaust figure is noted.',
    ]);
    expect(unanswered({ ...answered, reads: 'percent' }, ['exhaust'])[0]!.sentence).toContain('exhaust direction');
  });
  it('points at what is unlike the engine, the head and the test before', () => {
    const doubts = setupDoubts(
      BenchSetup.parse({
        ...answered,
        bore: '4.125 in',
        valve: 'other',
        intakeFlowValve: '46.0 mm',
        exhaustPipe: 'piped',
        holesClosed: 'no',
        springs: 'running',
      }),
      {
        engineBore: 0.098,
        valves: { intake: 0.047 },
        before: sheetSetup(BenchSetup.parse({ ...answered, entry: 'clay' }), undefined),
      },
    ).join(' ');
    for (const word of ['4.125 in', '47.00 mm', 'exhaust bare', 'clay', '98 mm bore', 'plug', 'opener'])
      expect(doubts).toContain(word);
    expect(setupDoubts(answered, { engineBore: 0.098, before: sheetSetup(answered, undefined) })).toEqual([]);
  });
  it('taken over, the pipe comes along and the leak test is asked again', () => {
    const piped = BenchSetup.parse({
      ...answered,
      exhaustPipe: 'piped',
      pipeDiameter: '1 3/4',
      pipeLength: '12 in',
      leakTest: 'done',
      leaks: [{ side: 'intake', depression: '28 inH2O', flow: '1 cfm' }],
    });
    const next = takenOver(piped);
    expect(next).toMatchObject({ exhaustPipe: 'piped', pipeLength: { typed: '12 in' }, leakTest: null, leaks: [] });
    expect(unanswered(next, both).map((u) => u.field)).toEqual(['leakTest']);
  });
  it('the sheet carries leak, factor and pipe', () => {
    const setup = sheetSetup(
      BenchSetup.parse({
        ...answered,
        exhaustPipe: 'piped',
        pipeDiameter: '45 mm',
        pipeLength: 'unknown',
        leakTest: 'done',
        leaks: [{ side: 'exhaust', depression: '7 inH2O', flow: '1 cfm' }],
      }),
      0.985,
    );
    expect(setup).toMatchObject({
      factor: { typed: '0.9850' },
      pipeDiameter: { typed: '45 mm' },
      pipeLength: null,
      intakeLeak: null,
    });
    // A leak goes with the root of the depression: 1 cfm at 7 in is 2 at 28.
    expect(setup.exhaustLeak!.si / cfm(1)).toBeCloseTo(2, 2);
  });
});

const plan = Plan.parse({
  ports: [{ number: 1 }, { number: 4, hard: true }],
  step: '.100 in',
  to: '.300 in',
  pulls: 2,
});

describe('the plan', () => {
  it('calls the hard port first, intake before exhaust, each pull a run of its own', () => {
    const points = plannedPoints(plan);
    expect(points).toHaveLength(2 * 2 * 2 * 3);
    expect(points[0]).toMatchObject({ number: 4, side: 'intake', pull: 0 });
    expect(points[3]).toMatchObject({ number: 4, side: 'intake', pull: 1 });
    expect(points[6]).toMatchObject({ number: 4, side: 'exhaust', pull: 0 });
    expect(points[12]).toMatchObject({ number: 1, side: 'intake' });
  });
  it('what is recorded or skipped is no longer left; what was put aside is', () => {
    const first = { number: 4, lift: '.100 in' };
    expect(pointsLeft(plan, [reading(first)])).toHaveLength(23);
    expect(pointsLeft(plan, [reading({ ...first, flow: null, skipped: 'guide' })])).toHaveLength(23);
    expect(pointsLeft(plan, [reading({ ...first, state: 'taken back' })])).toHaveLength(24);
  });
  it('lifts in millimetres, and as the trade writes them', () => {
    expect(liftsOf(Plan.parse({ step: '2 mm', to: '9 mm' })).map((l) => liftText(l, true))).toEqual([
      '2 mm',
      '4 mm',
      '6 mm',
      '8 mm',
      '9 mm',
    ]);
    expect(liftText(inches(0.4), false)).toBe('.400 in');
    expect(liftText(inches(1.05), false)).toBe('1.050 in');
  });
  it('the time left follows the pace of this run once five steps are in', () => {
    const session = { plan };
    const usual = timeLeft(session, []).value;
    const lifts = ['.100 in', '.200 in', '.300 in'];
    const readings = [0, 1].flatMap((pull) =>
      lifts.map((lift, i) =>
        reading({ number: 4, lift, pull, at: new Date(Date.UTC(2026, 0, 1, 0, 0, (pull * 3 + i) * 10)).toISOString() }),
      ),
    );
    const now = timeLeft(session, readings);
    expect(now.given.point).toBe(10);
    expect(now.value).toBeLessThan(usual);
  });
});

describe('the sheet from its readings', () => {
  const blank = Sheet.parse({ id: 'f', stageId: 'x', title: 'T', setup: sheetSetup(answered, undefined), rows: [] });
  it('grows by the touched point alone', () => {
    const one = reading({ swirl: '-90 rpm' });
    const first = withReadings(blank, [one], one);
    expect(first.rows).toHaveLength(1);
    expect(first.swirl[0]!.speed[0]!.typed).toBe('-90 rpm');
    const corrected = { ...first, rows: [{ ...first.rows[0]!, note: 'by hand' }] };
    const two = reading({ lift: '.200 in', flow: '110 cfm' });
    expect(withReadings(corrected, [one, two], two).rows.map((r) => r.note)).toEqual(['by hand', '']);
  });
  it('a point whose readings were all put aside leaves the sheet', () => {
    const gone = reading({ state: 'taken back', swirl: '5 rpm' });
    expect(withReadings(withReadings(blank, [{ ...gone, state: 'kept' }], gone), [gone], gone)).toMatchObject({
      rows: [],
      swirl: [],
    });
  });
  it('flows read at two depressions are brought to one', () => {
    const a = reading({ flow: '100 cfm', depression: '7 inH2O' });
    const b = reading({ flow: '200 cfm', depression: '28 inH2O', pull: 1 });
    const { intake } = withReadings(blank, [a, b], a).rows[0]!;
    expect(intake!.pulls.map((p) => p.typed)).toEqual(['200.00 cfm', '200 cfm']);
    expect(Sheet.parse({ ...blank, rows: withReadings(blank, [a, b], a).rows })).toBeTruthy();
  });
  it('a differential reading goes with the square', () => {
    const setup = {
      ...blank.setup,
      reads: 'differential' as const,
      ranges: [
        { name: 'a', intake: { si: 0.05, typed: '106 cfm' }, exhaust: null },
        { name: 'b', intake: { si: 0.1, typed: '212 cfm' }, exhaust: null },
      ],
    };
    const a = reading({ flow: null, percent: '80 %', range: 'a' });
    const b = reading({ flow: null, percent: '20 %', range: 'b', pull: 1 });
    expect(withReadings({ ...blank, setup }, [a, b], a).rows[0]!.intake!.pulls.map((p) => p.si)).toEqual([0.2, 0.2]);
  });
  it('swirl over lift turns round where its sign does', () => {
    const sheet = Sheet.parse({
      ...blank,
      swirl: [
        { lift: '.100 in', speed: ['-100 rpm'] },
        { lift: '.200 in', speed: ['90 rpm', '110 rpm'] },
      ],
    });
    expect(swirlOf(sheet).reversals.map((l) => l / inches(1))).toEqual([expect.closeTo(0.15, 9)]);
  });
});

describe('what is owed', () => {
  const session = Session.parse({
    id: 's',
    headId: 'h',
    stageId: 'x',
    title: 'T',
    plan: {
      sides: ['intake'],
      ports: [{ number: 3 }],
      list: ['.100 in', '.200 in'],
      swirl: true,
      wetFlow: true,
      maps: [{ place: 'pinch', lift: '.200 in' }],
    },
    setups: [{ ...answered, bore: 'unknown' }],
  });
  const nothing = { velocityMaps: [], wetFlows: [], sheets: [] };
  it('points, doubtful readings, unknown facts, swirl, maps, wet flow', () => {
    const readings = [reading({ noisy: true })];
    const keys = owedOf({ session, readings, ...nothing }).map((o) => o.key.replace(/ r\d+$/, ''));
    expect(keys).toEqual([
      'points intake 3',
      'noisy',
      'unknown 0 bore fixture',
      'unknown 0 leak test, valves shut',
      'swirl 3',
      'map 0',
      'wet flow',
    ]);
  });
  it('a valve-out pull of each port and side, until its sheet has one', () => {
    const planned = { ...session, plan: { ...session.plan, valveOut: true } };
    const readings = [reading({ sheetId: 'f' })];
    const keys = (sheets: object[]) =>
      owedOf({ session: planned, readings, ...nothing, sheets: sheets as never }).map((o) => o.key);
    expect(keys([])).toContain('valve out intake 3');
    const sheet = { id: 'f', valveOut: { intake: null, exhaust: null } };
    expect(keys([sheet])).toContain('valve out intake 3');
    expect(keys([{ ...sheet, valveOut: { intake: { pulls: [] }, exhaust: null } }])).not.toContain(
      'valve out intake 3',
    );
  });
  it('a set-up nothing was read under owes nothing', () => {
    expect(owedOf({ session, readings: [], ...nothing }).some((o) => o.key.startsWith('unknown'))).toBe(false);
  });
  it('is complete when each is done or excused', () => {
    const readings = [reading({ swirl: '9 rpm' }), reading({ lift: '.200 in', swirl: '9 rpm' })];
    const map = VelocityMap.parse({
      id: 'm',
      stageId: 'x',
      place: 'pinch',
      lift: '.200 in',
      depression: '28 inH2O',
      cells: [{ row: 0, column: 0, low: '9 inH2O' }],
    });
    const open = owedOf({ session, readings, velocityMaps: [map], wetFlows: [], sheets: [] });
    expect(open.map((o) => o.key)).toEqual(['unknown 0 bore fixture', 'unknown 0 leak test, valves shut', 'wet flow']);
    expect(isComplete(open)).toBe(false);
    const excused = Object.fromEntries(open.map((o) => [o.key, 'no fluid here']));
    expect(
      isComplete(owedOf({ session: { ...session, excused }, readings, velocityMaps: [map], wetFlows: [], sheets: [] })),
    ).toBe(true);
  });
  it('a run that stopped early must say why', () => {
    const early = { ...session, finished: true };
    expect(owedOf({ session: early, readings: [reading()], ...nothing }).map((o) => o.key)).toContain('stopped');
    expect(
      owedOf({ session: { ...early, stopped: 'rain' }, readings: [reading()], ...nothing }).map((o) => o.key),
    ).not.toContain('stopped');
  });
  it('the odd pull of three, and the pause between two readings', () => {
    const pulls = ['100 cfm', '101 cfm', '120 cfm'].map((flow, pull) => reading({ flow, pull }));
    expect(oddPulls(pulls).map((r) => r.pull)).toEqual([2]);
    const late = reading({ at: '2026-05-08T12:00:00.000Z' });
    expect(gapsOf([pulls[0]!, late])[0]!.seconds).toBeGreaterThan(3600);
  });
});

describe('checks and calls', () => {
  const check = (more: object) =>
    Calibration.parse({
      id: 'c',
      sourceId: 'b',
      date: '2026-05-01',
      measured: '100 cfm',
      expected: '100 cfm',
      against: 'control head',
      ...more,
    });
  it('a plate is held against the standard; outside it there is no factor', () => {
    const plate = check({
      against: 'plate',
      expected: null,
      diameter: '45 mm',
      bore: '98 mm',
      depression: '28 inH2O',
      measured: '218.7 cfm',
    });
    expect(factorOf(plate)!.value).toBeCloseTo(1, 3);
    expect(factorOf({ ...plate, diameter: { si: 0.09, typed: '90 mm' } })).toBeUndefined();
  });
  it('is doubted when old, off, moved or passed by a newer one', () => {
    const checks = checksOf(
      [
        check({ id: 'b', date: '2026-05-01', measured: '102 cfm' }),
        check({ id: 'a', date: '2026-01-01' }),
        check({ id: 'z', sourceId: 'other' }),
      ],
      'b',
    );
    expect(checks.map((c) => c.id)).toEqual(['a', 'b']);
    expect(calibrationDoubts(checks, 'b', '2026-05-02', say).join(' ')).toMatch(/reads 2.0.% too high.*It moved 2.0.%/);
    expect(calibrationDoubts(checks, 'a', '2026-01-02', say)).toEqual(['There is a newer check of this bench.']);
    expect(calibrationDoubts(checks, 'a', '2026-12-02', say).join(' ')).toContain('335 days old');
    expect(calibrationDoubts(checks, 'gone', '2026-12-02', say).join(' ')).toContain('gone');
    expect(calibrationDoubts(checks, 'unknown', '2026-12-02', say).join(' ')).toContain('Nobody knows');
    expect(calibrationDoubts(checks, null, '2026-12-02', say)).toEqual([]);
    expect(daysBetween('2026-02-27', '2026-03-01')).toBe(2);
  });
  it('a call is scored against the best port of its session', () => {
    const call = Call.parse({ id: 'c', sessionId: 's', intakePeak: '210 cfm', exhaustPeak: '150 cfm' });
    const sheet = (peak: number) =>
      Sheet.parse({
        id: `f${peak}`,
        stageId: 'x',
        title: 'T',
        setup: { depression: '28 inH2O' },
        rows: [
          { lift: '.1 in', intake: { pulls: ['60 cfm'] } },
          { lift: '.2 in', intake: { pulls: [`${peak} cfm`] } },
        ],
      });
    const scores = scoredCalls(call, [sheet(190), sheet(200)]);
    expect(scores.map((s) => [s.side, s.error.value])).toEqual([['intake', expect.closeTo(0.05, 9)]]);
  });
});

describe('the protocol', () => {
  const hello = {
    say: 'hello',
    protocol: 1,
    id: 'b',
    name: 'B',
    kind: 'flow bench',
    quantities: [{ name: 'percent', kind: 'percent' }],
  };
  it('reads what is said', () => {
    expect(readLine(InstrumentSays, JSON.stringify(hello))).toMatchObject({
      message: { simulated: false, ranges: [], takes: [] },
    });
    expect(readLine(Command, '{"do":"lift","to":0.01}')).toHaveProperty('message');
    expect(readLine(BenchAsks, '{"ask":"watch","on":true}')).toHaveProperty('message');
    expect(Hello.parse(hello).kind).toBe('flow bench');
  });
  it.each([
    ['{', 'A line that is no JSON.'],
    ['"x"', /./],
    ['x'.repeat(MAX_LINE + 1), 'A line longer than 16 KB.'],
    [JSON.stringify({ ...hello, protocol: 2 }), /another version/],
    [JSON.stringify({ ...hello, id: 'a b' }), /./],
    [JSON.stringify({ ...hello, quantities: [] }), /./],
    ['{"say":"sample","at":1,"values":{"percent":null}}', /./],
    ['{"say":"sample","at":1,"values":{"bad name":1}}', /./],
  ])('calls nonsense nonsense: %s', (line, problem) => {
    const read = readLine(InstrumentSays, line);
    expect('problem' in read && read.problem).toMatch(problem);
  });
});

import { readFileSync } from 'node:fs';
import { arrivalObjections, arrivalWords, evaluateTarget, inches, parseQuantity, unitNamed } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { evaluateHead } from '../evaluateHead.js';
import { readBundle } from '../files/bundle.js';
import type { Seat } from '../nouns/index.js';
import { MEASURE_ITEMS, MEASURE_ITEM_NAMES, Measure, NOUNS, Tolerance, type Finding } from '../nouns/index.js';
import { toCoreBuild } from '../toCore.js';
import { wholesOf } from '../wholes.js';
import { arrivalAt, inspectionMark, latestSeats, placeOf, seatName, standingFindings } from './arrival.js';
import { CHECKLIST_KINDS, checklistFor, likelyKind } from './checklist.js';
import { springAt, statedAgainstFound, toleranceOf } from './stated.js';

const { bundle } = readBundle(JSON.parse(readFileSync(new URL('../../../demo/bundle.json', import.meta.url), 'utf8')));
const whole = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;
const build = bundle.builds.find((b) => b.id === 'slate-six')!;

describe('the program’s checklist', () => {
  const two = { intakeValves: 1, exhaustValves: 1 };
  const four = { intakeValves: 2, exhaustValves: 2 };
  it.each(CHECKLIST_KINDS)('for a %s names each line once, and all of it can be stored', (kind) => {
    for (const head of [two, four]) {
      const lines = checklistFor(kind, head);
      expect(new Set(lines.map((l) => `${l.group}|${l.title}`)).size).toBe(lines.length);
      expect(lines.length).toBeGreaterThan(44);
      for (const line of lines)
        expect(NOUNS.inspection.safeParse({ id: 'i', headId: 'h', ...line }).success).toBe(true);
    }
  });
  it('asks what fits the kind and the valves', () => {
    const titles = (kind: (typeof CHECKLIST_KINDS)[number], head: typeof two) =>
      checklistFor(kind, head).map((l) => l.title);
    expect(titles('production core', two)).toContain('Pressure test of the water jacket');
    expect(titles('aftermarket new', two)).not.toContain('Pressure test of the water jacket');
    expect(titles('aftermarket new', two)).toContain('Box against order');
    expect(titles('production core', two)).toContain('Pushrod clearance');
    expect(titles('production core', four)).not.toContain('Pushrod clearance');
    expect(titles('production core', four)).toContain('Two guides of one port parallel');
  });
  it('says of every usual figure that it has no source', () => {
    for (const { hint } of CHECKLIST_KINDS.flatMap((k) => checklistFor(k, two)))
      if (/Usual|within \./.test(hint)) expect(hint).toContain('common practice, no source');
  });
  it('guesses the kind from the head', () => {
    expect((['production', 'aftermarket', 'reworked'] as const).map((kind) => likelyKind({ kind }))).toEqual(
      CHECKLIST_KINDS,
    );
  });
});

describe('findings', () => {
  const pellam = whole('pellam-p6');
  const standing = (stage: string, findings: Partial<Finding>[], buildId?: string) =>
    standingFindings(
      { ...pellam, findings: findings.map((f) => ({ ...pellam.findings[0]!, mendedStageId: null, ...f })) },
      stage,
      buildId,
    ).length;
  it('stand from their stage on until the stage that mended them', () => {
    const found = { stageId: 'p6-valve-job', mendedStageId: 'p6-pinch' };
    expect(['p6-received', 'p6-valve-job', 'p6-bowl', 'p6-pinch'].map((s) => standing(s, [found]))).toEqual([
      0, 1, 1, 0,
    ]);
  });
  it('of one build matter to no other', () => {
    const found = { stageId: 'p6-received', buildId: 'slate-six' };
    expect(['slate-six', 'vennick-five', undefined].map((b) => standing('p6-received', [found], b))).toEqual([1, 0, 1]);
  });
  it('say where', () => {
    expect(placeOf({ cylinder: 4, side: 'exhaust', part: 'seat' })).toBe('cylinder 4, exhaust seat');
    expect(placeOf({ cylinder: null, side: null, part: 'deck' })).toBe('deck');
    expect(placeOf({ cylinder: null, side: null, part: 'other' })).toBe('');
  });
  it('mark their line as long as they stand', () => {
    const line = pellam.inspections.find((i) => i.title === 'Installed height')!;
    expect(inspectionMark(line, standingFindings(pellam, 'p6-received'))).toBe('found');
    expect(inspectionMark(line, [])).toBe('fine');
  });
});

describe('seats', () => {
  const longreach = whole('longreach-212');
  const leaky = longreach.seats.find((s) => s.side === 'exhaust' && s.cylinder === 4)!;
  const at = (seats: Partial<Seat>[], stage: string) =>
    latestSeats({ ...longreach, seats: seats.map((s, i) => ({ ...leaky, id: `s${i}`, ...s })) }, stage).map(
      (s) => s.result,
    );
  it('speak by their newest look, the nearest stage first', () => {
    const looks = [
      { stageId: 'longreach-received', date: '2026-03-02', result: 'leaks' as const },
      { stageId: 'longreach-valve-job', date: '2026-01-01', result: 'seals' as const },
    ];
    expect(at(looks, 'longreach-received')).toEqual(['leaks']);
    expect(at(looks, 'longreach-bowl')).toEqual(['seals']);
    expect(at([looks[0]!, { ...looks[0], date: '2026-03-09', result: 'seals' }], 'longreach-received')).toEqual([
      'seals',
    ]);
  });
  it('are named by valve only where there are several', () => {
    expect(seatName(leaky, longreach.head)).toBe('exhaust seat of cylinder 4');
    expect(seatName({ ...leaky, valve: 2 }, { ...longreach.head, exhaustValves: 2 })).toBe(
      'exhaust seat 2 of cylinder 4',
    );
  });
});

describe('the demo’s heads', () => {
  it.each([
    ['corrow-417', '417-received', 'usable', []],
    ['corrow-417-b', '417b-received', 'rejected', ['Rejected on arrival']],
    ['corrow-522', '522-received', 'unchecked', []],
    ['pellam-p6', 'p6-valve-job', 'usable after', ['Springs stand at 1.760']],
    ['longreach-212', 'longreach-received', 'usable after', ['exhaust seat of cylinder 4', 'riser’s flange']],
    ['ottermoor-230', 'om-received', 'unchecked', []],
  ] as const)('%s is found to be so', (id, stage, condition, reasons) => {
    const { arrival } = evaluateHead(
      build,
      toCoreBuild(build),
      evaluateTarget(toCoreBuild(build)),
      whole(id),
      stage,
      null,
    );
    expect(arrival.condition).toBe(condition);
    for (const reason of reasons) expect(arrivalObjections(arrival).join(' ')).toContain(reason);
  });
  it('the flange of the Longreach is no fault on another engine', () => {
    expect(arrivalAt(whole('longreach-212'), 'longreach-received', 'vennick-five').fixFirst).toEqual([]);
  });
  it('a seat that leaked and was worked on since was not looked at since', () => {
    const head = whole('longreach-212');
    const leaky = head.seats.find((s) => s.result === 'leaks')!;
    const next = { ...head.stages[0]!, id: 'recut', name: 'recut', parentId: leaky.stageId };
    const job = { id: 'job', version: 1, stageId: 'recut', kind: 'valve job', side: leaky.side, portId: null };
    const at = (change: object) =>
      arrivalAt(
        {
          ...head,
          stages: [...head.stages, next],
          operations: [...head.operations, { ...job, ...change } as (typeof head.operations)[number]],
        },
        'recut',
      );
    expect(at({}).leaking).toEqual([]);
    expect(at({}).notSince).toContain('exhaust seat of cylinder 4 (valve job)');
    expect(arrivalWords(at({}))).toContain('Not looked at since: exhaust seat of cylinder');
    // Other work, the other side, or the stage before leaves what was seen.
    for (const change of [{ kind: 'polish' }, { side: 'intake' }, { stageId: leaky.stageId }])
      expect(at(change).leaking).toEqual(['exhaust seat of cylinder 4']);
  });
  it('a touched port is no baseline, and the head says why', () => {
    const core = toCoreBuild(build);
    const { leftOut, match, sheet } = evaluateHead(
      build,
      core,
      evaluateTarget(core),
      whole('corrow-522'),
      '522-received',
      null,
    );
    expect(leftOut).toEqual([{ port: 'intake port 6', reason: 'blended by hand before it came' }]);
    expect(sheet!.intakePortId).not.toBe('corrow-522-i6');
    expect(match.runners.map((r) => r.name)).not.toContain('port 6');
    // Asked for by name it is read all the same.
    expect(
      evaluateHead(build, core, evaluateTarget(core), whole('corrow-522'), '522-received', '522-received-p6').leftOut,
    ).toEqual([]);
  });
});

describe('stated against found', () => {
  const items = statedAgainstFound(whole('pellam-p6'), 'p6-received', []);
  const item = (name: string, list = items) => list.find((i) => i.item === name && i.side !== 'exhaust')!;
  it('the chamber is 3.5 cc bigger than claimed, and that matters', () => {
    expect(item('chamber volume').difference!.value).toBeCloseTo(3.5e-6, 12);
    expect(item('chamber volume').matters).toBe(true);
    expect(item('spring coil-bind height').matters).toBe(false);
  });
  it('the shop decides from where on', () => {
    const own = [Tolerance.parse({ id: 't', item: 'chamber volume', value: '4 cc' })];
    expect(item('chamber volume', statedAgainstFound(whole('pellam-p6'), 'p6-received', own)).matters).toBe(false);
    expect(toleranceOf('bowl', own)).toBeCloseTo(0.5e-3, 12);
  });
  it('a difference of just the tolerance does not matter yet', () => {
    const own = [Tolerance.parse({ id: 't', item: 'chamber volume', value: '3.5 cc' })];
    expect(item('chamber volume', statedAgainstFound(whole('pellam-p6'), 'p6-received', own)).matters).toBe(false);
  });
  it('measured twice keeps both, mean and spread', () => {
    const w = whole('pellam-p6');
    const again = Measure.parse({ id: 'again', stageId: 'p6-received', item: 'chamber volume', value: '67.1 cc' });
    const twice = item(
      'chamber volume',
      statedAgainstFound({ ...w, measures: [...w.measures, again] }, 'p6-received', []),
    );
    expect([twice.foundMean! * 1e6, twice.spread! * 1e6].map((x) => Number(x.toFixed(3)))).toEqual([67.3, 0.4]);
  });
  it('every item has a tolerance that can be read', () => {
    for (const name of MEASURE_ITEM_NAMES) {
      const parsed = parseQuantity(MEASURE_ITEMS[name].tolerance, MEASURE_ITEMS[name].kind);
      expect([name, parsed.ok]).toEqual([name, true]);
      expect(toleranceOf(name, [])).toBeGreaterThan(0);
    }
  });

  it('a spring found short pushes harder: stated 140 lb at 1.800, found at 1.760', () => {
    const lb = unitNamed('force', 'lb')!.factor;
    const spring = springAt(items, 'intake', inches(0.48));
    expect(spring.stated.openForce!.value / lb).toBeCloseTo(140 + 262 * 0.48, 6);
    // The force was measured too, 150 lb at the height it stands at.
    expect(spring.found.openForce!.value / lb).toBeCloseTo(150 + 262 * 0.48, 6);
    expect(spring.stated.coilBind!.value - spring.found.coilBind!.value).toBeCloseTo(inches(0.04), 12);
  });
  it('a stated force is judged at the height found: 140 lb at 1.800 with 262 lb/in is 148.6 at 1.767', () => {
    const lb = unitNamed('force', 'lb')!.factor;
    const w = whole('pellam-p6');
    const measures = w.measures.map((m) =>
      m.sourceId === null && m.side === 'intake' && m.item === 'spring installed height'
        ? { ...m, value: { si: inches(1.767), typed: '1.767 in' } }
        : m.sourceId === null && m.side === 'intake' && m.item === 'spring seat force'
          ? { ...m, value: { si: 148.5 * lb, typed: '148.5 lb' } }
          : m,
    );
    const force = statedAgainstFound({ ...w, measures }, 'p6-received', []).find(
      (i) => i.item === 'spring seat force' && i.side === 'intake',
    )!;
    // Hooke: 140 + 262 × (1.800 − 1.767) = 148.646 lb.
    expect(force.atFound!.value / lb).toBeCloseTo(148.646, 3);
    expect(force.difference!.value / lb).toBeCloseTo(-0.146, 3);
    expect(force.matters).toBe(false);
  });
  it('a force not measured follows from the maker’s by the height found', () => {
    const w = whole('pellam-p6');
    const unmeasured = {
      ...w,
      measures: w.measures.filter((m) => !(m.item === 'spring seat force' && m.sourceId === null)),
    };
    const spring = springAt(statedAgainstFound(unmeasured, 'p6-received', []), 'intake', undefined);
    const lb = unitNamed('force', 'lb')!.factor;
    expect((spring.found.seatForce as { value: number }).value / lb).toBeCloseTo(150.48, 2);
    expect(spring.found.openForce).toBeUndefined();
  });
});

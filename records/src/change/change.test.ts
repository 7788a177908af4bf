import { cfm, evaluateTarget, splitStages, nextCuts, inches, USUAL_ASSUMPTIONS } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import demo from '../../../demo/bundle.json' with { type: 'json' };
import { readBundle, writeBundle, type Bundle } from '../files/bundle.js';
import { Forecast, Operation, Sheet, Task, type RecordOf } from '../nouns/index.js';
import { splitTable, toCsv } from '../files/csv.js';
import { readTable, sheetTable } from '../files/table.js';
import { readSheetTable } from '../files/readSheet.js';
import { sheetWorkbook } from '../files/workbook.js';
import { toCoreBuild } from '../toCore.js';
import { wholesOf } from '../wholes.js';
import type { WholeHead } from '../api.js';
import { cutFacts } from './cuts.js';
import { differencesOf } from './differences.js';
import { ledgerTable } from './export.js';
import { ledgerOf } from './ledger.js';
import { lossStages, valveOutFlow } from './loss.js';
import { specimensOf } from './specimens.js';
import { stageGain, uncertaintyIn } from './stageGain.js';
import { singleCuts, usualOf } from './usual.js';
import { followsPattern, stopped, taskState, workTotal } from './workList.js';

const { bundle, problems } = readBundle(demo);
const wholes = wholesOf(bundle);
const headOf = (id: string) => wholes.find((w) => w.head.id === id)!;
const early = headOf('corrow-417');
const longreach = headOf('longreach-212');
const build = bundle.builds[0]!;
const core = toCoreBuild(build);
const target = evaluateTarget(core);
const context = { sources: bundle.sources, cams: { intake: target.intakeCam, exhaust: target.exhaustCam } };
const stageOf = (whole: WholeHead, id: string) => whole.stages.find((s) => s.id === id)!;
const inCfm = (si: number) => si / cfm(1);

/** A head of one port with a sheet at each stage, flows in cfm at .300, .400 and .500. */
function madeUp(
  stages: { intake?: number[]; exhaust?: number[]; setup?: object; rows?: object }[],
  operations: object[] = [],
): WholeHead {
  const rows = (s: (typeof stages)[number]) =>
    ['.300 in', '.400 in', '.500 in'].map((lift, k) => ({
      lift,
      ...(s.intake ? { intake: { pulls: [`${s.intake[k]} cfm`] } } : {}),
      ...(s.exhaust ? { exhaust: { pulls: [`${s.exhaust[k]} cfm`] } } : {}),
    }));
  const read = readBundle({
    format: 'alluvium-bundle',
    version: 1,
    heads: [{ id: 'h', name: 'Made up', intakeValves: 1 }],
    ports: ['intake', 'exhaust'].map((side) => ({ id: side, headId: 'h', side, number: 1 })),
    stages: stages.map((_, i) => ({
      id: `s${i}`,
      headId: 'h',
      name: `stage ${i}`,
      position: i,
      parentId: i ? `s${i - 1}` : null,
    })),
    sheets: stages.flatMap((s, i) =>
      s.intake || s.exhaust
        ? [
            {
              id: `f${i}`,
              stageId: `s${i}`,
              title: `sheet ${i}`,
              intakePortId: 'intake',
              exhaustPortId: 'exhaust',
              setup: {
                depression: '28 inH2O',
                bore: '4 in',
                entry: 'clay',
                exhaustPipe: 'bare',
                valve: 'own',
                ...s.setup,
              },
              rows: rows(s),
            },
          ]
        : [],
    ),
    operations,
  });
  expect(read.problems).toEqual([]);
  return wholesOf(read.bundle)[0]!;
}
const gainsAt = (whole: WholeHead, stage: string, side: 'intake' | 'exhaust') =>
  stageGain(whole, stageOf(whole, stage), side)!.lifts.map((l) => inCfm(l.gain.value));

describe('before and after', () => {
  it('is +7.2, +25.1, +23.4 on an intake that went from 174, 189.9, 193.6 to 181.2, 215, 217', () => {
    const whole = madeUp([{ intake: [174, 189.9, 193.6] }, { intake: [181.2, 215, 217] }]);
    const found = gainsAt(whole, 's1', 'intake');
    [7.2, 25.1, 23.4].forEach((g, i) => expect(found[i]).toBeCloseTo(g, 6));
  });
  it('is +16.4 and +13.9 on an exhaust, and refused when the valve and the pipe were others before', () => {
    const before = { exhaust: [122.1, 140.7, 141] };
    const after = { exhaust: [138.5, 154.6, 155] };
    const alike = madeUp([before, after]);
    const found = gainsAt(alike, 's1', 'exhaust');
    expect(found[0]).toBeCloseTo(16.4, 6);
    expect(found[1]).toBeCloseTo(13.9, 6);
    expect(stageGain(alike, stageOf(alike, 's1'), 'exhaust')!.credited).toBe(true);
    const other = madeUp([
      {
        ...before,
        setup: { valve: 'other', exhaustFlowValve: '1.50 in', exhaustPipe: 'piped', pipeDiameter: '1.5 in' },
      },
      {
        ...after,
        setup: { valve: 'other', exhaustFlowValve: '1.54 in', exhaustPipe: 'piped', pipeDiameter: '1.75 in' },
      },
    ]);
    const gain = stageGain(other, stageOf(other, 's1'), 'exhaust')!;
    expect(gain.credited).toBe(false);
    expect(gain.gain).toBeUndefined();
    expect(gain.comparison.aspects.filter((a) => a.state === 'differs').map((a) => a.what)).toEqual([
      'size of the flow valve',
      'size of the pipe',
    ]);
  });
  it('keeps the part that can be compared: the intake of a head whose exhaust had a pipe before', () => {
    const stage = stageOf(longreach, 'longreach-valve-job');
    expect(stageGain(longreach, stage, 'exhaust', context)!.credited).toBe(false);
    expect(stageGain(longreach, stage, 'intake', context)!.credited).toBe(true);
  });
  it('is as uncertain as two set-ups and two pulls make it; what the bench reads off cancels', () => {
    const whole = madeUp([{ intake: [200, 200, 200] }, { intake: [210, 210, 210] }]);
    const gain = stageGain(whole, stageOf(whole, 's1'), 'intake')!;
    const { setup, repeatability, uncheckedBench } = USUAL_ASSUMPTIONS;
    // A flat curve: the lift's zero does nothing. u² = (Q_a² + Q_b²)(s² + r²) + 2 (½ cfm)²/3 + (Q_b − Q_a)² b².
    const own = Math.hypot(200, 210) * Math.hypot(setup, repeatability);
    expect(inCfm(uncertaintyIn(gain.lifts[1]!.gain, gain.book))).toBeCloseTo(
      Math.hypot(own, 0.5 * Math.sqrt(2 / 3), 10 * uncheckedBench),
      3,
    );
  });
  it('passes over a stage that was not flowed, and says that the two cannot be told apart', () => {
    const whole = madeUp([{ intake: [100, 110, 115] }, {}, { intake: [110, 125, 130] }]);
    const gain = stageGain(whole, stageOf(whole, 's2'), 'intake')!;
    expect(gain.together.map((s) => s.id)).toEqual(['s1']);
    const rows = ledgerOf(whole, 's2');
    expect(rows[1]!.said.join()).toContain('Not flowed');
    expect(rows[2]!.said.join()).toContain('“stage 1”');
  });
  it('names what changed and what did not', () => {
    const gains = (['intake', 'exhaust'] as const).map((s) =>
      stageGain(early, stageOf(early, '417-pinch'), s, context)!,
    );
    const found = differencesOf(early, stageOf(early, '417-bowl'), stageOf(early, '417-pinch'), gains);
    const of = (what: string) => found.find((d) => d.what === what);
    expect(of('intake pinch')).toMatchObject({ changed: true });
    expect(of('exhaust peak')).toMatchObject({ changed: false });
    expect(of('exhaust / intake')!.after).toBeLessThan(of('exhaust / intake')!.before);
  });
});

describe('the ledger', () => {
  const ledger = (whole: WholeHead, last: string) => ledgerOf(whole, last, context, { core, target });
  it('adds up: the sum is the last mean flow less the first', () => {
    const rows = ledger(early, '417-pinch');
    const [first, last] = [rows[1]!.sides.intake!.gain, rows[3]!.sides.intake!];
    const means = [first.gain!.given.base, last.gain.gain!.given.other] as { value: number }[];
    expect(last.sum!.value).toBeCloseTo(means[1]!.value - means[0]!.value, 12);
  });
  it('changes no other gain when an unrelated stage is added or taken away', () => {
    const before = ledger(early, '417-pinch').map((r) => r.sides.intake?.gain.gain?.value);
    const branch = { ...stageOf(early, '417-bowl'), id: 'aside', name: 'aside', parentId: '417-received', position: 9 };
    const more = { ...early, stages: [...early.stages, branch] };
    expect(ledger(more, '417-pinch').map((r) => r.sides.intake?.gain.gain?.value)).toEqual(before);
  });
  it('counts hours at the shop’s rate, by the side they were worked on', () => {
    const rated = { ...context, assumptions: { ...USUAL_ASSUMPTIONS, hourRate: 55 } };
    const row = ledgerOf(early, '417-bowl', rated, { core, target })[2]!;
    expect(row.time).toBe(5.5 * 3600);
    expect(row.cost!.value).toBe(5.5 * 55);
    expect(row.sides.intake!.perHour!.value).toBeCloseTo(row.sides.intake!.gain.gain!.value / (3 * 3600), 12);
    expect(row.sides.exhaust!.perMoney!.value).toBeCloseTo(row.sides.exhaust!.gain.gain!.value / (2.5 * 55), 12);
    expect(row.power!.value).toBeGreaterThan(0);
  });
  it('says of two cuts in one stage that they cannot be told apart, and credits none of them alone', () => {
    expect(ledger(early, '417-pinch')[1]!.said.join()).toContain('valve job and back-cut were made in one stage');
    const cuts = singleCuts(early, context);
    expect(cuts.some((c) => c.stage === 'valve job and back-cut' && c.side === 'intake')).toBe(false);
    expect(cuts.some((c) => c.stage === 'valve job and back-cut' && c.side === 'exhaust')).toBe(true);
  });
  it('gives the shop’s own statistics on heads of the kind where there are two, else on all', () => {
    const cuts = wholes.flatMap((w) => singleCuts(w, context));
    const aftermarket = usualOf(cuts, 'bowl blend', 'intake', 'aftermarket');
    expect(aftermarket.cuts.map((c) => c.head)).toEqual(['P6-205', 'Longreach 212']);
    const production = usualOf(cuts, 'bowl blend', 'intake', 'production');
    expect(production.usual!.count).toBe(3);
    expect(production.usual!.next).toBeGreaterThan(0);
  });
  it('is written as a table: one line a stage, credit refused said in its cell', () => {
    const table = ledgerTable(ledger(longreach, 'longreach-bowl'), 'inch');
    const [heading, , job] = table;
    expect(job![heading!.indexOf('exhaust credit')]).toContain('cannot be compared');
    expect(job![heading!.indexOf('exhaust gain (cfm)')]).toBe('');
    expect(splitTable(toCsv(table))).toHaveLength(4);
    expect(table.every((row) => row.length === heading!.length)).toBe(true);
  });
});

describe('valve or port of stored stages', () => {
  it('takes the stages that were tested alike, with the valve-out pull of one', () => {
    const loss = lossStages(early, '417-pinch', 'intake', context)!;
    expect(loss.stages.map((s) => s.id)).toEqual(['417-received', '417-valve-job', '417-bowl', '417-pinch']);
    expect(loss.input.map((i) => i.valveOut !== undefined)).toEqual([false, false, true, false]);
    expect(inCfm(loss.input[2]!.valveOut!)).toBeCloseTo(238, 0);
    const refused = lossStages(longreach, 'longreach-bowl', 'exhaust', context)!;
    expect(refused.stages.map((s) => s.id)).toEqual(['longreach-valve-job', 'longreach-bowl']);
    expect(lossStages(headOf('tarrow-t3'), 'nowhere', 'intake')).toBeUndefined();
  });
  it('leads to cuts with their reasons', { timeout: 20_000 }, () => {
    const loss = lossStages(early, '417-received', 'intake', context)!;
    const split = splitStages(loss.input, inches(0.45), loss.assumptions);
    const facts = cutFacts(early, '417-received', 'intake', split, { ...context, wanted: target.areaNeeded.value })!;
    const cuts = nextCuts(facts);
    expect(cuts.map((c) => c.operation)).toContain('pinch opened');
    for (const c of cuts) expect(c.reasons.length).toBeGreaterThan(0);
    expect(cutFacts(early, 'nowhere', 'intake', split)).toBeUndefined();
  });
});

describe('a valve-out pull', () => {
  const sheet = early.sheets.find((s) => s.id === '417-bowl-p3')!;
  it('is a row of the sheet’s file, and comes back from it', () => {
    const csv = toCsv(sheetTable(sheet));
    expect(csv).toContain('valve out');
    const { sheet: again, problems } = readSheetTable(readTable(splitTable(csv)), 'x', 'inch');
    expect(problems).toEqual([]);
    expect(again.valveOut).toEqual(sheet.valveOut);
    expect(again.rows).toHaveLength(sheet.rows.length);
    expect(sheetWorkbook(sheet, {}, 'inch').rows.at(-1)![0]).toBe('valve out');
    expect(inCfm(valveOutFlow(sheet, 'intake')!)).toBeCloseTo(238, 0);
    expect(valveOutFlow(sheet, 'exhaust')).toBeUndefined();
  });
  it('stands once, and names its range', () => {
    const twice = readTable(splitTable('lift,intake\n.100,50\nvalve out,200\nout,201'));
    expect(readSheetTable(twice, 'x', 'inch').problems.join()).toContain('valve out already');
    const bad = Sheet.safeParse({ ...sheet, valveOut: { intake: { pulls: ['80 %'], range: '9' }, exhaust: null } });
    expect(bad.error!.issues[0]!.message).toContain('Name the range');
  });
});

describe('work list and specimens', () => {
  const of = (id: string) => early.tasks.find((t) => t.id === id)!;
  it('stops at 3.4 mm of a wall that is to keep 3.5', () => {
    expect(taskState(of('417-task-pinch-1'))).toBe('passed');
    expect(stopped(early.tasks).map((t) => t.id)).toEqual(['417-task-pinch-1']);
    expect(taskState(of('417-task-turn'))).toBe('open');
    expect(taskState(of('417-task-throat'))).toBe('under way');
  });
  it('holds each port against its pattern, and counts what is left', () => {
    expect(followsPattern(early.tasks, of('417-task-pinch-1'))).toBe(false);
    expect(followsPattern(early.tasks, of('417-task-turn'))).toBeUndefined();
    expect(workTotal(early.tasks)).toEqual({ lines: 4, done: 1, times: expect.any(Array), left: 5.5 * 3600 });
  });
  it('refuses negative hours, a line without a place, a size past its own limit', () => {
    const task = { id: 't', headId: 'h', place: 'floor' };
    const sentence = (record: object) => Task.safeParse({ ...task, ...record }).error?.issues[0]?.message;
    expect(sentence({})).toBeUndefined();
    expect(sentence({ time: '-1 h' })).toContain('Hours');
    expect(sentence({ place: ' ' })).toBe('Say where.');
    expect(sentence({ size: 'wall', wanted: '3 mm', limit: '3.5 mm' })).toContain('thinner than the limit');
    expect(sentence({ size: 'area', wanted: '2 in²', limit: '1.9 in²' })).toContain('larger than the limit');
    expect(sentence({ size: 'area', wanted: '2 in' })).toBeDefined();
    const operation = { id: 'o', stageId: 's', kind: 'bowl blend' };
    expect(Operation.safeParse(operation).error!.issues[0]!.message).toContain('intake or the exhaust');
    expect(Operation.safeParse({ ...operation, side: 'intake', parts: '-3' }).success).toBe(false);
  });
  it('holds two castings of one article against each other on the same runner', () => {
    const found = specimensOf([early, headOf('corrow-417-b')], 'intake', context);
    expect(found.apart.map((a) => Math.round(inCfm(a.off)))).toEqual([6, -6]);
    expect(found.apart.every((a) => a.specimen.sheet.title === 'Bench 1, port 3')).toBe(true);
    expect(found.leftOut).toEqual([]);
  });
});

describe('in a file', () => {
  it('comes back equal, with its references checked', () => {
    expect(problems).toEqual([]);
    const again = readBundle(JSON.parse(writeBundle(lists(bundle))));
    expect(again.problems).toEqual([]);
    for (const key of ['operations', 'tasks', 'forecasts'] as const) expect(again.bundle[key]).toEqual(bundle[key]);
    const stray = readBundle({
      format: 'alluvium-bundle',
      version: 1,
      operations: [{ id: 'o', stageId: 'none', kind: 'milled' }],
    });
    expect(stray.problems[0]!.message).toContain('There is no stage “none”');
    expect(Forecast.parse(bundle.forecasts[0]).content.gain).toBeGreaterThan(0);
  });
});
const lists = (b: Bundle) =>
  ({
    head: b.heads,
    stage: b.stages,
    port: b.ports,
    operation: b.operations,
    task: b.tasks,
    forecast: b.forecasts,
  }) as unknown as { stage: RecordOf<'stage'>[] };

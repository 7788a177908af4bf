import { readFileSync } from 'node:fs';
import { compareSetups, inches } from '@alluvium/core';
import { evaluateHead, readBundle, wholesOf, type Bundle } from '@alluvium/records';
import { describe, expect, it } from 'vitest';
import { withTarget } from '../data/build.js';
import { letterOf, type CompareHead } from '../data/comparison.js';
import { comparisonTable } from './export.js';
import { sameExhaust, setupFacts } from './facts.js';
import { liftRows, rowLifts } from './rows.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const active = withTarget(bundle.builds[0]!);
const sources: Bundle['sources'] = bundle.sources;

function head(index: number, id: string, stageId: string, sheetId: string | null = null): CompareHead {
  const whole = wholesOf(bundle).find((w) => w.head.id === id)!;
  return {
    id: `${index}`,
    letter: letterOf(index),
    index,
    whole,
    chosenSheetId: sheetId,
    name: whole.head.name,
    ...evaluateHead(active.build, active.core, active.target!, whole, stageId, sheetId),
  };
}
const early = head(0, 'corrow-417', '417-received', '417-received-p3');
const late = head(1, 'corrow-522', '522-received', '522-received-p3');
const mire = head(1, 'corrow-522', '522-received', '522-mire');
const piped = head(2, 'longreach-212', 'longreach-received', 'longreach-received-p3');
const flyer = head(3, 'ottermoor-230', 'om-received', 'om-flyer');
const cam = inches(0.48);

describe('rows of the difference table', () => {
  it('are the lifts measured on any head, the watch lifts and the cam’s own', () => {
    const lifts = rowLifts([early, late], 'intake', [inches(0.35)], cam).map((l) => Math.round((l / inches(1)) * 1000));
    expect(lifts).toEqual([100, 200, 300, 350, 400, 450, 480, 500, 550, 600]);
  });
  it('hold flow and gain against the first head', () => {
    const row = liftRows([early, late], 'intake', [inches(0.4)], cam).find((r) => r.watched)!;
    const cfm = (q: number | undefined) => Math.round(q! / 4.719474432e-4);
    expect(row.cells.map((c) => cfm(c.flow?.value))).toEqual([172, 177]);
    expect(row.cells[0]!.gain).toBeUndefined();
    expect(cfm(row.cells[1]!.gain?.value)).toBe(5);
    expect(row.cells[1]!.share!.value).toBeCloseTo(5 / 172, 2);
    expect(row.cells.every((c) => !c.interpolated)).toBe(true);
  });
  it('hold a sheet of one row at its own lift, and nowhere else', () => {
    const { sheet, result } = late;
    const oneRow = {
      ...late,
      sheet: sheet!,
      result: { ...result!, intake: { points: result!.intake.points.slice(2, 3), doubts: [] } },
    };
    const rows = liftRows([early, oneRow], 'intake', [], cam);
    const filled = rows.filter((r) => r.cells[1]!.flow);
    expect(filled.map((r) => Math.round((r.lift / inches(1)) * 1000))).toEqual([300]);
    expect(filled[0]!.cells[1]!.share).toBeDefined();
    expect(rowLifts([oneRow], 'intake', [], undefined)).toHaveLength(1);
  });
  it('mark what is read between rows, and leave out what no sheet reaches', () => {
    const rows = liftRows([early, mire], 'intake', [], cam);
    const atCam = rows.find((r) => r.isCam)!;
    expect(atCam.cells.every((c) => c.interpolated && c.flow?.method.id === 'flow-between-rows')).toBe(true);
    // Mire Lane took no reading at .450.
    const missing = rows.find((r) => Math.abs(r.lift - inches(0.45)) < 1e-6)!;
    expect(missing.cells.map((c) => c.interpolated)).toEqual([false, true]);
    const top = liftRows([early, head(1, 'ottermoor-230', 'om-received')], 'intake', [], cam).at(-1)!;
    expect(top.cells[0]!.flow).toBeUndefined();
    expect(top.beyondCam).toBe(true);
  });
  it('never subtract a piped exhaust from a bare one', () => {
    const row = liftRows([early, piped], 'exhaust', [], cam)[0]!;
    expect(row.cells[1]).toMatchObject({ apart: 'piped' });
    expect(row.cells[1]!.gain).toBeUndefined();
    expect(sameExhaust(early, flyer)).toBe(true);
  });
});

describe('facts of the set-ups', () => {
  it('say what was equal, what was not, and what nobody knows', () => {
    const { equal, unequal, unknown } = compareSetups(setupFacts([early, mire, flyer], 'intake', sources));
    expect(equal).toEqual(['as received']);
    expect(unequal.map((u) => u.what)).toEqual(['depression', 'entry', 'bench']);
    expect(unequal[0]!.values).toEqual(['28 in', '10 in', undefined]);
    expect(unknown).toEqual(['bore', 'valve', 'port']);
  });
  it('hold the entry for the intake and the pipe for the exhaust', () => {
    expect(setupFacts([early], 'intake', sources).map((f) => f.what)).not.toContain('exhaust');
    expect(setupFacts([early], 'exhaust', sources).map((f) => f.what)).not.toContain('entry');
  });
});

describe('the comparison as a table', () => {
  it('carries inches and cfm, with a column of differences', () => {
    const table = comparisonTable([early, late], 'intake', active, 'inch');
    expect(table[0]).toEqual(['build', 'Corrow Slate Six']);
    expect(table[3]).toEqual([
      'lift (in)',
      'A 417 early, as received, Bench 1, port 3 (cfm)',
      'B 522 late, as received, Bench 1, port 3 (cfm)',
      'B less A (cfm)',
    ]);
    expect(table.find((r) => r[0] === 0.4)).toEqual([
      0.4,
      expect.closeTo(172, 0),
      expect.closeTo(177, 0),
      expect.closeTo(5, 0),
    ]);
  });
});

import { readFileSync } from 'node:fs';
import { evaluateSheet } from '@alluvium/core';
import {
  readBundle,
  readClaimTable,
  readTable,
  splitTable,
  toCoreRows,
  toCoreSetup,
  toPortValve,
} from '@alluvium/records';
import { describe, expect, it } from 'vitest';
import { exampleTexts } from './examples.js';
import { scenario } from './scenario.js';

const file: unknown = JSON.parse(readFileSync(new URL('../bundle.json', import.meta.url), 'utf8'));
const { bundle, problems } = readBundle(file);

/** Measures of a stage or of the stages before it, the nearest first. */
function measuresOf(stageId: string) {
  const found: typeof bundle.measures = [];
  for (let id: string | null = stageId; id; id = bundle.stages.find((s) => s.id === id)!.parentId) {
    for (const m of bundle.measures.filter((x) => x.stageId === id && x.sourceId === null)) {
      if (!found.some((f) => f.item === m.item && f.side === m.side)) found.push(m);
    }
  }
  return found;
}

describe('the demo scenario', () => {
  it('is the committed file, and reads without a problem', () => {
    expect(file).toEqual(JSON.parse(JSON.stringify(scenario)));
    expect(problems).toEqual([]);
    expect(bundle.builds).toHaveLength(3);
  });

  it.each(bundle.sheets.map((s) => [s.id, s] as const))('%s is physically coherent', (_, sheet) => {
    const stage = bundle.stages.find((s) => s.id === sheet.stageId)!;
    const head = bundle.heads.find((h) => h.id === stage.headId)!;
    const measures = measuresOf(stage.id);
    const intakeValve = toPortValve(head, measures, 'intake')!;
    const exhaustValve = toPortValve(head, measures, 'exhaust')!;
    const result = evaluateSheet(toCoreSetup(sheet), toCoreRows(sheet), { intake: intakeValve, exhaust: exhaustValve });
    const planted = sheet.id === 'om-flyer';
    for (const side of ['intake', 'exhaust'] as const) {
      const { points, doubts } = result[side];
      points.forEach((p, i) => {
        expect(p.coefficients.minimum!.value).toBeLessThan(1);
        // At the first lift the seat faces still rule the flow (Heywood's first stage); from the second on it must fall.
        if (i > 1 && !planted)
          expect(p.coefficients.curtain!.value).toBeLessThan(points[i - 1]!.coefficients.curtain!.value + 0.003);
      });
      if (!planted) expect(doubts).toEqual([]);
    }
    const at = result.intake.points.find((p) => Math.abs(p.lift - 0.4 * 0.0254) < 1e-6);
    if (planted) expect(at!.coefficients.curtain!.value).toBeGreaterThan(0.68);
    else if (at) expect(at.coefficients.curtain!.value).toBeLessThan(0.58);
  });

  it('port volume is area times length within 2 % of what sections between pinch and bowl allow', () => {
    for (const stage of bundle.stages) {
      const of = (item: string) =>
        bundle.measures.find((m) => m.stageId === stage.id && m.item === item && m.side === 'intake')?.value.si;
      const [volume, length, pinch, window] = [of('port volume'), of('port length'), of('pinch'), of('window')];
      if (!volume || !length || !pinch || !window) continue;
      const mean = volume / length;
      expect(mean).toBeGreaterThan(pinch);
      expect(mean / ((pinch + 2 * window) / 3)).toBeGreaterThan(0.98);
      expect(mean / ((pinch + 2 * window) / 3)).toBeLessThan(1.1);
    }
  });
});

describe('the files to try it with', () => {
  const at = (name: string) => readFileSync(new URL(`../../web/public/examples/${name}`, import.meta.url), 'utf8');
  it('are the committed ones', () => {
    for (const [name, text] of Object.entries(exampleTexts)) expect(at(name), name).toBe(text);
  });
  it('are read without a question: a sheet, claims, a whole shop', () => {
    const sheet = readTable(splitTable(at('flow-sheet.csv')));
    expect(sheet.problems).toEqual([]);
    expect(sheet.cells).toHaveLength(8);
    const claims = readClaimTable(splitTable(at('claims.csv')), 'inch');
    expect([claims.problems, claims.lines.length]).toEqual([[], 4]);
    const shop = readBundle(JSON.parse(at('shop.json')));
    expect(shop.problems).toEqual([]);
    expect(shop.bundle.builds).toHaveLength(1);
    expect(shop.bundle.lineups.length).toBeGreaterThan(1);
  });
});

import { readFileSync } from 'node:fs';
import { cfm, evaluateTarget, evidenceWords, numberOf, oddsBetter, sayIn } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { evaluateHead } from './evaluateHead.js';
import { pickSheet, portTests } from './evidence.js';
import { readBundle } from './files/bundle.js';
import type { Sheet } from './nouns/sheet.js';
import { toCoreBuild } from './toCore.js';
import { wholesOf } from './wholes.js';

const { bundle } = readBundle(JSON.parse(readFileSync(new URL('../../demo/bundle.json', import.meta.url), 'utf8')));
const whole = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const core = toCoreBuild(build);
const target = evaluateTarget(core);
const say = sayIn('inch');
const head = whole('pellam-p6');
const STAGE = 'p6-valve-job';
const one = head.sheets.find((s) => s.id === 'p6-valve-job-p3')!;

const times = (sheet: Sheet, by: number, change: Partial<Sheet> = {}): Sheet => ({
  ...sheet,
  ...change,
  rows: sheet.rows.map((r) => ({
    ...r,
    intake: r.intake && { ...r.intake, pulls: r.intake.pulls.map((p) => ({ ...p, si: p.si * by })) },
  })),
});
const judged = (sheets: readonly Sheet[], id: string | null = null, of = head) =>
  evaluateHead(build, core, target, { ...of, sheets: [...sheets] }, STAGE, id, { sources: bundle.sources, say });
/** All orders of a short list. */
const orders = <T>(list: readonly T[]): T[][] =>
  list.length < 2
    ? [[...list]]
    : list.flatMap((x, i) => orders(list.filter((_, k) => k !== i)).map((rest) => [x, ...rest]));
const flow = (e: ReturnType<typeof judged>) => numberOf(e.match.flow!) / cfm(1);
const codes = (e: ReturnType<typeof judged>) => e.verdict.evidence.map((x) => x.code);

/** Every order gives one answer, whatever that is. */
function sameInEveryOrder(sheets: readonly Sheet[]) {
  const [first, ...rest] = orders(sheets).map((list) => judged(list));
  for (const other of rest) {
    expect(other.sheet!.id).toBe(first!.sheet!.id);
    expect(other.pooled.map((s) => s.id)).toEqual(first!.pooled.map((s) => s.id));
    expect(flow(other)).toBeCloseTo(flow(first!), 9);
    expect(other.verdict.odds).toBeCloseTo(first!.verdict.odds!, 9);
    expect(other.verdict.degree).toBe(first!.verdict.degree);
  }
  return first!;
}

describe('which evidence speaks does not hang on the order of a list', () => {
  const undated = { date: null };
  it('an own bench and another one that reads 22 % more, undated: both count, and nothing sure is said', () => {
    const own = times(one, 1, undated);
    const other = times(one, 1.22, { ...undated, id: 'elsewhere', sourceId: 'another bench', title: 'Elsewhere' });
    const both = sameInEveryOrder([own, other]);
    expect(flow(both)).toBeGreaterThan(flow(judged([own])) * 1.03);
    expect(flow(both)).toBeLessThan(flow(judged([other])) * 0.97);
    expect(codes(both)).toContain('sheets apart');
    expect(['carries', 'falls short']).not.toContain(both.verdict.degree);
    // The two are named.
    const words = both.verdict.evidence.map((e) => evidenceWords(e, say)).join(' ');
    expect(words).toContain(own.title);
    expect(words).toContain('Elsewhere');
  });
  it('two claims 37 % apart', () => {
    const claim = { ...undated, kind: 'claim' as const, intakePortId: null, exhaustPortId: null };
    const both = sameInEveryOrder([
      times(one, 1, { ...claim, id: 'c1', sourceId: 'a' }),
      times(one, 1.37, { ...claim, id: 'c2', sourceId: 'b' }),
    ]);
    expect(codes(both)).toContain('sheets apart');
    expect(['carries', 'falls short']).not.toContain(both.verdict.degree);
  });
  it('two sheets 18 % apart with no port named', () => {
    const bare = { ...undated, intakePortId: null, exhaustPortId: null };
    const both = sameInEveryOrder([times(one, 1, { ...bare, id: 's1' }), times(one, 1.18, { ...bare, id: 's2' })]);
    expect(codes(both)).toContain('sheets apart');
  });
  it('three tests of one port by two benches, and an older one with another notch', () => {
    const plain = { ...one, setup: { ...one.setup, notch: 'none' as const } };
    const seen = sameInEveryOrder([
      times(plain, 1, { id: 'a', date: '2031-02-01' }),
      times(plain, 1.01, { id: 'b', date: '2031-02-02' }),
      times(plain, 1.02, { id: 'c', sourceId: 'another bench', date: null }),
      times(plain, 1.05, { id: 'd', date: '2031-01-01', setup: { ...plain.setup, notch: 'chamfer' } }),
    ]);
    expect(seen.pooled.map((s) => s.id)).toEqual(['b', 'a', 'c']);
  });
  it('every head of the demo, its sheets turned round', () => {
    for (const w of wholesOf(bundle))
      for (const stage of w.stages) {
        const at = (sheets: Sheet[]) => evaluateHead(build, core, target, { ...w, sheets }, stage.id, null, { say });
        const [straight, turned] = [at(w.sheets), at(w.sheets.toReversed())];
        expect(turned.sheet?.id).toBe(straight.sheet?.id);
        expect(turned.match.deciding?.name).toBe(straight.match.deciding?.name);
        expect(turned.verdict.odds ?? 0).toBeCloseTo(straight.verdict.odds ?? 0, 9);
      }
  });
});

describe('a bench is one uncertain thing, shared by all that was tested on it', () => {
  const at = (sourceId: string, by: number, id: string) => times(one, by, { id, sourceId, date: null });
  it('ten tests by one bench weigh little more than one by another', () => {
    const ten = Array.from({ length: 10 }, (_, i) => at('a', 1, `a${i}`));
    const mixed = flow(judged([...ten, at('b', 1.03, 'b')]));
    const even = flow(judged([at('a', 1, 'a'), at('b', 1.03, 'b')]));
    const low = flow(judged([at('a', 1, 'a')]));
    expect(even / low).toBeCloseTo(1.015, 3);
    // Set-ups of 1 % average out, a bench of 1.8 % does not.
    expect(mixed / low).toBeGreaterThan(1.011);
    expect(mixed / low).toBeLessThan(1.015);
  });
  it('cancels between two heads of one bench, and not between two of two benches', () => {
    const better = (a: string, b: string) =>
      oddsBetter(judged([at(a, 1.02, 'x')]).verdict, judged([at(b, 1, 'y')]).verdict)!;
    expect(better('a', 'a')).toBeGreaterThan(better('a', 'b') + 0.03);
    expect(better('a', 'b')).toBeGreaterThan(0.5);
  });
  it('a second bench that agrees makes the margin surer, one that does not makes it less sure', () => {
    const u = (...sheets: Sheet[]) => judged(sheets).verdict.margin!.u;
    const alone = u(at('a', 1, 'a'));
    expect(u(at('a', 1, 'a'), at('b', 1, 'b'))).toBeLessThan(alone);
    expect(u(at('a', 1, 'a'), at('b', 1.25, 'b'))).toBeGreaterThan(alone);
  });
});

describe('one port, the same on every page', () => {
  it('is the one that decides, where nobody chose a sheet', () => {
    const p417 = whole('corrow-417');
    const e = evaluateHead(build, core, target, p417, '417-received', null, { sources: bundle.sources, say });
    expect(e.match.deciding!.facts!.id).toBe(e.sheet!.id);
    expect(pickSheet(p417, '417-received', build)!.intakePortId).toBe(e.sheet!.intakePortId);
    // A chosen sheet is shown, whichever decides.
    const chosen = evaluateHead(build, core, target, p417, '417-received', '417-received-p3', { say });
    expect(chosen.sheet!.id).toBe('417-received-p3');
    expect(chosen.match.deciding!.name).toBe('port 1');
  });
  it('a test of a port nobody named is one of each, and less sure', () => {
    const named = times(one, 1, { id: 'named', date: null });
    const unnamed = times(one, 1.02, { id: 'unnamed', date: null, intakePortId: null, exhaustPortId: null });
    const [group] = portTests({ ...head, sheets: [named, unnamed] }, STAGE, 'intake', build);
    expect(group!.sheets.map((s) => s.id)).toEqual(['named', 'unnamed']);
    const share = flow(judged([named, unnamed])) / flow(judged([named])) - 1;
    expect(share).toBeGreaterThan(0.004);
    expect(share).toBeLessThan(0.01);
  });
  it('says which tests of a port it does not read', () => {
    const wide = times(one, 1.04, { id: 'wide', setup: { ...one.setup, bore: { si: 0.12, typed: '120 mm' } } });
    const [group] = portTests({ ...head, sheets: [one, wide] }, STAGE, 'intake', build);
    expect([group!.sheets.map((s) => s.id), group!.others.map((s) => s.id)]).toEqual([[one.id], ['wide']]);
  });
});

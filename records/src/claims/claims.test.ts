import { readFileSync } from 'node:fs';
import { gainsOf, repeatabilityFrom, sayIn, sourceOffsets, USUAL_ASSUMPTIONS } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import {
  claimRows,
  conditionsOf,
  contextOf,
  judgedClaims,
  libraryOf,
  netOf,
  pipeEffect,
  pipePairs,
  secondLooks,
  evaluateSheetOf,
  isGrave,
  readBundle,
  wholesOf,
  writeAudit,
  type ClaimContext,
  type JudgingContext,
  assumptionsFor,
} from '../index.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const heads = wholesOf(bundle);
const library = libraryOf(heads, 'bench-1');
const say = sayIn('inch');
const head = (id: string) => heads.find((h) => h.head.id === id)!;
const context: ClaimContext = contextOf(library, 'bench-1', say);
const judged = (id: string, side: 'intake' | 'exhaust') => judgedClaims(head(id), side, context);
const rows = claimRows(heads, bundle.sources, context, { builds: bundle.builds });

describe('the claims of the demo', () => {
  it('the planted over-claim is found at .400, beyond anything measured', () => {
    const [flyer] = judged('ottermoor-230', 'intake');
    expect(flyer!.verdict).toBe('beyond anything measured');
    const at = flyer!.points.find((p) => Math.abs(p.lift - 0.4 * 0.0254) < 1e-6)!;
    expect(at.verdict).toBe('beyond anything measured');
    expect(at.band!.percentile).toBe(1);
    expect(flyer!.comparison!.may).toBe('reserved');
    expect(flyer!.words).toContain('.400');
  });
  it('the fair heads are not accused: another bench reads high, another bore is not compared', () => {
    for (const side of ['intake', 'exhaust'] as const) {
      const [quayside] = judged('pellam-190', side);
      expect(quayside).toMatchObject({ verdict: 'holds', whole: { leans: false } });
      expect(quayside!.whole!.level).toBeGreaterThan(0.02);
      expect(quayside!.words).toMatch(/^Agrees as benches do: .*high on average/);
      expect(judged('longreach-212', side)[0]).toMatchObject({ verdict: 'not comparable', comparison: { may: 'not' } });
    }
    const grave = rows.filter((r) => isGrave(r.verdict));
    expect(grave.map((r) => r.head)).toEqual(['OM-230']);
  });
  it('a piped exhaust is never held against bare ones', () => {
    const maker = judged('longreach-212', 'exhaust')[0]!;
    // We have tested it with a pipe too: of our sheets the one nearest to the claim is taken.
    expect(maker.against!.setup.exhaustPipe).toBe('piped');
    expect(maker.comparison!.sentence).toBe('They cannot be compared: bore differs.');
    expect(maker.points.every((p) => p.band?.usual ?? true)).toBe(true);
  });
  it('the room that reads 3 % high is found so, the room at 10 in converted', () => {
    const net = netOf(heads, 'bench-1', 'intake');
    const { offsets } = sourceOffsets(net.data);
    const of = (id: string) => offsets[net.sources.indexOf(id)]!;
    expect(of('bench-1')).toMatchObject({ offset: 0, error: 0 });
    expect(Math.abs(of('quayside').offset - Math.log(1.03))).toBeLessThan(0.002);
    expect(Math.abs(of('mire-lane').offset)).toBeLessThan(0.01);
    // Another bore is another test: the machined head's own sheet stays loose rather than being tied by force.
    expect(of('ferrule-sheet').tied).toBe(false);
    expect(net.heads[0]).toBeGreaterThan(5);
  });
  it('on the exhaust nothing ties the flyer to the bench, and a head is named that would', () => {
    const net = netOf(heads, 'bench-1', 'exhaust');
    const result = sourceOffsets(net.data);
    const loose = result.offsets.filter((o) => !o.tied).map((o) => net.sources[o.source]);
    expect(loose).toContain('ottermoor-flyer');
    expect(net.pipeUnsaid).toContain('ottermoor-flyer');
    const [first] = gainsOf(net.data, net.candidates, result.sigma);
    expect(first!.ties.map((s) => net.sources[s])).toEqual(['ferrule-sheet']);
    expect(net.candidates.find((c) => c.key === first!.key)!.name).toBe(
      'Longreach 212 (as received), 4.125 in bore, piped',
    );
  });
  it('of our sheets of one stage the one on the engine’s bore is taken; the better of two runners was posted', () => {
    const build = bundle.builds.find((b) => b.id === 'slate-six')!;
    const [posted] = judgedClaims(head('corrow-417'), 'intake', { ...context, build });
    expect(posted!.against!.setup.bore!.typed).toBe('98.0 mm');
    expect(posted!.runner!.words).toMatch(/nearest to port 3, the best of the 2 runners/);
  });
  it('a claim is read through what its source is off on other heads', () => {
    const reads = judgedClaims(head('pellam-190'), 'intake', {
      ...context,
      sourceReads: (sourceId) => {
        const net = netOf(heads, 'bench-1', 'intake', { without: 'pellam-190' });
        const index = net.sources.indexOf(sourceId);
        const { offset, half } = sourceOffsets(net.data).offsets[index]!;
        return { offset, half, heads: net.heads[index]! };
      },
    })[0]!;
    expect(reads.verdict).toBe('holds');
    expect(reads.throughWords).toMatch(/on 1 other head it holds as well/);
    expect(Math.abs(reads.through!.level)).toBeLessThan(Math.abs(reads.whole!.level));
  });
  it('a piped claim is held against bare tests by what a pipe was worth on other ports, and less surely', () => {
    const pipe = { by: Math.log(1.07), spread: 0.02, pairs: 4 };
    const longreach = head('longreach-212');
    const bareOnly = {
      ...longreach,
      sheets: longreach.sheets.map((s) => ({
        ...s,
        setup: { ...s.setup, bore: null, exhaustPipe: s.kind === 'claim' ? ('piped' as const) : ('bare' as const) },
      })),
    };
    const [not] = judgedClaims(bareOnly, 'exhaust', context);
    expect(not!.comparison!.sentence).toBe('They cannot be compared: pipe differs.');
    const [converted] = judgedClaims(bareOnly, 'exhaust', { ...context, pipe });
    expect(converted!.comparison!.aspects).toContainEqual(
      expect.objectContaining({ what: 'pipe', state: 'convertible' }),
    );
    const [alike] = judgedClaims(
      {
        ...bareOnly,
        sheets: bareOnly.sheets.map((s) => ({ ...s, setup: { ...s.setup, exhaustPipe: 'bare' as const } })),
      },
      'exhaust',
      context,
    );
    expect(Math.log1p(converted!.whole!.level)).toBeCloseTo(Math.log1p(alike!.whole!.level) - pipe.by, 6);
    expect(converted!.whole!.half).toBeGreaterThan(alike!.whole!.half);
  });
  it('what a pipe is worth is learnt from ports tested both ways, each counted once', () => {
    expect(pipeEffect([0.06])).toBeUndefined();
    const effect = pipeEffect([0.06, 0.08, 0.07])!;
    expect(effect).toMatchObject({ by: expect.closeTo(0.07, 9), pairs: 3 });
    // (Σ(x − x̄)² + 2·.02²) ÷ 4 over three pairs, and a third more for another port.
    expect(effect.spread).toBeCloseTo(Math.sqrt(((2 * 0.01 ** 2 + 2 * 0.02 ** 2) / 4) * (4 / 3)), 9);
    const both = heads.find((h) =>
      (['bare', 'piped'] as const).every((pipe) =>
        h.sheets.some((s) => s.kind === 'measured' && s.setup.exhaustPipe === pipe && s.rows.some((r) => r.exhaust)),
      ),
    )!;
    expect(pipePairs(both, 'bench-1').every((p) => p > 0)).toBe(true);
  });
  it('spreads of set-ups and benches are learnt from all heads, whatever their order; priors are of a class once it has enough', () => {
    const { repeats, bench, priors } = library.spreads(USUAL_ASSUMPTIONS);
    expect(bench.benches).toBeGreaterThanOrEqual(2);
    expect(bench.u).toBeGreaterThan(0.008);
    expect(bench.u).toBeLessThan(0.03);
    const turned = libraryOf(heads.toReversed(), 'bench-1').spreads(USUAL_ASSUMPTIONS);
    expect(turned.bench.u).toBeCloseTo(bench.u, 12);
    expect(turned.repeats.freedom).toBe(repeats.freedom);
    expect(Object.keys(priors)).toEqual(['all', 'standard spacing']);
    const six = Array.from({ length: 6 }, (_, i) => ({
      ...head('corrow-417'),
      head: { ...head('corrow-417').head, id: `h${i}`, class: 'canted' as const },
      sheets: head('corrow-417').sheets.map((s) => ({ ...s, id: `${s.id}-${i}` })),
    }));
    const canted = libraryOf([...heads, ...six], 'bench-1').spreads(USUAL_ASSUMPTIONS).priors;
    expect(Object.keys(canted)).toEqual(['all', 'standard spacing', 'canted']);
    // Six heads of one share draw what is usual half-way to themselves.
    const own = libraryOf(six, 'bench-1').spreads(USUAL_ASSUMPTIONS).priors;
    expect(canted.canted!.exhaust.mean).toBeCloseTo(own.canted!.exhaust.mean, 12);
    const judge = (context: JudgingContext) => assumptionsFor(six[0]!, context).priors?.exhaust.mean;
    expect(judge({ shop: { repeats, bench, priors: canted } })).toBe(canted.canted!.exhaust.mean);
    expect(judge({})).toBeUndefined();
  });
  it('a reading unlike the heads of its class and valve is asked about, one like them is not', () => {
    const six = Array.from({ length: 6 }, (_, i) => ({
      ...head('corrow-417'),
      head: { ...head('corrow-417').head, id: `h${i}`, class: 'canted' as const },
      sheets: head('corrow-417').sheets.map((s) => ({ ...s, id: `${s.id}-${i}` })),
    }));
    const canted = libraryOf(six, 'bench-1');
    const sheet = head('corrow-417').sheets.find((s) => s.id === '417-received-p3')!;
    const family = (side: 'intake' | 'exhaust', liftRatio: number) => canted.family(side, 'any', 'canted')(liftRatio);
    expect(family('exhaust', 0.25)).toMatchObject({ heads: 6, usual: false });
    // A class nobody measured falls back on all heads.
    expect(canted.family('exhaust', 'any', 'symmetrical')(0.25)).toEqual(family('exhaust', 0.25));
    const looks = (times: number) =>
      secondLooks(
        { intake: () => [], exhaust: () => [], best: { intake: [], exhaust: [] } },
        evaluateSheetOf(head('corrow-417'), {
          ...sheet,
          rows: sheet.rows.map((r) => ({
            ...r,
            exhaust: r.exhaust && { ...r.exhaust, pulls: r.exhaust.pulls.map((p) => ({ ...p, si: p.si * times })) },
          })),
        }),
        family,
      );
    expect(looks(1)).toEqual([]);
    // 135.9 for 161.5 cfm through the same valve.
    const [look] = looks(135.9 / 161.5);
    expect(look).toMatchObject({
      side: 'exhaust',
      far: { what: 'the middle of 6 heads at that lift of their valves' },
    });
  });
  it('repeatability is that of our own bench where it pulled often enough', () => {
    const found = repeatabilityFrom(library.pulls()) as { value: number };
    expect(found.value).toBeGreaterThan(0.0005);
    expect(found.value).toBeLessThan(0.02);
    expect(repeatabilityFrom(libraryOf(heads, 'nobody').pulls())).toMatchObject({ value: 0.005 });
  });
  it('a band of lifts keeps its own points', () => {
    const low = netOf(heads, 'bench-1', 'intake', { lifts: { from: 0, to: 0.00762 } });
    const all = netOf(heads, 'bench-1', 'intake');
    expect(low.data.point.length).toBeLessThan(all.data.point.length);
  });
  it('conditions nobody stated stay unknown', () => {
    const sheet = bundle.sheets.find((s) => s.id === 'om-flyer')!;
    expect(conditionsOf(sheet, head('ottermoor-230').ports, 'intake')).toMatchObject({
      depression: undefined,
      bore: undefined,
      entry: undefined,
    });
  });
  it('the audit goes out as CSV, one line a claimed point, size or power, in the user’s units', () => {
    const csv = writeAudit(rows, 'inch');
    expect(csv.split('\r\n')[0]).toContain('source,head,side,what,sheet,lift,claimed,measured,unit,error (%)');
    expect(csv).toContain('Ottermoor flyer,OM-230,intake,flow,Flyer,.400 in,');
    const lines = rows.reduce((n, r) => n + (r.flow ? r.flow.points.length : 1), 0);
    expect(csv.trimEnd().split('\r\n')).toHaveLength(1 + lines);
    const evil = writeAudit([{ ...rows[0]!, head: '=1+1' }], 'metric');
    expect(evil).toContain("'=1+1");
    expect(evil).toContain('L/s');
  });
});

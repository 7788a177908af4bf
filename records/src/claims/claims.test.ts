import { readFileSync } from 'node:fs';
import { sayIn, sourceOffsets } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import {
  bandOf,
  claimRows,
  conditionsOf,
  judgedClaims,
  netOf,
  readBundle,
  tyingHeads,
  wholesOf,
  writeAudit,
} from './index.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const heads = wholesOf(bundle);
const band = bandOf(heads);
const say = sayIn('inch');
const head = (id: string) => heads.find((h) => h.head.id === id)!;
const judged = (id: string, side: 'intake' | 'exhaust') => judgedClaims(head(id), side, band[side], 'bench-1', say);

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
      expect(judged('pellam-p6', side)[0]).toMatchObject({ verdict: 'high', trend: { shape: 'offset' } });
      expect(judged('longreach-212', side)[0]).toMatchObject({ verdict: 'not comparable', comparison: { may: 'not' } });
    }
    const grave = claimRows(heads, band, 'bench-1', bundle.sources, say).filter((r) =>
      ['impossible', 'beyond anything measured'].includes(r.verdict),
    );
    expect(grave.map((r) => r.head)).toEqual(['OM-230']);
  });
  it('a piped exhaust is never held against bare ones', () => {
    const maker = judged('longreach-212', 'exhaust')[0]!;
    expect(maker.comparison!.sentence).toBe('They cannot be compared: bore and pipe differ.');
    expect(maker.points.every((p) => p.band?.usual ?? true)).toBe(true);
  });
  it('the room that reads 3 % high is found so, the room at 10 in converted', () => {
    const net = netOf(heads, 'bench-1', 'intake');
    const { offsets } = sourceOffsets(net.data);
    const of = (id: string) => offsets[net.sources.indexOf(id)]!;
    expect(of('bench-1')).toMatchObject({ offset: 0, error: 0 });
    expect(Math.expm1(of('quayside').offset)).toBeCloseTo(0.035, 1);
    expect(Math.abs(of('quayside').offset - 0.03)).toBeLessThan(0.015);
    expect(Math.abs(of('mire-lane').offset)).toBeLessThan(0.01);
    expect(net.heads[0]).toBeGreaterThan(5);
  });
  it('on the exhaust nothing ties the flyer to the bench, and a head is named that would', () => {
    const net = netOf(heads, 'bench-1', 'exhaust');
    const result = sourceOffsets(net.data);
    const loose = result.offsets.filter((o) => !o.tied).map((o) => net.sources[o.source]);
    expect(loose).toContain('ottermoor-flyer');
    expect(tyingHeads(heads, 'bench-1', 'exhaust', undefined, net)).toBe('');
    expect(tyingHeads(heads, 'bench-1', 'exhaust', result, net)).toMatch(/Testing .* would|To tie a loose source/);
  });
  it('a band of lifts keeps its own points', () => {
    const low = netOf(heads, 'bench-1', 'intake', { from: 0, to: 0.00762 });
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
  it('the audit goes out as CSV, one line a claimed point, in the user’s units', () => {
    const rows = claimRows(heads, band, 'bench-1', bundle.sources, say);
    const csv = writeAudit(rows, 'inch');
    expect(csv.split('\r\n')[0]).toBe(
      'source,head,side,sheet,lift (in),claimed (cfm at 28 inH2O),measured (cfm at 28 inH2O),off by (%),give or take (%),verdict,conditions',
    );
    expect(csv).toContain('Ottermoor flyer,OM-230,intake,Flyer,.400,');
    expect(csv.split('\r\n')).toHaveLength(1 + rows.reduce((n, r) => n + r.claim.points.length, 0));
    const evil = writeAudit([{ ...rows[0]!, head: '=1+1' }], 'metric');
    expect(evil).toContain("'=1+1");
    expect(evil).toContain('L/s');
  });
});

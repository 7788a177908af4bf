import { readFileSync } from 'node:fs';
import { evaluateTarget, sayIn, matchWords, bestWords, targetWords, cfm, feetPerSecond, rpm } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { evaluateHead } from './evaluateHead.js';
import { readBundle } from './files/bundle.js';
import { lineage, measuresAt, pickSheet, sisterSheets } from './select.js';
import { measured, toCoreBuild } from './toCore.js';
import { wholesOf } from './wholes.js';

/** Sentences with ordinary blanks; on screen a figure keeps its unit on the line. */
const plain = (text: string | undefined) => text?.replaceAll('\u00a0', ' ');
const { bundle } = readBundle(JSON.parse(readFileSync(new URL('../../demo/bundle.json', import.meta.url), 'utf8')));
const whole = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const core = toCoreBuild(build);
const target = evaluateTarget(core);
const say = sayIn('inch');
const evaluate = (head: string, stage: string, sheet: string | null = null) =>
  evaluateHead(build, core, target, whole(head), stage, sheet);

describe('stages', () => {
  it('hand their sizes down, the nearest stage first', () => {
    const head = whole('corrow-417');
    expect(lineage(head.stages, '417-pinch').map((s) => s.name)).toEqual([
      'pinch opened',
      'bowl blend',
      'valve job and back-cut',
      'as received',
    ]);
    const at = (stage: string, item: 'throat' | 'pinch') => measured(measuresAt(head, stage), item, 'intake');
    expect(at('417-received', 'throat')).toBeCloseTo(1.628 * 0.0254, 9);
    expect(at('417-pinch', 'throat')).toBeCloseTo(1.665 * 0.0254, 9);
    expect(at('417-bowl', 'pinch')).toBeCloseTo(1.74 * 0.0254 ** 2, 9);
  });
  it('a found size comes before a stated one', () => {
    expect(measured(measuresAt(whole('pellam-p6'), 'p6-bowl'), 'chamber volume', null)).toBeCloseTo(67.5e-6, 12);
  });
  it('pick the measured sheet in the bore nearest the engine’s', () => {
    expect(pickSheet(whole('longreach-212').sheets, 'longreach-received', build)!.kind).toBe('measured');
    expect(pickSheet(whole('corrow-417').sheets, '417-received', build)!.setup.bore!.typed).toBe('98.0 mm');
    expect(pickSheet([], 'x')).toBeUndefined();
  });
  it('know the other runners of one test, and no other fixture or bench', () => {
    const head = whole('corrow-417');
    const chosen = head.sheets.find((s) => s.id === '417-received-p3')!;
    expect(sisterSheets(head.sheets, chosen).map((s) => s.id)).toEqual(['417-received-p1']);
  });
});

describe('the Slate Six and its heads', () => {
  it('asks for 188 cfm, and a choke by the port velocity rule', () => {
    expect(target.demand.value / cfm(1)).toBeCloseTo(188.07, 2);
    // 5600 rpm through the needed area runs at the limit: 613 ft/s.
    expect(
      (((1.6493 * 2 * 0.093 * (5600 / 60) * Math.PI) / 4) * 0.098 ** 2) / target.areaNeeded.value / feetPerSecond(1),
    ).toBeCloseTo(613, -1);
    expect(plain(targetWords(target, say))).toContain('160 psi of mean effective pressure: a strong figure');
  });
  it('the worse runner decides, both are named, none is averaged', () => {
    const { match } = evaluate('corrow-417', '417-received', '417-received-p3');
    expect(match.runners).toHaveLength(2);
    expect(match.deciding!.name).toBe('port 1');
    expect(match.verdict).toBe('short');
    expect(plain(matchWords(match, target, core.speed, core.cam!.lobeSeparation, say).join(' '))).toMatch(
      /Falls short by 14 cfm: 174 cfm at \.480 .* The worse runner decides: port 1, against port 3 with 179 cfm\./,
    );
  });
  it('flow runs out above the target’s speed exactly when the port carries the demand', () => {
    for (const [head, stage] of [
      ['corrow-417', '417-received'],
      ['corrow-522', '522-received'],
      ['pellam-p6', 'p6-valve-job'],
      ['longreach-212', 'longreach-received'],
      ['ottermoor-230', 'om-received'],
    ] as const) {
      const { match } = evaluate(head, stage);
      const flow = match.limits.find((l) => l.id === 'flow')!;
      expect(flow.speed.value > rpm(5600)).toBe(match.margin! > 0);
    }
  });
  it('the ratio-derated school can turn the ranking round', () => {
    const power = (id: 'peak-flow' | 'ratio-derated', e: ReturnType<typeof evaluate>) =>
      e.match.schools.find((s) => s.id === id)!.power.value;
    const big = evaluate('ottermoor-230', 'om-received');
    const mid = evaluate('pellam-p6', 'p6-valve-job');
    expect(power('peak-flow', big)).toBeGreaterThan(power('peak-flow', mid));
    expect(power('ratio-derated', big)).toBeLessThan(power('ratio-derated', mid) * 1.001);
  });
  it('says which one carries the engine', () => {
    const heads = [
      { letter: 'A', name: '417 early', match: evaluate('corrow-417', '417-received').match, price: 250 },
      { letter: 'C', name: 'P6-205', match: evaluate('pellam-p6', 'p6-valve-job').match, price: 1480 },
      { letter: 'D', name: 'Longreach 212', match: evaluate('longreach-212', 'longreach-received').match, price: 2390 },
    ];
    expect(plain(bestWords(heads, target, core.speed, say))).toBe(
      'D Longreach 212 carries the target with the most to spare, 20 cfm over 188 cfm. C P6-205 does it for the least money.',
    );
    expect(plain(bestWords(heads.slice(0, 1), target, core.speed, say))).toContain(
      'No head carries the target. A 417 early comes nearest, 14 cfm short',
    );
    expect(plain(bestWords([], target, core.speed, say))).toContain('No head in the lineup has an intake sheet yet');
  });
  it('a head without a sheet is not judged', () => {
    const bare = { ...whole('corrow-417'), sheets: [] };
    const { match } = evaluateHead(build, core, target, bare, '417-received', null);
    expect(match.verdict).toBe('unknown');
    expect(matchWords(match, target, core.speed, undefined, say)).toEqual([
      'Nothing is known of its intake flow: type or paste a flow sheet first.',
    ]);
  });
});

import { evaluateTarget, sayIn } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import demo from '../../../demo/bundle.json' with { type: 'json' };
import { mattersOf, rankOf } from '../decide/matters.js';
import { readWays } from '../decide/ways.js';
import { waysWords } from '../decide/words.js';
import { readBundle } from '../files/bundle.js';
import { Way } from '../nouns/index.js';
import { toCoreBuild } from '../toCore.js';
import { wholesOf } from '../wholes.js';
import { wordsOfReport } from './blocks.js';
import { apart, curvesSvg } from './drawing.js';
import { reportOf, type ReportFacts, type ReportOptions } from './report.js';

const { bundle } = readBundle(demo);
const PLAIN: ReportOptions = { pages: 'customer', workings: false, hidden: false };
function facts(system: 'inch' | 'metric' = 'inch', change: (w: Way) => Way = (w) => w): ReportFacts {
  const build = bundle.builds.find((b) => b.id === 'slate-six')!;
  const core = toCoreBuild(build);
  const target = evaluateTarget(core);
  const say = sayIn(system);
  const list = bundle.ways.filter((w) => w.buildId === build.id).map(change);
  const ways = readWays(list, build, core, target, wholesOf(bundle), { sources: bundle.sources, say });
  const ranked = rankOf(ways, mattersOf(build));
  const decision = bundle.decisions.find((d) => d.buildId === build.id);
  return { build, ways, ranked, decision, words: waysWords(ways, build, ranked, say), say, date: '2026-05-31' };
}
const all = (f: ReportFacts, o: Partial<ReportOptions> = {}) =>
  wordsOfReport(reportOf(f, { ...PLAIN, ...o })).join('\n');

describe('the customer’s page', () => {
  it('says what is proposed, at what price, what it does, what is not sure, and the cautions', () => {
    const words = all(facts());
    for (const said of [
      '290\u00a0hp at 5600',
      'Rework the 417 (417 early, pinch opened): 2812 sov ± 54',
      'keeps the riser',
      'a ceiling of the breathing, not a promise',
      'Port 1 is thin at the pinch',
      'only a dyno measures it',
      'Local law',
    ])
      expect(words).toContain(said);
    expect(words).not.toContain('Workings');
    expect(words).not.toContain('Does it fit');
  });
  it('speaks for the decision although another way would lead today', () => {
    const dear = facts('inch', (w) =>
      w.id === 'slate-rework' ? { ...w, lines: w.lines.map((l) => ({ ...l, quantity: l.quantity * 3 })) } : w,
    );
    expect(all(dear)).toContain('Rework the 417 (417 early, pinch opened)');
    expect(all({ ...dear, decision: undefined })).toContain('For it: ');
  });
  it('is written in metric where that is asked for', () => {
    const words = all(facts('metric'), { pages: 'workshop' });
    expect(words).toMatch(/kW at 5600/);
    expect(words).toContain('intake, L/s');
  });
  it('says what is planned and what cannot go', () => {
    const planned = facts('inch', (w) =>
      w.id === 'slate-rework' ? Way.parse({ ...w, gain: '8 cfm', gainBand: '4 cfm' }) : w,
    );
    expect(all(planned, { pages: 'workshop' })).toContain(
      '8 cfm of its flow is planned, give or take 4 cfm: not measured yet.',
    );
    expect(all(planned, { pages: 'workshop' })).toContain('Raised by what is planned: these are not readings.');
    expect(all(planned)).toContain('cannot go as it is');
  });
  it('without a way says so', () => {
    expect(all({ ...facts(), ways: [], decision: undefined })).toContain('No way to go is written down yet.');
  });
});

describe('the workshop’s pages', () => {
  it('hold costs with rates, fit, work list, sizes, sheet and set-up, evidence; workings with their sources on request', () => {
    const words = all(facts(), { pages: 'workshop', workings: true });
    for (const said of [
      'porting: bowls and pinch, twelve ports',
      '1 tal = 0.42 sov (2026-05-20)',
      'needs an adapter',
      'Not checked yet: bolt holes',
      'do not touch: guide boss',
      'ring outside diameter',
      'Flow sheet: Bench 1, port 3',
      'exhaust pipe',
      'the owner’s mark',
      'Power from peak flow',
      'Source: Definition.',
    ])
      expect(words).toContain(said);
  });
  it('tell no flow and no power where figures are hidden: shape and differences alone', () => {
    const f = facts();
    const report = reportOf(f, { pages: 'workshop', workings: true, hidden: true });
    const words = wordsOfReport(report).join('\n');
    expect(words).not.toMatch(/\d cfm|\d\u00a0cfm/);
    expect(words).not.toMatch(/3\d\d\u00a0hp ±/);
    expect(words).toContain('Shape and differences only');
    expect(words).toMatch(/[+−]\d+\.\d\u00a0%/);
    const [picture] = report.sections.flatMap((s) => s.blocks).filter((b) => b.kind === 'picture');
    const numbers = [...picture!.svg.matchAll(/>([^<]+)<\/text>/g)].map((m) => m[1]!);
    // Lifts alone are told along the picture.
    expect(numbers.filter((n) => /^\d{2,3}$/.test(n))).toEqual([]);
    expect(numbers).toContain('.400');
  });
});

describe('the pictures', () => {
  it('are markup whatever a name holds', () => {
    const svg = curvesSvg(
      [
        {
          name: '<script>&"',
          points: [
            { lift: 0, flow: 0 },
            { lift: 0.01, flow: 0.1 },
          ],
        },
      ],
      'a "title" & more',
      sayIn('inch'),
    );
    expect(svg).not.toContain('<script');
    expect(svg).toContain('&lt;script&gt;&amp;&quot;');
    expect(svg).toContain('a &quot;title&quot; &amp; more');
  });
  it('keep their labels apart, in order', () => {
    expect(apart([10, 11, 30, 10.5], 5)).toEqual([10, 20, 30, 15]);
    expect(apart([], 5)).toEqual([]);
  });
});

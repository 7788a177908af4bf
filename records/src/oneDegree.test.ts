import { readFileSync } from 'node:fs';
import {
  DEGREES,
  bestWords,
  compareWords,
  degreeWords,
  evaluateTarget,
  matchWords,
  random,
  reportWords,
  sayIn,
  settlingsOf,
  type Degree,
} from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { judgedReports } from './claims/reports.js';
import { evaluateHead } from './evaluateHead.js';
import { readBundle } from './files/bundle.js';
import { keptContent } from './kept.js';
import { toCoreBuild } from './toCore.js';
import { wholesOf } from './wholes.js';

/** Every place that says whether a head carries says the one degree, whatever the head. */
const { bundle } = readBundle(JSON.parse(readFileSync(new URL('../../demo/bundle.json', import.meta.url), 'utf8')));
const say = sayIn('inch');
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const HEADS = 500;

/** How each place says each degree. */
const SAID: Readonly<Record<Degree, { match: RegExp; compare: RegExp; report: RegExp }>> = {
  carries: { match: /^(Carries the target|By the word)/, compare: /A carries\./, report: /the head carries that/ },
  'probably carries': {
    match: /^(Probably carries the target|By the word)/,
    compare: /A probably carries\./,
    report: /probably carries that/,
  },
  "can't be told": { match: /^(Can’t be told|By the word)/, compare: /A can’t be told\./, report: /can’t be told/ },
  'probably short': {
    match: /^Probably falls short/,
    compare: /A probably falls short\./,
    report: /probably falls short of that/,
  },
  'falls short': { match: /^Falls short/, compare: /A falls short\./, report: /the head falls short of that/ },
};

describe(`${HEADS} random heads`, () => {
  it('are said to carry, or not, in one way by Match, the lineup, Compare, Claims, the kept verdict and the numbers', () => {
    const uniform = random(20_261_126);
    const wholes = wholesOf(bundle).filter((w) => w.sheets.some((s) => s.rows.some((r) => r.intake)));
    const seen = new Set<Degree>();
    for (let i = 0; i < HEADS; i++) {
      const whole = wholes[Math.floor(uniform() * wholes.length)]!;
      const sheet = whole.sheets.filter((s) => s.setup.reads === 'flow' && s.rows.some((r) => r.intake))[0];
      if (!sheet) continue;
      const scale = 0.7 + 0.7 * uniform();
      const measured = uniform() < 0.8;
      const own = {
        ...sheet,
        kind: measured ? ('measured' as const) : ('claim' as const),
        setup: uniform() < 0.7 ? sheet.setup : { ...sheet.setup, depression: null, bore: null },
        rows: sheet.rows.map((r) => ({
          ...r,
          intake: r.intake && { ...r.intake, pulls: r.intake.pulls.map((p) => ({ si: p.si * scale, typed: p.typed })) },
        })),
      };
      const changed = {
        ...whole,
        sheets: [own],
        measures: uniform() < 0.7 ? whole.measures : [],
        reports: [
          {
            id: 'claimed',
            version: 1,
            stageId: own.stageId,
            sourceId: null,
            buildId: build.id,
            displacement: null,
            cylinders: null,
            power: build.power!,
            speed: build.speed,
            taken: 'engine dyno' as const,
            date: null,
            note: '',
          },
        ],
      };
      const core = toCoreBuild(build);
      const target = evaluateTarget(core);
      const context = { sources: bundle.sources, say };
      const e = evaluateHead(build, core, target, changed, own.stageId, null, context);
      const { degree } = e.verdict;
      seen.add(degree);
      expect(DEGREES).toContain(degree);
      const said = SAID[degree];
      expect(matchWords(e.match, e.verdict, target, core.speed, undefined, say)[0]).toMatch(said.match);
      expect(degreeWords(e.verdict).startsWith(degree)).toBe(true);
      const named = { letter: 'A', name: whole.head.name, match: e.match, verdict: e.verdict };
      const best = bestWords([named]);
      expect(/carries the target/.test(best) && !/can’t be told/.test(best) && !/No head/.test(best)).toBe(
        degree === 'carries' || degree === 'probably carries',
      );
      const { curve } = e.result!.intake;
      if (curve) expect(compareWords([{ letter: 'A', curve, degree }], Infinity, 0.005, say)).toMatch(said.compare);
      const kept = keptContent(build, target, [{ ...named, whole: changed, stage: e.stage }], best, '0', say);
      expect(kept.heads[0]!.degree).toBe(degree);
      expect(settlingsOf(e.verdict).every((a) => a.minutes > 0)).toBe(true);
      // A claim of the very power that is wanted is judged like the target; only measured sheets of the bench are held against it.
      if (measured && i % 5 === 0) {
        const [report] = judgedReports(changed, bundle.builds, own.sourceId ?? undefined, say, context);
        expect(report!.result.degree).toBe(degree);
        expect(reportWords(report!.result, say)).toMatch(said.report);
      }
    }
    expect(seen.size).toBe(DEGREES.length);
  }, 120_000);
});

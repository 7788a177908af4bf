import { readFileSync } from 'node:fs';
import {
  budgetOfWorking,
  disagreementWords,
  evidenceWords,
  evaluateTarget,
  inches,
  inchesOfWater,
  USUAL_ASSUMPTIONS,
  horsepowerPerCfm,
  numberOf,
  normalShare,
  oddsBetter,
  sayIn,
  matchWords,
  bestWords,
  targetWords,
  cfm,
  DEGREES,
  degreeOf,
  degreeWords,
  feetPerSecond,
  horsepower,
  lowOf,
  rpm,
} from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { booksOf } from './books.js';
import { assumptionsFor, evaluateHead, judgeStage } from './evaluateHead.js';
import { pickSheet, portTests } from './evidence.js';
import { readBundle } from './files/bundle.js';
import type { Sheet } from './nouns/sheet.js';
import { lookedKey } from './looked.js';
import { SETUP_FIELDS } from './bench/setupFields.js';
import { SEPARATING, isRepeat } from './repeats.js';
import { lineage, measuresAt, sisterSheets, olderPours } from './select.js';
import { measured, toCoreBuild } from './toCore.js';
import { wholesOf } from './wholes.js';

const millimetres = (mm: number) => ({ si: mm / 1000, typed: `${mm} mm` });
/** Sentences with ordinary blanks; on screen a figure keeps its unit on the line. */
const plain = (text: string | undefined) => text?.replaceAll('\u00a0', ' ');
const { bundle } = readBundle(JSON.parse(readFileSync(new URL('../../demo/bundle.json', import.meta.url), 'utf8')));
const whole = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const core = toCoreBuild(build);
const target = evaluateTarget(core);
const say = sayIn('inch');
const evaluate = (head: string, stage: string, sheet: string | null = null) =>
  evaluateHead(build, core, target, whole(head), stage, sheet, { sources: bundle.sources, say });

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
    expect(pickSheet(whole('longreach-212'), 'longreach-received', build)!.kind).toBe('measured');
    expect(pickSheet(whole('corrow-417'), '417-received', build)!.setup.bore!.typed).toBe('98.0 mm');
    expect(pickSheet({ ...whole('corrow-417'), sheets: [] }, 'x')).toBeUndefined();
  });
  it('know the other runners of one test, and no other fixture or bench', () => {
    const head = whole('corrow-417');
    const chosen = head.sheets.find((s) => s.id === '417-received-p3')!;
    expect(sisterSheets(head.sheets, chosen).map((s) => s.id)).toEqual(['417-received-p1']);
  });
});

describe('all runners and every exhaust of a stage are one head', () => {
  const head = whole('corrow-417');
  const of = (id: string) => head.sheets.find((s) => s.id === id)!;
  const [good, worse] = [of('417-received-p3'), of('417-received-p1')];
  const judged = (sheets: Sheet[], sheetId: string | null = null) =>
    evaluateHead(build, core, target, { ...head, sheets }, '417-received', sheetId, { sources: bundle.sources, say });
  const withoutExhaust = (s: Sheet): Sheet => ({
    ...s,
    exhaustPortId: null,
    rows: s.rows.map((r) => ({ ...r, exhaust: null })),
  });
  const reasons = (e: ReturnType<typeof judged>) => e.verdict.evidence.map((r) => r.code);

  it('the worse runner tested without an exhaust has the one its sister’s sheet brought', () => {
    const both = judged([good, withoutExhaust(worse)]);
    expect(both.match.deciding!.name).toBe('port 1');
    expect(both.match.exhaust!.best.flow).toBe(judged([good]).match.exhaust!.best.flow);
    expect(reasons(both)).not.toContain('no exhaust');
    // Its pipe is that of the sheet it comes from.
    const pipe = (piped: Sheet['setup']['exhaustPipe']) => ({ ...good, setup: { ...good.setup, exhaustPipe: piped } });
    expect(reasons(judged([pipe('unknown'), withoutExhaust(worse)]))).toContain('unknown pipe');
    expect(reasons(judged([pipe('bare'), withoutExhaust(worse)]))).not.toContain('unknown pipe');
  });
  it('one flowed by itself counts as well; of several the lesser one decides, as of runners', () => {
    const alone: Sheet = {
      ...good,
      id: 'exhaust-alone',
      intakePortId: null,
      rows: good.rows.map((r) => ({ ...r, intake: null })),
    };
    const other = head.ports.find((o) => o.side === 'exhaust' && o.id !== good.exhaustPortId)!;
    const lesser: Sheet = {
      ...alone,
      id: 'exhaust-lesser',
      exhaustPortId: other.id,
      rows: alone.rows.map((r) => ({
        ...r,
        exhaust: r.exhaust && { ...r.exhaust, pulls: r.exhaust.pulls.map((p) => ({ ...p, si: 0.9 * p.si })) },
      })),
    };
    const peak = (...sheets: Sheet[]) => judged([withoutExhaust(good), ...sheets]).match.exhaust?.best.flow;
    expect(peak()).toBeUndefined();
    const own = judged([good]).match.exhaust!.best.flow;
    expect(peak(alone)).toBe(own);
    for (const order of [
      [alone, lesser],
      [lesser, alone],
    ])
      expect(peak(...order)).toBeCloseTo(0.9 * own, 9);
    // Two tests of one exhaust are that exhaust tested twice.
    expect(peak(alone, { ...lesser, exhaustPortId: good.exhaustPortId })).toBeCloseTo(0.95 * own, 9);
  });
  it('one of another stage, or a claimed one beside a measured intake, stays where it is', () => {
    const elsewhere = (change: Partial<Sheet>) => judged([withoutExhaust(good), { ...worse, ...change }], good.id);
    expect(reasons(elsewhere({ stageId: '417-bowl' }))).toContain('no exhaust');
    expect(reasons(elsewhere({ kind: 'claim' }))).toContain('no exhaust');
    expect(reasons(elsewhere({}))).not.toContain('no exhaust');
    expect(reasons(elsewhere({ sourceId: 'another' }))).not.toContain('no exhaust');
  });
  it('what separates tests is what the set-up’s fields say is unlike, and what a hand changes between two', () => {
    const changed = ['springs', 'intakeFlowValve', 'exhaustFlowValve', 'portKind', 'gasket'];
    const unlike = SETUP_FIELDS.filter((f) => f.unlike || changed.includes(f.field)).map((f) => f.field);
    expect([...SEPARATING]).toEqual(unlike);
  });
  it.each([
    ['a bore notch', { notch: 'none' }, { notch: 'chamfer' }],
    ['a head shifted on its fixture', { shifted: null }, { shifted: { si: inches(0.05), typed: '.050 in' } }],
    ['its own valve back-cut alone', { backCut: 'exhaust only' }, { backCut: 'intake only' }],
    ['back-cut valves', { backCut: 'no' }, { backCut: 'yes' }],
    ['another chamber', { chamber: 'as cast' }, { chamber: 'milled' }],
    ['guides out', { guides: 'yes' }, { guides: 'no' }],
    ['other springs', { springs: 'light' }, { springs: 'running' }],
    ['a gasket on', { gasket: 'off' }, { gasket: 'on' }],
    ['another kind of port', { portKind: 'long runner' }, { portKind: 'divided' }],
    ['a stand-in intake valve', { intakeFlowValve: null }, { intakeFlowValve: millimetres(47) }],
  ])('a test with %s is not the same port tested again', (_, a, b) => {
    const twice = (one: object, two: object) => {
      const first = { ...good, setup: { ...good.setup, ...one } } as Sheet;
      const second = { ...good, id: 'again', setup: { ...good.setup, ...two } } as Sheet;
      return isRepeat(first, second);
    };
    expect(twice(a, b)).toBe(false);
    expect(twice(a, a)).toBe(true);
    expect(twice({}, {})).toBe(true);
  });
  it('a stand-in valve is another test of its own side alone', () => {
    const own = { ...good, setup: { ...good.setup, valve: 'own' as const } };
    const standIn = (change: Partial<Sheet['setup']>): Sheet => ({
      ...own,
      id: 'again',
      setup: { ...own.setup, valve: 'other', ...change },
    });
    const exhaust = standIn({ exhaustFlowValve: millimetres(38) });
    expect([isRepeat(own, exhaust, 'intake'), isRepeat(own, exhaust, 'exhaust')]).toEqual([true, false]);
    const intake = standIn({ intakeFlowValve: millimetres(47) });
    expect([isRepeat(own, intake, 'intake'), isRepeat(own, intake, 'exhaust')]).toEqual([false, true]);
    // One nobody sized may be of either side.
    expect([isRepeat(own, standIn({}), 'intake'), isRepeat(own, standIn({}), 'exhaust')]).toEqual([false, false]);
  });
});

describe('the Slate Six and its heads', () => {
  it('asks for 188 cfm, and a choke by the port velocity rule', () => {
    expect(target.demand!.value / cfm(1)).toBeCloseTo(188.07, 2);
    // 5600 rpm through the needed area runs at the limit: 613 ft/s.
    expect(
      (((1.6493 * 2 * 0.093 * (5600 / 60) * Math.PI) / 4) * 0.098 ** 2) / target.areaNeeded.value / feetPerSecond(1),
    ).toBeCloseTo(613, -1);
    expect(plain(targetWords(target, say))).toContain('160 psi of mean effective pressure: a strong figure');
  });
  it('the worse runner decides, both are named, none is averaged', () => {
    const { match, verdict } = evaluate('corrow-417', '417-received', '417-received-p3');
    expect(match.runners).toHaveLength(2);
    expect(match.deciding!.name).toBe('port 1');
    expect(plain(matchWords(match, verdict, target, core.speed, core.cam!.lobeSeparation, say).join(' '))).toMatch(
      /Falls short \(\d+ in 100\): 174 cfm at \.480 against 188 cfm needed, 14 cfm too little\. The worse runner decides: port 1, against port 3 with 179 cfm\./,
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
      e.match.schools.find((s) => s.id === id)!.power!.value;
    const big = evaluate('ottermoor-230', 'om-received');
    const mid = evaluate('pellam-p6', 'p6-valve-job');
    expect(power('peak-flow', big)).toBeGreaterThan(power('peak-flow', mid));
    expect(power('ratio-derated', big)).toBeLessThan(power('ratio-derated', mid) * 1.001);
  });
  it('says which one carries the engine, how sure that is, and which of two is better', () => {
    const judged = (letter: string, name: string, e: ReturnType<typeof evaluate>, price: number) => ({
      letter,
      name,
      match: e.match,
      verdict: e.verdict,
      price,
    });
    const a = judged('A', '417 early', evaluate('corrow-417', '417-received'), 250);
    const c = judged('C', 'P6-205', evaluate('pellam-p6', 'p6-valve-job'), 1480);
    const d = judged('D', 'Longreach 212', evaluate('longreach-212', 'longreach-received'), 2390);
    const e = judged('E', 'OM-230', evaluate('ottermoor-230', 'om-received'), 2000);
    expect([a, c, d].map((h) => h.verdict.degree)).toEqual(['falls short', 'probably carries', 'carries']);
    expect(plain(bestWords([a, c, d]))).toMatch(
      /^D Longreach 212 carries the target, with the most to spare\. It is the only one of which that can be said\. D beats C: (over )?\d\d in 100\./,
    );
    expect(plain(bestWords([a]))).toContain('No head carries the target. A 417 early comes nearest.');
    expect(plain(bestWords([d, e]))).toContain('D and E can’t be told apart.');
    expect(disagreementWords([c, d, e])).toMatch(/^The power estimates do not agree: .*by port area it is E/);
    expect(plain(bestWords([]))).toContain('No head in the lineup has an intake sheet');
  });
  it('errors that heads share cancel in their difference', () => {
    const c = evaluate('pellam-p6', 'p6-valve-job').verdict;
    const d = evaluate('longreach-212', 'longreach-received').verdict;
    const apart = d.margin!.mean - c.margin!.mean;
    const independent = Math.hypot(c.margin!.u, d.margin!.u);
    // Were nothing shared, the odds would be those of `apart` against both uncertainties.
    expect(oddsBetter(d, c)!).toBeGreaterThan(normalShare(apart / independent));
    expect(oddsBetter(d, c)! + oddsBetter(c, d)!).toBeCloseTo(1, 12);
  });
  it('a head without a sheet is not judged', () => {
    const bare = { ...whole('corrow-417'), sheets: [] };
    const { match, verdict } = evaluateHead(build, core, target, bare, '417-received', null);
    expect(verdict.limits.map((l) => l.id)).toEqual(['area']);
    expect(verdict.degree).toBe('probably short');
    expect(matchWords(match, verdict, target, core.speed, undefined, say)).toEqual([
      'Nothing is known of its intake flow: type or paste a flow sheet first.',
      expect.stringMatching(/^Probably falls short by its least port area alone/),
    ]);
    const unknown = evaluateHead(build, core, target, { ...bare, measures: [] }, '417-received', null);
    expect([unknown.verdict.degree, unknown.verdict.odds]).toEqual(["can't be told", undefined]);
  });
});

describe('a verdict and what it rests on', () => {
  const head = whole('longreach-212');
  const sheetId = head.sheets.find((s) => s.id === 'longreach-received-p3')!.id;
  /** The Longreach with one sheet, changed; its sure verdict otherwise. */
  const judged = (change: (sheet: Sheet) => Sheet, measures = head.measures, at = build) => {
    const own = head.sheets.find((s) => s.id === sheetId)!;
    const changed = { ...head, measures, sheets: [change(structuredClone(own))] };
    const engine = toCoreBuild(at);
    return evaluateHead(at, engine, evaluateTarget(engine), changed, 'longreach-received', null, {
      sources: bundle.sources,
      say,
    }).verdict;
  };
  const codes = (v: ReturnType<typeof judged>) => v.evidence.map((e) => e.code);

  it('is sure as long as it rests on a sheet of our own bench', () => {
    expect(judged((s) => s).degree).toBe('carries');
  });
  it('is no more than probable by its maker’s word', () => {
    const claim = judged((s) => ({ ...s, kind: 'claim', sourceId: 'longreach' }));
    expect(claim.degree).toBe('probably carries');
    expect(codes(claim)).toContain('claim');
  });
  const pinchOf = (squareInches: number) =>
    head.measures.map((m) =>
      m.item === 'pinch' ? { ...m, value: { si: squareInches * 0.0254 ** 2, typed: `${squareInches} in²` } } : m,
    );
  it('falls short with a choke of 1.4 in², 783 ft/s at the target', () => {
    expect(judged((s) => s, pinchOf(1.4)).degree).toBe('falls short');
  });
  it('says nothing of a flow and a size that cannot both be, and names the two', () => {
    const choked = judged((s) => s, pinchOf(1));
    expect(choked.degree).toBe("can't be told");
    const words = choked.evidence.map((e) => plain(evidenceWords(e, say))).join(' ');
    // 2.4 × cfm ÷ in² (common practice, no source): what passes 1 in² at over 211 cfm runs faster than 350 ft/s.
    expect(words).toMatch(
      /2\d\d cfm through 1\.00 in² is 5\d\d ft\/s, where 28 in of water drives 350 ft\/s: the two can’t/,
    );
    const valve = head.measures.map((m) =>
      m.item === 'valve diameter' && m.side === 'intake' ? { ...m, value: { si: 0.0381, typed: '1.50 in' } } : m,
    );
    const small = judged(
      (s) => ({
        ...s,
        rows: s.rows.map((r) => ({
          ...r,
          intake: r.intake && { ...r.intake, pulls: r.intake.pulls.map((p) => ({ ...p, si: p.si * 1.25 })) },
        })),
      }),
      valve,
    );
    expect(small.degree).toBe("can't be told");
    expect(small.evidence.map((e) => plain(evidenceWords(e, say))).join(' ')).toMatch(
      /more than a 1\.500 in valve passes: the two can’t both be right/,
    );
  });
  it('says of a target no engine reaches that it is one, whatever the head', () => {
    // 480 hp at 3,500 rpm from this engine: far over the 225 psi that the best unboosted engines reach (common practice).
    const wish = {
      ...build,
      power: { si: horsepower(480), typed: '480 hp' },
      speed: { si: rpm(3500), typed: '3500 rpm' },
    };
    const v = judged((s) => s, head.measures, wish);
    expect(codes(v)).toContain('target');
    expect(DEGREES.indexOf(v.degree)).toBeLessThanOrEqual(DEGREES.indexOf("can't be told"));
  });
  it('loses by a weak exhaust bit by bit, not all at one share', () => {
    const withExhaust = (share: number) =>
      judged((s) => ({
        ...s,
        rows: s.rows.map((r) => ({
          ...r,
          exhaust: r.exhaust &&
            r.intake && { ...r.exhaust, pulls: r.intake.pulls.map((p) => ({ ...p, si: p.si * share })) },
        })),
      }));
    const margins = [0.75, 0.65, 0.56, 0.54, 0.45].map((share) => withExhaust(share).margin!.mean);
    margins.slice(1).forEach((m, i) => expect(m).toBeLessThan(margins[i]! + 1e-9));
    // From 56 to 54 % it goes on as it went from 65 to 56 %.
    const [, b, c, d] = margins as [number, number, number, number, number];
    expect((c - d) / Math.log(0.56 / 0.54)).toBeCloseTo((b - c) / Math.log(0.65 / 0.56), 1);
    expect(codes(withExhaust(0.54))).toContain('exhaust share');
    // Of two heads alike but for their exhausts the better one is told.
    expect(oddsBetter(withExhaust(0.75), withExhaust(0.5))!).toBeGreaterThan(0.9);
  });
  it('word and odds never contradict', () => {
    const all = [pinchOf(1), pinchOf(1.4), head.measures, head.measures.filter((m) => m.item !== 'pinch')];
    for (const measures of all)
      for (const times of [0.7, 0.9, 1, 1.2]) {
        const v = judged(
          (s) => ({
            ...s,
            kind: times > 1 ? 'claim' : s.kind,
            rows: s.rows.map((r) => ({
              ...r,
              intake: r.intake && { ...r.intake, pulls: r.intake.pulls.map((p) => ({ ...p, si: p.si * times })) },
            })),
          }),
          measures,
        );
        const said = /(\d+) in 100/.exec(degreeWords(v));
        if (said) expect(degreeOf(Number(said[1]) / 100 + (v.odds! > 0.5 ? 0.004 : -0.004))).toBe(v.degree);
      }
  });
  it('is never surer by knowing less', () => {
    // The pinch not measured: the odds move towards one half, and are no longer those of a limit nobody judged.
    const sizes = (keep: (item: string) => boolean) => head.measures.filter((m) => keep(m.item));
    const known = judged((s) => s);
    const bare = judged(
      (s) => s,
      sizes((i) => !['pinch', 'window', 'port volume', 'port length'].includes(i)),
    );
    expect(bare.odds!).toBeLessThanOrEqual(known.odds!);
    expect(bare.odds!).toBeLessThan(0.99);
    // A mean area without its length is no area at all.
    const noLength = judged(
      (s) => s,
      sizes((i) => !['pinch', 'window', 'port length', 'roof length', 'floor length'].includes(i)),
    );
    expect(noLength.odds!).toBeLessThan(0.99);
    // One row above the cam's lift is not what the engine opens it to.
    const rowAt = (n: number) =>
      judged((s) => ({ ...s, rows: s.rows.slice(n, n + 1).map((r) => ({ ...r, exhaust: null })) }));
    const last = head.sheets.find((s) => s.id === sheetId)!.rows.length - 1;
    expect(rowAt(last).odds!).toBeLessThan(known.odds!);
    expect(lowOf(rowAt(last))).toBeLessThan(lowOf(known));
  });
  it('is no more than probable where nothing of the exhaust is known', () => {
    expect(judged((s) => ({ ...s, rows: s.rows.map((r) => ({ ...r, exhaust: null })) })).degree).toBe(
      'probably carries',
    );
  });
  it('is said both ways while a reading is in question, and one way once it was looked at', () => {
    // The row at the cam's lift written a third high, in a sheet that otherwise falls short.
    const slipped = (s: Sheet): Sheet => ({
      ...s,
      rows: s.rows.map((r, i) => ({
        ...r,
        intake: r.intake && {
          ...r.intake,
          pulls: r.intake.pulls.map((p) => ({ si: p.si * (i === 4 ? 1.12 : 0.84), typed: '' })),
        },
      })),
    });
    const doubted = judged(slipped);
    expect(doubted.open.map((q) => q.question).join()).toMatch(/^Is .* right at .*\? It breaks its curve\.$/);
    const [read, suggested] = doubted.open[0]!.answers;
    expect(read!.odds).toBeGreaterThan(suggested!.odds);
    expect(doubted.degree).toBe("can't be told");
    const looked = judged((s) => {
      const sheet = slipped(s);
      return { ...sheet, excused: { [lookedKey('intake', sheet.rows[4]!)]: 'looked at again: it is right' } };
    });
    expect(looked.open).toEqual([]);
    expect(looked.odds).toBe(doubted.odds);
  });
  it('of an unknown depression is the mean over what benches use, each as if it were known', () => {
    const weaker =
      (depression: number | null) =>
      (s: Sheet): Sheet => ({
        ...s,
        kind: 'claim',
        setup: {
          ...s.setup,
          depression: depression === null ? null : { si: inchesOfWater(depression), typed: `${depression} inH2O` },
        },
        rows: s.rows.map((r) => ({
          ...r,
          intake: r.intake && { ...r.intake, pulls: r.intake.pulls.map((p) => ({ si: p.si * 0.86, typed: '' })) },
        })),
      });
    const odds = (depression: number | null) => judged(weaker(depression)).odds!;
    const mean = 0.93 * odds(28) + 0.05 * odds(25) + 0.02 * odds(10);
    expect(odds(10)).toBeGreaterThan(odds(28) + 0.2);
    expect(odds(null)).toBeCloseTo(mean, 1.7);
    expect(
      judged(weaker(null))
        .settling.map((s) => s.settle.act)
        .join(),
    ).toContain('ask at what depression it was tested');
  });
  it('is less sure with every condition nobody stated: a margin that carries with all known does not with none', () => {
    const unstated: Partial<Sheet['setup']>[] = [
      {},
      { bore: null },
      { bore: null, valve: 'unknown' },
      { bore: null, valve: 'unknown', entry: 'unknown', depression: null },
    ];
    const spread = unstated.map((more) => judged((s) => ({ ...s, setup: { ...s.setup, ...more } })).margin!.u);
    spread.slice(1).forEach((u, i) => expect(u).toBeGreaterThan(spread[i]!));
  });
  it('takes the difference between root and nozzle off what was read at another depression, and keeps a part of it open', () => {
    // Ten inches: the root reads 2.52 % high (1.6733 against 1.6321, the method's own table).
    const at = (depression: number, times: number) =>
      judged((s) => ({
        ...s,
        setup: { ...s.setup, depression: { si: inchesOfWater(depression), typed: `${depression} inH2O` } },
        rows: s.rows.map((r) => ({
          ...r,
          intake: r.intake && { ...r.intake, pulls: r.intake.pulls.map((p) => ({ si: p.si * times, typed: '' })) },
        })),
      })).margin!;
    // The same flow at 28 by the nozzle: 1 ÷ 1.6321 of it is read at 10.
    expect(at(10, 1 / 1.6321).mean).toBeCloseTo(at(28, 1).mean, 2);
    expect(at(10, 1 / 1.6321).u).toBeGreaterThan(at(28, 1).u);
  });
  it('is held back by another bore: the more the further it is', () => {
    const bore = (si: number) =>
      judged((s) => ({ ...s, setup: { ...s.setup, bore: { si, typed: `${si * 1000} mm` } } }));
    // A 4.6 in fixture for a 3.75 in bore is 23 % off.
    expect(bore(build.bore!.si * 1.227).degree).toBe("can't be told");
    expect(bore(build.bore!.si * 1.04).degree).toBe('probably carries');
    // A smaller fixture does the head wrong: it still carries.
    expect(bore(build.bore!.si * 0.97).degree).toBe('carries');
  });
  it('cannot be told from rows at .050 and .700 alone', () => {
    const far = judged((s) => {
      const [first, last] = [s.rows[0]!, s.rows.at(-1)!];
      return {
        ...s,
        rows: [
          { ...first, lift: { si: 0.05 * 0.0254, typed: '.050 in' } },
          { ...last, lift: { si: 0.7 * 0.0254, typed: '.700 in' } },
        ],
      };
    });
    expect(far.degree).toBe("can't be told");
  });
  it('is no more than probable with pulls that scatter 3.5 % and 6 cfm to spare', () => {
    const scattered = judged((s) => ({
      ...s,
      rows: s.rows.map((r) => {
        if (!r.intake) return r;
        const level = (r.intake.pulls[0]!.si * 194) / 211;
        const pulls = [0.975, 1.025].map((f) => ({ si: level * f, typed: '' }));
        return { ...r, intake: { ...r.intake, pulls } };
      }),
    }));
    expect(['probably carries', "can't be told"]).toContain(scattered.degree);
  });
  it('of one row is known at that row, and no curve is drawn', () => {
    const one = judged((s) => ({ ...s, rows: s.rows.filter((r) => r.lift.si > 0.47 * 0.0254).slice(0, 1) }));
    expect(codes(one)).toContain('one row');
    expect(one.odds).toBeGreaterThan(0.75);
    expect(one.degree).toBe('probably carries');
  });
  it('is not asked petrol’s cfm of a diesel', () => {
    const diesel = { ...build, fuel: 'diesel' as const, powerPerFlow: null };
    const v = judged((s) => s, head.measures, diesel);
    expect(v.degree).toBe("can't be told");
    expect(v.limits.map((l) => l.id)).toEqual(['area']);
    expect(evaluateTarget(toCoreBuild(diesel)).demand).toBeUndefined();
  });
  it('takes each runner’s own port', () => {
    const p1 = head.sheets.find((s) => s.id === 'longreach-received-p1')!;
    const pinch = head.measures.find((m) => m.item === 'pinch')!;
    const measures = [
      ...head.measures,
      { ...pinch, id: 'own', portId: p1.intakePortId, value: { si: 1.3 * 0.0254 ** 2, typed: '1.30 in²' } },
    ];
    const engine = evaluateHead(build, core, target, { ...head, measures }, 'longreach-received', sheetId, {
      sources: bundle.sources,
    });
    expect(engine.match.deciding!.name).toBe('port 1');
    expect(engine.match.leastArea).toMatchObject({ value: 1.3 * 0.0254 ** 2 });
    expect(engine.verdict.limits.filter((l) => l.id === 'area').map((l) => l.odds > 0.5)).toEqual([true, false]);
  });
  const judged6 = (engine: typeof core, of: ReturnType<typeof whole>, context = {}) =>
    judgeStage(engine, evaluateTarget(engine), of, 'p6-valve-job', portTests(of, 'p6-valve-job', 'intake'), context);
  it('each proposed act, once done, leaves the uncertainty it promised', () => {
    // Readings that scatter a lot and a bench nobody checked: several acts are worth proposing.
    const assumptions = { ...USUAL_ASSUMPTIONS, repeatability: 0.03, area: 0.05 };
    const p6 = whole('pellam-p6');
    const one = p6.sheets.find((s) => s.id === 'p6-valve-job-p3')!;
    const { rod: _rod, ...bare } = core;
    const judge = (
      sheets: Sheet[],
      measures = p6.measures,
      engine: typeof core = bare,
      checked: ReadonlySet<string> = new Set(),
    ) => judged6(engine, { ...p6, sheets, measures }, { sources: bundle.sources, assumptions, checked, say }).verdict;
    const now = judge([one]);
    const promised = (act: RegExp) => {
      const found = now.settling.find((s) => act.test(s.settle.act));
      expect(found, now.settling.map((s) => s.settle.act).join('; ')).toBeDefined();
      return found!;
    };
    const close = (act: ReturnType<typeof promised>, then: ReturnType<typeof judge>) =>
      expect(then.margin!.u / act.after).toBeCloseTo(1, 1);
    const reading = promised(/^read port 3 at .500 3 times in all/);
    const pulled = {
      ...one,
      rows: one.rows.map((r) =>
        Math.abs(r.lift.si - 0.5 * 0.0254) < 1e-6 && r.intake
          ? { ...r, intake: { ...r.intake, pulls: Array.from({ length: 3 }, () => r.intake!.pulls[0]!) } }
          : r,
      ),
    };
    close(reading, judge([pulled]));
    close(promised(/check the bench/), judge([one], p6.measures, bare, new Set([one.sourceId!])));
    const pinch = p6.measures.filter((m) => m.item === 'pinch');
    const thrice = [...p6.measures, ...pinch.flatMap((m) => [1, 2].map((n) => ({ ...m, id: `${m.id}-${n}` })))];
    const again = now.settling.find((s) => /measure the pinch twice more/.test(s.settle.act));
    if (again) close(again, judge([one], thrice));
    const rod = now.settling.find((s) => s.settle.act === 'measure the rod');
    if (rod) close(rod, judge([one], p6.measures, { ...core, rod: 0.15 }));
    // Every act narrows; none is proposed that could not change anything.
    for (const s of now.settling) expect(s.after).toBeLessThan(s.before);
  });
  it('of ports that share a cylinder adds them up, and takes an untested one like the tested', () => {
    const p6 = whole('pellam-p6');
    const sheets = p6.sheets.filter((s) => s.stageId === 'p6-valve-job' && s.kind === 'measured');
    const [a, b] = [sheets[0]!, sheets[1]!];
    const ports = p6.ports.map((p) => ({
      ...p,
      number: p.id === a.intakePortId ? 1 : p.id === b.intakePortId ? 2 : p.number + 10,
    }));
    const twin = { ...p6, head: { ...p6.head, intakePorts: 2, intakeValves: 2 }, ports };
    const flowOf = (list: Sheet[]) => numberOf(judged6(core, { ...twin, sheets: list }).match.flow!);
    const single = (s: Sheet) => numberOf(judged6(core, { ...p6, sheets: [s] }).match.flow!);
    expect(flowOf([a, b])).toBeCloseTo(single(a) + single(b), 9);
    expect(flowOf([a])).toBeCloseTo(2 * single(a), 9);
    const { match, verdict } = judged6(core, { ...twin, sheets: [a, b] });
    expect(match.runners).toHaveLength(1);
    // Its model says what its figures say.
    const flow = verdict.limits.find((l) => l.id === 'flow')!;
    expect(flow.margin).toBeCloseTo(Math.log(numberOf(match.flow!) / target.demand!.value), 6);
    const area = verdict.limits.find((l) => l.id === 'area')!;
    expect(area.margin).toBeCloseTo(Math.log(match.limits.find((l) => l.id === 'area')!.speed.value / core.speed), 6);
  });
  it('learns from ports tested again how far one set-up is from the next', () => {
    const one = head.sheets.find((s) => s.id === sheetId)!;
    const again = (by: number, more: Partial<Sheet> = {}): Sheet => ({
      ...one,
      id: `again-${by}-${more.sourceId ?? ''}`,
      ...more,
      rows: one.rows.map((r) => ({
        ...r,
        intake: r.intake && { ...r.intake, pulls: r.intake.pulls.map((p) => ({ ...p, si: p.si * by })) },
      })),
    });
    const learntOf = (...sheets: Sheet[]) => assumptionsFor({ ...head, sheets }, { sources: bundle.sources });
    expect(learntOf(again(1)).setup).toBeCloseTo(0.01, 12);
    // Three tests at 1, 1.03 and 1: the variance about their mean has two degrees of freedom more than the usual four,
    // of which a spread's mean takes two: √((2/3 ln² 1.03 + 2 × 0.01²) / (2 + 2)).
    const three = [again(1), again(1.03), again(1, { id: 'third' })];
    const found = learntOf(...three);
    expect(found.setup).toBeCloseTo(Math.sqrt(((2 / 3) * Math.log(1.03) ** 2 + 2e-4) / 4), 9);
    expect(found.freedom).toEqual({ setup: 6, bench: 5 });
    expect(learntOf(...three.toReversed()).setup).toBeCloseTo(found.setup, 12);
    // Another bench 8 % off says nothing of set-ups, nor of what its bench reads off on other heads: only of this port.
    const elsewhere = [again(1), again(1.08, { sourceId: 'another' })];
    expect(learntOf(...elsewhere)).toEqual(learntOf(again(1)));
    const budget = evaluateHead(build, core, target, { ...head, sheets: elsewhere }, 'longreach-received', null, {
      sources: bundle.sources,
    }).verdict.limits.find((l) => l.id === 'flow')!.budget;
    expect(budget.map((x) => x.leaf.label)).toContain('benches that lie apart');
  });
  it('reads a port that was tested again as the mean of its sheets, unless one of them is chosen', () => {
    const head = whole('pellam-p6');
    const one = head.sheets.find((s) => s.id === 'p6-valve-job-p3')!;
    const again = (by: number): Sheet => ({
      ...one,
      id: 'again',
      title: 'again',
      date: '2031-01-01',
      rows: one.rows.map((r) => ({
        ...r,
        intake: r.intake && { ...r.intake, pulls: r.intake.pulls.map((p) => ({ ...p, si: p.si * by })) },
      })),
    });
    const judged = (by: number, sheetId: string | null = null) =>
      evaluateHead(build, core, target, { ...head, sheets: [one, again(by)] }, 'p6-valve-job', sheetId, {
        sources: bundle.sources,
        say,
      });
    const single = numberOf(judged(1.02, one.id).match.flow!);
    const both = judged(1.02);
    expect(both.pooled.map((s) => s.id).sort()).toEqual(['again', one.id].sort());
    expect(numberOf(both.match.flow!)).toBeCloseTo(1.01 * single, 9);
    // What Compare and the sheets draw is the same mean.
    expect(both.result!.intake.peak!.flow).toBeCloseTo(1.01 * judged(1.02, one.id).result!.intake.peak!.flow, 9);
    expect(both.verdict.evidence.map((e) => evidenceWords(e, say))).toContain('Mean of 2 sheets of its port.');
    expect(judged(1.02, 'again').pooled).toHaveLength(1);
    // Further apart than two set-ups explain: said, and nothing is sure.
    const apart = judged(1.1);
    expect(apart.verdict.evidence.map((e) => plain(evidenceWords(e, say)))).toContainEqual(
      expect.stringContaining('are of one port and lie 10.0 % apart'),
    );
    expect(['carries', 'falls short']).not.toContain(apart.verdict.degree);
    // The books of the figures know both sheets.
    const [first, ...rest] = both.pooled;
    const books = booksOf({ ...head, sheets: [one, again(1.02)] }, [first!, ...rest], { sources: bundle.sources, say });
    const top = both.result!.intake.points.at(-1)!;
    const budget = budgetOfWorking(top.flow, books.flow)!;
    expect(budget.shares.filter((s) => s.leaf.id.startsWith('setup:'))).toHaveLength(2);
    expect(budgetOfWorking(top.coefficients.minimum!, books.intake)!.u).toBeGreaterThan(0);
  });
  it('says what would flip it, and the change does flip it', () => {
    const c = evaluate('pellam-p6', 'p6-valve-job').verdict;
    const k = c.flips.find((f) => f.leaf.id === 'k')!;
    const stated = (k.leaf.value + k.change) / horsepowerPerCfm(1);
    const at = { ...build, powerPerFlow: { si: k.leaf.value + k.change, typed: `${stated} hp/cfm` } };
    const engine = toCoreBuild(at);
    const e = evaluateHead(at, engine, evaluateTarget(engine), whole('pellam-p6'), 'p6-valve-job', null);
    expect(Math.min(...e.verdict.limits.map((l) => l.margin))).toBeCloseTo(0, 4);
  });
});

describe('pours older than a cut', () => {
  const measure = (item: string, date: string, side: string | null = 'intake') => ({
    id: `${item}${date}`,
    stageId: 's',
    item,
    side,
    date,
    sourceId: null,
  });
  const older = (...measures: object[]) => olderPours({ measures: measures as never }, 's');
  it('are named until they are poured again', () => {
    const pour = measure('port volume', '2026-03-01');
    expect(older(pour)).toEqual([]);
    expect(older(pour, measure('pinch', '2026-03-04'))).toEqual([
      'intake port volume of 2026-03-01 is older than: pinch, 2026-03-04',
    ]);
    expect(older(pour, measure('pinch', '2026-03-04'), measure('port volume', '2026-03-05'))).toEqual([]);
    expect(older(pour, measure('pinch', '2026-03-04', 'exhaust'))).toEqual([]);
  });
});

import { readFileSync } from 'node:fs';
import { noted, sayIn } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import {
  judgedReports,
  publications,
  readBundle,
  sameOrNot,
  Setup,
  sizesComparable,
  SourceStated,
  wholesOf,
  withStated,
  type Specimen,
  type WholeHead,
} from '../index.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const heads = wholesOf(bundle);
const say = sayIn('inch');
const head = (id: string) => heads.find((h) => h.head.id === id)!;
const at = (id: string, stageId: string, cylinder: number | null = null): Specimen => ({
  whole: head(id),
  stageId,
  cylinder,
});
const hold = (a: Specimen, b: Specimen) =>
  sameOrNot(a, b, {
    tolerances: [],
    repeatability: noted(0.005, 'usual'),
    own: 'bench-1',
    names: { a: 'A', b: 'B' },
    say,
  });

describe('same or different, on the demo', () => {
  it('one replacement number, two heads: valves, curves and chamber say so', () => {
    const { verdict, words, curves, leftOut } = hold(
      at('corrow-522', '522-received'),
      at('corrow-417', '417-received'),
    );
    expect(verdict.verdict).toBe('different');
    expect(verdict.reasons.map((r) => r.group)).toEqual(['valve job', 'intake flow', 'chamber']);
    expect(words).toMatch(/^Different: exhaust valve diameter \(1\.550/);
    // Of the sheets of both, those of one bore and port are held against each other.
    expect(curves.map((c) => c.side)).toEqual(['intake', 'exhaust']);
    expect(leftOut.filter((t) => !t.includes('worked on before'))).toEqual([]);
  });
  it('two numbers on two boxes are not told apart', () => {
    const { verdict, words } = hold(at('pellam-190', 'pellam-190-received'), at('pellam-190r', 'pellam-190r-received'));
    expect(verdict).toMatchObject({ verdict: 'not told apart', counting: 0 });
    expect(words).toContain('does not make them the same casting');
  });
  it('a sheet of differences taken one against the other speaks before two sheets do', () => {
    const a = head('corrow-417');
    const base = a.sheets.find((s) => s.id === '417-received-p3')!;
    const sheet = {
      ...base,
      id: 'difference',
      title: 'One against the other',
      stageId: '417-valve-job',
      baselineId: base.id,
      setup: { ...base.setup, reads: 'difference' as const },
      rows: [0.2, 0.3, 0.4].map((l, i) => ({
        ...base.rows[0]!,
        lift: { si: l * 0.0254, typed: '' },
        intake: { ...base.rows[0]!.intake!, pulls: [{ si: [19, 10, 0][i]! * 4.719474432e-4, typed: '' }] },
        exhaust: null,
      })),
    };
    const whole: WholeHead = {
      ...a,
      sheets: [...a.sheets.filter((s) => s.setup.reads !== 'difference'), sheet],
    };
    const held = hold(
      { whole, stageId: '417-valve-job', cylinder: null },
      { whole, stageId: '417-received', cylinder: null },
    );
    expect(held.leftOut.join()).toContain('“One against the other”, taken one against the other');
    // +19 cfm at .200, +10 at .300, none at .400, on the first of the two.
    const cfm = held.flow.intake!.points.map((p) => Math.round((p.a - p.b) / 4.719474432e-4));
    expect(cfm).toEqual([19, 10, 0]);
  });
  it('says where curves cross and how likely, what is seen on both, foreign work, and what would settle it', () => {
    const { seen, leftOut, settles } = hold(at('corrow-522', '522-received'), at('corrow-417', '417-received'));
    expect(seen).toContainEqual({ what: 'material', a: 'iron', b: 'iron', same: true });
    expect(leftOut.join()).toMatch(/port 6 of A was worked on before it came \(blended by hand/);
    expect(settles.length).toBeLessThanOrEqual(3);
    for (const s of settles) expect(s).toMatch(/^Measure the .* of [AB]: the other’s is known\.$/);
  });
  it('two ports of one head, and two stages of it', () => {
    const ports = hold(at('corrow-417', '417-received', 1), at('corrow-417', '417-received', 3));
    expect(ports.verdict.verdict).toBe('different');
    expect(ports.verdict.reasons[0]!.what).toMatch(/^intake/);
    const stages = hold(at('corrow-417', '417-valve-job'), at('corrow-417', '417-bowl'));
    expect(stages.verdict.verdict).toBe('different');
    expect(stages.sizes.find((l) => l.what === 'intake bowl')!.counts).toBe(true);
    expect(stages.sizes.find((l) => l.what === 'intake valve diameter')!.counts).toBe(false);
  });
  it('sections of both surveys are held against each other along the port', () => {
    const { sizes } = hold(at('corrow-417', '417-received'), at('pellam-p6', 'p6-received'));
    expect(sizes.filter((l) => l.what.startsWith('intake area')).map((l) => l.what)).toContain(
      'intake area at the choke',
    );
  });
  it('curves of other benches or bores are left out, and it is said why', () => {
    const only = (whole: WholeHead, keep: (id: string) => boolean): WholeHead => ({
      ...whole,
      sheets: whole.sheets.filter((s) => keep(s.id)),
    });
    const narrow = { ...at('corrow-417', '417-received'), whole: only(head('corrow-417'), (id) => id.endsWith('965')) };
    expect(hold(narrow, at('corrow-522', '522-received')).leftOut[0]).toMatch(
      /The intake curves cannot be compared\. Tested on different bores/,
    );
    const room = { ...narrow, whole: only(head('corrow-417'), (id) => id === '417-quayside') };
    expect(hold(room, at('corrow-522', '522-received')).leftOut[0]).toContain('not of one bench');
    const none = { ...narrow, whole: only(head('corrow-417'), () => false) };
    expect(hold(none, at('corrow-522', '522-received')).leftOut).toContain('There is no exhaust curve of both.');
  });
});

describe('publications of one head', () => {
  it('stand beside each other, ours first; another bore or pipe is named and left out', () => {
    const p6 = publications(head('pellam-p6'), 'p6-received', 'intake', 'bench-1', bundle.sources);
    expect(p6.tables.map((t) => t.source)).toEqual(['Bench 1', 'Quayside Flow Room', 'Pellam catalogue']);
    expect(p6.rows[0]!.flows).toHaveLength(3);
    expect(p6.rows.every((r) => r.spread!.value > 0.04)).toBe(true);
    const longreach = publications(head('longreach-212'), 'longreach-received', 'exhaust', 'bench-1', bundle.sources);
    expect(longreach.tables.find((t) => t.source === 'Ferrule & Dray sheet')!.apart).toContain(
      'two different quantities',
    );
    expect(longreach.rows).toEqual([]);
  });
});

describe('reports of power, on the demo', () => {
  const judged = (id: string) => judgedReports(head(id), bundle.builds, 'bench-1', say);
  it('the catalogue’s is a stretch, the flyer’s is not believable', () => {
    expect(judged('pellam-p6')[0]!.result).toMatchObject({ verdict: 'a stretch', degree: "can't be told" });
    const [flyer] = judged('ottermoor-230');
    expect(flyer!.result.verdict).toBe('not believable');
    expect(flyer!.words).toContain('falls short of that');
    expect(flyer!.reservations).toEqual(['Nobody says how the power was taken.']);
    // Held against the flow the cam reaches, not the sheet's peak at a lift it never opens to.
    expect(flyer!.result.powerPerFlow!.given.flow).toMatchObject({ note: 'best within this cam’s lift' });
  });
  it('an engine nobody knows more of is judged by what is known, and says what it takes on trust', () => {
    const [known] = bundle.reports;
    const bare = {
      ...known!,
      buildId: null,
      displacement: { si: 4.2e-3, typed: '4.2 L' },
      cylinders: 6,
      taken: 'chassis dyno' as const,
    };
    const whole = { ...head('ottermoor-230'), reports: [bare, { ...bare, taken: 'reckoned' as const }] };
    const [wheels, reckoned] = judgedReports(whole, [], 'bench-1', say);
    // Only the volume of the cylinder counts for the air’s speed, and that is known.
    expect(wheels!.result.velocity!.value).toBeGreaterThan(50);
    expect(wheels!.reservations).toEqual([
      expect.stringContaining('No cam is known'),
      expect.stringContaining('at the wheels'),
    ]);
    expect(reckoned!.reservations.at(-1)).toBe('It was reckoned, not measured.');
    // A build that is no longer there leaves nothing to judge.
    expect(judgedReports({ ...whole, reports: [known!] }, [], 'bench-1', say)).toEqual([]);
  });
});

describe('what a source states of all its tests', () => {
  const stated = SourceStated.parse({ depression: '10 inH2O', exhaustPipe: 'piped', entry: 'clay' });
  it('is taken over where the sheet does not know, and nowhere else', () => {
    const { setup, taken } = withStated(Setup.parse({ entry: 'radius' }), stated);
    expect(taken).toEqual(['depression', 'exhaust']);
    expect(setup).toMatchObject({
      entry: 'radius',
      exhaustPipe: 'piped',
      depression: { typed: '10 inH2O' },
      bore: null,
    });
    expect(withStated(setup, stated).taken).toEqual([]);
  });
  it('sizes of another stage are not held against each other', () => {
    const whole = head('pellam-p6');
    const [a, b] = ['p6-received', 'p6-bowl'].map((stageId) => ({
      ...whole.measures.find((m) => m.item === 'chamber volume')!,
      stageId,
    }));
    expect(sizesComparable(whole, a!, b!).sentence).toContain('stage differs');
    expect(sizesComparable(whole, a!, a!).may).toBe('reserved');
  });
});

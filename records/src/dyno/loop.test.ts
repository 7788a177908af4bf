import {
  causesOf,
  evaluateTarget,
  horsepower,
  isWorking,
  numberOf,
  rpm,
  sayIn,
  signWords,
  type PullFacts,
} from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import demo from '../../../demo/bundle.json' with { type: 'json' };
import { evaluateHead } from '../evaluateHead.js';
import { readBundle } from '../files/bundle.js';
import { splitTable, toCsv } from '../files/csv.js';
import { readPullTable } from '../files/pullTable.js';
import { OwnFactor, PowerForecast, Pull, type Measure, type MeasureItem } from '../nouns/index.js';
import { workbookOf } from '../files/workbook.js';
import { callsTable, roundsTable } from '../practice/export.js';
import { assumptionsOf } from '../assumptions.js';
import { scoredCalls } from '../bench/session.js';
import { toCoreBuild } from '../toCore.js';
import { wholesOf } from '../wholes.js';
import { forecastsTable, pullsTable } from './export.js';
import { changedBetween, fairnessOf } from './fair.js';
import { factsOf, offByThirds } from './facts.js';
import { assumptionsForBuild, learntBy, pullFactors } from './learnt.js';
import { correctedOf, peakBy, readPullOf } from './pulls.js';
import { pullSheetOf } from './sheet.js';
import { meansOf, plannedSwap, readSequence, repeatabilityOf } from './sequence.js';
import { calibrationOfForecasts, scoredForecasts, trustOf } from './trust.js';

const { bundle } = readBundle(demo);
const say = sayIn('inch');
const wholes = wholesOf(bundle);
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const of = (id: string) => bundle.pulls.find((p) => p.id === id)!;

describe('pulls in their order', () => {
  it('a swap on one day is told with its drift taken off; over days the drift stays in it', () => {
    const s = readSequence(bundle.pulls, of('slate-swap-3'))!;
    expect(s.pulls.map((p) => p.id).slice(3)).toEqual([1, 2, 3, 4, 5].map((n) => `slate-swap-${n}`));
    const swap = (b: string) => s.swaps.find((x) => x.a === '417-received' && x.b === b)!.swap;
    expect(swap('522-received')).toMatchObject({ driftRemoved: true, counts: true, pulls: 5 });
    expect(swap('longreach-received').driftRemoved).toBe(false);
    // Half of what the demo's rows were raised by, in lb ft, over the speeds: some five horsepower.
    expect(swap('522-received').difference / horsepower(1)).toBeGreaterThan(3);
    expect(s.measured).toBe(true);
    expect(s.repeatability).toBeLessThan(0.006);
    expect(readSequence([of('slate-417-1')], of('slate-417-1'))).toBeUndefined();
    expect(repeatabilityOf([of('slate-417-1')])).toEqual({ share: 0.005, measured: false });
  });
  it('a mean over shared speeds is the mean of the rows', () => {
    const pull = of('slate-swap-1');
    const s = readSequence(bundle.pulls, pull)!;
    const { points } = readPullOf(pull);
    expect(s.means[s.pulls.indexOf(pull)]!.value).toBeCloseTo(
      points.reduce((x, p) => x + p.power, 0) / points.length,
      3,
    );
  });
  it('reads pulls at other speeds between their rows', () => {
    const a = of('slate-swap-1');
    const between = Pull.parse({
      ...a,
      id: 'between',
      rows: a.rows.slice(1).map((r, i) => ({
        speed: { si: (r.speed.si + a.rows[i]!.speed.si) / 2, typed: `${3100 + 200 * i} rpm` },
        power: r.power,
      })),
    });
    const [one, other] = meansOf([a, between])!;
    expect(other!.value / one!.value).toBeGreaterThan(1);
    expect(other!.value / one!.value).toBeLessThan(1.05);
  });
  it('so many pulls tell a difference; none tells nothing', () => {
    expect(plannedSwap(-0.02, 0.005).value).toBe(2);
    expect(() => plannedSwap(0, 0.005)).toThrow('no number of pulls');
  });
});

describe('a fair swap', () => {
  it('has nothing else changed; the unfair one names what did', () => {
    const fair = changedBetween(of('slate-swap-1'), of('slate-swap-2'), say);
    expect(fair).toEqual([]);
    expect(fairnessOf(fair)).toMatchObject({ fair: true, sure: true });
    const unfair = changedBetween(of('slate-417-1'), of('slate-longreach-1'), say);
    expect(unfair.filter((c) => c.matters && c.known).map((c) => c.what)).toEqual([
      'compression',
      'manifold',
      'exhaust',
    ]);
    expect(fairnessOf(unfair).words).toContain('no test of the heads alone: compression, manifold, exhaust');
  });
  it('is not sure where only one of the two was noted', () => {
    const bare = Pull.parse({ ...of('slate-417-1'), setup: {} });
    const changed = changedBetween(of('slate-417-1'), bare, say);
    expect(changed.every((c) => !c.known)).toBe(true);
    expect(fairnessOf(changed)).toMatchObject({ fair: true, sure: false });
    const wet = Pull.parse({
      ...of('slate-417-1'),
      pressure: '950 mbar',
      rows: of('slate-417-1').rows.map((r) => ({ ...r, lambda: '0.95' })),
    });
    expect(changedBetween(of('slate-417-1'), wet, say).map((c) => c.what)).toEqual(['mixture', 'air of the day']);
  });
});

describe('what a pull says of its causes', () => {
  const pull = of('slate-longreach-1');
  const whole = wholes.find((w) => w.head.id === 'longreach-212')!;
  const core = toCoreBuild(build);
  const target = evaluateTarget(core);
  const evaluation = evaluateHead(build, core, target, whole, 'longreach-received', null, {});
  const made = readPullOf(pull).points;
  const forecast = {
    points: made.map((p) => ({ speed: p.speed, power: p.power * (p.speed > rpm(4900) ? 1.1 : 1) })),
    u: 0.03,
  };
  it('lies where over the speeds the power is missing', () => {
    const off = offByThirds(made, forecast.points)!;
    expect(off.low).toBeCloseTo(0, 9);
    expect(off.high).toBeCloseTo(1 / 1.1 - 1, 9);
    expect(offByThirds(made.slice(0, 2), forecast.points)).toBeUndefined();
  });
  it('comes from the head, arrival, the manifold and the mixture as they were noted', () => {
    const facts = factsOf(pull, made, forecast, build, core, target, whole, evaluation, 0.05)!;
    expect(facts.seats!.leaking).toBe(1);
    expect(facts.lambda).toBeCloseTo(0.91, 9);
    expect(facts.manifoldDrop).toBeCloseTo(1 - 972 / 991, 9);
    expect(facts.compression).toEqual({ meant: 9.5, measured: 9.8 });
    expect(facts).toMatchObject({ correctionKnown: true, airKnown: true, chassis: false, camOff: 0.05 });
    expect(facts.exhaustShare).toBeLessThan(1);
    expect(facts.springForce).toBeUndefined();
    expect(
      factsOf({ ...pull, stageId: null }, made, forecast, build, core, target, whole, evaluation, undefined),
    ).toBeUndefined();
  });
});

describe('the springs of a pull', () => {
  const pull = of('slate-longreach-1');
  const plain = wholes.find((w) => w.head.id === 'longreach-212')!;
  const core = toCoreBuild(build);
  const target = evaluateTarget(core);
  const evaluation = evaluateHead(build, core, target, plain, pull.stageId!, null, { sources: bundle.sources });
  const made = readPullOf(pull).points;
  const forecast = { points: made.map((p) => ({ speed: p.speed, power: 1.1 * p.power })), u: 0.03 };
  const sprung = (grams: number) => {
    const size = (item: MeasureItem, si: number, typed: string): Measure => ({
      ...plain.measures.find((m) => m.stageId === pull.stageId)!,
      ...{ id: item, item, side: 'intake', portId: null, sourceId: null, value: { si, typed } },
    });
    const measures = [
      ...plain.measures,
      size('spring seat force', 489, '110 lb'),
      size('spring rate', 52_500, '300 lb/in'),
      size('valve train mass', grams / 1000, `${grams} g`),
    ];
    return factsOf(pull, made, forecast, build, core, target, { ...plain, measures }, evaluation, undefined)!;
  };
  it('are known once force, rate and mass are, and speak for float where they let go', () => {
    const [light, heavy] = [sprung(200), sprung(600)];
    expect(light.springForce! / heavy.springForce!).toBeCloseTo(3, 6);
    expect(heavy.springForce).toBeLessThan(0.9);
    const float = (facts: PullFacts) => causesOf(facts).find((c) => c.cause === 'valve float')!;
    expect(float(heavy).share).toBeGreaterThan(float(light).share);
    expect(float(heavy).for.map((s) => s.code)).toContain('springs');
    expect(signWords({ code: 'springs', weight: 2, value: 0.8 }, say)).toContain('what cam and mass ask');
  });
});

describe('the shop’s own power per flow', () => {
  const factors = pullFactors(bundle.pulls, bundle.builds, wholes, { sources: bundle.sources });
  it('is learnt from every pull by use and fuel; an engine with its head counts once', () => {
    const [own] = learntBy(factors);
    expect(own).toMatchObject({ use: 'marine', fuel: 'petrol' });
    expect(own!.engines).toHaveLength(3);
    expect(own!.engines.reduce((s, e) => s + e.pulls, 0)).toBe(bundle.pulls.length);
    expect(own!.learnt.count).toBe(3);
  });
  it('takes the usual one’s place for engines of that use and fuel alone', () => {
    const factor = OwnFactor.parse({
      id: 'f',
      use: 'marine',
      fuel: 'petrol',
      low: '0.22 hp/cfm',
      likely: '0.25 hp/cfm',
      high: '0.27 hp/cfm',
      count: 3,
      made: '2026-06-01',
    });
    const shop = assumptionsOf([]);
    expect(assumptionsForBuild(shop, build, [factor]).powerPerFlow[1]).toBeCloseTo(factor.likely.si, 6);
    expect(assumptionsForBuild(shop, { ...build, use: 'drag' }, [factor])).toBe(shop);
    // It reaches the demand of the target, and so every verdict.
    const core = toCoreBuild(build, assumptionsForBuild(shop, build, [factor]));
    expect(evaluateTarget(core).demand!.value).toBeGreaterThan(evaluateTarget(toCoreBuild(build)).demand!.value);
    expect(OwnFactor.safeParse({ ...factor, low: '0.26 hp/cfm' }).error!.issues[0]!.message).toContain(
      'between the least and the most',
    );
  });
});

describe('forecasts of power', () => {
  const made = (p: Pull) => {
    const by = peakBy(p, 'SAE J1349', build);
    return typeof by === 'string' ? undefined : by.value;
  };
  const scored = scoredForecasts(bundle.powerForecasts, bundle.pulls, made);
  it('are scored against their pulls, by estimate; one without a pull waits', () => {
    expect(scored).toHaveLength(4);
    const own = scored.find((s) => s.forecast.id === 'told-417-own')!;
    expect(own.off).toBeCloseTo(own.made / own.forecast.content.power - 1, 12);
    expect(isWorking(own.z)).toBe(true);
    const trust = trustOf(scored);
    expect(trust.map((t) => t.method).sort()).toEqual(['own word', 'peak flow']);
    expect(trust.every((t) => t.scores.count === 2)).toBe(true);
    expect(calibrationOfForecasts(scored)).toBeUndefined();
    expect(forecastsTable(scored, 'inch')).toHaveLength(5);
  });
  it('of nothing are refused', () => {
    const bad = PowerForecast.safeParse({
      ...bundle.powerForecasts[0],
      content: { ...bundle.powerForecasts[0]!.content, power: 0 },
    });
    expect(bad.error!.issues[0]!.message).toBe('A forecast of power is above zero.');
  });
});

describe('calls anywhere', () => {
  it('are scored at their lift by the first sheet of that stage; before it is flowed they wait', () => {
    const call = bundle.calls.find((c) => c.id === 'call-417-vj')!;
    const sheets = bundle.sheets.filter((s) => s.stageId === '417-valve-job');
    const [score] = scoredCalls(call, sheets);
    expect(score!.error.value).toBeCloseTo(156 / 154.9 - 1, 2);
    expect(scoredCalls(call, [])).toEqual([]);
    // Beyond the last row nothing is known.
    expect(scoredCalls({ ...call, lift: { si: 0.03, typed: '30 mm' } }, sheets)).toEqual([]);
  });
});

describe('pulls as a file', () => {
  it('a pull on paper names what was noted, says what was not, and keeps one page', () => {
    const pull = bundle.pulls.find((p) => p.id === 'slate-longreach-1')!;
    const say = sayIn('inch');
    const sheet = pullSheetOf(pull, 'Longreach 212', say);
    const said = new Map(sheet.facts);
    expect(said.get('figures by')).toBe('SAE J607');
    expect(said.get('air')).toContain(pull.pressure!.typed);
    expect(said.has('tune')).toBe(pull.setup.tune !== '');
    expect(sheet.rows).toHaveLength(pull.rows.length);
    expect(sheet.head.slice(0, 2)).toEqual(['speed, rpm', 'power, hp']);
    const long = pullSheetOf(
      {
        ...pull,
        correction: null,
        pressure: null,
        temperature: null,
        humidity: null,
        rows: Array.from({ length: 200 }, () => pull.rows[0]!),
      },
      '',
      say,
    );
    expect(long).toMatchObject({ every: 8 });
    expect(long.rows).toHaveLength(25);
    expect(new Map(long.facts).get('air')).toBe('not noted');
    expect(new Map(long.facts).get('head')).toBe('not noted');
    expect(new Map(long.facts).get('figures by')).toBe('nobody says which standard');
  });
  it('calls and rounds as tables: figures are figures, in the units shown', () => {
    const call = bundle.calls.find((c) => c.id === 'call-417-vj')!;
    const sheets = bundle.sheets.filter((s) => s.stageId === call.stageId);
    const [heading, row] = callsTable(
      scoredCalls(call, sheets).map((s) => ({ ...s, call, head: '417', session: 'valve job' })),
      'metric',
    );
    expect(heading).toContain('lift (mm)');
    expect(row![heading!.indexOf('lift (mm)')]).toBeCloseTo(1000 * call.lift!.si, 2);
    expect(typeof row![heading!.indexOf('error (%)')]).toBe('number');
    const book = workbookOf('Practice', roundsTable(bundle.rounds));
    expect(book.rows).toHaveLength(1 + bundle.rounds.length);
    expect(book).toMatchObject({ name: 'Practice', frozen: 1 });
  });
  it('go out and come back as the same pulls', () => {
    const list = [of('slate-swap-1'), of('slate-swap-2')];
    const back = readPullTable(splitTable(toCsv(pullsTable(list, 'inch'))), 'inch');
    expect(back.problems).toEqual([]);
    expect(back.pulls.map((p) => p.name)).toEqual(list.map((p) => p.title));
    back.pulls.forEach((p, i) => {
      expect(p.rows).toHaveLength(list[i]!.rows.length);
      expect(p.rows[3]!.power!.si / list[i]!.rows[3]!.power!.si).toBeCloseTo(1, 4);
      expect(p.rows[3]!.manifold!.si / list[i]!.rows[3]!.manifold!.si).toBeCloseTo(1, 4);
    });
  });
  it('a diesel is corrected by ISO 1585 once its fuel and its charging are noted', () => {
    const diesel = bundle.builds.find((b) => b.fuel === 'diesel')!;
    const pull = Pull.parse({ ...of('slate-417-1'), buildId: diesel.id, correction: 'observed' });
    expect(peakBy(pull, 'ISO 1585', diesel)).toContain('fuel of a cycle');
    const noted = { ...pull, setup: { ...pull.setup, fuelPerCycle: 52, charging: 'turbo' as const } };
    const by = peakBy(noted, 'ISO 1585', diesel);
    expect(typeof by === 'string' ? by : numberOf(by) / readPullOf(pull).peakPower!.power).toBeCloseTo(1, 1);
    expect(correctedOf(diesel, noted.setup)).toMatchObject({ fuel: 'diesel', fuelPerCycle: 52, charging: 'turbo' });
  });
});

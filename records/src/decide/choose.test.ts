import { castingsOf, evaluateTarget, fromSi, inches, sayIn, unitNamed } from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import demo from '../../../demo/bundle.json' with { type: 'json' };
import { readBundle } from '../files/bundle.js';
import { toCsv } from '../files/csv.js';
import { CostLine, ListPrice, Measure, Way, type Build, type Decision } from '../nouns/index.js';
import { toCoreBuild } from '../toCore.js';
import { wholesOf } from '../wholes.js';
import { decisionContent, rankedAsDecided, standingToday } from './decision.js';
import { fitAnswers, fitOf } from './fit.js';
import { mattersOf, matrixOf, rankOf } from './matters.js';
import { spendings } from './spend.js';
import { costTable, matrixTable } from './table.js';
import { disagreementOf, firstOf, flowToWin, liftToTurn, withLift } from './turns.js';
import { flowOf, readWays, withTorque, type WayRead } from './ways.js';
import { budgetWords, reasonsOf, waysWords } from './words.js';

const { bundle } = readBundle(demo);
const say = sayIn('inch');
const wholes = wholesOf(bundle);
const slate = bundle.builds.find((b) => b.id === 'slate-six')!;
function read(
  build: Build = slate,
  change: (ways: Way[]) => Way[] = (w) => w,
  heads = wholes,
): { build: Build; ways: WayRead[] } {
  const core = toCoreBuild(build);
  const ways = change(bundle.ways.filter((w) => w.buildId === build.id));
  return { build, ways: readWays(ways, build, core, evaluateTarget(core), heads, { sources: bundle.sources, say }) };
}
const { ways } = read();
const ranked = rankOf(ways, mattersOf(slate));
const at = (id: string) => ways.findIndex((w) => w.way.id === id);
const of = (id: string, list: readonly WayRead[] = ways) => list.find((w) => w.way.id === id)!;

describe('what the sizes say of the fit', () => {
  const p6 = wholes.find((w) => w.head.id === of('slate-p6').whole!.head.id)!;
  const stage = of('slate-p6').way.stageId!;
  it('holds spring travel against the cam, and asks for springs where it is short', () => {
    const cam = (lift: string) => ({
      ...slate,
      cam: { ...slate.cam!, intakeLift: { si: inches(Number(lift)), typed: lift } },
    });
    const answer = (lift: string) => fitAnswers(p6, stage, cam(lift), say).find((a) => a.item === 'cam')!;
    expect(answer('0.480')).toMatchObject({ state: 'fits' });
    const short = answer('0.600');
    expect(short).toMatchObject({ state: 'needs an adapter', buys: 'springs and retainers' });
    // .130 in of travel left at .480: none of it at .610, .010 in at .600.
    expect(short.text).toContain('0.010\u00a0in to coil bind');
  });
  it('tells a valve that hits the bore from one that comes near it', () => {
    const answer = (bore: number) =>
      fitAnswers(p6, stage, { ...slate, bore: { si: bore, typed: '' } }, say).find(
        (a) => a.item === 'what the block allows',
      )!;
    expect(answer(0.098).state).toBe('needs an adapter');
    expect(answer(0.094).state).toBe('stops it');
    expect(answer(0.094).text).toContain('hits this bore');
    expect(answer(0.104).state).toBe('fits');
  });
  it('places valves nobody measured evenly about the bore: a 2.00 in valve beside a 1.50 in one hits a 3.736 in bore', () => {
    const size = (item: string, side: string | null, value: string) =>
      Measure.parse({ id: `${item.replace(' ', '-')}-${side}`, stageId: stage, item, side, value });
    const whole = {
      ...p6,
      measures: [
        ...p6.measures.filter((m) => !m.item.startsWith('valve') && m.item !== 'chamber width'),
        size('valve diameter', 'intake', '2.00 in'),
        size('valve diameter', 'exhaust', '1.50 in'),
        size('chamber width', null, '3.800 in'),
      ],
    };
    const answers = (bore: string) =>
      fitAnswers(whole, stage, { ...slate, bore: { si: inches(Number(bore)), typed: bore } }, say);
    // By hand: the axes 1.75/2 + 1 mm apart = 1.789 in, half of it and a radius of 1.000 in reach 1.895 of 1.868 in.
    const small = answers('3.736').find((a) => a.item === 'what the block allows')!;
    expect(small.state).toBe('needs an adapter');
    expect(small.text).toMatch(/the larger would hit it by 0\.027\sin/);
    expect(answers('3.736').find((a) => a.item === 'gasket bore')!.text).toMatch(/stands 0\.032\sin over the bore/);
    expect(answers('4.030').find((a) => a.item === 'what the block allows')).toBeUndefined();
  });
  it('uses a lift limit that is only stated', () => {
    const source = p6.measures.find((m) => m.sourceId !== null)!.sourceId;
    const limit = Measure.parse({ id: 'l', stageId: stage, item: 'lift limit', sourceId: source, value: '.450 in' });
    const answers = fitAnswers({ ...p6, measures: [...p6.measures, limit] }, stage, slate, say);
    expect(answers.find((a) => a.item === 'cam')!.text).toMatch(/lift limit is \.450/);
  });
  it('an engine of eight takes two castings of four', () => {
    expect([castingsOf(8, 4), castingsOf(6, 6), castingsOf(8, undefined), castingsOf(5, 4)]).toEqual([2, 1, 1, 2]);
  });
  it('lets what somebody said stand, and says where the head contradicts it', () => {
    const answers = [{ item: 'water', state: 'stops it', text: 'passage 4 is open' } as const];
    const fit = (state: 'unknown' | 'fits') =>
      fitOf({ fit: [{ item: 'water', state, note: '' }] }, answers).find((f) => f.item === 'water')!;
    expect(fit('unknown')).toMatchObject({ state: 'stops it', note: 'passage 4 is open', contradicted: false });
    expect(fit('fits')).toMatchObject({ state: 'fits', contradicted: true });
  });
  it('counts a measured stopper like a said one: such a way never comes first', () => {
    const small = { ...slate, bore: { si: 0.094, typed: '94 mm' } };
    const tight = read(small).ways;
    expect(of('slate-p6', tight).stops.join()).toContain('hits this bore');
    expect(waysWords(tight, small, rankOf(tight, mattersOf(small)), say).join(' ')).toContain(
      'P6-205 with a valve job cannot go as it is',
    );
  });
});

describe('planned work', () => {
  const planned = (gain: string, band: string, id = 'slate-keep') =>
    read(slate, (all) => all.map((w) => (w.id === id ? Way.parse({ ...w, gain, gainBand: band }) : w))).ways;
  const cfm = (w: WayRead) => fromSi(flowOf(w)!, unitNamed('flow', 'cfm')!);
  it('changes the odds as well as the power, and is never sure', () => {
    const p6 = of('slate-p6', planned('12 cfm', '1 cfm', 'slate-p6'));
    expect(cfm(p6)).toBeGreaterThan(cfm(of('slate-p6')) + 11.9);
    expect(cfm(of('slate-keep', planned('8 cfm', '1 cfm')))).toBeCloseTo(cfm(of('slate-keep')) + 8, 6);
    expect(p6.odds).toBeGreaterThan(of('slate-p6').odds!);
    expect(p6.odds).toBeGreaterThan(0.97);
    expect(p6.degree).toBe('probably carries');
  });
  it('leaves the port’s area as it was measured, and says so where that runs out first', () => {
    const list = planned('40 cfm', '2 cfm');
    const keep = of('slate-keep', list);
    expect(of('slate-keep').degree).toBe('falls short');
    expect(keep.odds).toBeLessThan(0.5);
    const words = waysWords(list, slate, rankOf(list, mattersOf(slate)), say).join(' ');
    expect(words).toContain('Keep the 417: more flow is planned, but its least port area is still the one measured');
  });
  it('is less sure the wider the plan, and keeps the uncertainty of what was measured', () => {
    const u = (w: WayRead) => Math.hypot(...rankParts(w));
    const rankParts = (w: WayRead) => matrixOf([w], slate, say).map((r) => (r.name === 'power' ? r.cells[0]!.u : 0));
    const [narrow, wide] = [
      of('slate-keep', planned('20 cfm', '1 cfm')),
      of('slate-keep', planned('20 cfm', '20 cfm')),
    ];
    expect(u(wide)).toBeGreaterThan(1.5 * u(narrow));
    // As a share of the power the measured part alone is what it was: a plan of one cfm adds little to it.
    expect(u(narrow) / narrow.power!.value).toBeGreaterThan(
      0.95 * (u(of('slate-keep')) / of('slate-keep').power!.value),
    );
  });
});

describe('what would turn the choice', () => {
  it('finds the flow that puts a way first, and a little less does not', () => {
    const more = flowToWin(ways, mattersOf(slate), at('slate-p6'))!;
    const first = (off: number) => {
      const cfm = Number((fromSi(more, unitNamed('flow', 'cfm')!) + off).toFixed(4));
      const tried = ways.map((w) =>
        w.way.id === 'slate-p6'
          ? { ...w, power: { ...w.power!, value: (w.power!.value * (flowOfWay(w) + cfm)) / flowOfWay(w) } }
          : w,
      );
      const { marks } = rankOf(tried, mattersOf(slate));
      return marks[at('slate-p6')]! >= Math.max(...marks.map((m) => m!)) - 1e-9;
    };
    const flowOfWay = (w: WayRead) =>
      fromSi((w.evaluation!.match.flow as { value: number }).value, unitNamed('flow', 'cfm')!);
    expect(first(0.05)).toBe(true);
    expect(first(-0.05)).toBe(false);
    expect(flowToWin(ways, mattersOf(slate), at('slate-rework'))).toBeUndefined();
  });
  it('names the exhaust flow at which both estimates of power agree', () => {
    const { byPeak, derated, exhaust } = disagreementOf(ways)!;
    const e = (w: WayRead) => w.evaluation!.match.exhaust!.best.flow;
    expect(byPeak.power!.value).toBeGreaterThan(derated.power!.value);
    expect(exhaust).toBeCloseTo(e(derated) - e(byPeak), 12);
  });
  it('reads every way anew at each lift tried', async () => {
    const lifts: number[] = [];
    const found = await liftToTurn(slate, of('slate-rework'), (lift) => {
      lifts.push(lift);
      // A stand-in for a head that needs the lift: from .520 on another one leads.
      const led = lift > inches(0.519) ? [of('slate-longreach')] : [of('slate-rework')];
      return Promise.resolve(led);
    });
    expect(found!.first.way.id).toBe('slate-longreach');
    expect(found!.lift).toBeCloseTo(inches(0.52), 9);
    expect(lifts).toHaveLength(2);
    expect(withLift(slate, inches(0.52)).cam!.intakeLift.si).toBeCloseTo(inches(0.52), 12);
  });
});

describe('what the next money buys', () => {
  const core = toCoreBuild(slate);
  const facts = {
    build: slate,
    core,
    target: evaluateTarget(core),
    wholes,
    context: { sources: bundle.sources, say },
    cuts: [],
    prices: bundle.priceList,
    hourRate: 55,
  };
  it('prices more lift by the list, and another head by the difference of the sums', () => {
    const found = spendings(ways, at('slate-keep'), 500, facts, say);
    const rework = found.find((s) => s.what.startsWith('Rework'))!;
    const gain = of('slate-rework').power!.value - of('slate-keep').power!.value;
    const cost = of('slate-rework').cost.sum.value - of('slate-keep').cost.sum.value;
    expect(rework.buys!.value).toBeCloseTo((gain * 500) / cost, 6);
    // Sorted by what the amount buys; a way that something stops is no advice.
    const buys = found.map((s) => s.buys?.value ?? -1);
    expect(buys).toEqual([...buys].sort((a, b) => b - a));
    expect(found.some((s) => s.what.startsWith('Longreach'))).toBe(false);
    const lift = spendings(ways, at('slate-rework'), 500, facts, say).find((s) => s.what.includes('more lift'))!;
    expect(lift.cost).toBe(180 + 260);
    expect(spendings(ways, at('slate-rework'), 500, { ...facts, prices: [] }, say)[0]).toMatchObject({
      because: 'no springs or rockers stand in the price list',
    });
  });
  it('opens a manifold that holds the head back', () => {
    const choked: Build = { ...slate, manifoldFlow: { si: 0.12, typed: '254 cfm' } };
    const tight = read(choked);
    const c = toCoreBuild(choked);
    const found = spendings(
      tight.ways,
      at('slate-rework'),
      500,
      { ...facts, build: choked, core: c, target: evaluateTarget(c) },
      say,
    );
    const manifold = found.find((s) => s.what.includes('manifold'))!;
    expect(manifold.power).toBeCloseTo(
      of('slate-rework').power!.value - of('slate-rework', tight.ways).power!.value,
      3,
    );
  });
  it('takes kept forecasts of the next cut', () => {
    const early = wholes.find((w) => w.head.id === of('slate-rework').whole!.head.id)!;
    const forecast = { ...early.forecasts[0]!, stageId: '417-pinch', outcomeId: null, side: 'intake' as const };
    const heads = wholes.map((w) => (w === early ? { ...w, forecasts: [forecast] } : w));
    const own = read(slate, undefined, heads);
    const found = spendings(own.ways, at('slate-rework'), 500, { ...facts, wholes: heads }, say);
    expect(found.some((s) => s.what.startsWith(forecast.operation) && s.cost === undefined)).toBe(true);
  });
});

describe('torque as run', () => {
  it('counts once it is there, shares its error between ways of one head, and prices each lb ft', () => {
    const run = withTorque(
      ways,
      new Map([
        ['slate-keep', { value: 290, u: 2 }],
        ['slate-rework', { value: 310, u: 3 }],
      ]),
    );
    expect(of('slate-rework', run).perTorque!.value).toBeCloseTo((2812 - 678) / ((310 - 290) / 1.3558179483), 3);
    expect(of('slate-p6', run).perTorque).toBeUndefined();
    const [row] = matrixOf(run, { ...slate, matters: [{ name: 'torque', weight: 3 }] }, say);
    expect(row!.cells.map((c) => c.evidence)).toEqual([
      'simulated over the working speeds',
      'simulated over the working speeds',
      'not run yet',
      'not run yet',
    ]);
    expect(row!.cells[1]!.mark).toBe(1);
  });
});

describe('the budget', () => {
  const way = (sum: number, u: number) => ({
    cost: { ...of('slate-keep').cost, sum: { ...of('slate-keep').cost.sum, value: sum }, u },
  });
  it('is over only as surely as the guesses allow', () => {
    expect(budgetWords(way(3300, 0), slate, say)).toBe('is 100 sov over the budget');
    expect(budgetWords(way(3223, 48), slate, say)).toContain('probably over the budget: by 23 sov');
    expect(budgetWords(way(3180, 48), slate, say)).toContain('may go over the budget: 20 sov are left');
    expect(budgetWords(way(2800, 48), slate, say)).toBe('');
  });
});

describe('a decision', () => {
  const content = decisionContent(ways, slate, ranked, 'Rework the 417', ['it is the best']);
  const decision = { content } as Decision;
  it('is drawn again from its snapshot alone, whatever became of the data', () => {
    const kept = JSON.parse(JSON.stringify(content)) as typeof content;
    expect(rankedAsDecided(kept)!.wins).toEqual(ranked.wins);
  });
  it('says nothing while nothing changed, and whether data or method did', () => {
    expect(standingToday(decision, ways, slate, ranked)).toEqual({ same: true, holds: true, said: [] });
    // The sheet was corrected: the data changed, and the figures with it.
    const sheet = of('slate-rework').evaluation!.sheet!;
    const heads = wholes.map((w) => ({
      ...w,
      sheets: w.sheets.map((s) =>
        s.id === sheet.id
          ? {
              ...s,
              version: s.version + 1,
              rows: s.rows.map((r) => ({
                ...r,
                intake: r.intake && {
                  ...r.intake,
                  pulls: r.intake.pulls.map((p) => ({ ...(p as object), si: (p as { si: number }).si * 0.8 }) as never),
                },
              })),
            }
          : s,
      ),
    }));
    const corrected = read(slate, undefined, heads).ways;
    const now = standingToday(decision, corrected, slate, rankOf(corrected, mattersOf(slate)));
    expect(now.said.join(' ')).toContain(`Changed since: the sheet ${sheet.title}.`);
    expect(now.said.join(' ')).toContain('what they rest on changed');
    expect(now.holds).toBe(false);
    expect(now.said.at(-1)).toMatch(/^Today .* would come first\.$/);
    // The same records and another figure: the method.
    const older = {
      content: { ...content, program: '0.0.9', ways: content.ways.map((w) => ({ ...w, power: w.power! * 1.01 })) },
    };
    expect(standingToday(older as Decision, ways, slate, ranked).said.join(' ')).toContain(
      'the method did (Alluvium 0.0.9',
    );
    // Other ranks from the same snapshot: the way they are drawn.
    const drawn = { content: { ...content, ways: content.ways.map((w, i) => ({ ...w, wins: i === 0 ? 1 : 0 })) } };
    expect(standingToday(drawn as Decision, ways, slate, ranked).said.join(' ')).toContain(
      'the method of ranking changed',
    );
  });
  it('knows records that came later', () => {
    const { criteria, records } = content;
    const before = { content: { ...content, criteria, records: records.filter((r) => r.noun !== 'seat') } } as Decision;
    expect(standingToday(before, ways, slate, ranked).said[0]).toContain('New since:');
  });
});

describe('reasons and tables', () => {
  it('give the strongest for and against', () => {
    const reasons = (id: string) => reasonsOf(ways, at(id), slate, say);
    expect(reasons('slate-keep')).toMatchObject({
      for: 'the cheapest, by 1796 sov',
      against: 'it falls short of the target',
    });
    expect(reasons('slate-longreach').against).toContain('something stops it');
    expect(reasons('slate-p6').turns.join()).toMatch(/if its price fell by .* sov/);
  });
  it('hold every line of cost with its rate, and every cell with its evidence', () => {
    const costs = costTable(ways, slate);
    const freight = costs.find((r) => r[0] === 'P6-205 with a valve job' && r[1] === 'freight')!;
    expect(freight.slice(3, 7)).toEqual([1, 240, 'tal', 0.42]);
    expect(freight.at(-1)).toBeCloseTo(100.8, 6);
    for (const w of ways) {
      const own = costs.filter((r) => r[0] === w.way.name);
      const lines = own.slice(0, -1).reduce((s, r) => s + Number(r.at(-1)), 0);
      expect(lines).toBeCloseTo(Number(own.at(-1)!.at(-1)), 3);
    }
    const matrix = matrixTable(ways, slate, ranked, say);
    expect(matrix.every((r) => r.length === 2 + 3 * ways.length)).toBe(true);
    expect(toCsv(matrix)).toContain('something stops it');
    expect(firstOf(ways, ranked.wins)!.way.id).toBe('slate-rework');
  });
  it('keep a price list of lines that are read like those of a way', () => {
    expect(ListPrice.safeParse({ id: 'p', line: { price: '12', quantity: -1 } }).error!.issues[0]!.message).toBe(
      'A quantity cannot be negative.',
    );
    expect(ListPrice.parse({ id: 'p', line: CostLine.parse({ price: '12' }), sets: ['core rework'] }).sets).toEqual([
      'core rework',
    ]);
  });
});

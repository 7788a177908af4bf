import { readFileSync } from 'node:fs';
import { BenchSetup, readBundle, wholesOf, type WholeSession } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { computed, ref } from 'vue';
import { usePane } from '../test/pane.js';
import BenchInstruments from './InstrumentsPane.vue';
import CalibrationPane from './CalibrationPane.vue';
import CallForm from './CallForm.vue';
import EyePane from './EyePane.vue';
import OwedList from './OwedList.vue';
import PlanForm from './PlanForm.vue';
import TemplateLine from '../parts/TemplateLine.vue';
import SetupGate from './SetupGate.vue';
import SheetPane from './SheetPane.vue';
import VelocityPane from './VelocityPane.vue';
import WetPane from './WetPane.vue';
import { useBenchLive } from './live.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const head = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
function whole(id: string): WholeSession {
  const session = bundle.sessions.find((s) => s.id === id)!;
  const readings = bundle.readings.filter((r) => r.sessionId === id);
  return {
    session,
    readings,
    calls: bundle.calls.filter((c) => c.sessionId === id),
    sheets: bundle.sheets.filter((s) => readings.some((r) => r.sheetId === s.id)),
    velocityMaps: bundle.velocityMaps.filter((m) => m.sessionId === id),
    wetFlows: [],
  };
}
const plain = (text: string) => text.replaceAll('\u00a0', ' ');

const on = usePane((address) =>
  address === '/api/calls/scored'
    ? bundle.calls.flatMap((call) => {
        const session = bundle.sessions.find((s) => s.id === call.sessionId);
        // Calls outside a session have their own test.
        return session ? [{ call, session: session.title, head: 'H', sheets: whole(session.id).sheets }] : [];
      })
    : {
        '/api/build': [build],
        '/api/source': bundle.sources,
        '/api/plan': bundle.plans,
        '/api/template': bundle.templates,
      }[address],
);
const { show, field, press, submit } = on;

describe('the plan', () => {
  const form = (id = 'session-p6-open') => show(PlanForm, { session: whole(id).session, whole: head('pellam-p6') });
  it('says which lifts it comes to and how long it takes, and is not changed by being looked at', async () => {
    await form();
    expect(plain(on.page.text())).toContain(
      '6 lifts: .100, .200, .300, .400, .500, .600. With 12 points it takes about 15 minutes',
    );
    expect(on.page.text()).not.toContain('Discard what is not saved');
    expect(Object.keys(localStorage).filter((k) => k.includes('draft'))).toEqual([]);
  });
  it('ports are chosen, made hard, left out; sides and extras ticked', async () => {
    await form();
    await press('Port 4:');
    await press('Port 4:');
    await on.page.findAll('input[type=checkbox]')[1]!.trigger('change');
    await on.page.findAll('input[type=checkbox]')[2]!.trigger('change');
    await submit();
    expect(on.sent[0]!.body.plan).toMatchObject({
      ports: [
        { number: 1, hard: false },
        { number: 4, hard: true },
      ],
      sides: ['intake'],
      swirl: true,
    });
  });
  it('a plan that makes no schedule is refused at its field', async () => {
    await form();
    await field('up to').setValue('.050 in');
    await submit();
    expect(on.page.text()).toContain('The last lift must be at least one step.');
    await field('up to').setValue('high');
    await submit();
    expect(on.page.text()).toContain('is not a lift');
    expect(on.sent).toEqual([]);
  });
  it('maps, single lifts and limits', async () => {
    await form();
    await field('and single lifts').setValue('.350 in');
    await field('and single lifts').trigger('keydown', { key: 'Enter' });
    await press('add one');
    await field('Steady over').setValue('3');
    await field('Pulls of each point').setValue('two');
    await submit();
    expect(on.page.text()).toContain('“two” is no whole number.');
    await field('Pulls of each point').setValue('2');
    await submit();
    expect(on.sent[0]!.body.plan).toMatchObject({
      list: [{ typed: '.350 in' }],
      maps: [{ place: 'pinch', rows: 5 }],
      steady: { window: 3 },
      pulls: 2,
    });
  });
  it('the shop’s plan is taken over, and this one kept', async () => {
    await form();
    await on.pick('Take the shop’s plan', on.offered('Take the shop’s plan')[2]!);
    await flushPromises();
    expect(on.page.text()).toContain('5 lifts');
    await field('Keep this one').setValue('Mine');
    await press('Save as template');
    expect(on.sent[0]).toMatchObject({ url: '/api/plan', body: { name: 'Mine', plan: { sides: ['intake'] } } });
  });
});

describe('templates of a set-up', () => {
  it('one is removed only where it is chosen', async () => {
    await show(TemplateLine, { of: 'set-up', content: () => undefined });
    expect(on.page.text()).not.toContain('Remove this template');
    await on.pick('Start from a template', 'ours: Bench 1, as always');
    await press('Remove this template');
    expect(on.sent[0]).toMatchObject({ method: 'DELETE', url: '/api/template/template-bench-1' });
    await on.pick('Start from a template', 'none');
    expect(on.page.text()).not.toContain('Remove this template');
  });
});

describe('the gate', () => {
  const gate = async (setup: object, more: object = {}) => {
    const w = whole('session-p6-open');
    const session = { ...w.session, setups: [BenchSetup.parse(setup)] };
    const saved: BenchSetup[] = [];
    const data = { ...w, session, readings: [] };
    await show(SetupGate, {
      page: {
        whole: computed(() => data),
        trouble: ref(''),
        saveSetup: async (s: BenchSetup) => {
          saved.push(s);
          return { record: session, batch: 1, split: false };
        },
      },
      session,
      whole: head('pellam-p6'),
      calibrations: bundle.calibrations,
      earlier: head('pellam-p6').sessions,
      ...more,
    });
    return saved;
  };
  it('counts what is open, and unknown is an answer', async () => {
    const saved = await gate({});
    expect(on.page.text()).toContain('11 questions are open: Depression: answer it, or say unknown.');
    await press('unknown');
    expect(on.page.text()).toContain('10 questions are open');
    await submit();
    expect(saved[0]).toMatchObject({ depression: 'unknown', bore: null });
  });
  it('takes the last set-up over as a whole', async () => {
    await gate({});
    await press('Copy the set-up of “P6-205 out of the box”');
    expect(on.page.text()).toContain('One question is open: Leak test');
    await field('Flow, valve shut').setValue('1.2 cfm');
    await press('Add');
    expect(plain(on.page.text())).toContain('1.2 cfm at 28');
    expect(on.page.text()).toContain('no exhaust figure is noted');
    await press('Add');
    await field('Flow, valve shut').setValue('1.0 cfm');
    await press('Add');
    expect(on.page.text()).toContain('Everything is answered.');
    // What is typed here survives a reload.
    expect(localStorage.getItem('alluvium.bench.setup')).toContain('1.2 cfm');
  });
  it('points at a fixture unlike the engine, and at an old check', async () => {
    await gate({ bore: '4.125 in', calibration: 'bench-1-winter' });
    expect(on.page.text()).toContain('The fixture’s bore'.replace('’', "'"));
    expect(on.page.text()).toMatch(/There is a newer check/);
  });
  it('a size that makes no sense stays in its field with a sentence', async () => {
    const saved = await gate({});
    await field('Bore fixture').setValue('4 m');
    await submit();
    expect(on.page.text()).toContain('The bore fixture must lie between 20 and 600 mm.');
    await field('Depression').setValue('strong');
    await submit();
    expect(on.page.text()).toContain('is not a depression');
    expect(saved).toEqual([]);
  });
});

describe('call, sheet and what is owed', () => {
  it('a call is written before the first reading, and only shown after', async () => {
    const { session, calls } = whole('session-p6-received');
    await show(CallForm, { session, call: undefined, closed: false });
    await field('Peak intake').setValue('200');
    await field('Worst place').setValue('bowl');
    await submit();
    expect(on.sent[0]).toMatchObject({ url: '/api/call', body: { intakePeak: { typed: '200 cfm' }, worst: 'bowl' } });
    on.page.unmount();
    await show(CallForm, { session, call: calls[0], closed: true });
    expect(on.page.find('form').exists()).toBe(false);
    expect(plain(on.page.text())).toContain('Wren called 205 cfm intake and 150 cfm exhaust');
  });
  it('the sheet shows flows, ports against each other, the score of the call, every raw reading', async () => {
    await show(SheetPane, { whole: whole('session-417-received'), head: head('corrow-417') });
    const text = plain(on.page.text());
    expect(text).toContain('Nothing is owed');
    expect(text).toContain('Wren said 190 cfm intake');
    expect(text).toContain('Port against port, intake');
    expect(text).toContain('Every raw reading (32)');
    expect(text).toContain('light springs · gasket on');
  });
  it('swirl stands beside the flow, with the lift at which it turns round', async () => {
    await show(SheetPane, { whole: whole('session-tarrow-t3'), head: head('tarrow-t3') });
    const text = plain(on.page.text());
    expect(text).toContain('−90');
    expect(text).toMatch(/The swirl turns round at \.126/);
  });
  it('an open point is owed, excused with a reason, or the run says why it stopped', async () => {
    const open = whole('session-p6-open');
    await show(OwedList, { whole: open });
    expect(on.page.text()).toContain('Port 1 intake: 2 points not recorded.');
    await press('Finish the session');
    expect(on.page.text()).toContain('say why the run stopped');
    await field('Why the run stopped').setValue('guide hits the seal');
    await press('Finish the session');
    expect(on.sent[0]!.body).toMatchObject({ finished: true, stopped: 'guide hits the seal' });
    await press('Excuse');
    await field('Why it will not be done').setValue('no time');
    await press('Excuse it');
    expect(Object.values(on.sent[1]!.body.excused as object)).toEqual(['no time']);
  });
});

describe('the velocity map', () => {
  it('draws on the section, says where it is fast and dead, and closes against the bench', async () => {
    await show(VelocityPane, { whole: whole('session-417-pinch'), head: head('corrow-417') });
    const text = plain(on.page.text());
    expect(text).toContain('In the pinch it is fast at the roof, away from the cylinder wall');
    expect(text).toContain('dead at the floor centre');
    expect(text).toMatch(/against the bench[−+]?\d\.\d %/);
    expect(on.page.findAll('path.band').length).toBeGreaterThan(3);
  });
  it('reads ranges, refuses words, keeps what is typed', async () => {
    await show(VelocityPane, { whole: whole('session-417-pinch'), head: head('corrow-417') });
    const cell = on.page.find<HTMLInputElement>('[aria-label="Row 1, column 1"]');
    await cell.setValue('9-14');
    await cell.trigger('blur');
    expect(cell.element.value).toBe('9-14 inH2O');
    await cell.setValue('quick');
    await submit();
    expect(on.page.text()).toContain('is not a depression');
    expect(on.sent).toEqual([]);
    await cell.setValue('200');
    expect(on.page.text()).toContain('look at that reading again');
    await submit();
    expect(on.sent[0]!.body.cells.find((c: any) => c.row === 0 && c.column === 0).low.typed).toBe('200 inH2O');
  });
  it('the planned one is begun with a press', async () => {
    const w = whole('session-417-pinch');
    await show(VelocityPane, { whole: { ...w, velocityMaps: [] }, head: head('corrow-417') });
    await press('begin the pinch at .400 in');
    expect(on.sent[0]).toMatchObject({ url: '/api/velocitymap', body: { place: 'pinch', sessionId: w.session.id } });
  });
});

/** Marks drawn at points of a chart. */
const marksOf = (label: string) => on.page.findAll(`svg[aria-label^="${label}"] g > path[transform]`).length;

describe('the bench itself', () => {
  it('checks: drift, words, and the factor while it is typed', async () => {
    await show(CalibrationPane, { calibrations: bundle.calibrations });
    expect(plain(on.page.text())).toContain('The bench reads 1.5 % too high');
    expect(marksOf('Factor of the bench over time')).toBe(4);
    for (const [label, value] of [
      ['Hole of the plate', '45 mm'],
      ['Pipe before it, if any', '98 mm'],
      ['Depression', '28'],
      ['Measured', '218.7'],
    ] as const)
      await field(label).setValue(value);
    expect(plain(on.page.text())).toContain('this plate flows 218.7 cfm');
    expect(on.page.text()).toContain('The factor is 1.0000');
    await field('Hole of the plate').setValue('90 mm');
    expect(on.page.text()).toContain('between 0.10 and 0.75');
    await field('Measured').setValue('');
    await on.page.find('form').trigger('submit');
    await flushPromises();
    expect(on.sent).toEqual([]);
    await press('Remove the check of 2026-06-12');
    expect(on.sent[0]).toMatchObject({ method: 'DELETE', url: '/api/calibration/bench-1-summer' });
  });
  it('the eye of each who calls', async () => {
    await show(EyePane, {});
    expect(plain(on.page.text())).toMatch(/Wren: 9 calls: .*Tarn: 2 calls/);
    expect(marksOf('How far each call was off, over time')).toBe(11);
  });
  it('instruments say what they are; without one, figures are typed', async () => {
    await show(BenchInstruments, {});
    const live = useBenchLive();
    expect(on.page.text()).toContain('The line to the server is not up yet.');
    live.connected = true;
    await flushPromises();
    expect(on.page.text()).toContain('No instrument is connected');
    live.hear({
      tell: 'instruments',
      instruments: [
        {
          id: 'c',
          name: 'Calipers',
          kind: 'calipers',
          simulated: true,
          standing: 'simulated',
          quantities: [{ name: 'length', kind: 'length', min: 0, max: 0.3 }],
          ranges: [],
          takes: ['read'],
          nonsense: 2,
          problem: 'A line that is no JSON.',
        },
      ],
    });
    await flushPromises();
    expect(plain(on.page.text())).toMatch(/Calipers.*calipers.*simulated.*answers when asked.*2 unreadable lines/);
  });
  it('wet flow: marks are put, moved, named and removed', async () => {
    const look = {
      id: 'w',
      version: 1,
      stageId: 'x',
      portId: null,
      sessionId: 's',
      side: 'intake' as const,
      lift: null,
      attachmentId: 'a',
      marks: [{ x: 0.4, y: 0.5, kind: 'dry' as const, text: '' }],
      date: null,
      note: '',
    };
    const w = { ...whole('session-417-pinch'), wetFlows: [look] };
    await show(WetPane, { whole: w, head: head('corrow-417') });
    await press('Put a mark');
    expect(on.sent[0]!.body.marks).toHaveLength(2);
    const mark = on.page.find('.mark');
    await mark.trigger('keydown', { key: 'ArrowRight' });
    await flushPromises();
    expect(on.sent[1]!.body.marks[0].x).toBeCloseTo(0.42, 9);
    await mark.trigger('keydown', { key: 'Delete' });
    await flushPromises();
    expect(on.sent[2]!.body.marks).toEqual([]);
    on.page.unmount();
    await show(WetPane, { whole: { ...w, wetFlows: [] }, head: head('corrow-417') });
    expect(on.page.text()).toContain('out of reach of flame');
  });
});

import { inches } from '@alluvium/core';
import {
  BenchSetup,
  Plan,
  RawReading,
  Session,
  Sheet,
  sheetSetup,
  withReadings,
  type BenchTells,
  type ReadingWrite,
  type WholeSession,
} from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { computed, effectScope, nextTick, ref, shallowRef } from 'vue';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { mounted } from '../test/mounted.js';
import RunStates from './RunStates.vue';
import { pageId, useBenchLive } from './live.js';
import { livePitot, readPitot, samplesAt, sayPitot } from './pitotCell.js';
import { useRun } from './useRun.js';
import type { SessionPage } from '../data/session.js';

describe('a cell of a velocity map', () => {
  const low = (text: string) => {
    const read = readPitot(text, 'inch');
    return read && 'low' in read ? [read.low.typed, read.high?.typed] : read;
  };
  it.each([
    ['12', ['12 inH2O', undefined]],
    ['8-14', ['8 inH2O', '14 inH2O']],
    ['8 – 14', ['8 inH2O', '14 inH2O']],
    ['8 to 14 mbar', ['8 mbar', '14 mbar']],
    ['-0.5', ['-0.5 inH2O', undefined]],
    ['', undefined],
  ])('%s', (text, expected) => {
    expect(low(text)).toEqual(expected);
  });
  it('a speed with its unit is kept as the pressure it shows: 4005 √(inH2O) ft/min (ASHRAE Handbook, Fundamentals)', () => {
    for (const [text, inH2O] of [
      ['353 ft/s', (353 / 66.75) ** 2],
      ['100 m/s', (100 / 0.3048 / 66.75) ** 2],
    ] as const) {
      const read = readPitot(text, 'inch');
      // The handbook's air is 0.075 lb/ft³, ours 1.225 kg/m³: 2 % in pressure.
      expect((read as { low: { si: number } }).low.si / 249.089 / inH2O).toBeCloseTo(1.02, 1);
    }
    expect(low('200-210 ft/s')).toMatchObject([expect.stringMatching(/inH2O$/), expect.stringMatching(/inH2O$/)]);
  });
  it.each([['fast'], ['1-2-3'], ['9-4']])('refuses %s with a sentence', (text) => {
    expect(readPitot(text, 'inch')).toHaveProperty('problem');
  });
  it('what is said can be read again', () => {
    for (const text of ['12', '8-14', '0.4-1.0 inH2O']) {
      const once = readPitot(text, 'inch');
      const again = readPitot(sayPitot(once as never), 'inch');
      expect(again).toEqual(once);
    }
    expect(sayPitot(undefined)).toBe('');
  });
  it('a live reading that bounces is kept as a range, spikes left out', () => {
    expect(livePitot([1, 2], 'inch')).toBeUndefined();
    const calm = livePitot([2490, 2491, 2492, 2489, 2490], 'inch')!;
    expect(calm.high).toBeNull();
    expect(calm.low.typed).toBe('10.00 inH2O');
    const wild = livePitot([2000, 3000, 2100, 2900, 2500, 2000, 3000, 2500, 2500, 9000], 'inch')!;
    expect(wild.high!.si).toBeLessThan(3100);
    expect(wild.low.si).toBeGreaterThan(1900);
  });
  it('takes no sample that was on its way to the cell', () => {
    const at = (t: number, y?: number) => ({ at: t, value: t, ...(y === undefined ? {} : { probe: { x: 0.5, y } }) });
    const motor = [at(1, 0.25), at(2, 0.25), at(3, 0.75), at(4, 0.75)];
    expect(samplesAt(motor, { x: 0.5, y: 0.75 }, 1.5).map((s) => s.value)).toEqual([3, 4]);
    // The same cell once more: only what came after.
    expect(samplesAt(motor, { x: 0.5, y: 0.75 }, 3).map((s) => s.value)).toEqual([4]);
    expect(samplesAt([at(1), at(1.05), at(1.2)], { x: 0.5, y: 0.75 }, 1).map((s) => s.value)).toEqual([1.2]);
  });
});

const bench = {
  id: 'b',
  name: 'Bench',
  kind: 'flow bench' as const,
  simulated: true,
  standing: 'simulated' as const,
  quantities: [
    { name: 'percent', kind: 'percent' as const, min: 0, max: 1.05 },
    { name: 'depression', kind: 'depression' as const, min: 0, max: 16000 },
  ],
  ranges: [],
  takes: ['stream' as const, 'range' as const, 'direction' as const],
  nonsense: 0,
  problem: '',
};
let clock = 1000;
/** Nobody asks for the session. */
const quiet = { asked: false, asking: false, refused: false };
/** Streams so many seconds of a reading, 20 a second. */
function stream(seconds: number, value: (t: number) => number, depression = 6974.5, range = '4'): BenchTells {
  return {
    tell: 'samples',
    id: 'b',
    frames: Array.from({ length: Math.round(seconds * 20) }, () => {
      clock += 50;
      return { say: 'sample' as const, at: clock, values: { percent: value(clock / 1000), depression }, range };
    }),
  };
}
const calm = (level: number) => (t: number) => level * (1 + 0.001 * Math.sin(t * 37));

beforeEach(() => {
  setActivePinia(createPinia());
  localStorage.clear();
  sessionStorage.clear();
});
afterEach(() => vi.unstubAllGlobals());

describe('the live line', () => {
  it('keeps half a minute of each quantity and no more', () => {
    const live = useBenchLive();
    live.hear({ tell: 'instruments', instruments: [bench] });
    for (let i = 0; i < 60; i++) live.hear(stream(5, calm(0.5)));
    expect(live.samples('percent')).toHaveLength(600);
    expect(live.latest('depression')).toBe(6974.5);
    expect(live.mark('b').range).toBe('4');
    expect(live.silentFor('b')).toBeLessThan(1000);
  });
  it('leaves out what is beyond the range an instrument gave itself, and says so', () => {
    const live = useBenchLive();
    live.hear({ tell: 'instruments', instruments: [bench] });
    live.hear(stream(1, calm(0.5)));
    live.hear(stream(1, () => 9999));
    expect(live.samples('percent')).toHaveLength(20);
    expect(live.doubts.b).toContain('percent of 9999, out of its own range');
    live.hear(stream(1, calm(0.5)));
    expect(live.doubts.b).toBe('');
  });
  it('looks for silence by itself: an instrument that stops sending says nothing of it', () => {
    vi.useFakeTimers();
    vi.stubGlobal(
      'WebSocket',
      class {
        close() {}
      },
    );
    const live = useBenchLive();
    const leave = live.use();
    const before = live.ticks;
    vi.advanceTimersByTime(1100);
    expect(live.ticks).toBe(before + 2);
    leave();
    vi.advanceTimersByTime(5000);
    expect(live.ticks).toBe(before + 2);
    vi.useRealTimers();
  });
  it('forgets the stream of an instrument that left', () => {
    const live = useBenchLive();
    live.hear({ tell: 'instruments', instruments: [bench] });
    live.hear(stream(1, calm(0.5)));
    live.hear({ tell: 'instruments', instruments: [] });
    expect(live.samples('percent')).toEqual([]);
    expect(live.silentFor('nobody')).toBe(Infinity);
  });
  it('tells an instrument that comes late what was asked of its kind meanwhile: the last of each order, once', () => {
    const sent: string[] = [];
    vi.stubGlobal(
      'WebSocket',
      class {
        static OPEN = 1;
        readyState = 1;
        onopen = () => {};
        send(text: string) {
          sent.push(text);
        }
        close() {}
      },
    );
    const orders = () => sent.flatMap((t) => (t.includes('"command"') ? [JSON.parse(t).command] : []));
    const live = useBenchLive();
    const leave = live.use();
    live.order('flow bench', { do: 'range', to: '3' });
    live.order('flow bench', { do: 'range', to: '4' });
    expect(orders()).toEqual([]);
    live.hear({ tell: 'instruments', instruments: [bench] });
    live.hear({ tell: 'instruments', instruments: [bench] });
    expect(orders()).toEqual([{ do: 'range', to: '4' }]);
    live.hear({ tell: 'instruments', instruments: [] });
    live.order('flow bench', { do: 'range', to: '2' });
    // The session is left: nobody waits for that any more.
    live.leave();
    live.hear({ tell: 'instruments', instruments: [bench] });
    expect(orders()).toHaveLength(1);
    leave();
  });
  it('a page keeps its name over a reload', () => {
    expect(pageId()).toBe(pageId());
    sessionStorage.clear();
    expect(pageId()).toBeTruthy();
  });
  it('opens, asks for its session, and comes back after the line broke', async () => {
    vi.useFakeTimers();
    const sockets: FakeSocket[] = [];
    class FakeSocket {
      static OPEN = 1;
      readyState = 1;
      sent: string[] = [];
      onopen = () => {};
      onmessage: (e: { data: string }) => void = () => {};
      onclose = () => {};
      constructor() {
        sockets.push(this);
      }
      send(text: string) {
        this.sent.push(text.trim());
      }
      close() {
        this.onclose();
      }
    }
    vi.stubGlobal('WebSocket', FakeSocket);
    const live = useBenchLive();
    live.open('s');
    const leave = live.use();
    sockets[0]!.onopen();
    expect(sockets[0]!.sent.map((t) => JSON.parse(t).ask)).toEqual(['watch', 'session']);
    sockets[0]!.onmessage({ data: '{"tell":"hand","session":"s","mine":true,"taken":true,"onlookers":2}\n' });
    expect(live.recorder).toMatchObject({ mine: true, taken: true, onlookers: 2 });
    sockets[0]!.onclose();
    expect([live.connected, live.recorder]).toEqual([false, undefined]);
    vi.advanceTimersByTime(1500);
    expect(sockets).toHaveLength(2);
    sockets[1]!.onopen();
    expect(live.connected).toBe(true);
    live.takeOver();
    live.command('b', { do: 'range', to: '3' });
    live.leave();
    expect(sockets[1]!.sent.map((t) => JSON.parse(t).ask)).toEqual([
      'watch',
      'session',
      'take over',
      'command',
      'leave',
    ]);
    leave();
    vi.advanceTimersByTime(5000);
    expect(sockets).toHaveLength(2);
    vi.useRealTimers();
  });
});

const answered = BenchSetup.parse({
  depression: '28 inH2O',
  bore: '98 mm',
  entry: 'radius',
  exhaustPipe: 'bare',
  holesClosed: 'yes',
  springs: 'light',
  valve: 'own',
  portKind: 'long runner',
  gasket: 'on',
  leakTest: 'unknown',
  calibration: 'none',
  reads: 'percent',
  ranges: [
    { name: '3', intake: '147.8 cfm', exhaust: '157.4 cfm' },
    { name: '4', intake: '295.6 cfm', exhaust: '317.5 cfm' },
  ],
});

/** A session whose server is in the test's hands. */
function sessionOf(setup: BenchSetup = answered, plan: object = {}) {
  const session = Session.parse({
    id: 's',
    headId: 'h',
    stageId: 'x',
    title: 'T',
    plan: Plan.parse({ sides: ['intake'], ports: [{ number: 3 }], list: ['.100 in', '.200 in'], ...plan }),
    setups: [setup],
  });
  const blank = Sheet.parse({ id: 'f', stageId: 'x', title: 'T', setup: sheetSetup(setup, undefined), rows: [] });
  const whole = shallowRef<WholeSession>({
    session,
    readings: [],
    calls: [],
    sheets: [blank],
    velocityMaps: [],
    wetFlows: [],
  });
  const done = { batch: 1, touched: [] };
  const sent: ReadingWrite[] = [];
  const put = (readings: RawReading[]) => (whole.value = { ...whole.value, readings });
  const away = ref(false);
  const stuck = shallowRef<ReadingWrite>();
  const page: SessionPage = {
    whole: computed(() => whole.value),
    error: computed(() => ''),
    pending: computed(() => stuck.value),
    trouble: ref(''),
    record: async (write) => {
      sent.push(write);
      if (away.value) {
        stuck.value = write;
        page.trouble.value = 'The server does not answer.';
        return undefined;
      }
      const { again: _again, ...values } = write;
      const reading = RawReading.parse({
        ...values,
        sessionId: 's',
        sheetId: 'f',
        setup: 0,
        at: new Date(clock).toISOString(),
      });
      put([
        ...whole.value.readings.map((r) =>
          write.again && r.lift.si === reading.lift.si ? { ...r, state: 'retaken' as const } : r,
        ),
        reading,
      ]);
      return { reading, sheet: withReadings(blank, whole.value.readings, reading), session, ...done };
    },
    takeBack: async () => {
      const last = whole.value.readings.findLast((r) => r.state === 'kept')!;
      put(whole.value.readings.map((r) => (r === last ? { ...r, state: 'taken back' as const } : r)));
      return { reading: { ...last, state: 'taken back' }, sheet: blank, session, ...done };
    },
    noise: async (id, noisy) => void put(whole.value.readings.map((r) => (r.id === id ? { ...r, noisy } : r))),
    saveSetup: async () => ({ record: session, split: false, ...done }),
    loading: computed(() => false),
  };
  const scope = effectScope();
  const turns: number[] = [];
  const run = scope.run(() =>
    useRun(page, () => undefined, { sound: () => false, onTurn: (to) => turns.push(to.number) }),
  )!;
  return { run, page, sent, turns, whole, goAway: () => (away.value = true), end: () => scope.stop() };
}

describe('the run', () => {
  const begin = async (level = 0.6, setup = answered, plan: object = {}) => {
    const live = useBenchLive();
    live.hear({ tell: 'instruments', instruments: [bench] });
    const s = sessionOf(setup, plan);
    await s.run.record();
    live.hear(stream(3, calm(level)));
    await nextTick();
    return { ...s, live };
  };
  it('asks for the head first; then a steady reading is recorded with its samples, and the next lift is called', async () => {
    const { run, sent, turns } = await begin();
    expect(turns).toEqual([3]);
    expect(run.state.value.state).toBe('steady');
    expect(run.lift(run.point.value!.lift)).toBe('.100');
    await run.record();
    expect(sent[0]).toMatchObject({
      lift: { typed: '.100 in' },
      percent: { typed: expect.stringMatching(/^(59\.9|60\.0)\d* %$/) },
      range: '4',
      noisy: false,
    });
    expect(sent[0]!.samples!.length).toBeGreaterThan(30);
    expect(sent[0]!.depression).toMatchObject({ typed: '28.00 inH2O' });
    expect(run.lift(run.point.value!.lift)).toBe('.200');
    // What was streamed before the move does not count for the next lift.
    expect(run.state.value.state).toBe('waiting');
  });
  it('refuses while it settles, and takes a second press as noisy', async () => {
    const { run, sent, live } = await begin();
    live.hear(stream(3, (t) => 0.4 + 0.05 * ((t * 1000 - clock) / 1000)));
    let rise = 0.3;
    live.hear(stream(3, () => (rise += 0.002)));
    expect(run.state.value.state).toBe('settling');
    await run.record();
    expect(sent).toEqual([]);
    expect(run.message.value).toMatchObject({ tone: 'ask', text: expect.stringContaining('Still settling') });
    await run.record();
    expect(sent[0]!.noisy).toBe(true);
  });
  it('refuses a stuck meter, one past its range, one without its depression', async () => {
    const { run, sent, live } = await begin();
    const refused = async (text: string) => {
      await run.record();
      expect(run.message.value!.text).toContain(text);
      expect(sent).toEqual([]);
    };
    live.hear(stream(3, () => 0.6));
    await refused('it is stuck');
    live.hear(stream(3, calm(1.03)));
    await refused('Past the end of the range');
    live.hear(stream(3, calm(0.6), 4000));
    await refused('too far off to correct');
    live.hear(stream(3, calm(0.6), 6700));
    expect(run.depressionSays.value).toContain('corrected, and marked so');
    live.hear(stream(3, calm(0.6), 6974, '9'));
    await refused('Range 9 has no full scale');
  });
  it('a lone bench that falls silent records nothing, though its last reading was steady', async () => {
    const { run, sent, live } = await begin();
    expect(run.state.value).toMatchObject({ state: 'steady', silent: false });
    const now = performance.now();
    vi.spyOn(performance, 'now').mockReturnValue(now + 5000);
    live.ticks++;
    expect(run.state.value.silent).toBe(true);
    await run.record();
    expect(run.message.value!.text).toContain('Bench is silent');
    expect(sent).toEqual([]);
    vi.restoreAllMocks();
  });
  it('refuses while the dial stands elsewhere, and while the set-up is open', async () => {
    const { run, sent, live } = await begin();
    const dial = {
      ...bench,
      id: 'd',
      name: 'Dial',
      kind: 'dial indicator' as const,
      quantities: [{ name: 'lift', kind: 'lift' as const }],
    };
    live.hear({ tell: 'instruments', instruments: [bench, dial] });
    live.hear({ tell: 'samples', id: 'd', frames: [{ say: 'sample', at: clock, values: { lift: inches(0.091) } }] });
    live.hear(stream(3, calm(0.6)));
    await run.record();
    expect(run.message.value!.text).toBe('The dial stands at .091: open to .100.');
    expect(sent).toEqual([]);
    const open = sessionOf({ ...answered, gasket: null });
    await open.run.record();
    expect(open.run.message.value!.text).toContain('Head gasket');
    expect(open.turns).toEqual([]);
  });
  it('what stood in the way is no longer told once nothing does', async () => {
    const { run, sent, live } = await begin();
    live.hear(stream(3, () => 0.6));
    await run.record();
    expect(run.message.value!.text).toContain('it is stuck');
    live.hear(stream(3, calm(0.6)));
    await nextTick();
    expect(run.message.value).toBeUndefined();
    expect(sent).toEqual([]);
  });
  it('advises a range and says what it gains', async () => {
    const { run } = await begin(0.2);
    expect(run.advice.value).toMatchObject({ go: 'down', to: { name: '3' } });
    expect(run.adviceWords.value).toContain('Range 3 would read finer');
    expect(run.reads.value!.value).toBeGreaterThan(0);
  });
  it('runs itself: records what is steady, one point after the other', async () => {
    const { run, sent, live } = await begin();
    run.auto.value = true;
    await flushPromises();
    expect(sent).toHaveLength(1);
    live.hear(stream(3, calm(0.7)));
    await flushPromises();
    expect(sent.map((w) => (w.lift as { typed: string }).typed)).toEqual(['.100 in', '.200 in']);
    expect(run.message.value!.text).toContain('All points are recorded');
  });
  it('take again, noise, skip, set aside, arrows', async () => {
    const { run, sent, live, whole } = await begin();
    await run.record();
    await run.noise();
    expect(whole.value.readings[0]!.noisy).toBe(true);
    run.retake();
    expect(run.lift(run.point.value!.lift)).toBe('.100');
    live.hear(stream(3, calm(0.61)));
    await run.record();
    expect(sent[1]!.again).toBe(true);
    expect(whole.value.readings.map((r) => r.state)).toEqual(['retaken', 'kept']);
    await run.skip('guide hits the seal');
    expect(sent[2]).toMatchObject({ skipped: 'guide hits the seal', lift: { typed: '.200 in' } });
    await run.undo();
    expect(run.message.value!.text).toBe('.200 set aside.');
    run.move(-1);
    expect(run.recordedHere.value).toBeDefined();
    live.hear(stream(3, calm(0.61)));
    await run.record();
    expect(run.message.value!.text).toContain('This point is recorded');
    run.move(-1);
    expect(run.lift(run.point.value!.lift)).toBe('.100');
  });
  it('asks about the pull that stands apart', async () => {
    const { run, live } = await begin(0.6, answered, { list: ['.100 in'], pulls: 3 });
    for (const level of [0.6, 0.601, 0.66]) {
      live.hear(stream(3, calm(level)));
      await run.record();
    }
    expect(run.point.value!.pull).toBe(2);
    expect(run.message.value!.text).toMatch(/All points|stands apart/);
  });
  it('by hand, when no bench is there; a server that is away keeps the reading', async () => {
    const flow = { ...answered, reads: 'flow' as const, ranges: [] };
    const s = sessionOf(flow);
    await s.run.record();
    expect(s.run.manual.value).toBe(true);
    await s.run.record();
    expect(s.run.message.value!.text).toBe('Type the reading first.');
    s.run.byHand.value = { ...s.run.byHand.value, value: { si: 0.05, typed: '105.9 cfm' } };
    await s.run.record();
    expect(s.sent[0]).toMatchObject({ flow: { typed: '105.9 cfm' }, noisy: false });
    s.goAway();
    s.run.byHand.value = { ...s.run.byHand.value, value: { si: 0.06, typed: '127.1 cfm' } };
    await s.run.record();
    expect(s.run.message.value!.text).toContain('does not answer');
    await s.run.record();
    expect(s.run.message.value!.text).toContain('not on the server yet');
    expect(s.sent).toHaveLength(2);
  });
  it('looks on without recording while another page holds the session', async () => {
    const { run, sent, live } = await begin();
    live.open('s');
    live.hear({ tell: 'hand', session: 's', mine: false, taken: true, onlookers: 1, ...quiet });
    await run.record();
    expect(run.message.value!.text).toContain('Ask to take over');
    live.hear({ tell: 'hand', session: 's', mine: false, taken: false, onlookers: 2, ...quiet });
    await run.record();
    expect(run.message.value!.text).toContain('Nobody records now');
    expect(sent).toEqual([]);
  });
});

describe('the row of states', () => {
  it('tells a meter past its end from one that is stuck', async () => {
    const live = useBenchLive();
    live.hear({ tell: 'instruments', instruments: [bench] });
    const { run } = sessionOf();
    await run.record();
    const page = mounted(RunStates, { props: { run, swirls: false, problem: '' } });
    // Mounting makes a store of its own; the run keeps hearing the one it began with.
    const word = async (value: number) => {
      live.hear(stream(3, () => value));
      await nextTick();
      return page.find('[data-testid=state]').text();
    };
    expect(await word(1.05)).toBe('past its end');
    expect(await word(0.6)).toBe('stuck?');
    page.unmount();
  });
});

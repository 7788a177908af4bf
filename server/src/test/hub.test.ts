import type { BenchTells, Command } from '@alluvium/records';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import WebSocket from 'ws';
import { AWAY_MS, HELLO_MS, createHub, type Hub } from '../bench/hub.js';
import type { Link } from '../bench/link.js';
import { webSocketLink } from '../bench/link.js';
import { openPairings, type Pairings } from '../bench/pairing.js';
import { fixture, type Fixture } from './fixture.js';

/** A link both ends of which are in the test's hands. */
function pair() {
  const said: unknown[] = [];
  let closed = false;
  const link: Link = {
    send: (line) => said.push(JSON.parse(line)),
    onLine: () => {},
    onClose: () => {},
    close: () => {
      if (closed) return;
      closed = true;
      link.onClose();
    },
  };
  return { link, said, say: (message: unknown) => link.onLine(JSON.stringify(message)), closed: () => closed };
}
const hello = (more: object = {}) => ({
  say: 'hello',
  protocol: 1,
  id: 'b1',
  name: 'Bench',
  kind: 'flow bench',
  quantities: [{ name: 'percent', kind: 'percent' }],
  takes: ['stream', 'range', 'read'],
  ...more,
});

let hub: Hub;
let pairings: Pairings;
const OWN = 'the key of this process';
beforeEach(async () => {
  vi.useFakeTimers();
  pairings = await openPairings(undefined, OWN);
  hub = createHub(pairings);
});
afterEach(() => {
  hub.close();
  vi.useRealTimers();
});
const bench = (more: object = {}) => {
  const b = pair();
  hub.addInstrument(b.link);
  b.say(hello({ key: OWN, ...more }));
  return b;
};
const page = (client: string, session?: string) => {
  const w = pair();
  hub.addWatcher(w.link);
  if (session) w.say({ ask: 'session', session, client });
  const last = <T extends BenchTells['tell']>(tell: T) =>
    (w.said as BenchTells[]).findLast((m): m is Extract<BenchTells, { tell: T }> => m.tell === tell);
  return { ...w, last };
};

describe('instruments', () => {
  it('are known once they said what they are, and gone when the line is', () => {
    const w = page('p');
    const b = bench();
    expect(w.last('instruments')?.instruments).toMatchObject([{ id: 'b1', name: 'Bench', nonsense: 0 }]);
    b.link.close();
    expect(w.last('instruments')?.instruments).toEqual([]);
  });
  it('a second one under a living name is refused, and both ends are told', () => {
    const w = page('p');
    w.say({ ask: 'watch', on: true });
    const first = bench();
    const second = bench();
    expect([first.closed(), second.closed()]).toEqual([false, true]);
    expect(second.said).toEqual([{ do: 'refused', why: 'An instrument of this id is connected already.' }]);
    expect(w.last('instruments')?.instruments[0]!.problem).toContain('A second program');
    first.say({ say: 'sample', at: 1, values: { percent: 0.5 } });
    second.say({ say: 'sample', at: 1, values: { percent: 0.9 } });
    vi.advanceTimersByTime(50);
    expect(w.last('samples')?.frames.map((x) => x.values.percent)).toEqual([0.5]);
    first.link.close();
    expect(bench().closed()).toBe(false);
  });
  it('one that never says what it is, is cut', () => {
    const s = pair();
    hub.addInstrument(s.link);
    vi.advanceTimersByTime(HELLO_MS - 1);
    expect(s.closed()).toBe(false);
    vi.advanceTimersByTime(1);
    expect(s.closed()).toBe(true);
    const b = bench();
    vi.advanceTimersByTime(HELLO_MS);
    expect(b.closed()).toBe(false);
  });
  it('stream only while a page watches', () => {
    const b = bench();
    const orders = () => (b.said as Command[]).map((c) => (c.do === 'stream' ? c.on : c.do));
    expect(orders()).toEqual([false]);
    const w = page('p');
    w.say({ ask: 'watch', on: true });
    const other = page('q');
    other.say({ ask: 'watch', on: true });
    w.link.close();
    expect(orders()).toEqual([false, true]);
    other.link.close();
    expect(orders()).toEqual([false, true, false]);
  });
  it('samples reach the pages that watch, within a tick', () => {
    const b = bench();
    const [w, deaf] = [page('p'), page('q')];
    w.say({ ask: 'watch', on: true });
    b.say({ say: 'sample', at: 1, values: { percent: 0.5 } });
    b.say({ say: 'sample', at: 2, values: { percent: 0.6 } });
    vi.advanceTimersByTime(50);
    expect(w.last('samples')?.frames.map((x) => x.values.percent)).toEqual([0.5, 0.6]);
    expect(deaf.last('samples')).toBeUndefined();
  });
  it('nonsense is counted and said, sense goes on; too much of it ends the line', () => {
    const b = bench();
    const w = page('p');
    b.link.onLine('{{{');
    expect(w.last('instruments')?.instruments[0]).toMatchObject({ nonsense: 1, problem: 'A line that is no JSON.' });
    b.link.onLine('{"say":"sample","at":1,"values":{"percent":"half"}}');
    w.say({ ask: 'watch', on: true });
    b.say({ say: 'sample', at: 1, values: { percent: 0.5 } });
    vi.advanceTimersByTime(50);
    expect(w.last('samples')?.frames).toHaveLength(1);
    for (let i = 0; i < 600 && !b.closed(); i++) b.link.onLine('noise');
    expect(b.closed()).toBe(true);
  });
  it('a stranger that speaks before it says what it is, or another protocol, is shut out', () => {
    for (const line of [
      '{"say":"sample","at":1,"values":{}}',
      JSON.stringify({ ...hello(), protocol: 9 }),
      'x'.repeat(99_999),
    ]) {
      const s = pair();
      hub.addInstrument(s.link);
      s.link.onLine(line);
      expect(s.closed(), line.slice(0, 40)).toBe(true);
    }
    expect(hub.instruments()).toEqual([]);
  });
  it('take only commands they said they take', () => {
    const b = bench();
    const w = page('p');
    w.say({ ask: 'command', instrument: 'b1', command: { do: 'range', to: '4' } });
    w.say({ ask: 'command', instrument: 'b1', command: { do: 'lift', to: 0.01 } });
    w.say({ ask: 'command', instrument: 'nobody', command: { do: 'range', to: '4' } });
    w.say({ ask: 'command', instrument: 'b1', command: { do: 'explode' } });
    expect((b.said as Command[]).map((c) => c.do)).toEqual(['stream', 'range']);
  });
  it('are asked for one value; silence and absence are said', async () => {
    const b = bench({ id: 'c', quantities: [{ name: 'length', kind: 'length' }], takes: ['read'] });
    const asked = hub.read('length', 0.05);
    const order = b.said.at(-1) as Extract<Command, { do: 'read' }>;
    expect(order).toMatchObject({ do: 'read', name: 'length', near: 0.05 });
    b.say({ say: 'reading', id: order.id, name: 'length', value: 0.0501 });
    expect(await asked).toEqual({ instrument: 'Bench', value: 0.0501 });
    await expect(hub.read('volume')).rejects.toThrow('No instrument');
    const silent = hub.read('length');
    const refused = expect(silent).rejects.toThrow('does not answer');
    await vi.advanceTimersByTimeAsync(4000);
    await refused;
  });
});

describe('pairing', () => {
  const stranger = (more: object = {}) => bench({ key: undefined, ...more });
  const standing = () => hub.instruments().map((i) => i.standing);

  it('nothing an unknown instrument says is taken, and nothing is asked of it', async () => {
    const w = page('p');
    const s = stranger();
    w.say({ ask: 'watch', on: true });
    s.say({ say: 'sample', at: 1, values: { percent: 0.5 } });
    w.say({ ask: 'command', instrument: 'b1', command: { do: 'range', to: '4' } });
    vi.advanceTimersByTime(50);
    expect(w.last('samples')).toBeUndefined();
    expect(standing()).toEqual(['unknown']);
    expect((s.said as Command[]).map((c) => c.do)).toEqual(['refused']);
    await expect(hub.read('percent')).rejects.toThrow('No instrument');
  });
  it('the code on the page pairs one; its key opens the door the next time, and nobody else’s does', () => {
    const w = page('p');
    w.say({ ask: 'pair' });
    const { code } = w.last('code')!;
    expect(code).toMatch(/^\d{6}$/);
    const b = stranger({ code });
    expect(standing()).toEqual(['paired']);
    expect(w.last('code')!.code).toBeNull();
    const { key } = b.said[0] as Extract<Command, { do: 'keep' }>;
    b.link.close();
    stranger({ code });
    expect(standing()).toEqual(['unknown']);
    // The one that can show its key takes the place of the stranger under its name.
    bench({ key });
    expect(standing()).toEqual(['paired']);
    expect(bench({ id: 'b2', key }).closed()).toBe(false);
    expect(standing()).toEqual(['paired', 'unknown']);
    expect(w.last('instruments')!.instruments.every((i) => !('key' in i) && !('code' in i))).toBe(true);
  });
  it('a code ends with its time, and with five wrong ones', () => {
    const w = page('p');
    w.say({ ask: 'pair' });
    const first = w.last('code')!;
    vi.setSystemTime(first.until + 1);
    stranger({ id: 'late', code: first.code });
    w.say({ ask: 'pair' });
    const { code } = w.last('code')!;
    for (let i = 0; i < 5; i++) stranger({ id: `w${i}`, code: code === '000000' ? '000001' : '000000' });
    stranger({ id: 'guessed', code });
    expect(new Set(standing())).toEqual(new Set(['unknown']));
  });
  it('one that is forgotten is a stranger again', () => {
    const w = page('p');
    w.say({ ask: 'pair' });
    const b = stranger({ code: w.last('code')!.code });
    const { key } = b.said[0] as Extract<Command, { do: 'keep' }>;
    w.say({ ask: 'forget', instrument: 'b1' });
    expect(b.closed()).toBe(true);
    bench({ key });
    expect(standing()).toEqual(['unknown']);
  });
  it('strangers do not take up the room of those that are paired', () => {
    const crowd = Array.from({ length: 80 }, (_, i) => stranger({ id: `s${i}` }));
    expect(crowd.filter((s) => !s.closed())).toHaveLength(8);
    expect(bench({ id: 'mine' }).closed()).toBe(false);
  });
  it('a page cannot tell an instrument that it is paired', () => {
    const w = page('p');
    const b = bench({ takes: ['stream', 'range', 'read'] });
    w.say({ ask: 'command', instrument: 'b1', command: { do: 'keep', key: 'mine' } });
    expect((b.said as Command[]).map((c) => c.do)).toEqual(['stream']);
  });
  it('survives a start, with the hash of the key only', async () => {
    vi.useRealTimers();
    const f = await fixture();
    const before = await openPairings(f.db);
    const { key } = before.admit({ ...hello(), code: before.newCode().text } as never);
    const after = await openPairings(f.db);
    expect(after.admit({ ...hello(), key } as never).standing).toBe('paired');
    expect(after.admit({ ...hello({ simulated: true }), key } as never).standing).toBe('simulated');
    expect(JSON.stringify(await f.db.query('select * from instrument'))).not.toContain(key);
    after.forget('b1');
    expect((await openPairings(f.db)).paired()).toEqual([]);
    await f.close();
  });
});

describe('two pages on one session', () => {
  it('the first records, the second looks on and may take over, and both are told', () => {
    const first = page('a', 's');
    const second = page('b', 's');
    expect(first.last('hand')).toMatchObject({ mine: true, onlookers: 1 });
    expect(second.last('hand')).toMatchObject({ mine: false, taken: true });
    expect([hub.mayRecord('s', 'a'), hub.mayRecord('s', 'b')]).toEqual([true, false]);
    second.say({ ask: 'take over', session: 's', client: 'b' });
    expect(first.last('hand')).toMatchObject({ mine: true, asked: true });
    expect(second.last('hand')).toMatchObject({ mine: false, asking: true });
    expect(hub.mayRecord('s', 'b')).toBe(false);
    // Only the one that records can answer.
    second.say({ ask: 'hand over', session: 's', client: 'b', yes: true });
    expect(hub.mayRecord('s', 'b')).toBe(false);
    first.say({ ask: 'hand over', session: 's', client: 'a', yes: true });
    expect(first.last('hand')).toMatchObject({ mine: false, taken: true, asked: false });
    expect(second.last('hand')).toMatchObject({ mine: true, onlookers: 1, asking: false });
    expect([hub.mayRecord('s', 'a'), hub.mayRecord('s', 'b')]).toEqual([false, true]);
  });
  it('no is told; silence for a minute, or a page that closes, gives it', () => {
    const first = page('a', 's');
    const second = page('b', 's');
    const asks = () => second.say({ ask: 'take over', session: 's', client: 'b' });
    asks();
    first.say({ ask: 'hand over', session: 's', client: 'a', yes: false });
    expect(second.last('hand')).toMatchObject({ mine: false, asking: false, refused: true });
    asks();
    vi.advanceTimersByTime(AWAY_MS - 1);
    expect(second.last('hand')).toMatchObject({ mine: false, asking: true, refused: false });
    vi.advanceTimersByTime(1);
    expect(second.last('hand')).toMatchObject({ mine: true });
    first.say({ ask: 'take over', session: 's', client: 'a' });
    second.link.close();
    expect(hub.mayRecord('s', 'a')).toBe(true);
    expect(first.last('hand')).toMatchObject({ mine: true, asked: false });
  });
  it('a page that leaves lets go; nobody is put in its place unasked', () => {
    const first = page('a', 's');
    const second = page('b', 's');
    first.link.close();
    expect(second.last('hand')).toMatchObject({ mine: false, taken: false });
    expect(hub.mayRecord('s', 'b')).toBe(true);
  });
  it('a page that reloads keeps its hand while its old line dies', () => {
    const old = page('a', 's');
    page('a', 's');
    old.link.close();
    expect(hub.mayRecord('s', 'other')).toBe(false);
  });
  it('changes are told to those who look', () => {
    const [one, other] = [page('a', 's'), page('b', 't')];
    hub.changed('s');
    expect(one.last('changed')).toEqual({ tell: 'changed', session: 's' });
    expect(other.last('changed')).toBeUndefined();
  });
});

describe('over the real line', () => {
  let f: Fixture;
  beforeEach(async () => {
    vi.useRealTimers();
    f = await fixture();
  });
  afterEach(() => f.close());

  it('lines cut across messages are put together; sample to page in far less than 100 ms', async () => {
    await f.app.listen({ port: 0, host: '127.0.0.1' });
    const { port } = f.app.server.address() as { port: number };
    const open = async (path: string) => {
      const socket = new WebSocket(`ws://127.0.0.1:${port}${path}`);
      await new Promise((done) => socket.once('open', done));
      return socket;
    };
    const instrument = await open('/api/instruments/link');
    const browser = await open('/api/bench/live');
    const heard: BenchTells[] = [];
    browser.on('message', (data) => {
      for (const line of String(data).split('\n')) if (line) heard.push(JSON.parse(line));
    });
    const until = async (test: () => boolean) => {
      for (let i = 0; i < 200 && !test(); i++) await new Promise((r) => setTimeout(r, 10));
      expect(test()).toBe(true);
    };
    const asked: { code?: string } = {};
    browser.on('message', (data) => {
      const told = JSON.parse(String(data)) as BenchTells;
      if (told.tell === 'code' && told.code) asked.code = told.code;
    });
    browser.send('{"ask":"pair"}\n');
    await until(() => asked.code !== undefined);
    const text = `${JSON.stringify(hello({ code: asked.code }))}\n`;
    instrument.send(text.slice(0, 30));
    instrument.send(text.slice(30));
    await until(() => heard.some((m) => m.tell === 'instruments' && m.instruments.length === 1));
    browser.send('{"ask":"watch","on":true}\n');
    instrument.send(
      '{"say":"sample","at":1,"values":{"percent":0.4}}\n{"say":"sample","at":2,"values":{"percent":0.5}}\n',
    );
    await until(() => heard.some((m) => m.tell === 'samples'));
    expect((await f.call('GET', '/api/instruments')).body).toMatchObject([{ id: 'b1' }]);
    instrument.terminate();
    await until(() => heard.at(-1)?.tell === 'instruments');
    browser.close();
  });
  it('a peer that never ends its line is cut off', () => {
    let take: (data: unknown) => void = () => {};
    let cut = false;
    webSocketLink({
      send: () => {},
      ping: () => {},
      close: () => {},
      terminate: () => (cut = true),
      on: (event: string, handler: (data: unknown) => void) => {
        if (event === 'message') take = handler;
      },
      readyState: 1,
    } as never);
    for (let i = 0; i < 10; i++) take('x'.repeat(10_000));
    expect(cut).toBe(true);
  });
  it('a peer that floods is cut off, one that streams is not', () => {
    for (const [lines, cut] of [
      [3_000, false],
      [10_000, true],
    ] as const) {
      let take: (data: unknown) => void = () => {};
      let ended = false;
      webSocketLink({
        send: () => {},
        ping: () => {},
        close: () => {},
        terminate: () => (ended = true),
        on: (event: string, handler: (data: unknown) => void) => {
          if (event === 'message') take = handler;
        },
        readyState: 1,
      } as never);
      for (let i = 0; i < lines; i++) take('{}\n');
      expect(ended).toBe(cut);
    }
  });
  it('a value is asked for over HTTP', async () => {
    const { status, body } = await f.call('POST', '/api/instruments/read', { name: 'length' });
    expect([status, body.detail]).toEqual([409, 'No instrument is connected that measures this.']);
  });
});

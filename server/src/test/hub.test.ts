import type { BenchTells, Command } from '@alluvium/records';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import WebSocket from 'ws';
import { createHub, type Hub } from '../bench/hub.js';
import type { Link } from '../bench/link.js';
import { webSocketLink } from '../bench/link.js';
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
beforeEach(() => {
  vi.useFakeTimers();
  hub = createHub();
});
afterEach(() => {
  hub.close();
  vi.useRealTimers();
});
const bench = (more: object = {}) => {
  const b = pair();
  hub.addInstrument(b.link);
  b.say(hello(more));
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
  it('one that comes back under its name takes the place of its ghost', () => {
    const first = bench();
    const second = bench();
    expect(first.closed()).toBe(true);
    expect(hub.instruments()).toHaveLength(1);
    expect(second.closed()).toBe(false);
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

describe('two pages on one session', () => {
  it('the first records, the second looks on and may take over, and both are told', () => {
    const first = page('a', 's');
    const second = page('b', 's');
    expect(first.last('hand')).toMatchObject({ mine: true, onlookers: 1 });
    expect(second.last('hand')).toMatchObject({ mine: false, taken: true });
    expect([hub.mayRecord('s', 'a'), hub.mayRecord('s', 'b')]).toEqual([true, false]);
    second.say({ ask: 'take over', session: 's', client: 'b' });
    expect(first.last('hand')).toMatchObject({ mine: false, taken: true });
    expect(second.last('hand')).toMatchObject({ mine: true, onlookers: 1 });
    expect([hub.mayRecord('s', 'a'), hub.mayRecord('s', 'b')]).toEqual([false, true]);
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
    const text = `${JSON.stringify(hello())}\n`;
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
  it('a value is asked for over HTTP', async () => {
    const { status, body } = await f.call('POST', '/api/instruments/read', { name: 'length' });
    expect([status, body.detail]).toEqual([409, 'No instrument is connected that measures this.']);
  });
});

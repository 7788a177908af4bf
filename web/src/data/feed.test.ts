import type { Touched } from '@alluvium/records';
import { QueryClient } from '@tanstack/vue-query';
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { asOwn, followChanges } from './feed.js';
import { isTouched, refresh } from './keys.js';
import { useReach } from './reach.js';
import { clockIsBehind, notBefore, today } from './today.js';

const touched = (more: Partial<Touched>): Touched => ({
  noun: 'head',
  id: 'iron',
  headId: 'iron',
  buildId: null,
  sessionId: null,
  ...more,
});
const query = (queryKey: readonly unknown[], data?: unknown) => ({ queryKey, state: { data } }) as never;

describe('what a change makes old', () => {
  const lineup = { entries: [{ whole: { head: { id: 'iron' } } }] };
  it.each([
    // A note of a head: its own page, the lists that show it, the lineup it stands in, and nothing else.
    [
      'head',
      touched({}),
      [
        ['head', 'iron'],
        ['library', {}],
        ['lineup', 'b'],
        ['claims', 'standing'],
      ],
    ],
    [
      'finding',
      touched({ noun: 'finding', id: 'f' }),
      [
        ['head', 'iron'],
        ['lineup', 'b'],
      ],
    ],
    [
      'source',
      touched({ noun: 'source', id: 's', headId: null }),
      [
        ['lineup', 'b'],
        ['list', 'source'],
        ['claims', 'standing'],
      ],
    ],
    ['plan', touched({ noun: 'plan', id: 'p', headId: null }), [['list', 'plan']]],
    [
      'lineup',
      touched({ noun: 'lineup', id: 'l', buildId: 'b', headId: 'iron' }),
      [
        ['head', 'iron'],
        ['lineup', 'b'],
      ],
    ],
    [
      'reading',
      touched({ noun: 'reading', id: 'r', headId: null, sessionId: 'x' }),
      [
        ['session', 'x'],
        ['ranges', 's'],
      ],
    ],
  ] as const)('%s', (_, change, old) => {
    const all = [
      ['head', 'iron'],
      ['head', 'other'],
      ['library', {}],
      ['lineup', 'b'],
      ['list', 'build'],
      ['list', 'source'],
      ['list', 'plan'],
      ['list', 'checklist'],
      ['list', 'question'],
      ['session', 'x'],
      ['ranges', 's'],
      ['claims', 'standing'],
    ];
    const found = all.filter((key) => isTouched(query(key, key[0] === 'lineup' ? lineup : undefined), change));
    expect(found).toEqual(old);
  });

  it('is asked for anew, and nothing else is', async () => {
    const client = new QueryClient();
    const asked: string[] = [];
    for (const key of [
      ['head', 'iron'],
      ['head', 'other'],
      ['list', 'build'],
      ['list', 'source'],
    ])
      await client.prefetchQuery({ queryKey: key, queryFn: () => key.join() });
    const spy = vi.spyOn(client, 'invalidateQueries');
    await refresh(client, [touched({})]);
    const { predicate } = spy.mock.calls[0]![0] as { predicate?: (q: unknown) => boolean };
    for (const q of client.getQueryCache().getAll()) if (predicate!(q)) asked.push(q.queryKey.join());
    expect(asked).toEqual(['head,iron']);
  });
});

class Line {
  static now: Line;
  onopen = () => {};
  onclose = () => {};
  onmessage = (_: { data: string }) => {};
  constructor() {
    Line.now = this;
  }
  says(...lines: object[]): void {
    this.onmessage({ data: lines.map((l) => JSON.stringify(l)).join('\n') });
  }
}

describe('the feed', () => {
  beforeEach(() => {
    vi.stubGlobal('WebSocket', Line);
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });
  const change = (batch: number) => ({ tell: 'change', at: new Date().toISOString(), batch, touched: [touched({})] });

  it('asks anew for what somebody else changed, not for what this page changed itself', async () => {
    const client = new QueryClient();
    const spy = vi.spyOn(client, 'invalidateQueries').mockResolvedValue();
    followChanges(client);
    Line.now.onopen();
    Line.now.says({ tell: 'hello', latest: null }, change(1));
    expect(spy).toHaveBeenCalledTimes(1);
    // The feed may tell of our own change before its answer is there, or after.
    await asOwn(async () => {
      Line.now.says(change(2), change(3));
      return { batch: 2 };
    });
    expect(spy).toHaveBeenCalledTimes(2);
    await asOwn(async () => ({ batch: 4 }));
    Line.now.says(change(4));
    expect(spy).toHaveBeenCalledTimes(2);
  });

  it('a line that broke says that the server is away, comes back by itself, and then everything is asked for anew', async () => {
    const client = new QueryClient();
    const spy = vi.spyOn(client, 'invalidateQueries').mockResolvedValue();
    followChanges(client);
    const first = Line.now;
    first.onopen();
    first.onclose();
    expect(useReach().away.value).toBe(true);
    vi.advanceTimersByTime(1_100);
    expect(Line.now).not.toBe(first);
    Line.now.onopen();
    await flushPromises();
    expect(useReach().away.value).toBe(false);
    expect(spy).toHaveBeenCalledWith();
  });
});

describe('today', () => {
  it('is never before the day of the last change, whatever the clock says', () => {
    vi.useFakeTimers({ now: new Date(2031, 4, 2, 12) });
    expect(today()).toBe('2031-05-02');
    notBefore(new Date(2031, 4, 1, 12).toISOString());
    expect([today(), clockIsBehind()]).toEqual(['2031-05-02', false]);
    notBefore(new Date(2031, 5, 3, 12).toISOString());
    expect([today(), clockIsBehind()]).toEqual(['2031-06-03', true]);
    vi.useRealTimers();
  });
});

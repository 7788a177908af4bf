import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { remembering } from '../remembered.js';
import { fixture, type Fixture } from './fixture.js';

describe('answers that are remembered', () => {
  const counted = () => {
    let generation = 0;
    let asked = 0;
    return {
      remember: remembering({ generation: () => generation }),
      write: () => generation++,
      ask: async () => ++asked,
      asked: () => asked,
    };
  };
  it('are found once for all who ask, also while they are being found, until something is written', async () => {
    const c = counted();
    expect(await Promise.all([c.remember('a', c.ask), c.remember('a', c.ask)])).toEqual([1, 1]);
    expect(await c.remember('b', c.ask)).toBe(2);
    expect(await c.remember('a', c.ask)).toBe(1);
    c.write();
    expect(await c.remember('a', c.ask)).toBe(3);
  });
  it('are old when something is written while they are being found', async () => {
    const c = counted();
    const found = c.remember('a', async () => {
      c.write();
      return 0;
    });
    expect(await found).toBe(0);
    expect(await c.remember('a', c.ask)).toBe(1);
  });
  it('that failed are asked for again', async () => {
    const c = counted();
    await expect(c.remember('a', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(await c.remember('a', c.ask)).toBe(1);
  });
  it('are given up when there are too many of them', async () => {
    const c = counted();
    for (let i = 0; i < 1000; i++) await c.remember(String(i), c.ask);
    expect(await c.remember('0', c.ask)).toBe(1001);
  });
});

describe('what the server remembers', () => {
  let f: Fixture;
  beforeAll(async () => {
    f = await fixture();
  });
  afterAll(() => f.close());
  it('never hides what was written: library, list and whole head are new after each change, removal and undo', async () => {
    const total = async () => (await f.call('GET', '/api/library?size=50')).body.total;
    const listed = async () => (await f.call('GET', '/api/head')).body.length;
    expect([await total(), await listed()]).toEqual([0, 0]);
    const { body } = await f.call('POST', '/api/head', { id: 'kestrel', name: 'Kestrel' });
    expect([await total(), await listed()]).toEqual([1, 1]);
    const whole = async () => (await f.call('GET', '/api/head/kestrel/whole')).body;
    expect((await whole()).head.name).toBe('Kestrel');
    await f.call('PUT', '/api/head/kestrel', { ...body.record, name: 'Kestrel 2' });
    expect((await whole()).head.name).toBe('Kestrel 2');
    await f.call('POST', '/api/stage', { id: 'k-s', headId: 'kestrel', name: 'as received' });
    expect((await whole()).stages).toHaveLength(1);
    await f.call('DELETE', '/api/head/kestrel');
    expect([await total(), await listed()]).toEqual([0, 0]);
    expect((await f.call('GET', '/api/head/kestrel/whole')).status).toBe(404);
  });
});

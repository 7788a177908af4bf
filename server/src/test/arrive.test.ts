import { readBundle } from '@alluvium/records';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arrive, takeBackUnfinished } from '../bundle/arrive.js';
import { wrongShape } from '../bundle/shape.js';
import { withBundle } from '../bundle/reader.js';
import { openBundle } from '../bundle/slices.js';
import { openPictures } from '../pictures.js';
import { fixture, type Fixture } from './fixture.js';

const bytes = (value: unknown) => new TextEncoder().encode(typeof value === 'string' ? value : JSON.stringify(value));
const shell = { format: 'alluvium-bundle', version: 1 };
/** Heads with a chain of stages written youngest first. */
const many = (from: number, heads: number) => {
  const ids = Array.from({ length: heads }, (_, i) => `h${from + i}`);
  return {
    ...shell,
    heads: ids.map((id) => ({ id, name: id, note: 'x'.repeat(2_000) })),
    stages: ids.flatMap((id) => [
      { id: `${id}-2`, headId: id, parentId: `${id}-1`, name: 'bowls' },
      { id: `${id}-1`, headId: id, parentId: null, name: 'as received' },
    ]),
  };
};

let f: Fixture;
beforeAll(async () => {
  f = await fixture();
});
afterAll(() => f.close());
const heads = async () => (await f.db.query('select id from head')).length;
const post = async (bundle: unknown) => {
  const { status, body } = await f.call('POST', '/api/bundle', bundle);
  return { status, body, last: typeof body === 'string' ? JSON.parse(body.trim().split('\n').at(-1)!) : body };
};

describe('a bundle is read', () => {
  it('nested text is refused before it is parsed; brackets in texts do not count', () => {
    expect(wrongShape(bytes('['.repeat(41)))).toBe('nestedTooDeep');
    expect(wrongShape(bytes('[]'.repeat(500)))).toBeUndefined();
    expect(wrongShape(bytes(JSON.stringify('\\"[['.repeat(500))))).toBeUndefined();
    expect(openBundle(bytes('['.repeat(2_000_000))).contents.problems[0]!.message).toContain('nested deeper');
  });
  it('after 500 problems nothing more is read', () => {
    const broken = { ...shell, heads: Array.from({ length: 50_000 }, () => ({ id: '!', name: '', kind: 7 })) };
    const { problems, bundle } = readBundle(broken);
    expect(problems).toHaveLength(500);
    expect(bundle.heads).toEqual([]);
  });
  it('in slices small enough to be written between two requests, parents first', () => {
    const opened = openBundle(bytes(many(0, 400)));
    expect(opened.contents.counts).toMatchObject({ head: 400, stage: 800 });
    const slices = Array.from({ length: opened.contents.slices }, (_, i) => opened.slice(i));
    expect(Math.max(...slices.map((s) => s.rows.join('').length))).toBeLessThan(35_000);
    const order = slices.filter((s) => s.noun === 'stage').flatMap((s) => s.ids);
    for (const id of order.filter((x) => x.endsWith('-2')))
      expect(order.indexOf(id)).toBeGreaterThan(order.indexOf(id.replace('-2', '-1')));
  });
  it('stages that name each other as parents end in a refusal, not in a loop', async () => {
    const ring = ['a', 'b'].map((id) => ({ id, headId: 'ring', parentId: id === 'a' ? 'b' : 'a', name: id }));
    const { last } = await post({ ...shell, heads: [{ id: 'ring', name: 'Ring' }], stages: ring });
    expect(last.detail).toContain('comes from itself');
    expect(await heads()).toBe(0);
  });
  it.each([['{"format":'], ['null'], ['[]'], [`"${'x'.repeat(100)}"`], [''], ['{"heads":[{]}']])(
    '%s is no bundle, and is said to be none',
    async (text) => {
      const answer = await f.app.inject({
        method: 'POST',
        url: '/api/bundle',
        payload: text,
        headers: { 'content-type': 'application/json' },
      });
      expect(answer.statusCode).toBe(400);
      expect(answer.json().detail).toMatch(/well-formed|no Alluvium bundle/);
    },
  );
  it('is stopped when whoever sent it has gone', async () => {
    const gone = new AbortController();
    const reading = withBundle(bytes(many(0, 2_000)), async () => 'read', gone.signal);
    gone.abort();
    await expect(reading).rejects.toThrow('cancelled');
    // The next one finds a thread all the same.
    expect(await withBundle(bytes(shell), async (b) => b.contents.slices)).toBe(0);
  });
  it('other requests are answered while a large broken one is read', async () => {
    const broken = bytes({ ...shell, heads: Array.from({ length: 60_000 }, () => ({ id: '!', name: '' })) });
    const order: string[] = [];
    const reading = f.app
      .inject({
        method: 'POST',
        url: '/api/bundle/preview',
        payload: Buffer.from(broken),
        headers: { 'content-type': 'application/json' },
      })
      .then((a) => {
        order.push('bundle');
        return a.json();
      });
    await f.call('GET', '/api/health');
    order.push('health');
    expect((await reading).problems).toHaveLength(500);
    expect(order).toEqual(['health', 'bundle']);
  });
});

describe('a bundle comes in', () => {
  it('by slices, between which others are served, as one change that is told of once', async () => {
    const told: string[] = [];
    const stop = await f.db.listen('change', (batch) => told.push(batch));
    let served = 0;
    let going = true;
    const others = (async () => {
      while (going) {
        await f.call('GET', '/api/head?size=1');
        served++;
        // Injected requests never leave the event loop to anybody; real ones do.
        await new Promise((go) => setImmediate(go));
      }
    })();
    const { last } = await post(many(0, 300));
    going = false;
    await others;
    expect(last).toMatchObject({ finished: true, fresh: 900 });
    expect(served).toBeGreaterThan(5);
    expect(told).toEqual([String(last.batch)]);
    await stop();
    expect((await f.call('POST', `/api/change/${last.batch}/undo`)).status).toBe(200);
    expect(await heads()).toBe(0);
  });

  it('one that is cut off is taken back at the next start, what it replaced is put back, what stood stays', async () => {
    await post({ ...shell, heads: [{ id: 'mine', name: 'Mine', note: 'as it was' }] });
    const crash = new Error('power');
    const half = withBundle(
      bytes({ ...many(0, 300), heads: [{ id: 'mine', name: 'Mine', note: 'other' }, ...many(0, 300).heads] }),
      async (b) => {
        const pictures = await openPictures(f.folder);
        let slices = 0;
        // A process that dies takes nothing back: the same is had by a database that refuses everything from then on.
        const dying = {
          ...f.db,
          transaction: ((work) => {
            if (++slices > 4) return Promise.reject(crash);
            return f.db.transaction(work);
          }) as typeof f.db.transaction,
        };
        return arrive(dying, pictures, b, 'replace', () => {});
      },
    );
    await expect(half).rejects.toThrow('power');
    expect(await heads()).toBeGreaterThan(1);
    expect((await f.call('GET', '/api/head/mine')).body.note).toBe('other');
    expect(await takeBackUnfinished(f.db)).toBe(1);
    expect(await heads()).toBe(1);
    expect((await f.call('GET', '/api/head/mine')).body.note).toBe('as it was');
    expect(await takeBackUnfinished(f.db)).toBe(0);
  });

  it('cancelled on the way it leaves nothing behind', async () => {
    const before = await heads();
    const cancel = new AbortController();
    const pictures = await openPictures(f.folder);
    await expect(
      withBundle(bytes(many(1_000, 300)), (b) =>
        arrive(f.db, pictures, b, 'keep', (done) => done > 150 && cancel.abort(), cancel.signal),
      ),
    ).rejects.toThrow('cancelled; nothing of it is kept');
    expect(await heads()).toBe(before);
    expect(await f.db.query('select * from arriving')).toEqual([]);
  });
});

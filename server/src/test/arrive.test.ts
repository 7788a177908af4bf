import { readBundle } from '@alluvium/records';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arrive, takeBackUnfinished } from '../bundle/arrive.js';
import { wrongShape } from '../bundle/shape.js';
import { withBundle } from '../bundle/reader.js';
import { openBundle } from '../bundle/slices.js';
import { lostRecords } from '../damage.js';
import { openPictures } from '../pictures.js';
import { fixture, type Fixture } from './fixture.js';
import { seeded } from './powercut.js';

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

/** A PNG of one pixel. */
const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

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
  it('sixty million bytes of empty objects are refused by their shape, before they fill the memory', () => {
    const text = new Uint8Array(60_000_000).fill(32);
    text.set(bytes('{"format":"alluvium-bundle","version":1,"heads":['));
    for (let i = 60; i + 3 < text.length; i += 3) text.set([0x7b, 0x7d, 0x2c], i);
    const before = process.memoryUsage().heapUsed;
    expect(openBundle(text).contents.problems[0]!.message).toContain('over six million');
    expect(process.memoryUsage().heapUsed - before).toBeLessThan(50_000_000);
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

describe('an import that does not end leaves what others did meanwhile', () => {
  const RUNS = Number(process.env.ARRIVALS ?? 4);
  /** A bundle that comes in while a second writer works on what has come so far; cancelled, or ended by a crash, at a random moment. */
  async function trial(seed: number): Promise<void> {
    const random = seeded(seed);
    const prefix = `r${seed}-`;
    const count = 120;
    const ids = Array.from({ length: count }, (_, i) => `${prefix}${i}`);
    const bundle = {
      ...shell,
      heads: ids.map((id) => ({ id, name: id, note: 'x'.repeat(900) })),
      stages: ids.map((id) => ({ id: `${id}-s`, headId: id, name: 'as received' })),
    };
    const pictures = await openPictures(f.folder);
    const acknowledged: { noun: string; id: string; name?: string }[] = [];
    /** Adds to, or changes, something that has arrived already. */
    const write = async (n: number) => {
      const rows = await f.db.query<{ id: string }>('select id from head where id like $1 order by id', [`${prefix}%`]);
      const stages = await f.db.query<{ id: string }>('select id from stage where id like $1 order by id', [
        `${prefix}%`,
      ]);
      const head = rows[Math.floor(random() * rows.length)]?.id;
      const stage = stages[Math.floor(random() * stages.length)]?.id;
      const id = `mine-${seed}-${n}`;
      const kind = Math.floor(random() * 4);
      if (kind === 0 && head) {
        if ((await f.call('POST', '/api/stage', { id, headId: head, name: 'mine' })).status === 201)
          acknowledged.push({ noun: 'stage', id });
      } else if (kind === 1 && stage) {
        const sheet = { id, stageId: stage, title: 'mine', kind: 'measured', setup: {}, rows: [] };
        if ((await f.call('POST', '/api/sheet', sheet)).status === 201) acknowledged.push({ noun: 'sheet', id });
      } else if (kind === 2 && head) {
        const now = (await f.call('GET', `/api/head/${head}`)).body;
        if ((await f.call('PUT', `/api/head/${head}`, { ...now, name: id })).status === 200)
          acknowledged.push({ noun: 'head', id: head, name: id });
      } else if (head) {
        const photo = await f.app.inject({
          method: 'POST',
          url: `/api/attachment?head=${head}&name=mine`,
          payload: PIXEL,
          headers: { 'content-type': 'image/png' },
        });
        if (photo.statusCode === 201) acknowledged.push({ noun: 'attachment', id: photo.json().record.id });
      }
    };
    const end = Math.floor(random() * 2 * count);
    const cancel = new AbortController();
    const crash = random() < 0.5;
    let dead = false;
    const dying = {
      ...f.db,
      transaction: ((work) =>
        dead ? Promise.reject(new Error('power')) : f.db.transaction(work)) as typeof f.db.transaction,
    };
    let n = 0;
    const writing: Promise<void>[] = [];
    const arriving = withBundle(bytes(bundle), (b) =>
      arrive(
        dying,
        pictures,
        b,
        'keep',
        (done) => {
          writing.push(write(n++));
          if (done >= end) {
            if (crash) dead = true;
            else cancel.abort();
          }
        },
        cancel.signal,
      ),
    );
    const outcome = await arriving.then(
      () => 'whole',
      (error: Error) => error.message,
    );
    await Promise.all(writing);
    await takeBackUnfinished(f.db);

    const there = async (noun: string, like: string) =>
      (await f.db.query<{ id: string; name: string }>(`select id, name from ${noun} where id like $1`, [like])) as {
        id: string;
        name: string;
      }[];
    for (const { noun, id } of acknowledged)
      expect((await f.db.query(`select id from ${noun} where id = $1`, [id])).length, `${seed}: ${noun} ${id}`).toBe(1);
    const heads = await there('head', `${prefix}%`);
    const names = new Map(heads.map((h) => [h.id, h.name]));
    const lastName = new Map(acknowledged.filter((a) => a.noun === 'head').map((a) => [a.id, a.name]));
    for (const [id, name] of lastName) expect(names.get(id), `${seed}: the name of ${id}`).toBe(name);
    if (outcome !== 'whole') {
      // Nothing of it stays that nobody touched.
      const hung = new Set(
        (
          await f.db.query<{ id: string }>(
            `select head_id as id from stage where id like 'mine-%' union select head_id from attachment where head_id is not null
             union select s.head_id from sheet h join stage s on s.id = h.stage_id where h.id like 'mine-%'`,
          )
        ).map((r) => r.id),
      );
      for (const { id } of heads)
        expect(hung.has(id) || lastName.has(id), `${seed}: ${id} stays for nothing`).toBe(true);
    }
    expect(await f.db.query('select * from arriving')).toEqual([]);
    expect(await lostRecords(f.db)).toEqual([]);
  }
  it(
    `cancelled or killed at ${RUNS} random moments beside a second writer`,
    async () => {
      for (let seed = 1; seed <= RUNS; seed++) await trial(seed);
      console.log(`figure: ${RUNS} imports cancelled or killed beside a second writer, nothing of it lost`);
    },
    120_000 + RUNS * 30_000,
  );

  it('says how much stays', async () => {
    const pictures = await openPictures(f.folder);
    const cancel = new AbortController();
    let mine: Promise<unknown> | undefined;
    const arriving = withBundle(bytes(many(5_000, 40)), (b) =>
      arrive(
        f.db,
        pictures,
        b,
        'keep',
        (done) => {
          mine ??= f.call('POST', '/api/stage', { headId: 'h5000', name: 'mine' });
          if (done > 20) cancel.abort();
        },
        cancel.signal,
      ),
    );
    await expect(arriving).rejects.toThrow(
      'nothing of it is kept. Others had worked on a part of it meanwhile: that stays, 1 record of it.',
    );
    expect(((await mine) as { status: number }).status).toBe(201);
    expect((await f.call('GET', '/api/head/h5000')).status).toBe(200);
  });
});

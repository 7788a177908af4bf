import { NOUN_NAMES } from '@alluvium/records';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { demoText, fixture, type Fixture } from './fixture.js';

let f: Fixture;
let demo: any;
beforeAll(async () => {
  f = await fixture();
  demo = JSON.parse(await demoText());
});
afterAll(() => f.close());
const emptied = () => f.db.script(`truncate ${NOUN_NAMES.join(', ')} cascade`);
afterEach(emptied);
const bringIn = async (bundle: unknown, query = '') => {
  const { status, body } = await f.call('POST', `/api/bundle${query}`, bundle);
  const lines =
    typeof body === 'string'
      ? body
          .trim()
          .split('\n')
          .map((l) => JSON.parse(l))
      : [body];
  return { status, last: lines.at(-1), lines };
};
const counts = async () =>
  Object.fromEntries(
    await Promise.all(NOUN_NAMES.map(async (n) => [n, (await f.db.query(`select id from ${n}`)).length])),
  );

describe('a bundle', () => {
  it('shows what it would bring and writes nothing', async () => {
    const { body } = await f.call('POST', '/api/bundle/preview', demo);
    expect(body.problems).toEqual([]);
    expect(body.counts.find((c: any) => c.noun === 'head')).toEqual({
      noun: 'head',
      fresh: demo.heads.length,
      same: 0,
      changed: 0,
    });
    expect((await counts()).head).toBe(0);
  });

  it('comes in with progress, and the same one twice makes no doubles', async () => {
    const first = await bringIn(demo);
    expect(first.last).toMatchObject({ finished: true, same: 0 });
    expect(first.lines.length).toBeGreaterThan(2);
    const before = await counts();
    const second = await bringIn(demo);
    expect(second.last).toMatchObject({ finished: true, fresh: 0, changed: 0, batch: null });
    expect(await counts()).toEqual(before);
  });

  it('loses nothing on a round trip', async () => {
    await bringIn(demo);
    const out = (await f.call('GET', '/api/bundle')).body;
    await emptied();
    await bringIn(out);
    const again = (await f.call('GET', '/api/bundle')).body;
    expect(again).toEqual(out);
    // Every text the scenario typed is still there as it was typed.
    const typed = (o: unknown): string[] =>
      typeof o === 'string' ? [o] : o && typeof o === 'object' ? Object.values(o).flatMap(typed) : [];
    const have = new Set(typed(out));
    expect(typed(demo).filter((t) => /\d/.test(t) && !have.has(t))).toEqual([]);
  });

  it('of some heads comes whole into an empty library', async () => {
    await bringIn(demo);
    const out = (await f.call('GET', '/api/bundle?heads=longreach-212,corrow-417')).body;
    await emptied();
    expect((await f.call('POST', '/api/bundle/preview', out)).body.problems).toEqual([]);
    expect((await bringIn(out)).last).toMatchObject({ finished: true });
    expect((await f.call('GET', '/api/bundle')).body).toEqual(out);
    expect((await counts()).head).toBe(2);
  });

  it('is taken back by one undo', async () => {
    const { last } = await bringIn(demo);
    expect((await f.call('POST', `/api/change/${last.batch}/undo`)).status).toBe(200);
    expect(Object.entries(await counts()).filter(([, n]) => Number(n) > 0)).toEqual([]);
  });

  it('asks before it replaces what differs here', async () => {
    await bringIn(demo);
    const other = {
      ...demo,
      heads: demo.heads.map((h: any) => (h.id === 'corrow-417' ? { ...h, note: 'Rewritten.' } : h)),
    };
    const preview = (await f.call('POST', '/api/bundle/preview', other)).body;
    expect(preview.counts.find((c: any) => c.noun === 'head')).toMatchObject({ fresh: 0, changed: 1 });
    await bringIn(other);
    expect((await f.call('GET', '/api/head/corrow-417')).body.note).not.toBe('Rewritten.');
    await bringIn(other, '?changed=replace');
    expect((await f.call('GET', '/api/head/corrow-417')).body.note).toBe('Rewritten.');
  });

  describe('in bad shape', () => {
    beforeEach(() => bringIn({ format: 'alluvium-bundle', version: 1, heads: [{ id: 'here', name: 'Here' }] }));
    it.each([
      ['no bundle at all', { heads: [] }, /no Alluvium bundle/],
      ['a newer version', { format: 'alluvium-bundle', version: 2 }, /version 2; this program reads version 1/],
      ['an unknown list', { format: 'alluvium-bundle', version: 1, engines: [] }, /“engines” is not part of a bundle/],
      ['a list that is none', { format: 'alluvium-bundle', version: 1, heads: 'x' }, /“heads” must be a list/],
      [
        'a dangling reference',
        { format: 'alluvium-bundle', version: 1, stages: [{ id: 's', headId: 'gone', name: 'x' }] },
        /There is no head “gone”/,
      ],
      [
        'an id twice',
        {
          format: 'alluvium-bundle',
          version: 1,
          heads: [
            { id: 'a', name: 'A' },
            { id: 'a', name: 'B' },
          ],
        },
        /stands twice/,
      ],
      [
        'an unreadable size',
        {
          format: 'alluvium-bundle',
          version: 1,
          measures: [{ id: 'm', stageId: 's', item: 'throat', side: 'intake', value: 'wide' }],
        },
        /“wide” is not a length/,
      ],
    ])('%s is said with its place, and nothing is written', async (_, bundle, message) => {
      const { status, last } = await bringIn({ ...bundle, sources: [{ id: 'new-source', name: 'New' }] });
      expect(status).toBe(400);
      expect(last.fields.map((x: any) => `${x.field} ${x.message}`).join('\n')).toMatch(message);
      expect(await counts()).toMatchObject({ head: 1, source: 0 });
    });

    it('may refer to what is here already', async () => {
      const { last } = await bringIn({
        format: 'alluvium-bundle',
        version: 1,
        stages: [{ id: 's', headId: 'here', name: 'as received' }],
      });
      expect(last).toMatchObject({ finished: true, fresh: 1 });
    });

    it('a record the database refuses rolls everything back', async () => {
      const port = (id: string) => ({ id, headId: 'here', side: 'intake', number: 3 });
      const { last } = await bringIn({
        format: 'alluvium-bundle',
        version: 1,
        sources: [{ id: 'new-source', name: 'New' }],
        ports: [port('p1'), port('p2')],
      });
      expect(last.problem.detail).toBe('This head has that port already.');
      expect(await counts()).toMatchObject({ source: 0, port: 0 });
    });
  });
});

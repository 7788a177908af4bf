import { addition, replacement, type ShopView } from '@alluvium/records';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoText, fixture, type Fixture } from './fixture.js';

let f: Fixture;
beforeAll(async () => void (f = await fixture()));
afterAll(() => f.close());
const shop = async () => (await f.call('GET', '/api/shop')).body as ShopView;
const tags = async () => (await f.call('GET', '/api/tags')).body;
const library = async (query: string) =>
  (await f.call('GET', `/api/library?${query}`)).body as { total: number; items: { head: { id: string } }[] };

describe('the shop at a glance', () => {
  it('is empty before anything is in it', async () => {
    expect(await shop()).toEqual({
      builds: [],
      sessions: [],
      waiting: [],
      questions: [],
      changed: [],
      heads: 0,
    });
  });
  it('lists engines by the day they are due, what is open, and what waits', async () => {
    await f.call('POST', '/api/bundle', JSON.parse(await demoText()));
    const view = await shop();
    expect(view.heads).toBe(12);
    expect(view.builds.map((b) => [b.build.id, b.heads])).toEqual([
      ['slate-six', 5],
      ['tarrow-three', 2],
      ['vennick-five', 2],
    ]);
    expect(view.builds[0]!.decided).toBe('2026-05-28');
    expect(view.sessions.every((s) => s.readings >= 0 && s.head !== '')).toBe(true);
    expect(view.sessions).toHaveLength(1);
    expect(view.waiting.find((w) => w.headId === 'corrow-522')).toMatchObject({ head: '522 late' });
    expect(view.questions.length).toBeGreaterThan(0);
  });
  it('tells which head changed last, and in what', async () => {
    const { body } = await f.call('GET', '/api/head/corrow-522/whole');
    const sheet = body.sheets[0];
    await f.call('POST', '/api/change', { steps: [replacement('sheet', { ...sheet, note: 'looked at again' })] });
    const [first] = (await shop()).changed;
    expect(first).toMatchObject({ headId: 'corrow-522', head: '522 late' });
    expect(first!.what).toContain('flow sheets');
    expect(Date.parse(first!.at)).toBeGreaterThan(Date.now() - 60_000);
  });
});

describe('tags and the archive', () => {
  it('find heads together, and are counted', async () => {
    const { body } = await f.call('GET', '/api/head/longreach-212');
    await f.call('POST', '/api/change', {
      steps: [replacement('head', { ...body, tags: ['in stock', 'street'] })],
    });
    expect(await tags()).toEqual([
      { tag: 'in stock', heads: 1 },
      { tag: 'street', heads: 1 },
    ]);
    expect((await library('tag=in+stock')).items.map((i) => i.head.id)).toEqual(['longreach-212']);
    expect((await library('tag=stock')).total).toBe(0);
  });
  it('take a head out of the list and of what waits, and keep all it has', async () => {
    const before = await library('');
    const { body } = await f.call('GET', '/api/head/corrow-522');
    await f.call('POST', '/api/change', { steps: [replacement('head', { ...body, archived: true })] });
    expect((await library('')).total).toBe(before.total - 1);
    expect((await library('archived=only')).items.map((i) => i.head.id)).toEqual(['corrow-522']);
    expect((await shop()).waiting.some((w) => w.headId === 'corrow-522')).toBe(false);
    expect((await f.call('GET', '/api/head/corrow-522/whole')).body.sheets.length).toBeGreaterThan(0);
  });
  it('refuse what is no tag', async () => {
    const refused = await f.call('POST', '/api/change', {
      steps: [addition('head', { id: 'x', name: 'X', tags: ['a'.repeat(41)] })],
    });
    expect(refused.status).toBe(400);
    expect(JSON.stringify(refused.body)).toContain('A tag has at most 40 characters.');
  });
});

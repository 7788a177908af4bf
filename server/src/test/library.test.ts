import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { netHeads } from '../claims/heads.js';
import { demoText, fixture, type Fixture } from './fixture.js';

let f: Fixture;
beforeAll(async () => {
  f = await fixture();
  await f.call('POST', '/api/bundle', JSON.parse(await demoText()));
});
afterAll(() => f.close());

describe('the library', () => {
  const names = async (query: string) =>
    (await f.call('GET', `/api/library?${query}`)).body.items.map((i: any) => i.head.name);

  it('is searched by name, maker and number, every word of it', async () => {
    expect(await names('search=corrow')).toEqual(['417 early', '417 early, second casting', '522 late']);
    expect(await names('search=corrow%20522')).toEqual(['522 late']);
    expect(await names('search=LR-212')).toEqual(['Longreach 212']);
    expect(await names('search=%25')).toEqual([]);
    expect(await names("search=';drop table head;--")).toEqual([]);
  });
  it('is filtered, sorted and paged', async () => {
    expect(await names('material=iron&kind=production')).toEqual([
      '417 early',
      '417 early, second casting',
      '522 late',
      'T3 early',
      'T3 helical',
    ]);
    expect(await names('valves=4')).toEqual(['OM-4V', 'V5 standard']);
    expect((await names('sort=price'))[0]).toBe('417 early');
    const all = await names('');
    expect([
      ...(await names('size=4&page=1')),
      ...(await names('size=4&page=2')),
      ...(await names('size=4&page=3')),
    ]).toEqual(all);
  });
  it('shows the measured sheet of the furthest stage and the valves', async () => {
    const { items } = (await f.call('GET', '/api/library?search=417')).body;
    expect(items[0]).toMatchObject({
      stages: 4,
      sheets: 9,
      latestStage: { name: 'pinch opened' },
      sheet: { id: '417-pinch-p3' },
      valves: { intake: { typed: '1.850 in' } },
    });
  });
  it('refuses nonsense', async () => {
    expect((await f.call('GET', '/api/library?page=0')).status).toBe(400);
    expect((await f.call('GET', '/api/library?kind=magic')).status).toBe(400);
  });
});

describe('the lineup', () => {
  it('comes whole and in order, and is written whole', async () => {
    const { entries } = (await f.call('GET', '/api/build/slate-six/lineup')).body;
    expect(entries.map((e: any) => e.whole.head.name)).toEqual([
      '417 early',
      '522 late',
      'P6-205',
      'Longreach 212',
      'OM-230',
    ]);
    const order = [...entries]
      .reverse()
      .map((e: any) => ({ id: e.entry.id, stageId: e.entry.stageId, sheetId: e.entry.sheetId }));
    const { body } = await f.call('PUT', '/api/build/slate-six/lineup', { entries: order });
    expect(body.record.entries[0].whole.head.name).toBe('OM-230');
    await f.call('POST', `/api/change/${body.batch}/undo`);
    const back = (await f.call('GET', '/api/build/slate-six/lineup')).body.entries;
    expect(back.map((e: any) => e.entry.id)).toEqual(entries.map((e: any) => e.entry.id));
  });
  it('refuses a stage that is not there', async () => {
    expect(
      (await f.call('PUT', '/api/build/slate-six/lineup', { entries: [{ stageId: 'gone', sheetId: null }] })).status,
    ).toBe(409);
    expect((await f.call('GET', '/api/build/gone/lineup')).status).toBe(404);
  });
});

describe('the server', () => {
  it('answers for its health and describes itself', async () => {
    expect((await f.call('GET', '/api/health')).body).toEqual({ status: 'ok' });
    const { body } = await f.call('GET', '/api/openapi.json');
    expect(body.openapi).toMatch(/^3\./);
    expect(Object.keys(body.paths)).toEqual(expect.arrayContaining(['/api/build/{id}', '/api/library', '/api/bundle']));
    expect(body.paths['/api/build'].post.requestBody).toBeDefined();
    // What no page sends but a program may: each has its body's fields written down.
    const described = (path: string, method: string) =>
      Object.keys(body.paths[path][method].requestBody.content['application/json'].schema.properties);
    expect(described('/api/session/{id}/setup', 'put')).toEqual(['client', 'setup']);
    expect(described('/api/session/{id}/reading/{reading}/noise', 'post')).toEqual(['client', 'noisy']);
    expect(described('/api/change', 'post')).toEqual(['steps']);
  });
  it('what a schema refuses is told by its fields on every route, a body that is none among them', async () => {
    const setup = await f.call('PUT', '/api/session/any/setup', { client: 3, setup: null });
    expect(setup.status).toBe(400);
    expect(setup.body.fields.map((p: { field: string }) => p.field)).toEqual(['client', 'setup']);
    const none = await f.app.inject({ method: 'POST', url: '/api/change' });
    expect(none.statusCode).toBe(400);
    expect((await f.call('POST', '/api/head', { name: '' })).body).toMatchObject({
      detail: 'Give it a name.',
      fields: [{ field: 'name', message: 'Give it a name.' }],
    });
    expect((await f.call('PUT', '/api/head/any', { name: 'x' })).status).toBe(428);
    expect((await f.call('GET', '/api/head?size=none')).body.fields[0].field).toBe('size');
  });
  it('errors are problem+json', async () => {
    const answer = await f.app.inject({
      method: 'POST',
      url: '/api/head',
      payload: '{"name":',
      headers: { 'content-type': 'application/json' },
    });
    expect(answer.statusCode).toBe(400);
    expect(answer.headers['content-type']).toContain('application/problem+json');
    expect(answer.json().detail).toBe('This is not well-formed JSON.');
  });
  it('a body of 100 MB is refused with a sentence', async () => {
    const answer = await f.app.inject({
      method: 'POST',
      url: '/api/bundle',
      payload: Buffer.alloc(100 * 1024 * 1024, 32),
      headers: { 'content-type': 'application/json' },
    });
    expect(answer.statusCode).toBe(413);
    expect(answer.json().detail).toContain('too large');
  });
});

describe('what judging claims reads of heads', () => {
  it('is their sheets, the sizes flow needs, and what a claimed size is held against', async () => {
    const other = await fixture();
    await other.call('POST', '/api/bundle', JSON.parse(await demoText()));
    const ids = (await other.call('GET', '/api/head')).body.map((h: any) => h.id);
    const body = await netHeads(other.db, ids);
    const p6 = body.find((h) => h.head.id === 'pellam-p6')!;
    expect(p6.stages).toHaveLength(4);
    expect(p6.sheets.map((s: any) => s.id)).toEqual(
      expect.arrayContaining(['p6-catalogue', 'p6-received-p3', 'p6-pinch-p3']),
    );
    const items = (h: any) => new Set(h.measures.map((m: any) => m.item));
    expect(items(p6)).toContain('valve diameter');
    // The catalogue states a chamber, so the one found comes along; nobody states a bowl.
    expect(p6.measures.filter((m: any) => m.item === 'chamber volume')).toHaveLength(2);
    expect(items(p6)).not.toContain('bowl');
    expect(items(body.find((h) => h.head.id === 'corrow-417'))).not.toContain('chamber volume');
    expect(body.find((h) => h.head.id === 'ottermoor-230')!.reports).toHaveLength(1);
    expect(await netHeads(other.db, ['nobody'])).toEqual([]);
    await other.close();
  });
});

import type { FeedLine } from '@alluvium/records';
import { addition, removal, replacement } from '@alluvium/records';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import WebSocket from 'ws';
import { aBuild, fixture, type Fixture } from './fixture.js';

let f: Fixture;
beforeAll(async () => void (f = await fixture()));
afterAll(() => f.close());

const change = (...steps: unknown[]) => f.call('POST', '/api/change', { steps });
const count = async (noun: string) => (await f.call('GET', `/api/${noun}`)).body.length as number;
let made = 0;
const id = (what: string) => `${what}-${++made}`;

/** A head with a stage, added as one change. */
async function aHead() {
  const [head, stage] = [id('head'), id('stage')];
  const { body } = await change(
    addition('head', { id: head, name: 'One article' }),
    addition('stage', { id: stage, headId: head, name: 'as received' }),
  );
  return { head, stage, body };
}

describe('a change of several steps', () => {
  it('is one transaction, told as one batch, and one undo takes all of it back', async () => {
    const { head, stage, body } = await aHead();
    const port = id('port');
    const source = id('source');
    const sheet = id('sheet');
    const written = await change(
      addition('source', { id: source, name: 'Bench 1', kind: 'own bench' }),
      addition('port', { id: port, headId: head, side: 'intake', number: 3 }),
      addition('sheet', {
        id: sheet,
        stageId: stage,
        sourceId: source,
        intakePortId: port,
        title: 'Port 3',
        setup: {},
      }),
    );
    expect(written.status).toBe(200);
    expect(written.body.records.map((r: { id: string }) => r.id)).toEqual([source, port, sheet]);
    expect(written.body.batch).not.toBe(body.batch);
    expect(written.body.touched).toEqual(
      expect.arrayContaining([
        { noun: 'sheet', id: sheet, headId: head, buildId: null, sessionId: null },
        { noun: 'port', id: port, headId: head, buildId: null, sessionId: null },
        { noun: 'source', id: source, headId: null, buildId: null, sessionId: null },
      ]),
    );
    const undone = await f.call('POST', `/api/change/${written.body.batch}/undo`);
    expect(undone.status).toBe(200);
    for (const [noun, which] of [
      ['sheet', sheet],
      ['port', port],
      ['source', source],
    ] as const)
      expect((await f.call('GET', `/api/${noun}/${which}`)).status).toBe(404);
    const redone = await f.call('POST', `/api/change/${undone.body.batch}/undo`);
    expect(redone.status).toBe(200);
    expect((await f.call('GET', `/api/sheet/${sheet}`)).body.intakePortId).toBe(port);
  });

  it('leaves nothing behind when its last step is refused, and says which step it was', async () => {
    const { head, stage } = await aHead();
    const before = [await count('port'), await count('source'), await count('sheet')];
    const refused = await change(
      addition('source', { name: 'Nobody', kind: 'forum' }),
      addition('port', { headId: head, side: 'exhaust', number: 1 }),
      addition('sheet', { stageId: stage, title: '', setup: {} }),
    );
    expect(refused.status).toBe(400);
    expect(refused.body).toMatchObject({ step: 2, fields: [{ field: 'title', message: 'Give it a name.' }] });
    expect([await count('port'), await count('source'), await count('sheet')]).toEqual(before);
  });

  it('sent twice is one: the answer to the first may have been lost', async () => {
    const { head, stage } = await aHead();
    const steps = [
      addition('port', { id: id('port'), headId: head, side: 'intake', number: 7 }),
      addition('sheet', { id: id('sheet'), stageId: stage, title: 'Once', setup: {}, date: '2026-05-02' }),
    ];
    const first = await change(...steps);
    const again = await change(...steps);
    expect(again.status).toBe(200);
    expect(again.body).toEqual(first.body);
    const [, sheet] = first.body.records;
    const save = replacement('sheet', { ...sheet, note: 'read twice' });
    const saved = await change(save);
    const twice = await change(save);
    expect(twice.body).toEqual(saved.body);
    expect((await f.call('GET', `/api/sheet/${sheet.id}`)).body.version).toBe(2);
  });

  it('that was saved already with something else in it is a conflict, with what stands there', async () => {
    const { stage } = await aHead();
    const sheet = id('sheet');
    await change(addition('sheet', { id: sheet, stageId: stage, title: 'First', setup: {} }));
    const other = await change(addition('sheet', { id: sheet, stageId: stage, title: 'Second', setup: {} }));
    expect(other.status).toBe(409);
    expect(other.body.current).toMatchObject({ id: sheet, title: 'First', version: 1 });
  });

  it('names heads that went with it, so that their pages know', async () => {
    const { head, stage } = await aHead();
    await change(addition('sheet', { stageId: stage, title: 'Goes too', setup: {} }));
    const { body } = await change(removal('head', head));
    expect(body.touched.map((t: { noun: string }) => t.noun).sort()).toEqual(['head', 'sheet', 'stage']);
    for (const t of body.touched) expect(t.headId).toBe(head);
  });

  it('takes no raw readings and no photos, nothing empty, nothing unknown', async () => {
    expect((await change(removal('reading', 'x'))).status).toBe(409);
    expect((await change(addition('attachment', { name: 'x' }))).status).toBe(409);
    expect((await change()).status).toBe(400);
    expect((await change({ do: 'add', noun: 'nothing', record: {} })).status).toBe(400);
    expect((await change({ do: 'drop', noun: 'head', id: 'x' })).status).toBe(400);
    expect((await change({ do: 'save', noun: 'head', record: { id: 'x' } })).status).toBe(428);
  });

  it('of more records than are listed says so', async () => {
    const { head } = await aHead();
    const ports = Array.from({ length: 400 }, (_, i) =>
      addition('stage', { headId: head, name: `cut ${i}`, position: i }),
    );
    expect((await change(...ports)).body.touched).toBe('all');
  });
});

describe('of two sheets of one day', () => {
  it('the later one is the newer, whatever its id, also in another library and after an undo', async () => {
    const { head, stage } = await aHead();
    for (const name of ['z', 'm', 'a'])
      await change(addition('sheet', { id: id(name), stageId: stage, title: name, setup: {}, date: '2026-05-02' }));
    const titles = async () =>
      (await f.call('GET', `/api/head/${head}/whole`)).body.sheets.map((s: { title: string }) => s.title);
    expect(await titles()).toEqual(['z', 'm', 'a']);
    const [, middle] = (await f.call('GET', `/api/head/${head}/whole`)).body.sheets;
    const { body } = await change(removal('sheet', middle.id));
    await f.call('POST', `/api/change/${body.batch}/undo`);
    expect(await titles()).toEqual(['z', 'm', 'a']);
    const bundle = (await f.call('GET', '/api/bundle')).body;
    const other = await fixture();
    try {
      await other.call('POST', '/api/bundle', bundle);
      const there = (await other.call('GET', `/api/head/${head}/whole`)).body.sheets;
      expect(there.map((s: { title: string }) => s.title)).toEqual(['z', 'm', 'a']);
      expect(there[0]).not.toHaveProperty('entered');
    } finally {
      await other.close();
    }
  });
});

describe('the feed', () => {
  it('tells every page of every change once, after it stands, and an undo too', async () => {
    await f.app.listen({ port: 0, host: '127.0.0.1' });
    const { port } = f.app.server.address() as { port: number };
    const heard: FeedLine[][] = [[], []];
    const sockets = heard.map((lines) => {
      const socket = new WebSocket(`ws://127.0.0.1:${port}/api/change/feed`);
      socket.on('message', (data) =>
        lines.push(
          ...String(data)
            .trim()
            .split('\n')
            .map((l) => JSON.parse(l)),
        ),
      );
      return socket;
    });
    const until = async (lines: FeedLine[], n: number) => {
      for (let i = 0; i < 200 && lines.length < n; i++) await new Promise((done) => setTimeout(done, 10));
      expect(lines).toHaveLength(n);
    };
    await Promise.all(heard.map((lines) => until(lines, 1)));
    expect(heard[0]![0]).toMatchObject({ tell: 'hello', latest: expect.stringMatching(/^20/) });
    const { head, body } = await aHead();
    await f.call('POST', '/api/build', { ...aBuild, bore: 'nonsense' });
    await f.call('POST', `/api/change/${body.batch}/undo`);
    for (const lines of heard) {
      await until(lines, 3);
      expect(lines[1]).toMatchObject({ tell: 'change', batch: body.batch });
      expect(lines[2]).toMatchObject({ touched: expect.arrayContaining([expect.objectContaining({ headId: head })]) });
    }
    for (const socket of sockets) socket.close();
  });
});

import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { aBuild, fixture, type Fixture } from './fixture.js';

let f: Fixture;
beforeAll(async () => void (f = await fixture()));
afterAll(() => f.close());

describe('records', () => {
  it('are added, read and replaced, with the text as typed beside the SI value', async () => {
    const { status, body } = await f.call('POST', '/api/build', aBuild);
    expect(status).toBe(201);
    expect(body.record).toMatchObject({
      name: 'Kestrel Four',
      bore: { si: expect.closeTo(0.0889, 12), typed: '3.5 in' },
      version: 1,
    });
    const read = await f.call('GET', `/api/build/${body.record.id}`);
    expect(read.body).toEqual(body.record);
    const saved = await f.call('PUT', `/api/build/${body.record.id}`, { ...body.record, name: 'Kestrel 4' });
    expect(saved.body.record).toMatchObject({ name: 'Kestrel 4', version: 2 });
  });

  it('say field by field what is wrong', async () => {
    const { status, body } = await f.call('POST', '/api/build', { ...aBuild, bore: 'about four', cylinders: 0 });
    expect(status).toBe(400);
    expect(body.fields).toEqual(
      expect.arrayContaining([
        { field: 'bore', message: '“about four” is not a length. Type it like 2.02, 1 7/8 or 51 mm.' },
        { field: 'cylinders', message: 'An engine has at least one cylinder.' },
      ]),
    );
  });

  it('refuse a value that does not agree with its own text, whoever sends it', async () => {
    const { status, body } = await f.call('POST', '/api/build', { ...aBuild, bore: { si: 1, typed: '3.5 in' } });
    expect(status).toBe(400);
    expect(body.detail).toContain('do not agree');
  });

  it('are not overwritten by a second tab: 409 with the stored version', async () => {
    const { body } = await f.call('POST', '/api/head', { name: 'Shared' });
    const first = await f.call('PUT', `/api/head/${body.record.id}`, { ...body.record, note: 'mine' });
    expect(first.status).toBe(200);
    const second = await f.call('PUT', `/api/head/${body.record.id}`, { ...body.record, note: 'theirs' });
    expect(second.status).toBe(409);
    expect(second.body.current).toMatchObject({ note: 'mine', version: 2 });
    const blind = await f.call('PUT', `/api/head/${body.record.id}`, { name: 'Shared' });
    expect(blind.status).toBe(428);
  });

  it('unknown ones and unknown addresses are said so', async () => {
    expect((await f.call('GET', '/api/head/nobody')).body.detail).toBe('There is no such head.');
    expect((await f.call('GET', '/api/nothing')).status).toBe(404);
    expect((await f.call('GET', `/api/head/${'x'.repeat(90)}`)).status).toBe(400);
  });

  it('refuse to refer to what is not there', async () => {
    const { status, body } = await f.call('POST', '/api/stage', { headId: 'nobody', name: 'as received' });
    expect(status).toBe(409);
    expect(body.detail).toBe('This refers to a record that is not here, or no longer.');
  });

  it.each(['a\u0000b', 'half a pair \ud83d'])('refuse text that cannot be stored, at its field', async (text) => {
    for (const field of ['name', 'maker', 'note']) {
      const { status, body } = await f.call('POST', '/api/head', { name: 'x', [field]: text });
      expect(status).toBe(400);
      expect(body.fields[0]).toMatchObject({ field, message: expect.stringContaining('cannot be stored') });
    }
    expect((await f.call('POST', '/api/head', { name: 'a pair \ud83d\ude00' })).status).toBe(201);
  });

  it('keep HTML as the text it is', async () => {
    const name = '<img src=x onerror=alert(1)>';
    const { body } = await f.call('POST', '/api/head', { name });
    expect((await f.call('GET', `/api/head/${body.record.id}`)).body.name).toBe(name);
  });
});

describe('a list', () => {
  it('goes on page after page, and says so, until all of it is read', async () => {
    for (let i = 0; i < 5; i++)
      await f.call('POST', '/api/plan', {
        id: `listed-${i}`,
        name: `Plan ${i}`,
        plan: { ports: [{ number: 1 }], list: ['.100 in'] },
      });
    const seen: string[] = [];
    let pages = 0;
    for (let next: string | undefined = '/api/plan?size=2'; next; pages++) {
      const answer: { json: () => { id: string }[]; headers: object } = await f.app.inject(next);
      seen.push(...answer.json().map((r) => r.id));
      next = /<([^>]+)>; rel="next"/.exec(String((answer.headers as { link?: string }).link ?? ''))?.[1];
    }
    expect(seen).toEqual(['listed-0', 'listed-1', 'listed-2', 'listed-3', 'listed-4']);
    expect(pages).toBe(3);
    expect((await f.call('GET', '/api/plan?size=0')).status).toBe(400);
  });
});

describe('sheets', () => {
  const stage = async () => {
    const head = (await f.call('POST', '/api/head', { name: 'Bench head' })).body.record;
    return (await f.call('POST', '/api/stage', { headId: head.id, name: 'as received' })).body.record.id as string;
  };
  const row = (lift: string, intake?: string, exhaust?: string) => ({
    lift,
    intake: intake ? { pulls: [intake] } : null,
    exhaust: exhaust ? { pulls: [exhaust] } : null,
  });

  it('come back in order of lift', async () => {
    const { body } = await f.call('POST', '/api/sheet', {
      stageId: await stage(),
      title: 'S',
      setup: {},
      rows: [row('.300 in', '149 cfm'), row('.100 in', '58 cfm')],
    });
    expect(body.record.rows.map((r: any) => r.lift.typed)).toEqual(['.100 in', '.300 in']);
  });

  it.each([
    ['doubled lifts', { rows: [row('.300 in', '149 cfm'), row('0.3 in', '150 cfm')] }, /stands in row 1 too/],
    ['negative flow', { rows: [row('.300 in', '-149 cfm')] }, /between 0 and about 4,200/],
    ['absurd flow', { rows: [row('.300 in', '149000 cfm')] }, /between 0 and about 4,200/],
    ['text in a number', { rows: [row('.300 in', 'lots')] }, /“lots” is not a flow/],
    ['a lift beyond any valve', { rows: [row('9 in', '149 cfm')] }, /A lift must lie between/],
    ['no depression at all', { setup: { depression: '0 inH2O' } }, /depression must lie between/],
    [
      'a percent without its full scale',
      { setup: { reads: 'percent' }, rows: [{ lift: '.300 in', intake: { pulls: ['50 %'], range: '4' } }] },
      /full scale in the intake direction/,
    ],
    [
      'too many rows',
      { rows: Array.from({ length: 401 }, (_, i) => row(`${(i + 1) / 1000} in`, '1 cfm')) },
      /at most 400 rows/,
    ],
  ])('%s is refused with a sentence', async (_, change, message) => {
    const { status, body } = await f.call('POST', '/api/sheet', {
      stageId: await stage(),
      title: 'S',
      setup: {},
      rows: [],
      ...change,
    });
    expect(status).toBe(400);
    expect(body.detail).toMatch(message);
  });

  it('a sheet of differences stays one', async () => {
    const { status, body } = await f.call('POST', '/api/sheet', {
      stageId: await stage(),
      title: 'Published gains',
      kind: 'claim',
      setup: { reads: 'difference' },
      rows: [row('.200 in', '+19 cfm'), row('.300 in', '-3 cfm')],
    });
    expect(status).toBe(201);
    expect(body.record.rows[0].intake.pulls[0].typed).toBe('+19 cfm');
  });
});

describe('undo and history', () => {
  it('a deleted head comes back with all that hung on it, and goes again', async () => {
    const head = (await f.call('POST', '/api/head', { name: 'Whole' })).body.record;
    const stage = (await f.call('POST', '/api/stage', { headId: head.id, name: 'as received' })).body.record;
    const child = (
      await f.call('POST', '/api/stage', { headId: head.id, name: 'bowl blend', parentId: stage.id, position: 1 })
    ).body.record;
    const port = (await f.call('POST', '/api/port', { headId: head.id, side: 'intake', number: 3 })).body.record;
    await f.call('POST', '/api/sheet', { stageId: child.id, title: 'S', intakePortId: port.id, setup: {}, rows: [] });
    await f.call('POST', '/api/measure', { stageId: stage.id, item: 'throat', side: 'intake', value: '1.628 in' });
    const before = (await f.call('GET', `/api/head/${head.id}/whole`)).body;

    const gone = await f.call('DELETE', `/api/head/${head.id}`);
    expect((await f.call('GET', `/api/head/${head.id}/whole`)).status).toBe(404);
    const back = await f.call('POST', `/api/change/${gone.body.batch}/undo`);
    expect(back.status).toBe(200);
    expect((await f.call('GET', `/api/head/${head.id}/whole`)).body).toEqual(before);
    const again = await f.call('POST', `/api/change/${back.body.batch}/undo`);
    expect(again.status).toBe(200);
    expect((await f.call('GET', `/api/head/${head.id}/whole`)).status).toBe(404);
  });

  it('a change that was changed again since is not undone', async () => {
    const head = (await f.call('POST', '/api/head', { name: 'One' })).body.record;
    const two = (await f.call('PUT', `/api/head/${head.id}`, { ...head, name: 'Two' })).body;
    await f.call('PUT', `/api/head/${head.id}`, { ...two.record, name: 'Three' });
    const { status, body } = await f.call('POST', `/api/change/${two.batch}/undo`);
    expect(status).toBe(409);
    expect(body.detail).toContain('undo the later change first');
  });

  it('a head that has grown since is not un-added', async () => {
    const added = (await f.call('POST', '/api/head', { name: 'Grown' })).body;
    await f.call('POST', '/api/stage', { headId: added.record.id, name: 'as received' });
    expect((await f.call('POST', `/api/change/${added.batch}/undo`)).status).toBe(409);
    expect((await f.call('GET', `/api/head/${added.record.id}/whole`)).body.stages).toHaveLength(1);
  });

  it('a correction keeps its history', async () => {
    const head = (await f.call('POST', '/api/head', { name: 'First name' })).body.record;
    await f.call('PUT', `/api/head/${head.id}`, { ...head, name: 'Second name' });
    const { body } = await f.call('GET', `/api/head/${head.id}/history`);
    // Earlier states are records, as they are read and sent.
    expect(body[0].after).toEqual((await f.call('GET', `/api/head/${head.id}`)).body);
    expect(body.map((c: any) => [c.before?.name ?? null, c.after?.name])).toEqual([
      ['First name', 'Second name'],
      [null, 'First name'],
    ]);
  });

  it('there is nothing to undo for a number nobody gave', async () => {
    expect((await f.call('POST', '/api/change/999999/undo')).status).toBe(404);
    expect((await f.call('POST', '/api/change/x/undo')).status).toBe(400);
  });
});

describe('measures', () => {
  it('belong to a side or to none, by what they are', async () => {
    const head = (await f.call('POST', '/api/head', { name: 'Sized' })).body.record;
    const stageId = (await f.call('POST', '/api/stage', { headId: head.id, name: 'as received' })).body.record.id;
    const add = (m: object) => f.call('POST', '/api/measure', { stageId, ...m });
    expect((await add({ item: 'throat', value: '1.6 in' })).body.detail).toBe(
      'Say whether this throat is intake or exhaust.',
    );
    expect((await add({ item: 'chamber volume', side: 'intake', value: '64 cc' })).body.detail).toBe(
      'The chamber volume belongs to no side.',
    );
    expect((await add({ item: 'throat', side: 'intake', value: '64 cc' })).body.detail).toBe(
      '“cc” is not a unit of length. Type it like 2.02, 1 7/8 or 51 mm.',
    );
    expect((await add({ item: 'throat', side: 'intake', value: '3 m' })).body.detail).toBe(
      'The throat must lie between 8 and 240 mm.',
    );
    expect((await add({ item: 'throat', side: 'intake', value: '1.6 in' })).status).toBe(201);
  });
});

describe('what no number and no calendar has is refused at its field', () => {
  it.each([
    ['stage', { headId: 'h', name: 'S', position: 1e12 }, 'position'],
    ['stage', { headId: 'h', name: 'S', position: 2 ** 31 }, 'position'],
    ['stage', { headId: 'h', name: 'S', date: '0000-01-01' }, 'date'],
    ['stage', { headId: 'h', name: 'S', date: '2026-02-30' }, 'date'],
    ['head', { name: 'a\u0000b' }, 'name'],
    ['head', { name: 'N', note: 'half \ud800' }, 'note'],
  ])('%s %o', async (noun, record, field) => {
    const { status, body } = await f.call('POST', `/api/${noun}`, record);
    expect([status, body.fields?.[0]?.field]).toEqual([400, field]);
  });
});

import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoText, fixture, type Fixture } from './fixture.js';

let f: Fixture;
beforeAll(async () => {
  f = await fixture();
  await f.call('POST', '/api/bundle', JSON.parse(await demoText()));
});
afterAll(() => f.close());

const scan = (query: string) =>
  sharp({ create: { width: 40, height: 30, channels: 3, background: '#eee' } })
    .png()
    .toBuffer()
    .then((payload) =>
      f.app.inject({
        method: 'POST',
        url: `/api/attachment?${query}`,
        payload,
        headers: { 'content-type': 'image/png' },
      }),
    );

describe('sources', () => {
  it('keep what they state of all their tests; what they do not state is unknown', async () => {
    const { body } = await f.call('POST', '/api/source', {
      name: 'A magazine',
      kind: 'magazine',
      stated: { depression: '25 inH2O', entry: 'clay' },
    });
    expect(body.record.stated).toMatchObject({
      depression: { typed: '25 inH2O' },
      entry: 'clay',
      exhaustPipe: 'unknown',
      bore: null,
      port: '',
    });
    const wrong = await f.call('PUT', `/api/source/${body.record.id}`, {
      ...body.record,
      stated: { ...body.record.stated, bore: '9 m' },
    });
    expect(wrong.body.fields[0]).toEqual({
      field: 'stated.bore',
      message: 'The bore fixture must lie between 20 and 600 mm.',
    });
  });
  it('have scans of their own; a photo of nothing is refused', async () => {
    const answer = await scan('source=quayside');
    expect(answer.json().record).toMatchObject({ headId: null, sourceId: 'quayside' });
    expect((await scan('name=loose')).json().detail).toBe('Say which head or which source the photo belongs to.');
    expect((await scan('source=nobody')).json().detail).toBe('There is no such source.');
    const bundle = JSON.parse((await f.app.inject('/api/bundle')).body);
    expect(bundle.attachments).toEqual([expect.objectContaining({ sourceId: 'quayside', headId: null })]);
    // Read in elsewhere, the scan comes along.
    const elsewhere = await fixture();
    expect((await elsewhere.call('POST', '/api/bundle', bundle)).body).toContain('"finished":true');
    const id = bundle.attachments[0].id;
    expect((await elsewhere.app.inject(`/api/attachment/${id}/picture`)).statusCode).toBe(200);
    await elsewhere.close();
  });
});

describe('a sheet read off a chart', () => {
  it('keeps its marks and points with it', async () => {
    const mark = (x: number, y: number, value: string) => ({ x, y, value });
    const chart = {
      attachmentId: 'some-picture',
      lift: [mark(60, 500, '0 in'), mark(560, 500, '.5 in')],
      flow: [mark(60, 500, '0 cfm'), mark(60, 180, '200 cfm')],
      points: [{ side: 'intake', x: 460, y: 260 }],
    };
    const sheet = { stageId: '522-received', title: 'Chart', kind: 'claim', setup: {}, rows: [], chart };
    const { body } = await f.call('POST', '/api/sheet', sheet);
    expect(body.record.chart.lift[1].value).toEqual({ si: expect.closeTo(0.0127, 9), typed: '.5 in' });
    expect((await f.call('GET', `/api/sheet/${body.record.id}`)).body).toEqual(body.record);
    const short = await f.call('POST', '/api/sheet', { ...sheet, chart: { ...chart, lift: chart.lift.slice(1) } });
    expect(short.body.fields[0].message).toBe('An axis is set by two points.');
  });
});

describe('reports of power', () => {
  it('say of which engine they are', async () => {
    const report = { stageId: 'om-received', power: '300 hp', speed: '5500 rpm' };
    const bare = await f.call('POST', '/api/report', report);
    expect(bare.body.fields.map((x: any) => x.field)).toEqual(['displacement', 'cylinders']);
    const own = await f.call('POST', '/api/report', { ...report, displacement: '4.2 L', cylinders: 6 });
    expect(own.body.record).toMatchObject({ taken: 'unknown', sourceId: null, buildId: null });
    const { body } = await f.call('GET', '/api/head/ottermoor-230/whole');
    expect(body.reports).toHaveLength(2);
    expect((await f.call('POST', `/api/change/${own.body.batch}/undo`)).status).toBe(200);
    expect((await f.call('GET', '/api/head/ottermoor-230/whole')).body.reports).toHaveLength(1);
  });
});

describe('questions under test', () => {
  it('are one line, closed with reasons, true or false only on evidence', async () => {
    const { body } = await f.call('POST', '/api/question', { text: 'The late one bolts on.' });
    expect(body.record).toMatchObject({ state: 'open', evidence: [], headId: null });
    const close = (change: object) => f.call('PUT', `/api/question/${body.record.id}`, { ...body.record, ...change });
    expect((await close({ state: 'unproven' })).body.detail).toBe('Say why it is closed like this.');
    expect((await close({ state: 'true', reasons: 'It does.' })).body.fields[0].field).toBe('evidence');
    const shut = await close({
      state: 'true',
      reasons: 'Bolted on.',
      evidence: [{ noun: 'sheet', id: '522-received-p3' }],
    });
    expect(shut.body.record.state).toBe('true');
    expect((await f.call('POST', '/api/question', { text: 'Two\nlines' })).body.detail).toBe('Keep it to one line.');
    expect((await f.call('GET', `/api/question/${body.record.id}/history`)).body).toHaveLength(2);
  });
});

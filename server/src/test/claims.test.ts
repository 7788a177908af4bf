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

describe('the library of claims', () => {
  /** Asked until all is judged: the answer in between is what was judged so far. */
  const audit = async (query = '') => {
    for (;;) {
      const { body } = await f.call('GET', `/api/claims/audit?${query}`);
      if (body.done === body.of) return body;
      await new Promise((later) => setTimeout(later, 50));
    }
  };
  const band = async () =>
    (
      await f.call('POST', '/api/claims/band', {
        asks: [{ side: 'intake', pipe: 'any', liftRatio: 0.2, coefficient: 0.6 }],
      })
    ).body;

  it('judges every claim with the band of the whole library, counted by source, a page at a time', async () => {
    const all = await audit();
    expect(all).toMatchObject({ done: all.of, size: 50 });
    expect(all.sources).toEqual(expect.arrayContaining([{ name: 'Ottermoor flyer', total: 3, doubtful: 2 }]));
    expect(all.lines).toHaveLength(all.total);
    const doubtful = await audit('doubtful=yes&source=Ottermoor%20flyer');
    expect(doubtful.lines.map((l: { verdict: string }) => l.verdict)).toContain('beyond anything measured');
    expect(doubtful.total).toBe(2);
    const csv = (await f.app.inject('/api/claims/audit.csv?system=metric')).body;
    expect(csv.split('\r\n').length).toBeGreaterThan(all.total);
    expect(csv).toContain('L/s');
    // The course line counts the same verdicts, of the lineup's heads alone.
    const lined = await f.call('GET', '/api/claims/doubtful?heads=ottermoor-230,corrow-417');
    expect(lined.body.count).toBeGreaterThanOrEqual(2);
  });

  it('takes in a change before the page that made it asks again, and gives it back when it is undone', async () => {
    const before = await band();
    const source = (await f.call('GET', '/api/source')).body.find((s: { kind: string }) => s.kind === 'own bench').id;
    const { body } = await f.call('POST', '/api/change', {
      steps: [
        { do: 'add', noun: 'head', record: { id: 'newcomer', name: 'Newcomer' } },
        { do: 'add', noun: 'stage', record: { id: 'newcomer-s', headId: 'newcomer', name: 'as received' } },
        {
          do: 'add',
          noun: 'measure',
          record: { stageId: 'newcomer-s', item: 'valve diameter', side: 'intake', value: '2.00 in' },
        },
        {
          do: 'add',
          noun: 'sheet',
          record: {
            stageId: 'newcomer-s',
            sourceId: source,
            title: 'Port 1',
            setup: { depression: '28 inH2O' },
            rows: [
              { lift: '.300 in', intake: { pulls: ['180 cfm'] } },
              { lift: '.400 in', intake: { pulls: ['210 cfm'] } },
              { lift: '.500 in', intake: { pulls: ['225 cfm'] } },
            ],
          },
        },
      ],
    });
    const after = await band();
    expect(after.views[0].heads).toBe(before.views[0].heads + 1);
    expect(after.version).toBeGreaterThan(before.version);
    await f.call('POST', `/api/change/${body.batch}/undo`);
    expect((await band()).views).toEqual(before.views);
  });

  it('gives a net that is ready to be solved, a catalogue and a cloud; without a bench of our own it says what is missing', async () => {
    const net = (await f.call('GET', '/api/claims/net?side=intake')).body;
    expect(net.data.point).toHaveLength(net.data.logFlow.length);
    expect(net.sources.length).toBeGreaterThan(2);
    const left = (await f.call('GET', `/api/claims/net?side=intake&without=pellam-190`)).body;
    expect(left.data.point.length).toBeLessThan(net.data.point.length);
    const tables = (await f.call('GET', '/api/claims/catalogue?source=quayside&side=intake')).body;
    expect(tables.items.map((t: { name: string }) => t.name)).toContain('417 early, as received');
    const cloud = (await f.call('GET', '/api/claims/cloud?side=exhaust&pipe=piped')).body;
    expect(cloud.every(([r, c]: number[]) => r! > 0 && c! > 0 && c! < 1.2)).toBe(true);
    const empty = await fixture();
    expect((await empty.call('GET', '/api/claims/net?side=intake')).body.detail).toContain('Name your own bench');
    expect((await empty.call('GET', '/api/claims/audit')).body).toMatchObject({ total: 0, done: 0, of: 0 });
    await empty.close();
  });

  it('answers while it is still being read, and says how far it is', async () => {
    const big = await fixture();
    const heads = Array.from({ length: 150 }, (_, i) => ({ id: `h${i}`, name: `Head ${i}` }));
    const flow = (i: number, k: number) =>
      `${(200 * (1 - Math.exp(-(k + 1) / 4)) * (1 + (i % 17) / 100)).toFixed(1)} cfm`;
    const rows = (i: number) =>
      Array.from({ length: 14 }, (_, k) => ({
        lift: `${((k + 1) * 0.05).toFixed(3)} in`,
        intake: { pulls: [flow(i, k)] },
        exhaust: { pulls: [flow(i, k)] },
      }));
    await big.call('POST', '/api/bundle', {
      format: 'alluvium-bundle',
      version: 1,
      sources: [{ id: 'maker', name: 'A maker', kind: 'maker' }],
      heads,
      stages: heads.map((h) => ({ id: `${h.id}-s`, headId: h.id, name: 'as received' })),
      measures: heads.map((h) => ({
        stageId: `${h.id}-s`,
        id: `${h.id}-v`,
        item: 'valve diameter',
        side: 'intake',
        value: '2 in',
      })),
      sheets: heads.flatMap((h, i) =>
        ['measured', 'claim'].map((kind) => ({
          id: `${h.id}-${kind}`,
          stageId: `${h.id}-s`,
          title: kind,
          kind,
          sourceId: kind === 'claim' ? 'maker' : null,
          setup: { depression: '28 inH2O' },
          rows: rows(i),
        })),
      ),
    });
    const asked = big.call('GET', '/api/claims/audit');
    // Others are answered in between.
    const health = await big.call('GET', '/api/health');
    expect(health.body.status).toBe('ok');
    const first = (await asked).body;
    expect(first.done).toBeLessThanOrEqual(first.of);
    for (let i = 0; i < 100; i++) {
      const now = (await big.call('GET', '/api/claims/audit?page=5')).body;
      if (now.done < now.of) {
        await new Promise((later) => setTimeout(later, 200));
        continue;
      }
      expect(now).toMatchObject({ of: 150, total: 300, size: 50 });
      expect(now.lines).toHaveLength(50);
      await big.close();
      return;
    }
    throw new Error('never read');
  });
});

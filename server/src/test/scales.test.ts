import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fixture, type Fixture } from './fixture.js';

let f: Fixture;
beforeAll(async () => void (f = await fixture()));
afterAll(() => f.close());

const scales = (typed: string) => [{ name: '3', intake: typed, exhaust: '317.5 cfm' }];
const make = async (noun: string, fields: object) =>
  (await f.call('POST', `/api/${noun}`, fields)).body.record as { id: string; version: number } & Record<string, any>;
const read = async (noun: string, id: string) =>
  (await f.call('GET', `/api/${noun}/${id}`)).body as Record<string, any>;

describe('full scales of a bench', () => {
  it('are read by every sheet that points to them; moved or put right, sheets of other days keep theirs; undone as one', async () => {
    const bench = await make('source', {
      name: 'Shop bench',
      scales: [
        { since: '2025-01-01', ranges: scales('295.6 cfm') },
        { since: '2026-01-01', ranges: scales('301 cfm') },
      ],
    });
    const head = await make('head', { name: 'Read by percent' });
    const stage = await make('stage', { headId: head.id, name: 'as received' });
    const sheet = (since: string | null, sourceId: string | null, typed: string) =>
      make('sheet', {
        stageId: stage.id,
        sourceId,
        title: 'paper',
        setup: { reads: 'percent', scales: since, ranges: scales(typed) },
        rows: [{ lift: '.200 in', intake: { pulls: ['42.5 %'], range: '3' } }],
      });
    // Whatever figures a browser sends with the day, the bench's own count.
    const early = await sheet('2025-01-01', bench.id, '999 cfm');
    expect(early.setup.ranges[0].intake.typed).toBe('295.6 cfm');
    const late = await sheet('2026-01-01', bench.id, '301 cfm');
    const own = await sheet(null, bench.id, '280 cfm');
    const nobody = await sheet('2025-01-01', null, '280 cfm');
    expect(nobody.setup).toMatchObject({ scales: null, ranges: [{ name: '3' }] });

    const mended = {
      ...bench,
      scales: [{ since: '2025-01-01', ranges: scales('296.5 cfm') }, bench.scales[1]],
    };
    const changed = await f.call('PUT', `/api/source/${bench.id}`, mended);
    expect(changed.status).toBe(200);
    const typed = async (id: string) => (await read('sheet', id)).setup.ranges[0].intake.typed as string;
    expect(await typed(early.id)).toBe('296.5 cfm');
    expect(await typed(late.id)).toBe('301 cfm');
    expect(await typed(own.id)).toBe('280 cfm');
    expect(changed.body.touched.map((t: { noun: string }) => t.noun).sort()).toEqual(['sheet', 'source']);

    await f.call('POST', `/api/change/${changed.body.batch}/undo`);
    expect(await typed(early.id)).toBe('295.6 cfm');

    // Full scales taken from the bench stay with the sheets that were read by them.
    const now = await read('source', bench.id);
    await f.call('PUT', `/api/source/${bench.id}`, { ...now, scales: [now.scales[1]] });
    expect((await read('sheet', early.id)).setup).toMatchObject({
      scales: null,
      ranges: [{ intake: { typed: '295.6 cfm' } }],
    });
  });

  it('put right for the whole bench are put right at the bench, and its sheets follow', async () => {
    const bench = await make('source', {
      name: 'Second bench',
      scales: [{ since: '2025-01-01', ranges: scales('259.6 cfm') }],
    });
    const head = await make('head', { name: 'Mistyped' });
    const stage = await make('stage', { headId: head.id, name: 'as received' });
    const sheet = await make('sheet', {
      stageId: stage.id,
      sourceId: bench.id,
      title: 'paper',
      setup: { reads: 'percent', scales: '2025-01-01', ranges: scales('259.6 cfm') },
      rows: [{ lift: '.200 in', intake: { pulls: ['42.5 %'], range: '3' } }],
    });
    const correction = {
      what: 'full scale',
      range: '3',
      side: 'intake',
      from: { si: sheet.setup.ranges[0].intake.si, typed: '259.6 cfm' },
      to: '295.6 cfm',
    };
    const { status, body } = await f.call('POST', `/api/source/${bench.id}/correction`, correction);
    expect([status, body.sheets]).toEqual([200, 1]);
    expect((await read('source', bench.id)).scales[0].ranges[0].intake.typed).toBe('295.6 cfm');
    expect((await read('sheet', sheet.id)).setup).toMatchObject({
      scales: '2025-01-01',
      ranges: [{ intake: { typed: '295.6 cfm' } }],
    });
  });
});

describe('two heads of one engine', () => {
  it('know each other, whichever names the other; a third is refused, and so is itself', async () => {
    const [left, right, third] = [
      await make('head', { name: 'Left' }),
      await make('head', { name: 'Right' }),
      await make('head', { name: 'Third' }),
    ];
    for (const h of [left, right]) await make('stage', { headId: h.id, name: 'as received' });
    const put = (head: typeof left, pairOf: string | null) =>
      f.call('POST', '/api/change', { steps: [{ do: 'save', noun: 'head', record: { ...head, pairOf } }] });
    expect((await put(left, right.id)).status).toBe(200);
    for (const [id, other] of [
      [left.id, 'Right'],
      [right.id, 'Left'],
    ])
      expect((await f.call('GET', `/api/head/${id}/whole`)).body.pair.head.name).toBe(other);
    expect((await put(third, right.id)).body.detail).toBe(
      'One of the two has another head beside it already: see Left.',
    );
    expect((await put(third, third.id)).body.detail).toBe('A head is not the other one of its own pair.');
    const now = await read('head', left.id);
    expect((await put(now as typeof left, null)).status).toBe(200);
    expect((await f.call('GET', `/api/head/${right.id}/whole`)).body.pair).toBeUndefined();
  });
});

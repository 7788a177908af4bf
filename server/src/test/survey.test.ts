import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoText, fixture, type Fixture } from './fixture.js';

let f: Fixture;
let stageId: string;
beforeAll(async () => {
  f = await fixture();
  const { record: head } = (await f.call('POST', '/api/head', { name: 'Mill 7' })).body;
  stageId = (await f.call('POST', '/api/stage', { headId: head.id, name: 'as received' })).body.record.id;
});
afterAll(() => f.close());

const section = (station: string, more: object = {}) => ({
  station,
  width: '30 mm',
  height: '45 mm',
  radius: '8 mm',
  ...more,
});
const survey = (sections: object[], more: object = {}) => ({ stageId, title: 'Port 3', sections, ...more });

describe('a survey', () => {
  it('is kept as typed, corrected with its history, and taken back', async () => {
    const made = await f.call(
      'POST',
      '/api/survey',
      survey([
        section('0 mm', { walls: { roof: { thickness: '3.9 mm' }, rear: { thickness: '2.9 mm', behind: 'pushrod' } } }),
      ]),
    );
    expect(made.status).toBe(201);
    const { record } = made.body;
    expect(record.sections[0]).toMatchObject({
      station: { si: 0, typed: '0 mm' },
      shape: 'rectangle',
      branch: 0,
      walls: { roof: { behind: 'water' }, floor: null, rear: { behind: 'pushrod' } },
    });
    expect(record.floors.water).toBeNull();
    const corrected = await f.call('PUT', `/api/survey/${record.id}`, {
      ...record,
      sections: [...record.sections, section('5 mm')],
    });
    expect(corrected.body.record).toMatchObject({ version: 2 });
    expect((await f.call('GET', `/api/survey/${record.id}/history`)).body).toHaveLength(2);
    await f.call('POST', `/api/change/${corrected.body.batch}/undo`);
    expect((await f.call('GET', `/api/survey/${record.id}`)).body.sections).toHaveLength(1);
    const late = await f.call('PUT', `/api/survey/${record.id}`, { ...record, title: 'Late' });
    expect(late.status).toBe(409);
  });

  it.each([
    [[section('far away')], 'sections.0.station', /is not a length/],
    [[section('5 mm', { height: null })], 'sections.0.height', /needs its height/],
    [[section('5 mm', { radius: '20 mm' })], 'sections.0.radius', /half the shorter side/],
    [
      [section('5 mm', { walls: { roof: { thickness: '900 mm' } } })],
      'sections.0.walls.roof.thickness',
      /between 0 and 200 mm/,
    ],
    [
      [section('5 mm', { walls: { roof: { thickness: '4 mm', behind: 'lava' } } })],
      'sections.0.walls.roof.behind',
      /./,
    ],
    [[section('5 mm'), section('5 mm')], 'sections.1.station', /stands in row 1 too/],
    [[section('5 mm', { branch: 3 })], 'sections.0.branch', /./],
    [
      [
        section('5 mm', {
          shape: 'outline',
          outline: [
            [0, 0],
            [0.02, 0.02],
            [0.02, 0],
            [0, 0.02],
          ],
        }),
      ],
      'sections.0.outline',
      /crosses itself at 10\.0, 10\.0 mm/,
    ],
    [
      [
        section('5 mm', {
          shape: 'outline',
          outline: [
            [0, 0],
            [9, 9],
            [1, 0],
          ],
        }),
      ],
      'sections.0.outline.1.0',
      /./,
    ],
  ])('refuses %j at its field', async (sections, field, message) => {
    const { status, body } = await f.call('POST', '/api/survey', survey(sections as object[]));
    expect(status).toBe(400);
    const found = body.fields.find((x: { field: string }) => x.field === field);
    expect(found?.message).toMatch(message);
  });

  it('needs its stage, and goes with it', async () => {
    expect((await f.call('POST', '/api/survey', { ...survey([]), stageId: 'nowhere' })).status).toBe(409);
    const { record: stage } = (
      await f.call('POST', '/api/stage', {
        headId: (await f.call('GET', `/api/stage/${stageId}`)).body.headId,
        name: 'cut',
      })
    ).body;
    const { record } = (await f.call('POST', '/api/survey', { ...survey([section('0 mm')]), stageId: stage.id })).body;
    const gone = await f.call('DELETE', `/api/stage/${stage.id}`);
    expect((await f.call('GET', `/api/survey/${record.id}`)).status).toBe(404);
    await f.call('POST', `/api/change/${gone.body.batch}/undo`);
    expect((await f.call('GET', `/api/survey/${record.id}`)).body.sections).toHaveLength(1);
  });

  it('comes with its head, whole and in the lineup', async () => {
    const other = await fixture();
    await other.call('POST', '/api/bundle', JSON.parse(await demoText()));
    const whole = (await other.call('GET', '/api/head/corrow-417/whole')).body;
    expect(whole.surveys.map((s: { id: string }) => s.id)).toEqual(['417-sawn', '417-pinch-mould']);
    expect(whole.surveys[0].sections).toHaveLength(19);
    const lineup = (await other.call('GET', '/api/build/slate-six/lineup')).body;
    expect(lineup.entries.map((e: { whole: { surveys: unknown[] } }) => e.whole.surveys.length)).toEqual([
      2, 0, 1, 1, 0,
    ]);
    expect(lineup.entries[3].whole.seats).toHaveLength(12);
    await other.close();
  });
});

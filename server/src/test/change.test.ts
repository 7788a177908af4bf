import {
  addition,
  claimantsOf,
  removal,
  replacement,
  type Outcome,
  type SingleCut,
  type WholeHead,
} from '@alluvium/records';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoText, fixture, type Fixture } from './fixture.js';

let f: Fixture;
beforeAll(async () => {
  f = await fixture();
  await f.call('POST', '/api/bundle', JSON.parse(await demoText()));
});
afterAll(() => f.close());

const change = (...steps: object[]) => f.call('POST', '/api/change', { steps });
const whole = async (id: string) => (await f.call('GET', `/api/head/${id}/whole`)).body as WholeHead;

describe('stages', () => {
  const stage = (fields: object) => ({ headId: 'corrow-417', name: 'next', position: 4, ...fields });
  it('are no older than the one they come from, nor younger than one that comes from them', async () => {
    const early = await change(addition('stage', stage({ parentId: '417-pinch', date: '2026-03-01' })));
    expect(early.status).toBe(400);
    expect(early.body.fields[0]).toEqual({
      field: 'date',
      message: 'The stage it comes from is of 2026-03-16: this one cannot be older.',
    });
    const { stages } = await whole('corrow-417');
    const late = await change(replacement('stage', { ...stages[0]!, date: '2026-06-01' }));
    expect(late.body.detail).toContain('cannot be younger');
  });
  it('never come from themselves, nor from another head', async () => {
    const { stages } = await whole('corrow-417');
    const ring = await change(replacement('stage', { ...stages[1]!, parentId: '417-pinch', date: null }));
    expect(ring.status).toBe(400);
    expect(ring.body.detail).toBe('This stage would come from itself.');
    const stray = await change(addition('stage', stage({ parentId: 'p6-bowl' })));
    expect(stray.body.detail).toBe('A stage comes from a stage of the same head.');
    // Nothing of it stands.
    expect((await whole('corrow-417')).stages).toEqual(stages);
  });
});

describe('operations, tasks and specimens', () => {
  it('are on ports that are there, of their own side', async () => {
    const operation = { stageId: '417-pinch', kind: 'bowl blend', side: 'intake' };
    const none = await change(addition('operation', { ...operation, portId: 'pellam-p6-i3' }));
    expect(none.body.fields[0]).toEqual({ field: 'portId', message: 'This head has no such port.' });
    const side = await change(addition('operation', { ...operation, portId: 'corrow-417-e3' }));
    expect(side.body.detail).toBe('That port is on the exhaust side.');
    const task = await change(
      addition('task', { headId: 'corrow-417', place: 'floor', side: 'exhaust', portId: 'corrow-417-i3' }),
    );
    expect(task.body.detail).toBe('That port is on the intake side.');
    const hours = await change(addition('operation', { ...operation, time: '-2 h' }));
    expect(hours.body.fields[0].field).toBe('time');
  });
  it('go with their stage, and come back with it', async () => {
    const before = await whole('corrow-417');
    const gone = await change(removal('stage', '417-pinch'));
    expect((await whole('corrow-417')).operations.length).toBeLessThan(before.operations.length);
    await f.call('POST', `/api/change/${gone.body.batch}/undo`);
    expect((await whole('corrow-417')).operations).toEqual(before.operations);
    expect((await whole('corrow-417')).forecasts[0]!.outcomeId).toBe('417-pinch');
  });
  it('name the first specimen, and never each other in a ring', async () => {
    const first = (await f.call('GET', '/api/head/corrow-417')).body;
    const ring = await change(replacement('head', { ...first, specimenOf: 'corrow-417-b' }));
    expect(ring.body.detail).toContain('name the first of them');
    const self = await change(replacement('head', { ...first, specimenOf: 'corrow-417' }));
    expect(self.body.detail).toBe('A head is no other specimen of itself.');
    for (const id of ['corrow-417', 'corrow-417-b']) {
      const { body } = await f.call('GET', `/api/head/${id}/specimens`);
      expect(body.map((w: WholeHead) => w.head.id)).toEqual(['corrow-417', 'corrow-417-b']);
    }
    expect((await f.call('GET', '/api/head/nobody/specimens')).status).toBe(404);
  });
});

describe('forecasts', () => {
  const forecast = (fields: object = {}) => ({
    headId: 'pellam-p6',
    stageId: 'p6-pinch',
    operation: 'polish',
    side: 'intake',
    made: '2026-05-01',
    content: { program: '1', method: 'own word', gain: 0.002, u: 0.001, window: '', inputs: [], records: [] },
    ...fields,
  });
  it('stay as they were said; only what answers them is added', async () => {
    const { body } = await change(addition('forecast', forecast()));
    const [made] = body.records;
    const turned = await change(replacement('forecast', { ...made, content: { ...made.content, gain: 0.01 } }));
    expect(turned.status).toBe(409);
    expect(turned.body.detail).toContain('stays as it was made');
    const noted = await change(replacement('forecast', { ...made, note: 'a note may come later' }));
    expect(noted.status).toBe(200);
  });
  it('are answered by a stage flowed after they were made', async () => {
    const early = await change(addition('forecast', forecast({ stageId: 'p6-bowl', outcomeId: 'p6-pinch' })));
    expect(early.body.detail).toBe('That stage was flowed on 2026-04-03, before the forecast was made.');
    const self = await change(addition('forecast', forecast({ outcomeId: 'p6-pinch' })));
    expect(self.body.detail).toContain('a later stage');
    const stray = await change(addition('forecast', forecast({ stageId: '417-pinch' })));
    expect(stray.body.detail).toBe('This head has no such stage.');
    const open = { stageId: 'p6-pinch', name: 'polished', headId: 'pellam-p6', position: 5, parentId: 'p6-pinch' };
    const added = await change(addition('stage', { ...open, id: 'p6-polish' }));
    expect(added.status).toBe(200);
    const unflowed = await change(addition('forecast', forecast({ outcomeId: 'p6-polish' })));
    expect(unflowed.body.detail).toBe('That stage was not flowed yet.');
  });
});

describe('the shop’s cuts', () => {
  it('are gathered over all heads, weighed with the cam of a build, and follow what changes', async () => {
    const ask = async (query = '') => (await f.call('GET', `/api/cuts${query}`)).body as SingleCut[];
    const cuts = await ask('?build=slate-six');
    expect(new Set(cuts.map((c) => c.headId))).toEqual(new Set(['corrow-417', 'pellam-p6', 'longreach-212']));
    expect(cuts.every((c) => Math.abs(c.gain) < 0.1)).toBe(true);
    expect((await ask()).length).toBe(cuts.length);
    expect((await ask('?build=nobody')).length).toBe(cuts.length);
    await change(addition('operation', { stageId: '417-pinch', kind: 'polish', side: 'intake' }));
    // Two cuts in one stage: neither stands by itself any longer.
    expect((await ask('?build=slate-six')).length).toBe(cuts.length - 1);
  });
});

describe('ways and decisions', () => {
  it('come with the heads they stand on, in order', async () => {
    const { status, body } = await f.call('GET', '/api/build/slate-six/ways');
    expect(status).toBe(200);
    expect(body.ways.map((w: { id: string }) => w.id)).toEqual([
      'slate-keep',
      'slate-rework',
      'slate-p6',
      'slate-longreach',
    ]);
    expect(new Set(body.wholes.map((w: WholeHead) => w.head.id))).toEqual(
      new Set(['corrow-417', 'pellam-p6', 'longreach-212']),
    );
    expect((await f.call('GET', '/api/build/nobody/ways')).status).toBe(404);
    expect((await f.call('GET', '/api/build/tarrow-three/ways')).body).toMatchObject({ ways: [], wholes: [] });
  });
  it('a decision stays as it was said; words about it may follow', async () => {
    const { body } = await f.call('GET', '/api/decision/slate-decision');
    const turned = { ...body, content: { ...body.content, chosen: 'Longreach 212' } };
    expect((await change(replacement('decision', turned))).body.detail).toContain('stays as it was made');
    expect((await change(replacement('decision', { ...body, risks: 'none left' }))).status).toBe(200);
  });
  it('refuses what no price can be', async () => {
    const way = { buildId: 'slate-six', name: 'odd' };
    const bad = await change(addition('way', { ...way, lines: [{ price: '99999999' }] }));
    expect(bad.body.fields[0]).toEqual({ field: 'lines.0.price', message: 'A price must lie within ten million.' });
    expect((await change(addition('way', { ...way, stageId: 'nowhere' }))).status).toBe(409);
  });
});

describe('what is said before a pull or a test', () => {
  const told = {
    buildId: 'slate-six',
    stageId: '417-pinch',
    made: '2026-06-02',
    content: { program: 'x', method: 'own word', power: 2e5, u: 5e3, use: 'marine', fuel: 'petrol' },
  };
  it('a forecast of power is refused once that engine was pulled, answered by no older pull, and stays as it was said', async () => {
    const late = await change(addition('powerforecast', { ...told, stageId: '417-received' }));
    expect(late.body.detail).toBe('A forecast is made before the pull; this engine was pulled on 2026-05-20.');
    const early = await change(addition('powerforecast', { ...told, id: 'told-now' }));
    expect(early.status).toBe(200);
    const { body } = await f.call('GET', '/api/powerforecast/told-now');
    const wrong = await change(replacement('powerforecast', { ...body, pullId: 'slate-swap-1' }));
    expect(wrong.body.fields[0]).toEqual({
      field: 'pullId',
      message: 'That pull is of 2026-05-20, before the forecast was made.',
    });
    const turned = await change(replacement('powerforecast', { ...body, content: { ...body.content, power: 1e5 } }));
    expect(turned.body.detail).toContain('stays as it was made');
  });
  it('a call is refused once that side of that stage was flowed, and stays as it was called', async () => {
    const call = { stageId: '417-bowl', side: 'intake', lift: '.400 in', flow: '180 cfm', date: '2026-06-01' };
    expect((await change(addition('call', call))).body.detail).toContain('this side of this stage was flowed already');
    await change(
      addition('stage', { id: 'not-yet', headId: 'corrow-417', parentId: '417-pinch', name: 'epoxy floor' }),
    );
    expect((await change(addition('call', { ...call, id: 'call-new', stageId: 'not-yet' }))).status).toBe(200);
    const { body } = await f.call('GET', '/api/call/call-new');
    expect((await change(replacement('call', { ...body, flow: '200 cfm' }))).body.detail).toContain(
      'stays as it was made',
    );
    expect((await change(addition('call', { ...call, lift: null }))).body.fields[0].message).toBe('This is needed.');
    const scored = (await f.call('GET', '/api/calls/scored')).body as { call: { id: string }; sheets: object[] }[];
    expect(scored.find((s) => s.call.id === 'call-new')!.sheets).toEqual([]);
    expect(scored.find((s) => s.call.id === 'call-417-vj')!.sheets).toHaveLength(1);
  });
  it('pulls come with their heads; what they teach follows what changes', async () => {
    const { body } = await f.call('GET', '/api/build/slate-six/pulled');
    expect(body.pulls).toHaveLength(8);
    expect(new Set(body.wholes.map((w: WholeHead) => w.head.id))).toEqual(
      new Set(['corrow-417', 'corrow-522', 'longreach-212']),
    );
    expect((await f.call('GET', '/api/build/nobody/pulled')).status).toBe(404);
    const factors = async () => (await f.call('GET', '/api/pulls/factors')).body as { pullId: string; use: string }[];
    expect(await factors()).toHaveLength(8);
    const wheels = body.pulls.find((p: { id: string }) => p.id === 'slate-swap-1');
    await change(replacement('pull', { ...wheels, dyno: 'chassis dyno' }));
    expect((await factors()).map((x) => x.pullId)).not.toContain('slate-swap-1');
  });
  it('what was found of a pull comes with its head and who had claimed something of it', async () => {
    expect((await f.call('GET', '/api/pulls/outcomes')).body).toEqual([]);
    const { body } = await f.call('GET', '/api/build/slate-six/pulled');
    const pull = body.pulls.find((p: { id: string }) => p.id === 'slate-longreach-1');
    await change(replacement('pull', { ...pull, cause: 'leaking seat', causeNote: 'cylinder 4' }));
    const [found, ...more] = (await f.call('GET', '/api/pulls/outcomes')).body as Outcome[];
    expect(more).toEqual([]);
    expect(found).toMatchObject({ pull: { id: pull.id, causeNote: 'cylinder 4' }, head: { id: 'longreach-212' } });
    const whole = body.wholes.find((w: WholeHead) => w.head.id === 'longreach-212') as WholeHead;
    expect([...found!.sourceIds].sort()).toEqual(claimantsOf(whole).sort());
    expect(found!.sourceIds.length).toBeGreaterThan(0);
  });
  it('practice brings heads that were flowed, and those of rounds that were missed', async () => {
    const heads = async () => (await f.call('GET', '/api/practice/heads')).body as WholeHead[];
    const first = await heads();
    expect(first.length).toBeGreaterThan(4);
    for (const w of first) expect(w.sheets.some((s) => s.kind === 'measured')).toBe(true);
    const round = { id: 'missed', who: '', kind: 'what it flows', answer: '1', right: false, date: '2099-01-01' };
    const stage = first[0]!.stages.find((s) => first[0]!.sheets.some((x) => x.stageId === s.id))!;
    await change(addition('round', { ...round, question: `what it flows ${stage.id}` }));
    for (let k = 0; k < 3; k++) expect((await heads())[0]!.head.id).toBe(first[0]!.head.id);
  });
});

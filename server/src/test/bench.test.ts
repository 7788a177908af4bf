import { cfm, inches } from '@alluvium/core';
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { fixture, type Fixture } from './fixture.js';

let f: Fixture;
let headId: string;
let stageId: string;
let sourceId: string;
beforeAll(async () => {
  f = await fixture();
  headId = (await f.call('POST', '/api/head', { name: 'Mill 7' })).body.record.id;
  stageId = (await f.call('POST', '/api/stage', { headId, name: 'as received' })).body.record.id;
  sourceId = (await f.call('POST', '/api/source', { name: 'Our bench' })).body.record.id;
  for (const side of ['intake', 'exhaust'])
    await f.call('POST', '/api/port', { id: `mill-${side}3`, headId, side, number: 3 });
});
afterAll(() => f.close());

export const answered = {
  depression: '28 inH2O',
  bore: 'unknown',
  entry: 'radius',
  exhaustPipe: 'bare',
  holesClosed: 'yes',
  springs: 'light',
  valve: 'own',
  portKind: 'long runner',
  gasket: 'on',
  leakTest: 'unknown',
  calibration: 'none',
};
const plan = { ports: [{ number: 3 }], step: '.100 in', to: '.300 in' };
let serial = 0;
const reading = (more: object = {}) => ({
  id: `r-${++serial}`,
  number: 3,
  side: 'intake',
  lift: '.100 in',
  flow: '60 cfm',
  ...more,
});
let session: string;
beforeEach(async () => {
  const made = await f.call('POST', '/api/session', {
    headId,
    stageId,
    sourceId,
    title: 'Friday',
    date: '2026-05-08',
    plan,
    setups: [answered],
  });
  expect(made.status).toBe(201);
  session = made.body.record.id;
});
const record = (more: object = {}) => f.call('POST', `/api/session/${session}/reading`, reading(more));
const whole = async () => (await f.call('GET', `/api/session/${session}/whole`)).body;

describe('recording', () => {
  it('writes the reading and its sheet together', async () => {
    const { status, body } = await record({
      samples: [
        [-1, 0.028, 6970],
        [0, 0.0283, 6974],
      ],
      spread: 0.002,
      seconds: 2,
    });
    expect(status).toBe(201);
    expect(body.reading).toMatchObject({
      sessionId: session,
      setup: 0,
      state: 'kept',
      samples: [
        [-1, 0.028, 6970],
        [0, 0.0283, 6974],
      ],
    });
    expect(body.sheet).toMatchObject({
      title: 'Friday, port 3',
      kind: 'measured',
      intakePortId: 'mill-intake3',
      exhaustPortId: 'mill-exhaust3',
      setup: {
        entry: 'radius',
        exhaustPipe: 'bare',
        bore: null,
        springs: 'light',
        gasket: 'on',
        portKind: 'long runner',
      },
    });
    expect(body.sheet.rows).toHaveLength(1);
    expect(body.sheet.rows[0].intake.pulls[0].typed).toBe('60 cfm');
    await record({ side: 'exhaust', flow: '48 cfm' });
    await record({ lift: '.200 in', flow: '115 cfm', swirl: '-120 rpm' });
    const { sheets, readings } = await whole();
    expect(readings).toHaveLength(3);
    expect(sheets).toHaveLength(1);
    expect(sheets[0].rows.map((r: any) => [r.lift.typed, r.intake?.pulls[0].typed, r.exhaust?.pulls[0].typed])).toEqual(
      [
        ['.100 in', '60 cfm', '48 cfm'],
        ['.200 in', '115 cfm', undefined],
      ],
    );
    expect(sheets[0].swirl).toMatchObject([{ lift: { typed: '.200 in' }, speed: [{ typed: '-120 rpm' }] }]);
  });

  it('nothing is recorded while a question of the set-up is open', async () => {
    for (const field of Object.keys(answered)) {
      const { body } = await f.call('POST', '/api/session', {
        headId,
        stageId,
        title: field,
        plan,
        setups: [{ ...answered, [field]: field === 'portKind' ? '' : null }],
      });
      const refused = await f.call('POST', `/api/session/${body.record.id}/reading`, reading());
      expect(refused.status, field).toBe(409);
      expect(refused.body.detail).toContain('The set-up is not complete');
    }
  });

  it('the pipe cannot be forgotten: piped asks for its size, and a percent bench for its ranges', async () => {
    const { body } = await f.call('POST', '/api/session', {
      headId,
      stageId,
      title: 'Piped',
      plan,
      setups: [{ ...answered, exhaustPipe: 'piped', pipeDiameter: '1.75 in' }],
    });
    const refused = await f.call('POST', `/api/session/${body.record.id}/reading`, reading());
    expect(refused.body.detail).toContain('Pipe length');
    const put = (setup: object) => f.call('PUT', `/api/session/${body.record.id}/setup`, { setup });
    await put({ ...answered, exhaustPipe: 'piped', pipeDiameter: '1.75 in', pipeLength: 'unknown', reads: 'percent' });
    expect((await f.call('POST', `/api/session/${body.record.id}/reading`, reading())).body.detail).toContain(
      'full scale',
    );
  });

  it('the same request twice is one reading', async () => {
    const sent = reading();
    const first = await f.call('POST', `/api/session/${session}/reading`, sent);
    const again = await f.call('POST', `/api/session/${session}/reading`, sent);
    expect([first.status, again.status]).toEqual([201, 201]);
    expect(again.body.reading).toEqual(first.body.reading);
    expect((await whole()).readings).toHaveLength(1);
  });

  it('a point recorded is taken again only when asked, and the earlier reading stays', async () => {
    await record();
    expect((await record({ flow: '61 cfm' })).body.detail).toContain('recorded already');
    await record({ flow: '61 cfm', again: true });
    const { readings, sheets } = await whole();
    expect(readings.map((r: any) => [r.flow.typed, r.state])).toEqual([
      ['60 cfm', 'retaken'],
      ['61 cfm', 'kept'],
    ]);
    expect(sheets[0].rows[0].intake.pulls.map((p: any) => p.typed)).toEqual(['61 cfm']);
  });

  it('pulls stand side by side; take back puts the last one aside; noise is marked', async () => {
    await record();
    const second = await record({ pull: 1, flow: '62 cfm' });
    expect(second.body.sheet.rows[0].intake.pulls.map((p: any) => p.typed)).toEqual(['60 cfm', '62 cfm']);
    await f.call('POST', `/api/session/${session}/reading/${second.body.reading.id}/noise`, { noisy: true });
    expect((await whole()).sheets[0].rows[0].intake.noisy).toBe(true);
    const back = await f.call('POST', `/api/session/${session}/takeback`, {});
    expect(back.body.reading).toMatchObject({ state: 'taken back', pull: 1 });
    expect(back.body.sheet.rows[0].intake).toMatchObject({ noisy: false, pulls: [{ typed: '60 cfm' }] });
    await f.call('POST', `/api/session/${session}/takeback`, {});
    expect((await whole()).sheets[0].rows).toEqual([]);
    expect((await f.call('POST', `/api/session/${session}/takeback`, {})).status).toBe(409);
    expect((await whole()).readings).toHaveLength(2);
  });

  it('a skipped point says why on the sheet', async () => {
    const { body } = await record({ flow: null, skipped: 'guide hits the seal', lift: '.300 in' });
    expect(body.sheet.rows).toMatchObject([{ missing: 'intake: guide hits the seal', intake: null }]);
    expect((await record({ flow: null, lift: '.200 in' })).body.detail).toContain('or a reason to skip it');
  });

  it('a depression not held is corrected and marked, too far off it is refused', async () => {
    const { body } = await record({ depression: '26.5 inH2O' });
    expect(body.sheet.rows[0].intake.depression.typed).toBe('26.5 inH2O');
    const refused = await record({ lift: '.200 in', depression: '18 inH2O' });
    expect(refused.status).toBe(400);
    expect(refused.body.detail).toContain('too far off');
  });

  it.each([
    [{ lift: '9 in' }, /between 0 and 3/],
    [{ flow: 'lots' }, /not a flow/],
    [{ percent: '64 %', flow: null }, /reads flow/],
    [{ number: 0 }, /./],
    [{ samples: Array.from({ length: 500 }, () => [0, 0, null]) }, /./],
  ])('refuses %j', async (more, message) => {
    const { status, body } = await record(more);
    expect(status).toBe(400);
    expect(body.detail).toMatch(message);
    expect((await whole()).readings).toEqual([]);
  });

  it('a side that is not planned is refused', async () => {
    const { body } = await f.call('POST', '/api/session', {
      headId,
      stageId,
      title: 'In',
      plan: { ...plan, sides: ['intake'] },
      setups: [answered],
    });
    const refused = await f.call('POST', `/api/session/${body.record.id}/reading`, reading({ side: 'exhaust' }));
    expect(refused.body.detail).toContain('not in this session');
  });

  it('a percent bench: pulls read on two ranges make one row that means the same flow', async () => {
    const ranges = [
      { name: '3', intake: '150 cfm', exhaust: '160 cfm' },
      { name: '4', intake: '300 cfm', exhaust: '320 cfm' },
    ];
    const { body } = await f.call('POST', '/api/session', {
      headId,
      stageId,
      title: 'Percent',
      plan,
      setups: [{ ...answered, reads: 'percent', ranges }],
    });
    const send = (more: object) =>
      f.call('POST', `/api/session/${body.record.id}/reading`, reading({ flow: null, ...more }));
    await send({ percent: '80 %', range: '3' });
    const { sheet } = (await send({ percent: '40 %', range: '4', pull: 1 })).body;
    expect(sheet.rows[0].intake).toMatchObject({ range: '4' });
    expect(sheet.rows[0].intake.pulls.map((p: any) => p.si)).toEqual([expect.closeTo(0.4, 9), expect.closeTo(0.4, 9)]);
    expect((await send({ percent: '103 %', range: '4', lift: '.200 in' })).body.detail).toContain('past the end');
    expect((await send({ percent: '50 %', range: '9', lift: '.200 in' })).body.detail).toContain('no full scale');
    expect((await send({ percent: null, flow: '50 cfm', lift: '.200 in' })).body.detail).toContain('reads percent');
  });
});

describe('set-ups', () => {
  it('a change after the first reading begins a new sheet; before it, none', async () => {
    const put = (setup: object) => f.call('PUT', `/api/session/${session}/setup`, { setup });
    expect((await put({ ...answered, gasket: 'off' })).body).toMatchObject({ split: false });
    await record();
    expect((await put({ ...answered, gasket: 'off' })).body).toMatchObject({ split: false });
    expect(
      (await put({ ...answered, exhaustPipe: 'piped', pipeDiameter: '45 mm', pipeLength: '300 mm' })).body,
    ).toMatchObject({ split: true });
    await record({ side: 'exhaust', flow: '50 cfm' });
    const { sheets, session: now } = await whole();
    expect(now.setups).toHaveLength(2);
    expect(sheets.map((s: any) => [s.title, s.setup.exhaustPipe])).toEqual([
      ['Friday, port 3', 'bare'],
      ['Friday, port 3, set-up 2', 'piped'],
    ]);
  });
  it('one in use cannot be rewritten by any door', async () => {
    await record();
    const { session: now } = await whole();
    const rewritten = await f.call('PUT', `/api/session/${session}`, {
      ...now,
      setups: [{ ...answered, gasket: 'off' }],
    });
    expect(rewritten.status).toBe(400);
    expect(rewritten.body.detail).toContain('it stays as it is');
    expect((await f.call('PUT', `/api/session/${session}`, { ...now, finished: true, stopped: 'rain' })).status).toBe(
      200,
    );
  });
  it('a retake under another set-up leaves the earlier sheet', async () => {
    await record();
    await f.call('PUT', `/api/session/${session}/setup`, { setup: { ...answered, entry: 'clay' } });
    await record({ flow: '63 cfm', again: true });
    const { sheets } = await whole();
    expect(sheets.map((s: any) => s.rows.length)).toEqual([0, 1]);
  });
  it('the leak and the factor of the check go onto the sheet', async () => {
    const check = await f.call('POST', '/api/calibration', {
      sourceId,
      date: '2026-05-01',
      against: 'control head',
      expected: '200 cfm',
      measured: '204 cfm',
    });
    await f.call('PUT', `/api/session/${session}/setup`, {
      setup: {
        ...answered,
        leakTest: 'done',
        leaks: [
          { side: 'intake', depression: '28 inH2O', flow: '1.2 cfm' },
          { side: 'exhaust', depression: '7 inH2O', flow: '1 cfm' },
        ],
        calibration: check.body.record.id,
      },
    });
    const { body } = await record();
    expect(body.sheet.setup.factor.si).toBeCloseTo(200 / 204, 4);
    expect(body.sheet.setup.intakeLeak.typed).toBe('1.2 cfm');
    expect(body.sheet.setup.exhaustLeak.si).toBeCloseTo(cfm(2), 6);
  });
});

describe('what was read stays', () => {
  it('no door changes a raw reading', async () => {
    const { body } = await record();
    const { id } = body.reading;
    expect((await f.call('PUT', `/api/reading/${id}`, { ...body.reading, flow: '99 cfm' })).status).toBe(405);
    expect((await f.call('DELETE', `/api/reading/${id}`)).status).toBe(405);
    expect((await f.call('POST', '/api/reading', body.reading)).status).toBe(405);
    await expect(
      f.db.query('update reading set flow = \'{"si": 1, "typed": "x"}\' where id = $1', [id]),
    ).rejects.toThrow(/does not change/);
  });
  it('a call is made before the first reading', async () => {
    const call = { sessionId: session, who: 'me', intakePeak: '200 cfm', worst: 'short turn' };
    expect((await f.call('POST', '/api/call', call)).status).toBe(201);
    await record();
    expect((await f.call('POST', '/api/call', call)).body.detail).toContain('before the first reading');
  });
  it('a row corrected by hand elsewhere is not undone by the next reading', async () => {
    const { sheet } = (await record()).body;
    await f.call('PUT', `/api/sheet/${sheet.id}`, {
      ...sheet,
      rows: [{ ...sheet.rows[0], intake: { pulls: ['59 cfm'] } }],
    });
    const next = await record({ lift: '.200 in', flow: '114 cfm' });
    expect(next.body.sheet.rows.map((r: any) => r.intake.pulls[0].typed)).toEqual(['59 cfm', '114 cfm']);
  });
  it('goes out and comes in with the bundle', async () => {
    await record({ swirl: '90 rpm' });
    const bundle = (await f.call('GET', '/api/bundle')).body;
    const other = await fixture();
    expect((await other.call('POST', '/api/bundle', bundle)).body).toContain('"finished":true');
    expect((await other.call('GET', '/api/bundle')).body).toEqual(bundle);
    await other.close();
  });
});

describe('maps, checks and plans', () => {
  it('a velocity map is kept as read, and refuses what cannot be', async () => {
    const map = {
      stageId,
      sessionId: session,
      place: 'short turn',
      lift: '.400 in',
      rows: 2,
      columns: 2,
      depression: '28 inH2O',
      wall: 'left',
      cells: [
        { row: 0, column: 0, low: '20 inH2O' },
        { row: 1, column: 0, low: '2 inH2O', high: '6 inH2O' },
      ],
    };
    const made = await f.call('POST', '/api/velocitymap', map);
    expect(made.body.record.cells[1]).toMatchObject({ low: { typed: '2 inH2O' }, high: { typed: '6 inH2O' } });
    expect((await f.call('GET', `/api/head/${headId}/whole`)).body.velocityMaps).toHaveLength(1);
    const refuse = async (cells: object[], message: RegExp) =>
      expect((await f.call('POST', '/api/velocitymap', { ...map, cells })).body.detail).toMatch(message);
    await refuse([{ row: 5, column: 0, low: '2 inH2O' }], /outside the grid/);
    await refuse([map.cells[0]!, map.cells[0]!], /stands twice/);
    await refuse([{ row: 0, column: 0, low: '6 inH2O', high: '2 inH2O' }], /lower figure first/);
  });
  it('a check against a plate needs what the standard needs', async () => {
    const check = { sourceId, date: '2026-05-01', measured: '100 cfm' };
    expect((await f.call('POST', '/api/calibration', check)).body.detail).toContain('hole of the plate');
    expect((await f.call('POST', '/api/calibration', { ...check, against: 'control head' })).body.detail).toContain(
      'agreed',
    );
    expect(
      (
        await f.call('POST', '/api/calibration', {
          ...check,
          diameter: '45 mm',
          bore: '100 mm',
          depression: '28 inH2O',
        })
      ).status,
    ).toBe(201);
  });
  it.each([
    [{ ports: [{ number: 1 }, { number: 1 }], step: '.1 in', to: '.5 in' }, /chosen twice/],
    [{ ports: [{ number: 1 }] }, /to which lift/],
    [{ step: '.2 in', to: '.1 in' }, /at least one step/],
    [{ sides: [], step: '.1 in', to: '.5 in' }, /at least one side/],
  ])('a plan %j is refused', async (bad, message) => {
    const { status, body } = await f.call('POST', '/api/plan', { name: 'p', plan: bad });
    expect(status).toBe(400);
    expect(body.detail).toMatch(message);
  });
  it('lifts in millimetres are kept so', async () => {
    const { body } = await f.call('POST', '/api/plan', {
      name: 'mm',
      plan: { step: '1 mm', to: '9 mm', halfBelow: '3 mm' },
    });
    expect(body.record.plan).toMatchObject({
      step: { typed: '1 mm', si: expect.closeTo(0.001, 12) },
      beyond: 0,
      pulls: 1,
    });
    expect(inches(0.1)).toBeCloseTo(0.00254, 12);
  });
});

describe('answers of the gate', () => {
  it('are refused in their own words', async () => {
    const put = (setup: object) => f.call('PUT', `/api/session/${session}/setup`, { setup: { ...answered, ...setup } });
    expect((await put({ bore: '4 m' })).body.fields).toEqual([
      { field: 'setup.bore', message: 'The bore fixture must lie between 20 and 600 mm.' },
    ]);
    expect((await put({ depression: 'strong' })).body.detail).toContain('is not a depression');
    expect((await put({ entry: 'trumpet' })).status).toBe(400);
  });
});

describe('a correction of the whole bench', () => {
  const percent = {
    ...answered,
    reads: 'percent',
    ranges: [
      { name: '4', intake: '259.6 cfm', exhaust: '317.5 cfm' },
      { name: '5', intake: '480 cfm', exhaust: null },
    ],
  };
  const begin = async (setup: object) => {
    await f.call('PUT', `/api/session/${session}/setup`, { setup });
    await record({ flow: undefined, percent: '42.5 %', range: '4' });
    await record({ flow: undefined, percent: '65.9 %', range: '4', lift: '.200 in' });
    return whole();
  };
  const correct = (correction: object, what = 'correction') =>
    f.call('POST', `/api/source/${sourceId}/${what}`, correction);

  it('of a wrong full scale lists what it changes, changes sheet and used set-up together, and is undone as one', async () => {
    const before = await begin(percent);
    const sheet = before.sheets[0];
    const wrong = { what: 'full scale', range: '4', side: 'intake', from: '259.6 cfm', to: '295.6 cfm' };
    const listed = await correct(wrong, 'correction/preview');
    expect(listed.body).toEqual(
      expect.arrayContaining([
        { noun: 'sheet', id: sheet.id, head: 'Mill 7', title: sheet.title, date: '2026-05-08', rows: 2 },
        expect.objectContaining({ noun: 'session', id: session }),
      ]),
    );
    expect((await whole()).sheets[0].version).toBe(sheet.version);
    const made = await correct(wrong);
    expect(made.status).toBe(200);
    const after = await whole();
    expect(after.sheets[0].setup.ranges[0].intake.typed).toBe('295.6 cfm');
    // 42.5 % of 295.6 is 125.6 cfm: common practice, no source.
    expect((0.425 * after.sheets[0].setup.ranges[0].intake.si) / cfm(1)).toBeCloseTo(125.6, 1);
    expect(after.session.setups[0].ranges[0]).toMatchObject({
      intake: { typed: '295.6 cfm' },
      exhaust: { typed: '317.5 cfm' },
    });
    // A reading taken after it goes into the same sheet, on the right scale.
    await record({ flow: undefined, percent: '76 %', range: '4', lift: '.300 in' });
    expect((await whole()).sheets).toHaveLength(1);
    const ranges = await f.call('GET', `/api/source/${sourceId}/ranges`);
    expect(ranges.body.filter((r: { range: string }) => r.range === '4').map((r: any) => r.fullScale.typed)).toEqual([
      '295.6 cfm',
      '317.5 cfm',
    ]);
  });

  it('undone puts all of it back', async () => {
    await begin(percent);
    const wrong = {
      what: 'full scale',
      range: '4',
      side: 'intake',
      from: '259.6 cfm',
      to: '290 cfm',
      sessionId: session,
    };
    const { body } = await correct(wrong);
    const undone = await f.call('POST', `/api/change/${body.batch}/undo`);
    expect(undone.status).toBe(200);
    const after = await whole();
    expect(after.sheets[0].setup.ranges[0].intake.typed).toBe('259.6 cfm');
    expect(after.session.setups[0].ranges[0].intake.typed).toBe('259.6 cfm');
  });

  it('of a range noted wrong corrects the raw readings with the sheet, so that none of them turns it back', async () => {
    await begin(percent);
    const wrong = { what: 'range', from: '4', to: '5', side: 'intake', sessionId: session };
    expect((await correct(wrong)).status).toBe(200);
    await record({ flow: undefined, percent: '30 %', range: '5', lift: '.300 in' });
    const after = await whole();
    expect(after.readings.map((r: { range: string }) => r.range)).toEqual(['5', '5', '5']);
    expect(after.sheets[0].rows.map((r: any) => r.intake.range)).toEqual(['5', '5', '5']);
  });

  it('of what nobody wrote is refused, and so is nonsense; readings stay fixed for everyone else', async () => {
    const { readings } = await begin(percent);
    const none = await correct({ what: 'full scale', range: '9', side: 'intake', from: '1 cfm', to: '2 cfm' });
    expect(none.body.detail).toBe('No sheet and no session of this bench has that.');
    expect((await correct({ what: 'full scale', range: '4', side: 'intake', from: '0', to: '2 cfm' })).status).toBe(
      400,
    );
    expect(
      (await f.call('POST', '/api/source/nobody/correction', { what: 'range', from: '4', to: '5', side: 'intake' }))
        .status,
    ).toBe(404);
    await expect(
      f.db.query(`update reading set percent = '{"si": 0.5, "typed": "50 %"}' where id = $1`, [readings[0].id]),
    ).rejects.toThrow('does not change');
    await expect(f.db.query(`update reading set range = '9' where id = $1`, [readings[0].id])).rejects.toThrow(
      'does not change',
    );
  });
});

describe('a clock that went backwards', () => {
  it('leaves the last reading the last: it is the one that is taken back', async () => {
    await record();
    vi.useFakeTimers({ now: new Date('2020-01-01T10:00:00Z'), toFake: ['Date'] });
    try {
      await record({ lift: '.200 in' });
    } finally {
      vi.useRealTimers();
    }
    const { body } = await f.call('POST', `/api/session/${session}/takeback`, {});
    expect(body.reading.lift.typed).toBe('.200 in');
  });
});

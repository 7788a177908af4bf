import { readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { PICTURE_LIMIT, checklistFor } from '@alluvium/records';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { migrate, readMigrations } from '../db/migrate.js';
import { openPglite } from '../db/pglite.js';
import { openPictures } from '../pictures.js';
import { MIGRATIONS, fixture, type Fixture } from './fixture.js';

let f: Fixture;
let headId: string;
let stageId: string;
beforeAll(async () => {
  f = await fixture();
  headId = (await f.call('POST', '/api/head', { name: 'Mill 7', kind: 'aftermarket' })).body.record.id;
  stageId = (await f.call('POST', '/api/stage', { headId, name: 'as received' })).body.record.id;
});
afterAll(() => f.close());

const upload = async (content: Buffer, query = `head=${headId}`, type = 'image/jpeg') => {
  const answer = await f.app.inject({
    method: 'POST',
    url: `/api/attachment?${query}`,
    payload: content,
    headers: { 'content-type': type },
  });
  return { status: answer.statusCode, body: JSON.parse(answer.body) };
};
/** A picture 60 wide and 40 high, its left half dark, stored turned as a phone held upright stores it. */
const turned = () =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: '#fff' } })
    .composite([{ input: { create: { width: 30, height: 40, channels: 3, background: '#000' } }, left: 0, top: 0 }])
    .withExif({
      IFD0: { Copyright: 'somebody' },
      IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1', GPSLongitudeRef: 'E', GPSLongitude: '0/1 7/1 0/1' },
    })
    .withMetadata({ orientation: 6 })
    .jpeg()
    .toBuffer();

describe('the checklist of a head', () => {
  it('is made for its kind, with its ports, and taken back as one', async () => {
    const { status, body } = await f.call('POST', `/api/head/${headId}/checklist`, {
      kind: 'aftermarket new',
      cylinders: 4,
    });
    expect(status).toBe(201);
    expect(body.record.inspections.map((i: any) => i.title)).toEqual(
      checklistFor('aftermarket new', { intakeValves: 1, exhaustValves: 1 }).map((l) => l.title),
    );
    expect(body.record.ports).toHaveLength(8);
    expect(body.record.head.cylinders).toBe(4);
    const again = await f.call('POST', `/api/head/${headId}/checklist`, { cylinders: 4 });
    expect(again.body.detail).toBe('This head has its checklist already; add lines to it.');
    await f.call('POST', `/api/change/${body.batch}/undo`);
    const whole = (await f.call('GET', `/api/head/${headId}/whole`)).body;
    expect([whole.inspections, whole.ports, whole.head.cylinders]).toEqual([[], [], null]);
    await f.call('POST', `/api/head/${headId}/checklist`, { cylinders: 4 });
  });

  it('refuses a number of cylinders no head has, and a template that is not there', async () => {
    const bad = await f.call('POST', `/api/head/${headId}/checklist`, { cylinders: 40 });
    expect([bad.status, bad.body.fields[0]]).toEqual([
      400,
      { field: 'cylinders', message: 'A head covers 1 to 24 cylinders.' },
    ]);
    const { record: other } = (await f.call('POST', '/api/head', { name: 'Other' })).body;
    const none = await f.call('POST', `/api/head/${other.id}/checklist`, { cylinders: 4, checklistId: 'nowhere' });
    expect(none.body.detail).toBe('There is no such checklist.');
  });

  it('is made from a template of the shop', async () => {
    const { record: template } = (
      await f.call('POST', '/api/checklist', { name: 'Quick look', lines: [{ title: 'Smell it', group: 'look' }] })
    ).body;
    const { record: other } = (await f.call('POST', '/api/head', { name: 'Third' })).body;
    const { body } = await f.call('POST', `/api/head/${other.id}/checklist`, {
      cylinders: 2,
      checklistId: template.id,
    });
    expect(body.record.inspections).toMatchObject([{ title: 'Smell it', group: 'look', state: 'open', sizes: [] }]);
  });

  it('lets nothing be skipped without a reason', async () => {
    const [line] = (await f.call('GET', `/api/head/${headId}/whole`)).body.inspections;
    const bare = await f.call('PUT', `/api/inspection/${line.id}`, { ...line, state: 'skipped', note: ' ' });
    expect(bare.body.fields).toEqual([{ field: 'note', message: 'Say why this is skipped.' }]);
    await expect(f.db.query(`update inspection set state = 'skipped' where id = $1`, [line.id])).rejects.toThrow(
      /inspection_skipped_with_reason/,
    );
    const said = await f.call('PUT', `/api/inspection/${line.id}`, { ...line, state: 'skipped', note: 'No gauge.' });
    expect(said.body.record).toMatchObject({ state: 'skipped', version: 2 });
  });
});

describe('a look at a seat', () => {
  it.each([
    [{ drawn: '15 inHg', held: '18 inHg' }, 'held', 'What was held cannot exceed what was drawn.'],
    [{ ringOutside: '40 mm', ringInside: '41 mm' }, 'ringInside', 'The inside of a ring is smaller than its outside.'],
    [{ drawn: '40 inHg' }, 'drawn', 'A vacuum must lie between 0 and one atmosphere, about 29.9 inHg.'],
    [{ seconds: 5000 }, 'seconds', 'Say how long it was held, up to 600 seconds.'],
  ])('refuses %j', async (more, field, message) => {
    const { body } = await f.call('POST', '/api/seat', { stageId, side: 'intake', cylinder: 1, ...more });
    expect(body.fields).toContainEqual({ field, message });
  });
});

describe('a tolerance', () => {
  it('is one an item', async () => {
    expect((await f.call('POST', '/api/tolerance', { item: 'chamber volume', value: '0.5 cc' })).status).toBe(201);
    const twice = await f.call('POST', '/api/tolerance', { item: 'chamber volume', value: '2 cc' });
    expect(twice.body.detail).toBe('This item has its tolerance already.');
    const wrong = await f.call('POST', '/api/tolerance', { item: 'bowl', value: '-1 mm' });
    expect(wrong.body.fields[0].message).toBe('A difference that matters cannot be negative.');
  });
});

describe('an assumption of the shop', () => {
  it('is one a name, and believable for what it is', async () => {
    const own = await f.call('POST', '/api/assumption', { name: 'setup', value: '0.6 %' });
    expect(own.status).toBe(201);
    const twice = await f.call('POST', '/api/assumption', { name: 'setup', value: '2 %' });
    expect(twice.body.detail).toBe('The shop has its own figure for this already.');
    for (const [name, value] of [
      ['setup', '90 %'],
      ['mostPowerPerFlow', '-1 hp/cfm'],
      ['liftZero', '1 in'],
    ])
      expect((await f.call('POST', '/api/assumption', { name, value })).body.fields[0].message).toBe(
        'This is no believable figure for that.',
      );
    expect((await f.call('POST', '/api/assumption', { name: 'luck', value: '1 %' })).status).toBe(400);
  });
});

describe('a photo', () => {
  it('is turned upright, loses its place, and gets a thumbnail', async () => {
    const content = await turned();
    expect((await sharp(content).metadata()).exif).toBeDefined();
    const { status, body } = await upload(content, `head=${headId}&name=ridge.jpg`);
    expect(status).toBe(201);
    expect(body.record).toMatchObject({ name: 'ridge.jpg', type: 'image/jpeg', width: 40, height: 60 });
    const picture = await f.app.inject(`/api/attachment/${body.record.id}/picture`);
    expect(picture.headers['content-type']).toBe('image/jpeg');
    const stored = await sharp(picture.rawPayload).metadata();
    expect([stored.width, stored.height, stored.exif, stored.orientation]).toEqual([40, 60, undefined, undefined]);
    // What was left is up now: the upper half is the dark one.
    const { dominant } = await sharp(
      await sharp(picture.rawPayload).extract({ left: 0, top: 0, width: 40, height: 25 }).toBuffer(),
    ).stats();
    expect(dominant.r).toBeLessThan(40);
    const small = await f.app.inject(`/api/attachment/${body.record.id}/thumbnail`);
    expect(small.headers['content-type']).toBe('image/webp');
    expect((await sharp(small.rawPayload).metadata()).format).toBe('webp');
  });

  it('with the same content is one file', async () => {
    const content = await sharp({ create: { width: 9, height: 9, channels: 3, background: '#123' } })
      .png()
      .toBuffer();
    const [a, b] = [await upload(content, undefined, 'image/png'), await upload(content, undefined, 'image/png')];
    expect(a.body.record.hash).toBe(b.body.record.hash);
    const files = (await readdir(f.folder)).filter((n) => n.startsWith(a.body.record.hash));
    expect(files.sort()).toEqual([
      `${a.body.record.hash}.png`,
      expect.stringMatching(/^[0-9a-f]{64}\.thumbnail\.[0-9a-f]{64}\.webp$/),
    ]);
  });

  it('that is none is refused, whatever it calls itself, and leaves nothing', async () => {
    const before = await readdir(f.folder);
    for (const content of [
      Buffer.from('%PDF-1.7 no photo'),
      Buffer.alloc(0),
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'),
    ]) {
      const { status, body } = await upload(content);
      expect([status, body.detail]).toEqual([
        400,
        'This is no picture this program can read. It takes JPEG, PNG and WebP.',
      ]);
    }
    const whole = await turned();
    expect((await upload(whole.subarray(0, whole.length >> 1))).status).toBe(400);
    expect(await readdir(f.folder)).toEqual(before);
  });

  it('of 40 MB is refused, declared or not', async () => {
    const { status, body } = await upload(Buffer.alloc(40 * 1024 * 1024));
    expect([status, body.detail]).toEqual([413, 'This photo is over 12 MB. Send it at a smaller size, or as JPEG.']);
    async function* endless() {
      for (;;) yield Buffer.alloc(1024 * 1024);
    }
    const { readLimited } = await import('../pictures.js');
    await expect(readLimited(endless(), undefined)).rejects.toThrow('over 12 MB');
    expect((await readLimited([Buffer.alloc(PICTURE_LIMIT)] as never, undefined)).length).toBe(PICTURE_LIMIT);
  });

  it('needs its head, and its content never changes', async () => {
    expect((await upload(await turned(), 'head=nowhere')).status).toBe(404);
    const { record } = (await upload(await turned())).body;
    const other = await f.call('PUT', `/api/attachment/${record.id}`, { ...record, hash: '0'.repeat(64) });
    expect(other.status).toBe(400);
    const region = { x: 0.25, y: 0.5, width: 0.5, height: 0.25 };
    const marked = await f.call('PUT', `/api/attachment/${record.id}`, { ...record, region });
    expect(marked.body.record.region).toEqual(region);
    const beyond = { ...marked.body.record, region: { ...region, x: 0.75 } };
    expect((await f.call('PUT', `/api/attachment/${record.id}`, beyond)).body.detail).toContain('lie on the picture');
    const noted = await f.call('PUT', `/api/attachment/${record.id}`, {
      ...marked.body.record,
      region: null,
      note: 'seen from below',
    });
    expect(noted.body.record.note).toBe('seen from below');
    expect((await f.call('POST', '/api/attachment', record)).status).toBe(400);
  });

  it('taken out comes back with undo, file and all', async () => {
    const { record } = (await upload(await turned())).body;
    const { body } = await f.call('DELETE', `/api/attachment/${record.id}`);
    expect((await f.call('GET', `/api/attachment/${record.id}/picture`)).status).toBe(404);
    await f.call('POST', `/api/change/${body.batch}/undo`);
    expect((await f.app.inject(`/api/attachment/${record.id}/picture`)).statusCode).toBe(200);
  });

  it('half-written by a crash is cleared away at the next start', async () => {
    await writeFile(join(f.folder, 'abc.jpg.123.part'), 'half');
    await openPictures(f.folder);
    expect((await readdir(f.folder)).filter((n) => n.endsWith('.part'))).toEqual([]);
  });

  it('travels in a bundle, and a bundle that lacks or forges it is refused', async () => {
    const bundle = JSON.parse((await f.app.inject('/api/bundle')).body);
    expect(bundle.attachments.length).toBeGreaterThan(2);
    const elsewhere = await fixture();
    const bring = (b: unknown) => elsewhere.call('POST', '/api/bundle', b);
    const lacking = await bring({ ...bundle, files: {} });
    expect(lacking.body.detail).toMatch(/The content of photo “.*” is not in this file/);
    const [hash] = Object.keys(bundle.files);
    const forged = await bring({
      ...bundle,
      files: { ...bundle.files, [hash!]: Buffer.from('other').toString('base64') },
    });
    expect(JSON.stringify(forged.body)).toContain('is not what its hash says');
    const placed = await turned();
    const { createHash } = await import('node:crypto');
    const print = createHash('sha256').update(placed).digest('hex');
    const spying = await bring({
      ...bundle,
      attachments: [{ ...bundle.attachments[0], hash: print }],
      files: { [print]: placed.toString('base64') },
    });
    expect(JSON.stringify(spying.body)).toContain('carries camera data');
    expect((await elsewhere.call('GET', '/api/attachment')).body).toEqual([]);
    expect(JSON.stringify((await bring(bundle)).body)).toContain('finished');
    const id = bundle.attachments[0].id;
    expect((await elsewhere.app.inject(`/api/attachment/${id}/thumbnail`)).statusCode).toBe(200);
    await elsewhere.close();
    const without = JSON.parse((await f.app.inject('/api/bundle?photos=no')).body);
    expect([without.attachments, without.files]).toEqual([[], undefined]);
  });
});

describe('data of the schema before', () => {
  it('comes along unharmed', async () => {
    const db = await openPglite();
    const steps = await readMigrations(MIGRATIONS);
    await migrate(db, steps.slice(0, 1));
    await db.script(`
      insert into head (id, version, name, kind, material, intake_valves, exhaust_valves) values ('h', 3, 'Old', 'production', 'iron', 1, 1);
      insert into stage (id, version, head_id, name) values ('s', 1, 'h', 'as received');
      insert into port (id, version, head_id, side, number) values ('p', 1, 'h', 'intake', 1);
      insert into measure (id, version, stage_id, port_id, side, item, value) values ('m', 1, 's', 'p', 'intake', 'throat', '{"si": 0.04, "typed": "40 mm"}');
    `);
    expect(await migrate(db, steps)).toBe(steps.length - 1);
    const [row] = await db.query<object>(
      'select h.name, h.version, h.cylinders, p.touched, m.valve, m.value from head h, port p, measure m',
    );
    expect(row).toEqual({
      name: 'Old',
      version: 3,
      cylinders: null,
      touched: '',
      valve: null,
      value: { si: 0.04, typed: '40 mm' },
    });
    await db.close();
  });
});

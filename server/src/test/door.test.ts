import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import WebSocket from 'ws';
import type { FastifyInstance } from 'fastify';
import { createApp } from '../app.js';
import { makeKeys, STAY_MS } from '../door/keys.js';
import { countTries } from '../door/tries.js';
import { openPictures } from '../pictures.js';
import { fixture, type Fixture } from './fixture.js';

const PASSPHRASE = 'a sentence does well';
let f: Fixture;
let app: FastifyInstance;
let folder: string;
beforeAll(async () => {
  f = await fixture();
  folder = await mkdtemp(join(tmpdir(), 'alluvium-door-'));
  app = await createApp({
    db: f.db,
    pictures: await openPictures(f.folder),
    keys: await makeKeys(PASSPHRASE, join(folder, 'salt')),
  });
  await app.listen({ port: 0, host: '127.0.0.1' });
});
afterAll(async () => {
  await app.close();
  await f.close();
  await rm(folder, { recursive: true });
});
const enter = (passphrase: string, to = '/heads', remoteAddress = '10.0.0.1') =>
  app.inject({
    method: 'POST',
    url: '/door',
    remoteAddress,
    payload: new URLSearchParams({ passphrase, to }).toString(),
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
  });

describe('with a passphrase', () => {
  it('every route of the interface asks for it', async () => {
    const routes = Object.entries(
      (
        await (await import('./fixture.js')).fixture().then(async (g) => {
          const { body } = await g.call('GET', '/api/openapi.json');
          await g.close();
          return body as { paths: Record<string, Record<string, unknown>> };
        })
      ).paths,
    );
    expect(routes.length).toBeGreaterThan(60);
    for (const [path, methods] of routes)
      for (const method of Object.keys(methods)) {
        const { statusCode } = await app.inject({
          method: method.toUpperCase() as 'GET',
          url: path.replaceAll(/\{\w+\}/g, 'x'),
        });
        expect([path, method, statusCode]).toEqual([path, method, 401]);
      }
  });
  it('a page is answered with the page that asks; what is no page with a refusal', async () => {
    const asked = await app.inject('/claims/x?pane=same');
    expect(asked.statusCode).toBe(200);
    expect(asked.body).toContain('<label for="passphrase">Passphrase</label>');
    expect(asked.body).toContain('value="/claims/x?pane=same"');
    expect((await app.inject('/assets/app.js')).statusCode).toBe(401);
    expect((await app.inject('/"><script>')).body).not.toContain('<script>');
  });
  it.each(['/api/bench/live', '/api/instruments/link', '/api/change/feed'])(
    'the socket %s asks for it',
    async (path) => {
      const { port } = app.server.address() as { port: number };
      const open = (headers: Record<string, string>) =>
        new Promise<number>((done) => {
          const socket = new WebSocket(`ws://127.0.0.1:${port}${path}`, { headers });
          socket.on('open', () => {
            done(101);
            socket.close();
          });
          socket.on('unexpected-response', (_, answer) => done(answer.statusCode!));
          socket.on('error', () => {});
        });
      expect(await open({})).toBe(401);
      expect(await open({ authorization: `Bearer ${PASSPHRASE}` })).toBe(101);
    },
  );
  it('the right one opens for a month by a cookie no script reads; signing out ends it', async () => {
    const entered = await enter(PASSPHRASE);
    expect([entered.statusCode, entered.headers.location]).toEqual([303, '/heads']);
    const set = String(entered.headers['set-cookie']);
    expect(set).toMatch(/^alluvium=[\w.-]+; Path=\/; HttpOnly; SameSite=Strict; Max-Age=2592000$/);
    const cookie = set.split(';')[0]!;
    expect((await app.inject({ url: '/api/head', headers: { cookie } })).statusCode).toBe(200);
    const spoilt = cookie.replace(/.$/, (c) => (c === 'A' ? 'B' : 'A'));
    expect((await app.inject({ url: '/api/head', headers: { cookie: spoilt } })).statusCode).toBe(401);
    const out = await app.inject({ method: 'DELETE', url: '/door', headers: { cookie } });
    expect(String(out.headers['set-cookie'])).toContain('Max-Age=0');
    // The cookie a program copied before is worth nothing any more, and nothing after the next start either.
    expect((await app.inject({ url: '/api/head', headers: { cookie } })).statusCode).toBe(401);
    const again = await makeKeys(PASSPHRASE, join(folder, 'salt'));
    expect(again.isToken(cookie.slice(cookie.indexOf('=') + 1))).toBe(false);
    expect(again.isToken(again.token())).toBe(true);
  });
  it.each([
    '//evil.example/',
    'https://evil.example/',
    '/\\evil.example',
    '',
    '/\t/evil.example',
    '/\t\\evil.example',
    '\t//evil.example',
    '/\r\n/evil.example',
    '/.//evil.example',
    '/..//evil.example',
  ])('nobody is sent on to %s', async (to) => {
    expect((await enter(PASSPHRASE, to)).headers.location).toBe('/');
  });
  it.each([
    ['/heads?search=a b#top', '/heads?search=a%20b#top'],
    ['/heads\r\nset-cookie: x=1', '/headsset-cookie:%20x=1'],
    ['/köpfe', '/k%C3%B6pfe'],
  ])('to %j somebody goes on as a browser reads it', async (to, location) => {
    const entered = await enter(PASSPHRASE, to);
    expect([entered.statusCode, entered.headers.location, entered.headers['x']]).toEqual([303, location, undefined]);
  });
  it('five wrong ones in a minute, and this address waits; others do not', async () => {
    for (let i = 0; i < 5; i++) {
      const wrong = await enter('not the passphrase', '/', '10.0.0.9');
      expect(wrong.statusCode).toBe(401);
      expect(wrong.body).toContain('This is not the passphrase.');
    }
    const sixth = await enter(PASSPHRASE, '/', '10.0.0.9');
    expect(sixth.statusCode).toBe(429);
    expect(Number(sixth.headers['retry-after'])).toBeGreaterThan(0);
    expect((await enter(PASSPHRASE, '/', '10.0.0.10')).statusCode).toBe(303);
  });
});

describe('keys', () => {
  it('stand through a start, fall with another passphrase, and end with their time', async () => {
    let now = 1_000_000;
    const file = join(folder, 'own-salt');
    const first = await makeKeys(PASSPHRASE, file, () => now);
    const token = first.token();
    expect((await makeKeys(PASSPHRASE, file, () => now)).isToken(token)).toBe(true);
    expect((await makeKeys(`${PASSPHRASE}.`, file, () => now)).isToken(token)).toBe(false);
    now += STAY_MS + 1;
    expect(first.isToken(token)).toBe(false);
    for (const junk of ['', '.', 'a.b.c', `${now + 1e9}.x.`]) expect(first.isToken(junk)).toBe(false);
    expect([await first.opens(PASSPHRASE), await first.opens('')]).toEqual([true, false]);
  });
  it('many addresses together are slowed as well', () => {
    let now = 0;
    const tries = countTries(() => now);
    for (let i = 0; i < 30; i++) expect(tries.count(`a${i}`)).toBeUndefined();
    expect(tries.count('another')).toBe(60);
    now = 60_001;
    expect(tries.count('another')).toBeUndefined();
    for (let i = 0; i < 4; i++) tries.count('another');
    expect(tries.count('another')).toBe(60);
    tries.forgive('another');
    expect(tries.count('another')).toBeUndefined();
  });
});

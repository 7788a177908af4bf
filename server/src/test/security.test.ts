import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FastifyInstance } from 'fastify';
import { createApp } from '../app.js';
import { openPictures } from '../pictures.js';
import { allowedHosts } from '../security.js';
import { StartProblem, readSettings } from '../settings.js';
import { fixture, type Fixture } from './fixture.js';

let f: Fixture;
let app: FastifyInstance;
beforeAll(async () => {
  f = await fixture();
  app = await createApp({
    db: f.db,
    pictures: await openPictures(f.folder),
    hosts: () => allowedHosts('127.0.0.1', 4870),
  });
});
afterAll(async () => {
  await app.close();
  await f.close();
});
const ask = (headers: Record<string, string>, method: 'GET' | 'POST' = 'GET') =>
  app.inject({
    method,
    url: '/api/head',
    headers: { host: '127.0.0.1:4870', ...headers },
    ...(method === 'POST' ? { payload: { name: 'x' } } : {}),
  });

describe('a page elsewhere cannot drive the server', () => {
  it.each([
    ['another name that was rebound to this address', { host: 'evil.example:4870' }],
    ['another port', { host: '127.0.0.1:80' }],
    ['a foreign origin', { origin: 'https://evil.example' }],
    ['a hidden origin', { origin: 'null' }],
    ['a cross-site request without an origin', { 'sec-fetch-site': 'cross-site' }],
  ])('%s is refused', async (_, headers) => {
    expect((await ask(headers)).statusCode).toBe(403);
    expect((await ask(headers, 'POST')).statusCode).toBe(403);
  });
  it.each([
    ['our own page', { origin: 'http://127.0.0.1:4870', 'sec-fetch-site': 'same-origin' }],
    ['our own page by name', { host: 'localhost:4870', origin: 'http://localhost:4870' }],
    ['a script on this machine', {}],
  ])('%s is served', async (_, headers) => {
    expect((await ask(headers, 'POST')).statusCode).toBe(201);
  });
  it('answers carry the headers that shut other pages out', async () => {
    const { headers } = await ask({});
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['content-security-policy']).toContain("frame-ancestors 'none'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['cross-origin-resource-policy']).toBe('same-origin');
  });
});

describe('settings', () => {
  it('have their defaults', () => {
    expect(readSettings({}, '/data')).toEqual({
      port: 4870,
      host: '127.0.0.1',
      data: '/data',
      backups: '/data/backups',
      lookAround: true,
    });
    expect(
      readSettings({ PORT: '5000', HOST: '::1', ALLUVIUM_DATA: '/elsewhere', ALLUVIUM_BACKUPS: '/safe' }, '/data'),
    ).toEqual({ port: 5000, host: '::1', data: '/elsewhere', backups: '/safe', lookAround: true });
    expect(readSettings({ ALLUVIUM_BACKUPS: 'none' }, '/data').backups).toBeUndefined();
  });
  it.each([
    ['a network without a passphrase', { HOST: '0.0.0.0' }, /everybody on the network/],
    ['an address without a passphrase', { HOST: '192.168.1.7' }, /everybody on the network/],
    ['a short passphrase', { ALLUVIUM_PASSPHRASE: 'short' }, /12 to 200 letters/],
    ['half of a certificate', { ALLUVIUM_TLS_CERT: '/c.pem' }, /belong together/],
  ])('%s is refused with a sentence that says why', (_, env, sentence) => {
    expect(() => readSettings(env, '/data')).toThrow(sentence);
  });
  it('the network is served with a passphrase', () => {
    expect(readSettings({ HOST: '0.0.0.0', ALLUVIUM_PASSPHRASE: 'a sentence does well' }, '/data').host).toBe(
      '0.0.0.0',
    );
    for (const host of ['127.0.0.2', 'LOCALHOST', '[::1]'])
      expect(() => readSettings({ HOST: host }, '/data')).not.toThrow();
  });
  it.each(['x', '-1', '70000', '1.5'])('PORT=%s is refused with a sentence', (PORT) => {
    expect(() => readSettings({ PORT }, '/data')).toThrow(StartProblem);
  });
});

describe('manners of HTTP', () => {
  it('what is private is kept by no cache', async () => {
    expect((await ask({})).headers['cache-control']).toBe('no-store');
    expect((await app.inject({ url: '/api/nothing', headers: { host: 'localhost:4870' } })).headers).toMatchObject({
      'cache-control': 'no-store',
      'content-type': expect.stringContaining('application/problem+json'),
    });
  });
  it.each([
    ['PATCH', '/api/head', 'GET, HEAD, POST'],
    ['DELETE', '/api/bundle', 'GET, HEAD, POST'],
    ['POST', '/api/head/x', 'DELETE, GET, HEAD, PUT'],
  ] as const)('%s %s is answered with the methods there are', async (method, url, allow) => {
    const refused = await app.inject({ method, url, headers: { host: '127.0.0.1:4870' } });
    expect(refused.statusCode).toBe(405);
    expect(refused.headers.allow).toBe(allow);
    expect(refused.json().detail).toContain('This address takes');
  });
  it('the name of the host is the same in capitals', async () => {
    expect((await ask({ host: 'LocalHost:4870', origin: 'HTTP://LOCALHOST:4870' }, 'POST')).statusCode).toBe(201);
  });
  it('one policy for frames', async () => {
    expect((await ask({})).headers['x-frame-options']).toBe('DENY');
  });
  it.each(['/api/%E0%A4%A', '/api/head/%00'])('the address %s is refused as a problem', async (url) => {
    const refused = await app.inject({ url, headers: { host: '127.0.0.1:4870' } });
    expect(refused.statusCode).toBe(400);
    expect(refused.headers['content-type']).toContain('application/problem+json');
  });
});

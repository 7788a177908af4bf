import type { AddressInfo } from 'node:net';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import websocket from '@fastify/websocket';
import Fastify, { type FastifyInstance } from 'fastify';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import WebSocket from 'ws';
import { aroundRoutes, divert } from '../around.js';
import { guardDoor } from '../door/door.js';
import { makeKeys, type Keys } from '../door/keys.js';
import { answer } from '../http.js';
import { Problem } from '../problems.js';
import { secure } from '../security.js';

const PASSPHRASE = 'a sentence does well';
let keys: Keys;
let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'alluvium-around-'));
  keys = await makeKeys(PASSPHRASE, join(folder, 'salt'));
});
afterAll(() => rm(folder, { recursive: true }));

let own: FastifyInstance;
let demo: FastifyInstance | undefined;
let made = 0;
afterEach(async () => {
  await own.close();
  await demo?.close();
  demo = undefined;
  made = 0;
});

/** Whatever has an error handler of ours. */
function bare(): FastifyInstance {
  const app = Fastify({ forceCloseConnections: true }) as unknown as FastifyInstance;
  app.setErrorHandler((error, _, reply) =>
    answer(reply, error instanceof Problem ? error : new Problem('broken', (error as Error).message)),
  );
  return app;
}
/** A page, an act and a socket that say which library answered. */
async function serve(app: FastifyInstance, says: string): Promise<void> {
  await app.register(websocket);
  app.register(async (api) => {
    api.get('/', () => says);
    api.get('/api/which', () => says);
    api.post('/api/echo', (request) => `${says}: ${(request.body as { text: string }).text}`);
    api.get('/api/feed', { websocket: true }, (socket) => socket.send(says));
  });
}

async function begin({ fails = false, allowed = true, door = false } = {}): Promise<string> {
  own = bare();
  let hosts = new Set<string>();
  await secure(own, { hosts: () => hosts });
  if (door) guardDoor(own, keys, false);
  const look = async () => {
    if (fails) throw new Error('no room');
    if (!demo) {
      made++;
      demo = bare();
      await serve(demo, 'demo');
      await demo.ready();
    }
    return demo;
  };
  divert(own, allowed ? look : undefined);
  await serve(own, 'own');
  await own.listen({ port: 0, host: '127.0.0.1' });
  const { port } = own.server.address() as AddressInfo;
  hosts = new Set([`127.0.0.1:${port}`]);
  return `http://127.0.0.1:${port}`;
}
const LOOKING = 'alluvium-shop=demo';
const get = (url: string, cookie?: string, more: Record<string, string> = {}) =>
  fetch(url, { headers: { ...(cookie ? { cookie } : {}), ...more }, redirect: 'manual' });
const ask = async (url: string, cookie?: string) => (await get(url, cookie)).text();
const heard = (url: string, headers: Record<string, string>) =>
  new Promise<string>((done) => {
    const socket = new WebSocket(`${url.replace('http', 'ws')}/api/feed`, { headers });
    socket.on('message', (text: Buffer) => {
      done(text.toString());
      socket.close();
    });
    socket.on('unexpected-response', (_, reply) => done(String(reply.statusCode)));
    socket.on('error', () => {});
  });

describe('a browser that looks around', () => {
  it('is answered by the demo alone, any other by the shop’s own; the demo is made when first asked for', async () => {
    const url = await begin();
    expect(await ask(url)).toBe('own');
    expect(await ask(url, 'theme=demo; alluvium-shop=own')).toBe('own');
    expect(made).toBe(0);
    expect(await ask(url, `a=b; ${LOOKING}`)).toBe('demo');
    expect(await ask(url)).toBe('own');
  });
  it('sends what it types, and opens its sockets, to the demo as well', async () => {
    const url = await begin();
    const sent = await fetch(`${url}/api/echo`, {
      method: 'POST',
      headers: { cookie: LOOKING, 'content-type': 'application/json' },
      body: JSON.stringify({ text: 'x'.repeat(100_000) }),
    });
    expect(await sent.text()).toBe(`demo: ${'x'.repeat(100_000)}`);
    expect(await heard(url, { cookie: LOOKING })).toBe('demo');
    expect(await heard(url, {})).toBe('own');
  });
  it('never reaches the shop’s own library when the demo cannot be made', async () => {
    const url = await begin({ fails: true });
    expect((await get(`${url}/api/which`, LOOKING)).status).toBe(503);
    expect(await ask(url)).toBe('own');
  });
  it('is put in and taken out by a cookie of this site alone', async () => {
    await begin();
    const app = Fastify();
    let began = false;
    aroundRoutes(app as unknown as FastifyInstance, async () => (began = true));
    const into = await app.inject({ method: 'POST', url: '/api/look-around' });
    expect(began).toBe(true);
    expect(into.headers['set-cookie']).toBe('alluvium-shop=demo; Path=/; SameSite=Strict');
    const out = await app.inject({ method: 'DELETE', url: '/api/look-around' });
    expect(out.headers['set-cookie']).toContain('Max-Age=0');
    await app.close();
  });
});

describe('the demo lies behind the same door, in the same order', () => {
  it('a page elsewhere, and whoever was not let in, makes none', async () => {
    const url = await begin({ door: true });
    expect((await get(`${url}/api/which`, LOOKING, { origin: 'http://evil.example' })).status).toBe(403);
    expect((await get(`${url}/api/which`, LOOKING)).status).toBe(401);
    expect(await (await get(url, LOOKING)).text()).toContain('Passphrase');
    expect(await heard(url, { cookie: LOOKING })).toBe('401');
    expect(made).toBe(0);
  });
  it('whoever was let in, by cookie or as a program, comes to the demo and never to the library', async () => {
    const url = await begin({ door: true });
    expect(await ask(`${url}/api/which`, `${LOOKING}; alluvium=${keys.token()}`)).toBe('demo');
    const program = { authorization: `Bearer ${PASSPHRASE}` };
    expect(await (await get(`${url}/api/which`, LOOKING, program)).text()).toBe('demo');
    expect(await heard(url, { cookie: LOOKING, ...program })).toBe('demo');
    expect(made).toBe(1);
  });
  it('wrong passphrases are counted once, whichever library is asked for', async () => {
    const url = await begin({ door: true });
    const tries: number[] = [];
    for (let i = 0; i < 6; i++)
      tries.push(
        (await get(`${url}/api/which`, i % 2 ? LOOKING : '', { authorization: 'Bearer not this one' })).status,
      );
    expect(tries).toEqual([401, 401, 401, 401, 401, 429]);
  });
  it('where it is not allowed, a browser that still looks around is taken out of it, and reaches nothing meanwhile', async () => {
    const url = await begin({ allowed: false });
    const page = await get(url, LOOKING);
    expect([page.status, page.headers.get('location')]).toEqual([303, '/']);
    expect(page.headers.get('set-cookie')).toContain('alluvium-shop=; Path=/; SameSite=Strict; Max-Age=0');
    const refused = await get(`${url}/api/which`, LOOKING);
    expect([refused.status, await refused.text()]).toEqual([409, expect.stringContaining('ALLUVIUM_LOOK_AROUND=yes')]);
  });
});

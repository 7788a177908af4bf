import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import Fastify, { type FastifyInstance } from 'fastify';
import { afterEach, describe, expect, it } from 'vitest';
import { aroundRoutes, divert } from '../around.js';

let own: Server;
let demo: FastifyInstance | undefined;
let made = 0;
afterEach(async () => {
  await demo?.close();
  await new Promise((done) => own.close(done));
  demo = undefined;
  made = 0;
});

async function begin(fails = false): Promise<string> {
  own = createServer((_, reply) => void reply.end('own'));
  divert(own, async () => {
    if (fails) throw new Error('no room');
    made += 1;
    demo ??= Fastify().get('/', () => 'demo') as unknown as FastifyInstance;
    await demo.ready();
    return demo;
  });
  await new Promise<void>((done) => own.listen(0, '127.0.0.1', done));
  return `http://127.0.0.1:${(own.address() as AddressInfo).port}/`;
}
const ask = async (url: string, cookie?: string) => (await fetch(url, { headers: cookie ? { cookie } : {} })).text();

describe('a browser that looks around', () => {
  it('is answered by the demo alone, any other by the shop’s own; the demo is made when first asked for', async () => {
    const url = await begin();
    expect(await ask(url)).toBe('own');
    expect(await ask(url, 'theme=demo; alluvium-shop=own')).toBe('own');
    expect(made).toBe(0);
    expect(await ask(url, 'a=b; alluvium-shop=demo')).toBe('demo');
    expect(await ask(url)).toBe('own');
  });

  it('never reaches the shop’s own library when the demo cannot be made', async () => {
    const url = await begin(true);
    await expect(ask(url, 'alluvium-shop=demo')).rejects.toThrow();
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

import { connect, type AddressInfo } from 'node:net';
import Fastify, { type FastifyInstance } from 'fastify';
import { afterEach, describe, expect, it } from 'vitest';
import { takeTurns } from '../turns.js';

let app: FastifyInstance;
let working = 0;
let most = 0;
const order: number[] = [];
/** Answers are held until they are let go. */
let letGo: (() => void)[] = [];
afterEach(async () => {
  for (const go of letGo) go();
  await app.close();
});
async function begin(atOnce: number): Promise<string> {
  [working, most, letGo] = [0, 0, []];
  order.length = 0;
  app = Fastify({ forceCloseConnections: true }) as unknown as FastifyInstance;
  takeTurns(app, atOnce);
  app.get('/api/health', { config: { noTurn: true } }, () => 'ok');
  app.get<{ Params: { n: string } }>('/api/work/:n', async ({ params }) => {
    most = Math.max(most, ++working);
    order.push(Number(params.n));
    await new Promise<void>((go) => letGo.push(go));
    working--;
    return params.n;
  });
  app.get('/api/broken', () => Promise.reject(new Error('broken')));
  app.post('/api/told', async () => 'told');
  await app.listen({ port: 0, host: '127.0.0.1' });
  return `http://127.0.0.1:${(app.server.address() as AddressInfo).port}`;
}
const until = async (is: () => boolean) => {
  while (!is()) await new Promise((go) => setTimeout(go, 5));
};

describe('requests take turns', () => {
  it('so many at once, the others after them; what takes no turn is answered meanwhile', async () => {
    const url = await begin(2);
    const asked = Array.from({ length: 8 }, async (_, n) => (await fetch(`${url}/api/work/${n}`)).text());
    await until(() => order.length === 2);
    expect((await fetch(`${url}/api/health`)).status).toBe(200);
    expect(order.length).toBe(2);
    for (let done = 1; done <= 8; done++) {
      letGo.shift()!();
      await until(() => order.length === Math.min(8, done + 2));
    }
    await Promise.all(asked);
    expect(most).toBe(2);
    expect([...order].sort()).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
  });
  it('a turn ends with an answer of any kind, and with a client that is gone', async () => {
    const url = await begin(1);
    for (let i = 0; i < 3; i++) expect((await fetch(`${url}/api/broken`)).status).toBe(500);
    const gone = new AbortController();
    const first = fetch(`${url}/api/work/1`, { signal: gone.signal }).catch(() => 'gone');
    await until(() => order.length === 1);
    const second = fetch(`${url}/api/work/2`).then((r) => r.text());
    gone.abort();
    expect(await first).toBe('gone');
    await until(() => order.length === 2);
    for (const go of letGo) go();
    expect(await second).toBe('2');
  });
  it('a body that comes by drops holds nobody up', async () => {
    const url = await begin(1);
    const { port } = new URL(url);
    const slow = connect(Number(port), '127.0.0.1');
    slow.on('error', () => {});
    slow.write('POST /api/told HTTP/1.1\r\nhost: x\r\ncontent-type: application/json\r\ncontent-length: 100\r\n\r\n{');
    for (let i = 0; i < 3; i++) {
      const told = await fetch(`${url}/api/told`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: '{}',
      });
      expect(told.status).toBe(200);
    }
    slow.destroy();
  });
});

import { connect, type AddressInfo, type Socket } from 'node:net';
import { readFileSync } from 'node:fs';
import { request } from 'node:https';
import { fileURLToPath } from 'node:url';
import Fastify, { type FastifyInstance } from 'fastify';
import { afterEach, describe, expect, it } from 'vitest';
import { answer } from '../http.js';
import type { Problem } from '../problems.js';
import { secure } from '../security.js';
import { StartProblem } from '../settings.js';
import { answerPlainHttp, readTls, tlsWarning } from '../tls.js';

const pem = (name: string) => fileURLToPath(new URL(`tls/${name}`, import.meta.url));
const read = (cert: string, key: string) => readTls({ cert: pem(cert), key: pem(key) });

describe('certificate and key are looked at before anything is served', () => {
  it.each([
    ['swapped', 'key.pem', 'cert.pem', /holds a key, not a certificate: are .* the wrong way round/],
    ['of two pairs', 'cert.pem', 'other-key.pem', /is not that of the certificate/],
    ['behind a passphrase', 'cert.pem', 'sealed-key.pem', /is protected by a passphrase of its own/],
    ['no certificate', 'README.md', 'key.pem', /README\.md holds no certificate this program can read/],
    ['no key', 'cert.pem', 'README.md', /README\.md holds no private key this program can read/],
    ['not there', 'nowhere.pem', 'key.pem', /The certificate .*nowhere\.pem cannot be read/],
  ])('%s: a sentence, and no stack', async (_, cert, key, sentence) => {
    await expect(read(cert, key)).rejects.toThrow(sentence);
    await expect(read(cert, key)).rejects.toBeInstanceOf(StartProblem);
  });
  it('one that is right is used; one that expired, or is not valid yet, is said', async () => {
    expect(tlsWarning(await read('cert.pem', 'key.pem'))).toBeUndefined();
    expect(tlsWarning(await read('expired.pem', 'key.pem'))).toMatch(/^The certificate expired on .*2021/);
    expect(tlsWarning(await read('cert.pem', 'key.pem'), new Date('2020-01-01'))).toMatch(/is valid from .* on/);
  });
});

describe('a server with a certificate', () => {
  let app: FastifyInstance;
  afterEach(() => app.close());
  async function begin(patience = 60_000, handshakeTimeout = 60_000): Promise<number> {
    const tls = { cert: readFileSync(pem('cert.pem')), key: readFileSync(pem('key.pem')) };
    app = Fastify({ https: { ...tls, handshakeTimeout }, forceCloseConnections: true }) as unknown as FastifyInstance;
    app.setErrorHandler((error, _, reply) => answer(reply, error as Problem));
    answerPlainHttp(app.server, patience);
    await secure(app, { hosts: () => new Set([`127.0.0.1:${port()}`]), tls: true });
    app.get('/api/which', () => 'own');
    await app.listen({ port: 0, host: '127.0.0.1' });
    return port();
  }
  const port = () => (app.server.address() as AddressInfo).port;
  const ask = (headers: Record<string, string> = {}) =>
    new Promise<{ status: number; body: string }>((done, fail) => {
      const asked = request(
        { host: '127.0.0.1', port: port(), path: '/api/which', ca: readFileSync(pem('cert.pem')), headers },
        (reply) => {
          let body = '';
          reply.on('data', (chunk: Buffer) => (body += chunk.toString()));
          reply.on('end', () => done({ status: reply.statusCode!, body }));
        },
      );
      asked.on('error', fail);
      asked.end();
    });

  it('answers over TLS, a request larger than one record as well', async () => {
    await begin();
    expect(await ask()).toEqual({ status: 200, body: 'own' });
    expect((await ask({ 'x-long': 'x'.repeat(9_000) })).status).toBe(200);
  });
  it('tells a client that speaks plain HTTP so', async () => {
    const at = await begin();
    const reply = await fetch(`http://127.0.0.1:${at}/api/which`);
    expect([reply.status, await reply.text()]).toEqual([
      400,
      expect.stringContaining('use https:// in place of http://'),
    ]);
  });
  it('takes its own page’s origin with https alone', async () => {
    const at = await begin();
    expect((await ask({ origin: `https://127.0.0.1:${at}` })).status).toBe(200);
    expect((await ask({ origin: `http://127.0.0.1:${at}` })).status).toBe(403);
  });
  it('cuts three hundred that begin a handshake and end none, and those that say nothing; others are answered meanwhile', async () => {
    const at = await begin(1_000, 1_000);
    // A ClientHello announced and not sent (RFC 8446, 5.1), and silence.
    const hello = Buffer.from([22, 3, 1, 2, 0, 1, 0, 1, 252, 3, 3]);
    const sockets = Array.from({ length: 300 }, (_, i) => {
      const socket: Socket = connect(at, '127.0.0.1', () => i % 3 && socket.write(hello));
      socket.on('error', () => {});
      return new Promise<void>((cut) => socket.on('close', () => cut()));
    });
    expect((await ask()).status).toBe(200);
    await Promise.all(sockets);
    expect((await ask()).status).toBe(200);
  });
});

describe('a server without one', () => {
  it('takes no origin of https', async () => {
    const app = Fastify() as unknown as FastifyInstance;
    app.setErrorHandler((error, _, reply) => answer(reply, error as Problem));
    await secure(app, { hosts: () => new Set(['localhost:4870']) });
    app.get('/api/which', () => 'own');
    const from = async (origin: string) =>
      (await app.inject({ url: '/api/which', headers: { host: 'localhost:4870', origin } })).statusCode;
    expect([await from('http://localhost:4870'), await from('https://localhost:4870')]).toEqual([200, 403]);
    await app.close();
  });
});

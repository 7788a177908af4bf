/** The certificate of a server on a network: what can be wrong with it is said before it is used. */
import { createPrivateKey, X509Certificate, type KeyObject } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { Server, Socket } from 'node:net';
import { StartProblem } from './settings.js';

/** A client that does not end its part of the handshake is cut after this, ms. */
export const HANDSHAKE_MS = 10_000;

export interface Tls {
  readonly cert: Buffer;
  readonly key: Buffer;
}

async function fileOf(what: string, path: string): Promise<Buffer> {
  try {
    return await readFile(path);
  } catch (error) {
    throw new StartProblem(`The ${what} ${path} cannot be read: ${(error as Error).message}.`);
  }
}

function certificateIn(path: string, text: Buffer): X509Certificate {
  if (text.includes('PRIVATE KEY') && !text.includes('BEGIN CERTIFICATE'))
    throw new StartProblem(
      `${path} holds a key, not a certificate: are ALLUVIUM_TLS_CERT and ALLUVIUM_TLS_KEY the wrong way round?`,
    );
  try {
    return new X509Certificate(text);
  } catch {
    throw new StartProblem(`${path} holds no certificate this program can read. It takes PEM files.`);
  }
}

function keyIn(path: string, text: Buffer): KeyObject {
  try {
    return createPrivateKey(text);
  } catch (error) {
    const sealed = (error as { code?: string }).code === 'ERR_MISSING_PASSPHRASE' || text.includes('ENCRYPTED');
    throw new StartProblem(
      sealed
        ? `The key ${path} is protected by a passphrase of its own. Give one without: openssl pkey -in ${path} -out FILE.`
        : `${path} holds no private key this program can read. It takes PEM files.`,
    );
  }
}

/** Reads certificate and key. @throws StartProblem with what is wrong with either, or when they do not belong together. */
export async function readTls(paths: { readonly cert: string; readonly key: string }): Promise<Tls> {
  const cert = await fileOf('certificate', paths.cert);
  const key = await fileOf('key', paths.key);
  const certificate = certificateIn(paths.cert, cert);
  if (!certificate.checkPrivateKey(keyIn(paths.key, key)))
    throw new StartProblem(`The key ${paths.key} is not that of the certificate ${paths.cert}.`);
  return { cert, key };
}

/** What a browser will object to; undefined while the certificate is valid. */
export function tlsWarning({ cert }: Tls, now = new Date()): string | undefined {
  const { validFrom, validTo } = new X509Certificate(cert);
  if (new Date(validTo) < now) return `The certificate expired on ${validTo}: browsers will warn of it. Replace it.`;
  if (new Date(validFrom) > now)
    return `The certificate is valid from ${validFrom} on: browsers will warn of it until then. Is this machine’s clock right?`;
  return undefined;
}

const SENTENCE = 'This address answers encrypted requests only: use https:// in place of http://.\n';
const PLAIN = `HTTP/1.1 400 Bad Request\r\ncontent-type: text/plain; charset=utf-8\r\ncontent-length: ${Buffer.byteLength(SENTENCE)}\r\ncache-control: no-store\r\nconnection: close\r\n\r\n${SENTENCE}`;
/** First byte of a TLS record that carries a handshake (RFC 8446, 5.1). */
const HANDSHAKE = 22;

/**
 * Tells a client that speaks plain HTTP to a server of TLS so, in its own language, and cuts one that says nothing. To be
 * called before the server listens.
 */
export function answerPlainHttp(server: Server, patience = HANDSHAKE_MS): void {
  const encrypted = server.listeners('connection') as ((socket: Socket) => void)[];
  server.removeAllListeners('connection');
  server.on('connection', (socket: Socket) => {
    const late = setTimeout(() => socket.destroy(), patience);
    const broken = () => socket.destroy();
    socket.once('error', broken);
    socket.once('close', () => clearTimeout(late));
    socket.once('data', (first: Buffer) => {
      clearTimeout(late);
      if (first[0] !== HANDSHAKE) return void socket.end(PLAIN);
      socket.pause();
      socket.unshift(first);
      socket.removeListener('error', broken);
      for (const go of encrypted) go.call(server, socket);
    });
  });
}

import { createHmac, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { writeWhole } from '../stored.js';

const derive = promisify<string, Buffer, number, { N: number; r: number; p: number; maxmem: number }, Buffer>(scrypt);
/** OWASP Password Storage Cheat Sheet (figures from memory): N = 2^17, r = 8, p = 1. */
const COST = { N: 2 ** 17, r: 8, p: 1, maxmem: 256 * 1024 * 1024 };
const LENGTH = 64;
/** How long somebody stays signed in, ms. */
export const STAY_MS = 30 * 86_400_000;

export interface Keys {
  /** Whether this is the passphrase; takes a tenth of a second and the same time whatever is asked. */
  readonly opens: (passphrase: string) => Promise<boolean>;
  /** What a browser shows from then on. */
  readonly token: () => string;
  readonly isToken: (text: string) => boolean;
  /** Makes a token void, also after the next start. */
  readonly revoke: (token: string) => Promise<void>;
}

/** When a token ends, ms; 0 where it says nothing of the kind. */
const endOf = (token: string): number => Number(token.split('.')[0]) || 0;

/** Tokens that were signed out and have not ended yet, kept in a file: their signatures would still be right. */
async function openRevoked(file: string, now: () => number) {
  const lines = (await readFile(file, 'utf8').catch(() => '')).split('\n').filter(Boolean);
  let revoked = new Set(lines);
  return {
    has: (token: string) => revoked.has(token),
    add: async (token: string) => {
      revoked = new Set([...revoked, token].filter((t) => endOf(t) > now()));
      await writeWhole(file, [...revoked, ''].join('\n'));
    },
  };
}

/**
 * The keys of a passphrase. The salt lies in a file, so that nobody is signed out by a start; another passphrase makes
 * every token void. Who signed out lies beside it.
 */
export async function makeKeys(passphrase: string, saltFile: string, now = () => Date.now()): Promise<Keys> {
  let salt = await readFile(saltFile).catch(() => undefined);
  if (salt?.length !== 32) {
    salt = randomBytes(32);
    await writeWhole(saltFile, salt);
  }
  const revoked = await openRevoked(`${saltFile}.out`, now);
  const key = await derive(passphrase, salt, LENGTH, COST);
  const [compared, signing] = [key.subarray(0, 32), key.subarray(32)];
  const sign = (text: string) => createHmac('sha256', signing).update(text).digest('base64url');
  const same = (a: Buffer, b: Buffer) => a.length === b.length && timingSafeEqual(a, b);
  const isSigned = (token: string): boolean => {
    const at = token.lastIndexOf('.');
    const text = token.slice(0, Math.max(0, at));
    return same(Buffer.from(token.slice(at + 1)), Buffer.from(sign(text)));
  };
  return {
    opens: async (typed) => same((await derive(typed, salt, LENGTH, COST)).subarray(0, 32), compared),
    token: () => {
      const text = `${now() + STAY_MS}.${randomBytes(12).toString('base64url')}`;
      return `${text}.${sign(text)}`;
    },
    isToken: (token) => isSigned(token) && endOf(token) > now() && !revoked.has(token),
    // What was never a token is not kept: a file of them could be filled.
    revoke: async (token) => {
      if (isSigned(token) && !revoked.has(token)) await revoked.add(token);
    },
  };
}

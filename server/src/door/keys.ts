import { createHmac, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { promisify } from 'node:util';

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
}

/**
 * The keys of a passphrase. The salt lies in a file, so that nobody is signed out by a start; another passphrase makes
 * every token void.
 */
export async function makeKeys(passphrase: string, saltFile: string, now = () => Date.now()): Promise<Keys> {
  let salt = await readFile(saltFile).catch(() => undefined);
  if (salt?.length !== 32) {
    salt = randomBytes(32);
    await writeFile(saltFile, salt, { mode: 0o600 });
  }
  const key = await derive(passphrase, salt, LENGTH, COST);
  const [compared, signing] = [key.subarray(0, 32), key.subarray(32)];
  const sign = (text: string) => createHmac('sha256', signing).update(text).digest('base64url');
  const same = (a: Buffer, b: Buffer) => a.length === b.length && timingSafeEqual(a, b);
  return {
    opens: async (typed) => same((await derive(typed, salt, LENGTH, COST)).subarray(0, 32), compared),
    token: () => {
      const text = `${now() + STAY_MS}.${randomBytes(12).toString('base64url')}`;
      return `${text}.${sign(text)}`;
    },
    isToken: (token) => {
      const at = token.lastIndexOf('.');
      const text = token.slice(0, Math.max(0, at));
      if (!same(Buffer.from(token.slice(at + 1)), Buffer.from(sign(text)))) return false;
      return Number(text.split('.')[0]) > now();
    },
  };
}

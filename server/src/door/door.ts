import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { Problem } from '../problems.js';
import { STAY_MS, type Keys } from './keys.js';
import { DOOR_CSS, doorPage } from './page.js';
import { countTries } from './tries.js';

// split()[]!: splitting gives one part at least.

/** A form sent without a referrer says it comes from nowhere, and is refused as foreign: this page tells its own server. */
const PAGE = {
  'cache-control': 'no-store',
  'content-type': 'text/html; charset=utf-8',
  'referrer-policy': 'same-origin',
};
const COOKIE = 'alluvium';
/** What is served to whoever is not let in yet. */
export const DOOR_PATHS: ReadonlySet<string> = new Set(['/door', '/door.css']);
/** Longer than any passphrase: a megabyte of it would be hashed otherwise. */
const LONGEST = 200;

const cookieOf = (header = ''): string =>
  header
    .split(';')
    .map((c) => c.trim().split('='))
    .find(([name]) => name === COOKIE)?.[1] ?? '';

/** Stands for this server while an address is read; nothing is ever sent there. */
const HERE = 'http://here.invalid';
/**
 * Only a place on this server, so that nobody is sent elsewhere after signing in. Read as a browser reads it, which drops
 * tabs and line ends and takes a backslash for a slash.
 */
function placeHere(to: unknown): string {
  if (typeof to !== 'string' || !to.startsWith('/') || !URL.canParse(to, HERE)) return '/';
  const { origin, pathname, search, hash } = new URL(to, HERE);
  return origin === HERE && !pathname.startsWith('//') ? `${pathname}${search}${hash}` : '/';
}

/**
 * Every route and every socket asks for the passphrase: a browser signs in once and shows a signed cookie, a program
 * sends it as a bearer token. To be called before any other route is added.
 */
export function guardDoor(app: FastifyInstance, keys: Keys, secure: boolean): void {
  const tries = countTries();

  async function tryPassphrase(request: FastifyRequest, typed: unknown): Promise<void> {
    const wait = tries.count(request.ip);
    if (wait !== undefined)
      throw new Problem('too-often', `Too many tries. Try again in ${wait} seconds.`, { retryAfter: wait });
    if (typeof typed !== 'string' || typed.length > LONGEST || !(await keys.opens(typed)))
      throw new Problem('no-entry', 'This is not the passphrase.');
    tries.forgive(request.ip);
  }
  const setCookie = (reply: FastifyReply, value: string, age: number) =>
    reply.header(
      'set-cookie',
      `${COOKIE}=${value}; Path=/; HttpOnly; SameSite=Strict; Max-Age=${age}${secure ? '; Secure' : ''}`,
    );
  /** A bearer that was right is remembered, so that a program pays for the hash once. */
  const bearers = new Set<string>();

  app.addHook('onRequest', async (request, reply) => {
    const path = request.url.split('?')[0]!;
    if (DOOR_PATHS.has(path)) return undefined;
    if (keys.isToken(cookieOf(request.headers.cookie))) return undefined;
    const bearer = /^Bearer (.+)$/.exec(request.headers.authorization ?? '')?.[1];
    if (bearer !== undefined) {
      if (bearers.has(bearer)) return undefined;
      await tryPassphrase(request, bearer);
      bearers.add(bearer);
      return undefined;
    }
    if (request.method === 'GET' && !path.startsWith('/api/') && !/\.\w+$/.test(path))
      return reply.headers(PAGE).send(doorPage(request.url));
    throw new Problem('no-entry', 'Sign in first: load the page again and give the passphrase.');
  });

  app.get('/door.css', { schema: { hide: true } }, (_, reply) => reply.type('text/css').send(DOOR_CSS));
  app.get('/door', { schema: { hide: true } }, (_, reply) => reply.headers(PAGE).send(doorPage('/')));
  app.register(async (form) => {
    form.addContentTypeParser(
      'application/x-www-form-urlencoded',
      { parseAs: 'string', bodyLimit: 4_096 },
      (_, body, done) => done(null, Object.fromEntries(new URLSearchParams(String(body)))),
    );
    form.post('/door', { schema: { hide: true } }, async (request, reply) => {
      const { passphrase, to } = (request.body ?? {}) as { passphrase?: unknown; to?: unknown };
      try {
        await tryPassphrase(request, passphrase);
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        const page = doorPage(placeHere(to), error.message);
        if (error.more.retryAfter !== undefined) reply.header('retry-after', error.more.retryAfter);
        return reply.code(error.status).headers(PAGE).send(page);
      }
      return setCookie(reply, keys.token(), STAY_MS / 1000).redirect(placeHere(to), 303);
    });
  });
  app.delete('/door', { schema: { hide: true } }, async (request, reply) => {
    await keys.revoke(cookieOf(request.headers.cookie));
    return setCookie(reply, '', 0).code(204).send();
  });
}

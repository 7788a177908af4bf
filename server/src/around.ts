/**
 * Looking around in the demo: a second shop beside the shop's own, in a folder of its own, made when first asked for and
 * gone with the process. A browser that looks around says so with every request, and then nothing it does reaches the
 * shop's own library; nor the other way round.
 */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Duplex } from 'node:stream';
import type { FastifyInstance } from 'fastify';
import { DOOR_PATHS } from './door/door.js';
import { Problem } from './problems.js';

// request.url.split()[]!: splitting gives one part at least.

const COOKIE = 'alluvium-shop';
const ENTER = `${COOKIE}=demo; Path=/; SameSite=Strict`;
const LEAVE = `${COOKIE}=; Path=/; SameSite=Strict; Max-Age=0`;

const looksAround = ({ headers }: IncomingMessage): boolean =>
  (headers.cookie ?? '').split(';').some((pair) => pair.trim() === `${COOKIE}=demo`);

const NOT_HERE =
  'The demo is not shown over the network: it takes the memory of a second shop. Whoever starts Alluvium allows it with ALLUVIUM_LOOK_AROUND=yes.';

/** The way in and out. `begin` makes the demo; absent where there is none to look around in. */
export function aroundRoutes(api: FastifyInstance, begin: (() => Promise<unknown>) | undefined): void {
  api.post(
    '/api/look-around',
    {
      schema: { tags: ['server'], summary: 'Puts this browser into the demo, kept apart from the shop’s own library' },
      config: { noTurn: true },
    },
    async (_, reply) => {
      if (!begin) throw new Problem('refused', NOT_HERE);
      await begin();
      return reply.header('set-cookie', ENTER).send({ shop: 'demo' });
    },
  );
  api.delete(
    '/api/look-around',
    { schema: { tags: ['server'], summary: 'Takes this browser out of the demo again' } },
    (_, reply) => reply.header('set-cookie', LEAVE).send({ shop: 'own' }),
  );
}

/**
 * Hands every request and socket of a browser that looks around to the demo's application in place of `own`'s. One that
 * still looks around after the process was started anew gets a new demo, never the shop's own library. To be called after
 * whatever decides who is let in, and before any route: a request comes here only once it has passed all of that.
 */
export function divert(own: FastifyInstance, demo: (() => Promise<FastifyInstance>) | undefined): void {
  /** What came in with a socket's first request, which the demo has to be handed as well. */
  const heads = new WeakMap<IncomingMessage, Buffer>();
  own.server.prependListener('upgrade', (raw: IncomingMessage, _: Duplex, head: Buffer) => heads.set(raw, head));

  own.addHook('onRequest', async (request, reply) => {
    const { raw } = request;
    const path = request.url.split('?')[0]!;
    if (!looksAround(raw) || DOOR_PATHS.has(path)) return undefined;
    if (!demo) {
      if (path === '/api/look-around') return undefined;
      reply.header('set-cookie', LEAVE);
      if (request.url.startsWith('/api/')) throw new Problem('refused', NOT_HERE);
      return reply.redirect('/', 303);
    }
    const { server } = await demo().catch(() => {
      throw new Problem('busy', 'The demo cannot be made now. Leave it, or try again in a moment.');
    });
    reply.hijack();
    const head = heads.get(raw);
    if (head === undefined) server.emit('request', raw, reply.raw);
    else {
      const { socket } = raw;
      (reply.raw as ServerResponse).detachSocket(socket);
      server.emit('upgrade', raw, socket, head);
    }
    return reply;
  });
}

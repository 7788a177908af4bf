/**
 * Looking around in the demo: a second shop beside the shop's own, in a folder of its own, made when first asked for and
 * gone with the process. A browser that looks around says so with every request, and then nothing it does reaches the
 * shop's own library; nor the other way round.
 */
import type { IncomingMessage, Server } from 'node:http';
import type { FastifyInstance } from 'fastify';

const COOKIE = 'alluvium-shop';
const ENTER = `${COOKIE}=demo; Path=/; SameSite=Strict`;
const LEAVE = `${COOKIE}=; Path=/; SameSite=Strict; Max-Age=0`;

const looksAround = ({ headers }: IncomingMessage): boolean =>
  (headers.cookie ?? '').split(';').some((pair) => pair.trim() === `${COOKIE}=demo`);

/** The way in and out. `begin` makes the demo; absent where there is none to look around in. */
export function aroundRoutes(api: FastifyInstance, begin: (() => Promise<unknown>) | undefined): void {
  api.post(
    '/api/look-around',
    {
      schema: { tags: ['server'], summary: 'Puts this browser into the demo, kept apart from the shop’s own library' },
    },
    async (_, reply) => {
      await begin?.();
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
 * still looks around after the process was started anew gets a new demo, never the shop's own library.
 */
export function divert(own: Server, demo: () => Promise<FastifyInstance>): void {
  const emit = own.emit.bind(own) as (event: string, ...args: unknown[]) => boolean;
  own.emit = (event: string, ...args: unknown[]): boolean => {
    if ((event !== 'request' && event !== 'upgrade') || !looksAround(args[0] as IncomingMessage))
      return emit(event, ...args);
    demo().then(
      ({ server }) => server.emit(event, ...args),
      () => (args[0] as IncomingMessage).socket.destroy(),
    );
    return true;
  };
}

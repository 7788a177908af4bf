import type { FastifyInstance, FastifyRequest } from 'fastify';

/** Requests worked on at one time: the database answers one at a time, so more would only wait within. */
const AT_ONCE = 4;

declare module 'fastify' {
  interface FastifyContextConfig {
    /** Is answered whatever else goes on, works on long after its answer began, or has a limit of its own. */
    noTurn?: boolean;
  }
}

/**
 * Lets requests through in the order they came, a few at a time, and looks at the network between two of them. Without
 * it a burst of requests is worked off within one round of the event loop, and since a round takes in one new connection,
 * the last of two hundred clients would wait a minute for the first answer. To be called before any route is added.
 */
export function takeTurns(app: FastifyInstance, atOnce = AT_ONCE): void {
  const waiting: (() => void)[] = [];
  const working = new Set<FastifyRequest>();
  let free = atOnce;

  const next = () => {
    // After the network was looked at.
    setImmediate(() => {
      const go = waiting.shift();
      if (go) go();
      else free++;
    });
  };
  const done = (request: FastifyRequest) => {
    if (working.delete(request)) next();
  };

  // Once the body is there: who sends it by drops holds nobody up.
  app.addHook('preHandler', async (request) => {
    if (request.routeOptions.config.noTurn || request.raw.headers.upgrade || !request.url.startsWith('/api/')) return;
    if (free > 0) free--;
    else await new Promise<void>((go) => waiting.push(go));
    working.add(request);
    // Whoever gave up meanwhile is not answered any more.
    if (request.raw.socket.destroyed) done(request);
  });
  // As soon as the answer is known: who takes it in by drops holds nobody up either.
  app.addHook('onSend', async (request) => done(request));
  app.addHook('onResponse', async (request) => done(request));
  app.addHook('onRequestAbort', async (request) => done(request));
}

/** How this server behaves towards any client of HTTP, whatever is asked: what may be kept, which methods there are, how long a request may take. */
import type { ServerOptions } from 'node:http';
import type { Socket } from 'node:net';
import type { FastifyError, FastifyInstance, FastifyReply, FastifyRequest, FastifyServerOptions } from 'fastify';
import { Problem } from './problems.js';

// split()[]!: splitting gives one part at least.

/** A request that takes longer to arrive is cut; an import of 64 MB from this machine takes seconds, ms. */
const WHOLE_REQUEST_MS = 60_000;
const HEADERS_MS = 10_000;
/** How often connections are looked over for those that are late, ms. */
const LOOK_MS = 2_000;

export function answer(reply: FastifyReply, problem: Problem): FastifyReply {
  // A socket that is refused its upgrade belongs to no server any more: nobody else would end it.
  const { raw } = reply.request;
  if (raw.headers.upgrade) reply.header('connection', 'close').raw.once('finish', () => raw.socket.destroySoon());
  if (problem.more.retryAfter !== undefined) reply.header('retry-after', problem.more.retryAfter);
  return reply.code(problem.status).header('content-type', 'application/problem+json').send(JSON.stringify(problem));
}

/** A request so broken that it never became one. */
function brokenRequest(error: Error & { code?: string }, socket: Socket): void {
  if (error.code === 'ECONNRESET' || socket.destroyed || !socket.writable) return;
  const slow = error.code === 'ERR_HTTP_REQUEST_TIMEOUT';
  const large = error.code === 'HPE_HEADER_OVERFLOW';
  const problem = slow
    ? new Problem('too-slow', 'The request took too long to arrive.')
    : new Problem('bad-input', large ? 'The headers of this request are too long.' : 'This is no well-formed request.');
  const body = JSON.stringify(problem);
  socket.end(
    `HTTP/1.1 ${problem.status} ${slow ? 'Request Timeout' : 'Bad Request'}\r\ncontent-type: application/problem+json\r\ncontent-length: ${Buffer.byteLength(body)}\r\ncache-control: no-store\r\nconnection: close\r\n\r\n${body}`,
  );
}

/** What the server is told when it is made. */
export const httpLimits = {
  requestTimeout: WHOLE_REQUEST_MS,
  // A connection that lingers does not keep a server from ending.
  forceCloseConnections: true,
  http: { headersTimeout: HEADERS_MS, connectionsCheckingInterval: LOOK_MS },
  clientErrorHandler: brokenRequest,
  frameworkErrors: (_error: FastifyError, _request: FastifyRequest, reply: FastifyReply) =>
    void answer(reply, new Problem('bad-input', 'This address cannot be read.')),
} satisfies FastifyServerOptions & { http: ServerOptions };

/**
 * Answers of the interface are kept by nobody unless a route says otherwise; a method an address does not have is
 * answered with those it has. To be called before any route is added.
 */
export function httpRules(app: FastifyInstance): { readonly allowed: (url: string) => readonly string[] } {
  const routes: { readonly pattern: RegExp; readonly methods: readonly string[] }[] = [];
  app.addHook('onRoute', ({ url, method }) => {
    const pattern = new RegExp(`^${url.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/:[A-Za-z]+/g, '[^/]+')}$`);
    routes.push({ pattern, methods: [method].flat() });
  });
  app.addHook('onSend', async (request, reply) => {
    if (request.url.startsWith('/api/') && !reply.hasHeader('cache-control')) reply.header('cache-control', 'no-store');
  });
  return {
    allowed: (url) => {
      const path = url.split('?')[0]!;
      return [...new Set(routes.filter((r) => r.pattern.test(path)).flatMap((r) => r.methods))].sort();
    },
  };
}

import { existsSync } from 'node:fs';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import websocket from '@fastify/websocket';
import Fastify, { type FastifyInstance } from 'fastify';
import { createJsonSchemaTransform } from 'fastify-type-provider-zod';
import { readBySchema } from './checked.js';
import type { Database } from './db/database.js';
import { aroundRoutes, divert } from './around.js';
import { answer, httpRules, httpLimits } from './http.js';
import { Problem, fromDatabase } from './problems.js';
import type { Pictures } from './pictures.js';
import { createHub } from './bench/hub.js';
import { openPairings } from './bench/pairing.js';
import type { Backups } from './backup/backups.js';
import { guardDoor } from './door/door.js';
import type { Keys } from './door/keys.js';
import { keepHouse } from './housekeeping.js';
import { careRoutes } from './routes/care.js';
import type { Room } from './space.js';
import { PROGRAM, type Health } from '@alluvium/records';
import { arrivalRoutes } from './routes/arrival.js';
import { shopRoutes } from './routes/shop.js';
import { benchRoutes } from './routes/bench.js';
import { bundleRoutes } from './routes/bundle.js';
import { changeRoutes } from './routes/changes.js';
import { claimRoutes } from './routes/claims.js';
import { correctionRoutes } from './routes/corrections.js';
import { feedRoutes } from './routes/feed.js';
import { cutRoutes } from './routes/cuts.js';
import { dynoRoutes } from './routes/dyno.js';
import { headRoutes } from './routes/heads.js';
import { lineupRoutes } from './routes/lineup.js';
import { nounRoutes } from './routes/nouns.js';
import { reportRoutes } from './routes/report.js';
import { secure } from './security.js';
import { HANDSHAKE_MS, answerPlainHttp, type Tls } from './tls.js';
import { takeTurns } from './turns.js';

// split()[]!: splitting gives one part at least.

export interface AppOptions {
  readonly db: Database;
  readonly pictures: Pictures;
  /** The key of the stand-ins that this process starts itself. */
  readonly standInsKey?: string;
  /** Folder of the built web application; without it only the API answers. */
  readonly web?: string;
  /** Host names answered to; undefined lifts the check (tests that inject requests). */
  readonly hosts?: () => Set<string> | undefined;
  readonly log?: boolean;
  /** What every route and socket asks for; undefined where only this machine is served. */
  readonly keys?: Keys;
  readonly tls?: Tls;
  readonly backups?: Backups;
  readonly room?: Room;
  /** Makes the demo that can be looked around in; without it nobody looks around. */
  readonly around?: () => Promise<FastifyInstance>;
  /** This is that demo: whatever comes here is meant for it. */
  readonly isDemo?: boolean;
}

const BODY_LIMIT = 4 * 1024 * 1024;

/** The whole server, not yet listening. */
export async function createApp({
  db,
  pictures,
  standInsKey,
  web,
  hosts = () => undefined,
  log = false,
  keys,
  tls,
  backups,
  room,
  around,
  isDemo = false,
}: AppOptions): Promise<FastifyInstance> {
  const hub = createHub(await openPairings(db, standInsKey));
  const app = Fastify({
    logger: log && { level: 'warn' },
    bodyLimit: BODY_LIMIT,
    ...httpLimits,
    ...(tls ? { https: { ...tls, ...httpLimits.http, handshakeTimeout: HANDSHAKE_MS } } : {}),
    routerOptions: { maxParamLength: 100 },
  });
  if (tls) answerPlainHttp(app.server);
  const house = keepHouse(db, pictures, backups, room, (error) => app.log.error(error));
  const { allowed } = httpRules(app);
  app.setValidatorCompiler(readBySchema);
  app.setSerializerCompiler(() => (data) => JSON.stringify(data));

  app.setErrorHandler((error: Error & { code?: string; statusCode?: number }, request, reply) => {
    const problem = asProblem(error);
    if (problem.id === 'broken') request.log.error(error);
    if (problem.id === 'damaged') house.suspect();
    return answer(reply, problem);
  });
  app.setNotFoundHandler((request, reply) => {
    const page = !request.url.startsWith('/api/');
    const asked = request.method === 'GET' || request.method === 'HEAD';
    if (web && page && asked && !/\.\w+$/.test(request.url.split('?')[0]!)) return reply.sendFile('index.html');
    const methods = page && web ? ['GET', 'HEAD'] : allowed(request.url);
    return methods.length > 0 && !methods.includes(request.method)
      ? answer(
          reply.header('allow', methods.join(', ')),
          new Problem('no-method', `This address takes ${methods.join(', ')} only.`),
        )
      : answer(reply, new Problem('not-found', 'There is nothing at this address.'));
  });

  // In this order, for every request and socket: whose page asks, who is let in, which library it asks for, whose turn it is.
  await secure(app, { hosts, tls: tls !== undefined });
  if (keys) guardDoor(app, keys, tls !== undefined);
  if (!isDemo) divert(app, around);
  takeTurns(app);
  // An open page looks at the health once a minute: with that alone the library is idle all the same.
  app.addHook('onRequest', async (request) => {
    if (request.url !== '/api/health') house.asked();
  });
  app.addHook('preClose', async () => house.stop());
  await app.register(swagger, {
    openapi: {
      info: {
        title: 'Alluvium',
        description: 'The server’s own interface; errors are RFC 9457 problem+json.',
        version: PROGRAM,
      },
    },
    transform: createJsonSchemaTransform({ zodToJsonConfig: { unrepresentable: 'any' } }),
  });

  app.register(async (api) => {
    api.get(
      '/api/health',
      {
        schema: { tags: ['server'], summary: 'Whether the server and its database answer' },
        config: { noTurn: true },
      },
      async (_, reply): Promise<Health> => {
        await db.query('select 1');
        const damage = [
          ...(house.lastCheck()?.damage ?? []),
          ...(backups?.missing() ?? []).map((name) => `The newest backup lacks the photo “${name}”.`),
        ];
        if (damage.length > 0) return { status: 'damaged', detail: damage.join(' ') };
        const trouble = db.trouble?.();
        if (!trouble) return { status: 'ok' };
        reply.code(trouble.status);
        return { status: trouble.id === 'no-room' ? 'full' : 'gone', detail: trouble.message };
      },
    );
    api.get('/api/openapi.json', { schema: { hide: true } }, () => app.swagger());
    changeRoutes(api, db);
    await api.register(websocket, { options: { maxPayload: 64 * 1024 } });
    await feedRoutes(api, db);
    await claimRoutes(api, db);
    correctionRoutes(api, db);
    headRoutes(api, db);
    shopRoutes(api, db);
    aroundRoutes(api, around);
    cutRoutes(api, db);
    reportRoutes(api, db);
    dynoRoutes(api, db);
    lineupRoutes(api, db);
    bundleRoutes(api, db, pictures, { ...(backups ? { backups } : {}), ...(room ? { room } : {}) });
    careRoutes(api, house, backups, () => room?.free() ?? null, keys !== undefined);
    arrivalRoutes(api, db, pictures, room);
    benchRoutes(api, db, hub);
    nounRoutes(api, db);
  });

  app.addHook('preClose', async () => hub.close());

  if (web && existsSync(web)) {
    await app.register(fastifyStatic, {
      root: web,
      cacheControl: false,
      setHeaders: (reply, path) =>
        void reply.setHeader(
          'cache-control',
          path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
        ),
    });
  }
  return app;
}

function asProblem(error: Error & { code?: string; statusCode?: number }): Problem {
  if (error instanceof Problem) return error;
  if (error.code === 'FST_ERR_CTP_BODY_TOO_LARGE')
    return new Problem('too-large', 'This file is too large: 64 MB at most for an import, 4 MB for anything else.');
  if (
    error.code === 'FST_ERR_CTP_INVALID_JSON_BODY' ||
    error.code === 'FST_ERR_CTP_EMPTY_JSON_BODY' ||
    error instanceof SyntaxError
  )
    return new Problem('bad-input', 'This is not well-formed JSON.');
  if (error.code === 'FST_ERR_CTP_INVALID_MEDIA_TYPE') return new Problem('bad-input', 'Send JSON.');
  const refused = fromDatabase(error);
  if (refused) return refused;
  if (error.statusCode && error.statusCode < 500) return new Problem('bad-input', error.message);
  return new Problem(
    'broken',
    'The server failed on this; nothing was written. Try again, and keep the log if it happens twice.',
  );
}

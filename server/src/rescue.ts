import { existsSync } from 'node:fs';
import fastifyStatic from '@fastify/static';
import { NOUN_NAMES, writeBundle, type Noun, type RecordOf, type Rescue } from '@alluvium/records';
import Fastify, { type FastifyInstance } from 'fastify';
import { isSound, listBackups } from './backup/read.js';
import type { Damage } from './damage.js';
import type { Database } from './db/database.js';
import { guardDoor } from './door/door.js';
import type { Keys } from './door/keys.js';
import { answer, httpRules, httpLimits } from './http.js';
import { Problem } from './problems.js';
import { putBack } from './routes/care.js';
import { toRecord } from './rows.js';
import { secure } from './security.js';
import { HANDSHAKE_MS, answerPlainHttp, type Tls } from './tls.js';

// backups!: those listed lie there.

export interface RescueOptions {
  readonly damage: readonly Damage[];
  /** What can still be asked, where the database opens at all. */
  readonly db: Database | undefined;
  /** Folder of the backups; undefined where there are none. */
  readonly backups: string | undefined;
  readonly web?: string;
  readonly hosts: () => Set<string> | undefined;
  readonly keys?: Keys;
  readonly tls?: Tls;
  /** Puts the damaged library aside and a backup in its place; null begins an empty one. */
  readonly restore: (name: string | null, onProgress: (done: number, of: number) => void) => Promise<readonly string[]>;
  /** Newest step of the schema this program knows. */
  readonly newest: number;
}

/** What of a damaged database can still be read: whole tables, else row by row. */
async function salvage(db: Database): Promise<{ readonly [N in Noun]?: RecordOf<N>[] }> {
  const records: { [N in Noun]?: RecordOf<N>[] } = {};
  for (const noun of NOUN_NAMES) {
    const found: unknown[] = [];
    try {
      found.push(...(await db.query<object>(`select * from ${noun}`)).map((r) => toRecord(r)));
    } catch {
      const ids = await db.query<{ id: string }>(`select id from ${noun}`).catch(() => []);
      for (const { id } of ids) {
        const rows = await db.query<object>(`select * from ${noun} where id = $1`, [id]).catch(() => []);
        for (const row of rows) found.push(toRecord(row));
      }
    }
    records[noun] = found as never;
  }
  return records;
}

/**
 * The server of a damaged library: it says what is damaged, serves none of it as if it were whole, and offers what can
 * still be read and the backups that are sound.
 */
export async function createRescue(options: RescueOptions): Promise<FastifyInstance> {
  const { damage, db, backups, web } = options;
  const app = Fastify({
    ...httpLimits,
    ...(options.tls ? { https: { ...options.tls, ...httpLimits.http, handshakeTimeout: HANDSHAKE_MS } } : {}),
    logger: { level: 'warn' },
  });
  if (options.tls) answerPlainHttp(app.server);
  const { allowed } = httpRules(app);
  app.setErrorHandler((error, request, reply) => {
    if (!(error instanceof Problem)) request.log.error(error);
    return answer(reply, error instanceof Problem ? error : new Problem('bad-input', (error as Error).message));
  });
  await secure(app, { hosts: options.hosts, tls: options.tls !== undefined });
  if (options.keys) guardDoor(app, options.keys, options.tls !== undefined);
  app.setNotFoundHandler((request, reply) => {
    if (allowed(request.url).length > 0) return answer(reply, new Problem('no-method', 'Not done this way.'));
    if (web && request.method === 'GET' && !request.url.startsWith('/api/')) return reply.sendFile('index.html');
    return answer(
      reply,
      new Problem('rescue', 'The library is damaged. Nothing of it is served until it is put right.'),
    );
  });
  app.get('/api/health', async () => ({ status: 'damaged', detail: damage.join(' ') }));

  let busy = false;
  app.get('/api/rescue', async (): Promise<Rescue> => {
    const all = backups === undefined ? [] : await listBackups(backups);
    const sound = [];
    for (const m of all.slice(0, 10)) {
      sound.push({
        name: m.name,
        made: m.made,
        reason: m.reason,
        heads: m.counts.head ?? 0,
        sound: await isSound(backups!, m),
        newer: m.schema > options.newest,
      });
    }
    const readable = db ? await salvage(db) : {};
    return {
      damage: [...damage],
      backups: sound,
      readable: NOUN_NAMES.map((noun) => ({ noun, records: readable[noun]?.length ?? 0 })).filter((r) => r.records > 0),
    };
  });
  app.get('/api/rescue/readable', async (_, reply) => {
    if (!db) throw new Problem('refused', 'Nothing of this library can be read.');
    return reply
      .header('content-type', 'application/json; charset=utf-8')
      .header('content-disposition', 'attachment; filename="alluvium-readable.json"')
      .send(writeBundle(await salvage(db)));
  });
  app.post('/api/rescue/restore', async (request, reply) => {
    const { name } = (request.body ?? {}) as { name?: unknown };
    if (name !== null && typeof name !== 'string')
      throw new Problem('bad-input', 'Say which backup is to be put back.');
    if (busy) throw new Problem('busy', 'A backup is being put back already.');
    busy = true;
    const lines = putBack(
      (onProgress) => options.restore(name, onProgress).finally(() => (busy = false)),
      (error) => request.log.error(error),
    );
    return reply.header('content-type', 'application/x-ndjson').send(lines);
  });
  if (web && existsSync(web)) await app.register(fastifyStatic, { root: web, cacheControl: false });
  return app;
}

import { sayIn } from '@alluvium/core';
import {
  BAND_PIPES,
  HEAD_CLASSES,
  Id,
  SideName,
  auditCells,
  auditHeading,
  auditLine,
  claimRows,
  contextOf,
  toCsv,
  type AuditLine,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { Readable } from 'node:stream';
import { z } from 'zod';
import { netHeads } from '../claims/heads.js';
import { createClaimKeeper, type AuditEntry } from '../claims/keeper.js';
import type { Database } from '../db/database.js';
import { Problem } from '../problems.js';
import { touchedBy } from '../store.js';

/** How long a page waits for a library that is still being read, ms; then it is told how far it is. */
const WAIT = 300;
/** Points drawn behind a claim at most. */
const CLOUD = 1_200;
/** Heads our bench could test, weighed against each other at most. */
const CANDIDATES = 200;
const PAGE = 50;

const pipe = z.enum(BAND_PIPES);
const System = z.enum(['inch', 'metric']).default('inch');
const Asks = z.object({
  asks: z
    .array(
      z.object({ side: SideName, pipe, liftRatio: z.number().min(0).max(10), coefficient: z.number().min(0).max(100) }),
    )
    .max(20_000, 'Ask for 20,000 places of the band at most.'),
});
const FamilyAsks = z.object({
  class: z.enum(HEAD_CLASSES).default('unknown'),
  asks: z
    .array(z.object({ side: SideName, pipe, liftRatio: z.number().min(0).max(10) }))
    .max(1_000, 'Ask for 1,000 lifts at most.'),
});
const AuditQuery = z.object({
  system: System,
  source: z.string().max(200).optional(),
  doubtful: z.enum(['yes', 'no']).default('no'),
  page: z.coerce.number().int().min(1).max(100_000).default(1),
});
type AuditQuery = z.infer<typeof AuditQuery>;

/** Claims held against the whole library: what a page needs of it, never the library itself. */
export async function claimRoutes(app: FastifyInstance, db: Database): Promise<void> {
  const tags = ['claims'];
  const keeper = createClaimKeeper(db);
  const { library } = keeper;
  // A page that changed something asks at once: what it changed is taken in before it is answered.
  let heard = Promise.resolve();
  const stop = await db.listen('change', (payload) => {
    heard = heard
      .then(async () => keeper.touched(await touchedBy(db, Number(payload))))
      .catch((error: unknown) => app.log.error(error));
  });
  const ready = async () => {
    await heard;
    await keeper.ready(WAIT);
  };
  app.addHook('onClose', async () => {
    keeper.close();
    await stop();
  });

  app.get(
    '/api/claims/standing',
    {
      schema: {
        tags,
        summary: 'Our own bench, what its pulls say, what a pipe is worth, and how far the library is read',
      },
    },
    async () => {
      await ready();
      const { own, judging } = await keeper.facts();
      return {
        ...keeper.standing(),
        own: own ?? null,
        pulls: library.pulls(),
        pipe: library.pipe() ?? null,
        shop: judging.shop,
      };
    },
  );

  app.post<{ Body: z.infer<typeof Asks> }>(
    '/api/claims/band',
    { schema: { tags, summary: 'Where coefficients stand among all measured heads at their lift ratios', body: Asks } },
    async ({ body }) => {
      await ready();
      return {
        ...keeper.standing(),
        views: body.asks.map((a) => library.band(a.side, a.pipe)(a.liftRatio, a.coefficient)),
      };
    },
  );

  app.post<{ Body: z.infer<typeof FamilyAsks> }>(
    '/api/claims/family',
    { schema: { tags, summary: 'What heads of a class have at lift ratios of their valves', body: FamilyAsks } },
    async ({ body }) => {
      await ready();
      return {
        ...keeper.standing(),
        views: body.asks.map((a) => library.family(a.side, a.pipe, body.class)(a.liftRatio)),
      };
    },
  );

  app.get<{ Querystring: { side: 'intake' | 'exhaust'; pipe: (typeof BAND_PIPES)[number] } }>(
    '/api/claims/cloud',
    {
      schema: {
        tags,
        summary: `Measured coefficients of the library to draw, thinned to ${CLOUD}`,
        querystring: z.object({ side: SideName, pipe: pipe.default('any') }),
      },
    },
    async ({ query }) => {
      await ready();
      return library.cloud(query.side, query.pipe, CLOUD).map((p) => [p.liftRatio, p.coefficient]);
    },
  );

  const NetQuery = z.object({
    side: SideName,
    from: z.coerce.number().min(0).default(0),
    to: z.coerce.number().min(0).optional(),
    without: Id.optional(),
  });
  app.get<{ Querystring: z.infer<typeof NetQuery> }>(
    '/api/claims/net',
    { schema: { tags, summary: 'The net of sources of one side, ready to be solved', querystring: NetQuery } },
    async ({ query: { side, from, to, without } }) => {
      await ready();
      const { own } = await keeper.facts();
      if (!own) throw new Problem('refused', 'Name your own bench as a source first.');
      const net = library.net(own, side, { lifts: { from, to: to ?? Infinity }, without });
      const candidates = [...net.candidates]
        .sort((a, b) => b.points.length - a.points.length || a.name.localeCompare(b.name))
        .slice(0, CANDIDATES);
      return { ...keeper.standing(), ...net, candidates };
    },
  );

  app.get<{ Querystring: { source: string; side: 'intake' | 'exhaust' } }>(
    '/api/claims/catalogue',
    {
      schema: {
        tags,
        summary: 'The tables one source gives, by name, at most 200, and how many there are',
        querystring: z.object({ source: Id, side: SideName }),
      },
    },
    async ({ query: { source, side } }) => {
      await ready();
      const all = library.tables(source, side).sort((a, b) => a.name.localeCompare(b.name));
      return { total: all.length, items: all.slice(0, 200) };
    },
  );

  const chosen = (entries: readonly AuditEntry[], { source, doubtful }: AuditQuery) =>
    entries.filter((e) => (!source || e.source === source) && (doubtful === 'no' || e.doubtful));

  /** The lines of these entries, judged with their words in the units asked for. */
  async function rowsOfEntries(entries: readonly AuditEntry[], system: AuditQuery['system']) {
    const { own, sources, tolerances, builds, judging } = await keeper.facts();
    const context = contextOf(library, own, sayIn(system), { ...judging, sources });
    const rows = new Map(
      (await netHeads(db, [...new Set(entries.map((e) => e.headId))])).flatMap((head) =>
        claimRows([head], sources, context, { tolerances, builds, judging }).map((r) => [r.key, r] as const),
      ),
    );
    return entries.flatMap((e) => rows.get(e.key) ?? []);
  }

  app.get<{ Querystring: AuditQuery }>(
    '/api/claims/audit',
    { schema: { tags, summary: `Every claim judged, ${PAGE} a page, with counts by source`, querystring: AuditQuery } },
    async ({ query }) => {
      await heard;
      const { entries, standing } = await keeper.audit(WAIT);
      const counts = new Map<string, { total: number; doubtful: number }>();
      for (const e of entries) {
        const at = counts.get(e.source) ?? { total: 0, doubtful: 0 };
        counts.set(e.source, { total: at.total + 1, doubtful: at.doubtful + (e.doubtful ? 1 : 0) });
      }
      const all = chosen(entries, query);
      const page = all.slice((query.page - 1) * PAGE, query.page * PAGE);
      return {
        ...standing,
        total: all.length,
        size: PAGE,
        sources: [...counts].map(([name, c]) => ({ name, ...c })),
        lines: (await rowsOfEntries(page, query.system)).map((r): AuditLine => auditLine(r)),
      };
    },
  );

  const Heads = z.object({ heads: z.string().max(4000).default('') });
  app.get<{ Querystring: z.infer<typeof Heads> }>(
    '/api/claims/doubtful',
    {
      schema: { tags, summary: 'How many claims about these heads are worth a second look', querystring: Heads },
    },
    async ({ query }) => {
      await ready();
      const { own, sources, tolerances, builds, judging } = await keeper.facts();
      const context = contextOf(library, own, sayIn('inch'), { ...judging, sources });
      const heads = await netHeads(db, query.heads.split(',').filter(Boolean).slice(0, 60));
      const rows = claimRows(heads, sources, context, { tolerances, builds, judging });
      return { ...keeper.standing(), count: rows.filter((r) => r.doubtful).length };
    },
  );

  app.get<{ Querystring: AuditQuery }>(
    '/api/claims/audit.csv',
    { schema: { tags, summary: 'The whole audit as CSV', querystring: AuditQuery } },
    async ({ query }, reply) => {
      const all = chosen((await keeper.audit(120_000)).entries, query);
      async function* parts() {
        yield toCsv([auditHeading]);
        for (let i = 0; i < all.length; i += PAGE) {
          const cells = auditCells(await rowsOfEntries(all.slice(i, i + PAGE), query.system), query.system);
          if (cells.length) yield toCsv(cells).replace(/^\uFEFF/, '');
        }
      }
      return reply
        .header('content-type', 'text/csv; charset=utf-8')
        .header('content-disposition', 'attachment; filename="claims.csv"')
        .send(Readable.from(parts()));
    },
  );
}

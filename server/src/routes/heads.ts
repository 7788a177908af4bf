import {
  besidePair,
  describedAs,
  HeadQuery,
  Id,
  LIST_KEYS,
  OF_HEAD,
  type Head,
  type HeadPage,
  type HeadSummary,
  type Sheet,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database, Queries } from '../db/database.js';
import { Problem } from '../problems.js';
import { JSON_TYPE, remembering } from '../remembered.js';
import { toRecord } from '../store.js';

// wholes.get()!, headOf.get()!: heads that were found, and their stages.
// row!, rows[]!, r.written!: one row comes back; a sheet was written.

/** One question for all of it: the database answers one at a time, and fourteen would keep everybody else waiting. */
const WHOLE = `select (select json_agg(x) from head x where x.id = any($1)) as heads,
${OF_HEAD.map((noun) => {
  const { key, of, order } = describedAs(noun);
  const whose = of === 'head' ? 'x.head_id = any($1)' : 'x.stage_id in (select id from stage where head_id = any($1))';
  return `(select json_agg(x order by ${order}) from ${noun} x where ${whose}) as "${key}"`;
}).join(',\n')}`;

/** Heads with everything that hangs on them, by id, each with the other head of its engine. */
export async function wholeHeads(db: Queries, ids: readonly string[]): Promise<Map<string, WholeHead>> {
  const paired = await db.query<{ id: string; pair: string }>(
    `select h.id, coalesce(h.pair_of, o.id) as pair from head h left join head o on o.pair_of = h.id
     where h.id = any($1) and coalesce(h.pair_of, o.id) is not null`,
    [ids],
  );
  const wholes = await unpaired(db, [...new Set([...ids, ...paired.map((p) => p.pair)])]);
  const found = new Map(ids.flatMap((id) => (wholes.has(id) ? [[id, wholes.get(id)!] as const] : [])));
  for (const { id, pair } of paired) found.set(id, besidePair(wholes.get(id)!, wholes.get(pair)!));
  return found;
}

async function unpaired(db: Queries, ids: readonly string[]): Promise<Map<string, WholeHead>> {
  const [row] = await db.query<Record<string, readonly object[] | null>>(WHOLE, [ids]);
  const listOf = <T>(key: string) => (row![key] ?? []).map((r) => toRecord<T>(r));
  const stages = listOf<Stage>('stages');
  const headOf = new Map(stages.map((s) => [s.id, s.headId]));
  /** Records of one list, by head. */
  const byHead = (key: string): Map<string, object[]> => {
    const found = new Map<string, object[]>();
    for (const record of listOf<{ headId?: string; stageId: string }>(key)) {
      const id = record.headId ?? headOf.get(record.stageId)!;
      const list = found.get(id);
      if (list) list.push(record);
      else found.set(id, [record]);
    }
    return found;
  };
  const lists = OF_HEAD.map((noun) => [LIST_KEYS[noun], byHead(LIST_KEYS[noun])] as const);
  return new Map(
    listOf<Head>('heads').map((head) => [
      head.id,
      { head, ...Object.fromEntries(lists.map(([key, found]) => [key, found.get(head.id) ?? []])) } as WholeHead,
    ]),
  );
}

const ORDER = {
  name: 'lower(h.name), h.id',
  maker: 'lower(h.maker), lower(h.name), h.id',
  price: "(h.price ->> 'si')::float8 nulls last, h.id",
} as const;

interface Written {
  readonly id: string;
  /** The transaction that wrote the row: the same row as long as it is the same. */
  readonly written: string;
}
type SheetsOf = (asked: readonly Written[]) => Promise<ReadonlyMap<string, Sheet>>;

/** Sheets kept at most, some 5 kB each. */
const MOST_SHEETS = 4000;

/** Sheets by id; those that were asked for before and not written since are not read again. */
function sheetCache(db: Queries): SheetsOf {
  const kept = new Map<string, Sheet>();
  return async (asked) => {
    const key = ({ id, written }: Written) => `${id} ${written}`;
    if (kept.size > MOST_SHEETS) kept.clear();
    const found = new Map<string, Sheet>();
    for (const a of asked) {
      const known = kept.get(key(a));
      if (known) found.set(a.id, known);
    }
    const unread = asked.filter((a) => !found.has(a.id));
    if (unread.length > 0) {
      const rows = await db.query<{ xmin: string }>(
        'select x.xmin::text as xmin, x.* from sheet x where x.id = any($1)',
        [unread.map((a) => a.id)],
      );
      for (const { xmin, ...row } of rows) {
        const sheet = toRecord<Sheet>(row);
        kept.set(key({ id: sheet.id, written: xmin }), sheet);
        found.set(sheet.id, sheet);
      }
    }
    return found;
  };
}

/** One page of the library. The sheet shown is the newest of the furthest stage, a measured one before a claim. */
async function headPage(db: Queries, q: HeadQuery, sheetsOf: SheetsOf): Promise<HeadPage> {
  const conditions: string[] = [];
  const parameters: unknown[] = [];
  const where = (sql: string, value: unknown) => conditions.push(sql.replace('?', `$${parameters.push(value)}`));
  for (const word of q.search.toLowerCase().split(/\s+/).filter(Boolean)) {
    where(
      "lower(h.name || ' ' || h.maker || ' ' || h.catalogue_number) like '%' || ? || '%'",
      word.replace(/[\\%_]/g, '\\$&'),
    );
  }
  if (q.kind) where('h.kind = ?', q.kind);
  if (q.material) where('h.material = ?', q.material);
  if (q.tag) where('h.tags @> to_jsonb(?::text)', q.tag);
  where('h.archived = ?', q.archived === 'only');
  if (q.valves) where('h.intake_valves + h.exhaust_valves = ?', q.valves);
  const filter = conditions.length ? `where ${conditions.join(' and ')}` : '';
  const rows = await db.query<{
    total: number;
    head: object | null;
    stages: number;
    sheets: number;
    stage: object | null;
    sheet: string | null;
    written: string | null;
    intake: unknown;
    exhaust: unknown;
  }>(
    // The whole library is gone through for the narrow columns it is sorted by; only one page of it is read.
    `with hits as materialized (select h.id, h.name, h.maker, h.price from head h ${filter}),
     page as (select h.id, row_number() over (order by ${ORDER[q.sort]}) as place from hits h
              order by place limit ${q.size} offset ${(q.page - 1) * q.size})
     select c.total, to_json(h) as head, to_json(s) as stage, f.id as sheet, f.xmin::text as written, v.intake, v.exhaust,
       (select count(*)::int from stage t where t.head_id = p.id) as stages,
       (select count(*)::int from stage t join sheet x on x.stage_id = t.id where t.head_id = p.id) as sheets
     from (select count(*)::int as total from hits) c
     left join page p on true
     left join head h on h.id = p.id
     left join lateral (
       select * from stage t where t.head_id = p.id order by t.position desc, t.id limit 1
     ) s on true
     left join lateral (
       select x.id, x.xmin from stage t join sheet x on x.stage_id = t.id where t.head_id = p.id
       order by t.position desc, x.kind desc, x.date desc nulls last, x.entered desc limit 1
     ) f on true
     left join lateral (
       select (array_agg(m.value order by t.position desc) filter (where m.side = 'intake'))[1] as intake,
              (array_agg(m.value order by t.position desc) filter (where m.side = 'exhaust'))[1] as exhaust
       from stage t join measure m on m.stage_id = t.id where t.head_id = p.id and m.item = 'valve diameter'
     ) v on true
     order by p.place`,
    parameters,
  );
  const sheets = await sheetsOf(rows.flatMap((r) => (r.sheet === null ? [] : [{ id: r.sheet, written: r.written! }])));
  return {
    total: rows[0]!.total,
    items: rows.flatMap((r): HeadSummary[] =>
      r.head === null
        ? []
        : [
            {
              head: toRecord<Head>(r.head),
              stages: r.stages,
              sheets: r.sheets,
              latestStage: r.stage && toRecord<Stage>(r.stage),
              sheet: r.sheet === null ? null : (sheets.get(r.sheet) ?? null),
              valves: { intake: r.intake, exhaust: r.exhaust },
            },
          ],
    ),
  };
}

/** The library, and one head whole. */
export function headRoutes(app: FastifyInstance, db: Database): void {
  const remember = remembering(db);
  const sheetsOf = sheetCache(db);
  app.get(
    '/api/library',
    { schema: { tags: ['head'], summary: 'One page of the library: search, filter, sort', querystring: HeadQuery } },
    async (request, reply) =>
      reply
        .type(JSON_TYPE)
        .send(
          await remember(request.url, async () =>
            JSON.stringify(await headPage(db, request.query as HeadQuery, sheetsOf)),
          ),
        ),
  );

  app.get<{ Params: { id: string } }>(
    '/api/head/:id/whole',
    {
      schema: {
        tags: ['head'],
        summary: 'A head with its stages, ports, flow sheets and measures',
        params: z.object({ id: Id }),
      },
    },
    async ({ params: { id } }, reply) => {
      const text = await remember(`whole ${id}`, async () => {
        const whole = (await wholeHeads(db, [id])).get(id);
        if (!whole) throw new Problem('not-found', 'There is no such head.');
        return JSON.stringify(whole);
      });
      return reply.type(JSON_TYPE).send(text);
    },
  );
}

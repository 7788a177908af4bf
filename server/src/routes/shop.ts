import { NOUN_WORDS, type Build, type Noun, type ShopView, type TagsView } from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import type { Database } from '../db/database.js';
import { JSON_TYPE, remembering } from '../remembered.js';
import { toRecord } from '../store.js';

// row!: one row comes back, whatever is there.

/** Heads changed last that are told of, and rows of the log looked back to for them. */
const CHANGED = 10;
const LOOKED_BACK = 3000;

/** One question for all of it; what changed is read from the log, by the head each record belongs to. */
const SHOP = `
with log as (select * from change order by id desc limit ${LOOKED_BACK}),
told as (
  select l.at, l.noun, case when l.noun = 'head' then l.record
    else coalesce(l.row ->> 'head_id', s.head_id) end as head
  from (select at, noun, record, coalesce(after, before) as row from log) l
  left join stage s on s.id = l.row ->> 'stage_id'
),
latest as (
  select h.id, h.name, max(t.at) as at,
    (select json_agg(distinct u.noun) from told u where u.head = h.id and u.at > max(t.at) - interval '1 day') as nouns
  from told t join head h on h.id = t.head group by h.id, h.name order by max(t.at) desc, h.name limit ${CHANGED}
)
select
  (select json_agg(json_build_object('build', b,
     'heads', (select count(*) from lineup l where l.build_id = b.id),
     'decided', (select max(d.made) from decision d where d.build_id = b.id)) order by b.due nulls last, b.name, b.id)
   from build b) as builds,
  (select json_agg(json_build_object('id', s.id, 'title', s.title, 'date', s.date, 'headId', h.id, 'head', h.name,
     'readings', (select count(*) from reading r where r.session_id = s.id)) order by s.date desc nulls last, s.id)
   from session s join head h on h.id = s.head_id where not s.finished) as sessions,
  (select json_agg(w order by w.mend desc, w.open desc, w.head) from (
     select h.id as "headId", h.name as head,
       (select count(*) from inspection i where i.head_id = h.id and i.state in ('open', 'unsure')) as open,
       (select count(*) from finding f where f.head_id = h.id and f.severity <> 'note' and f.mended_stage_id is null) as mend
     from head h where not h.archived) w where w.open > 0 or w.mend > 0) as waiting,
  (select json_agg(json_build_object('id', q.id, 'text', q.text, 'headId', q.head_id) order by q.opened nulls last, q.id)
   from question q where q.state = 'open') as questions,
  (select json_agg(json_build_object('headId', id, 'head', name, 'at', at, 'nouns', nouns) order by at desc, name)
   from latest) as changed,
  (select count(*)::int from head) as heads`;

type Row = { readonly [K in Exclude<keyof ShopView, 'heads' | 'builds' | 'changed'>]: ShopView[K] | null } & {
  readonly changed:
    | readonly {
        readonly headId: string;
        readonly head: string;
        readonly at: string;
        readonly nouns: readonly Noun[];
      }[]
    | null;
  readonly builds:
    readonly { readonly build: object; readonly heads: number; readonly decided: string | null }[] | null;
  readonly heads: number;
};

/** The page the shop opens with. */
export function shopRoutes(app: FastifyInstance, db: Database): void {
  const remember = remembering(db);
  app.get(
    '/api/shop',
    {
      schema: {
        tags: ['shop'],
        summary: 'What is going on: engines, open tests and questions, heads that wait, what changed last',
      },
    },
    async (_, reply) =>
      reply.type(JSON_TYPE).send(
        await remember('shop', async () => {
          const [row] = await db.query<Row>(SHOP);
          const { builds, sessions, waiting, questions, changed, heads } = row!;
          const view: ShopView = {
            builds: (builds ?? []).map((b) => ({ ...b, build: toRecord<Build>(b.build) })),
            sessions: sessions ?? [],
            waiting: waiting ?? [],
            questions: questions ?? [],
            changed: (changed ?? []).map(({ nouns, ...c }) => ({ ...c, what: nouns.map((n) => NOUN_WORDS[n].many) })),
            heads,
          };
          return JSON.stringify(view);
        }),
      ),
  );
  app.get(
    '/api/tags',
    { schema: { tags: ['shop'], summary: 'Every tag in use, and on how many heads' } },
    async (_, reply) =>
      reply.type(JSON_TYPE).send(
        await remember('tags', async () => {
          const tags: TagsView = await db.query(
            'select tag, count(*)::int as heads from head h, jsonb_array_elements_text(h.tags) tag group by tag order by tag',
          );
          return JSON.stringify(tags);
        }),
      ),
  );
}

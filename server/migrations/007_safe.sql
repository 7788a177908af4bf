-- Instruments that were paired with a code shown on the page. No record of the trade: it is in no bundle and no change log.
create table instrument (
  id identifier primary key,
  name title not null,
  kind text not null,
  key_hash text not null,
  since timestamptz not null default now()
);
comment on table instrument is 'A link that may send readings; only the hash of its key is kept.';

-- An import comes in by slices, each a transaction of its own, all of one batch. While its row stands here it is not
-- whole: what came in is taken back at the next start.
create table arriving (
  batch bigint primary key,
  at timestamptz not null default now()
);
comment on table arriving is 'Imports under way.';

create or replace function log_change() returns trigger language plpgsql as $$
declare whole bigint := nullif(current_setting('alluvium.batch', true), '')::bigint;
begin
  insert into change (batch, noun, record, before, after)
  values (
    coalesce(whole, txid_current()),
    tg_table_name,
    coalesce(new.id, old.id),
    case when tg_op <> 'INSERT' then to_jsonb(old) end,
    case when tg_op <> 'DELETE' then to_jsonb(new) end
  );
  -- The same text twice in one transaction is told once; a slice is told of with the last of its batch.
  if whole is null then
    perform pg_notify('change', txid_current()::text);
  end if;
  return null;
end $$;

-- Indexes are held against their tables.
create extension if not exists amcheck;

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

-- Nothing is logged while a backup is put back: the state before it is kept as a backup of its own.
create or replace function log_change() returns trigger language plpgsql as $$
declare whole bigint := nullif(current_setting('alluvium.batch', true), '')::bigint;
begin
  if current_setting('alluvium.quiet', true) = 'on' then
    return null;
  end if;
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

-- What the program must remember of the library as a whole.
create table fact (
  name text primary key,
  value text not null
);
comment on table fact is 'Facts of the library itself: what tells it from others, which backup was put back, and when.';
insert into fact (name, value) values ('library', gen_random_uuid());

-- How many records each noun has, kept beside them: a table that lost some disagrees with it.
create table tally (
  noun text primary key,
  n bigint not null
);
comment on table tally is 'Counts of records by noun, kept by triggers.';

create function keep_tally() returns trigger language plpgsql as $$
begin
  if tg_op = 'INSERT' then
    update tally set n = n + (select count(*) from added) where noun = tg_table_name;
  elsif tg_op = 'DELETE' then
    update tally set n = n - (select count(*) from gone) where noun = tg_table_name;
  else
    update tally set n = 0 where noun = tg_table_name;
  end if;
  return null;
end $$;

do $$
declare noun text;
begin
  -- Every table with a change log is a noun.
  for noun in select c.relname from pg_trigger t join pg_class c on c.oid = t.tgrelid join pg_proc p on p.oid = t.tgfoid where p.proname = 'log_change'
  loop
    execute format('insert into tally select %L, count(*) from %I', noun, noun);
    execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
  end loop;
end $$;

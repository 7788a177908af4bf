-- Every change is told to whoever listens; records of one day keep the order they came in, whatever the clock says.

create or replace function log_change() returns trigger language plpgsql as $$
begin
  insert into change (noun, record, before, after)
  values (
    tg_table_name,
    coalesce(new.id, old.id),
    case when tg_op <> 'INSERT' then to_jsonb(old) end,
    case when tg_op <> 'DELETE' then to_jsonb(new) end
  );
  -- The same text twice in one transaction is told once.
  perform pg_notify('change', txid_current()::text);
  return null;
end $$;

create sequence entry;

create function takes_its_place() returns trigger language plpgsql as $$
begin
  new.entered := coalesce(new.entered, nextval('entry'));
  return new;
end $$;

do $$
declare noun text;
begin
  foreach noun in array array['sheet', 'survey'] loop
    execute format('alter table %I disable trigger user', noun);
    execute format('alter table %I add column entered bigint', noun);
    -- What stands already came in the order in which the change log first names it.
    execute format('update %I t set entered = o.place from (
        select s.id, nextval(''entry'') as place from (
          select x.id from %I x left join (select record, min(id) as first from change where noun = %L group by record) c on c.record = x.id
          order by c.first nulls first, x.id) s
      ) o where o.id = t.id', noun, noun, noun);
    execute format('alter table %I alter column entered set not null', noun);
    execute format('comment on column %I.entered is %L', noun, 'Order in which it came in: of two records of one day the later one is the newer.');
    execute format('alter table %I enable trigger user', noun);
    execute format('create trigger takes_its_place before insert on %I for each row execute function takes_its_place()', noun);
  end loop;
end $$;

-- A range or full scale written down wrong is put right everywhere at once, in a transaction that says that it corrects.
create function is_correction() returns boolean language sql stable as $$
  select coalesce(current_setting('alluvium.correction', true), '') = 'on'
$$;
comment on function is_correction is 'Whether the running transaction puts right what was written down wrong.';

create or replace function what_was_read_stays() returns trigger language plpgsql as $$
begin
  if is_correction() and (to_jsonb(old) - array['version', 'state', 'noisy', 'sheet_id', 'at', 'range']) is not distinct from (to_jsonb(new) - array['version', 'state', 'noisy', 'sheet_id', 'at', 'range']) then
    return new;
  end if;
  raise exception 'a raw reading does not change' using errcode = '23514', constraint = 'reading_fixed';
end $$;

create or replace function set_up_stays() returns trigger language plpgsql as $$
begin
  if not is_correction() and exists (select from reading r where r.session_id = old.id and (new.setups -> r.setup) is distinct from (old.setups -> r.setup)) then
    raise exception 'a set-up in use does not change' using errcode = '23514', constraint = 'session_setup_used';
  end if;
  return new;
end $$;

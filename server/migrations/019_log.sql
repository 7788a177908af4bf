-- The change log goes through every step with its records: what was logged before a step can be taken back after it.

-- A logged row as a record of today: columns that came since have what they were given then, columns that went are gone.
create function logged_as_now(noun text, logged jsonb) returns jsonb language plpgsql stable as $$
declare
  col record;
  value jsonb;
  now_row jsonb := '{}';
begin
  if logged is null then
    return null;
  end if;
  for col in
    select a.attname::text as name, pg_get_expr(d.adbin, d.adrelid) as given
    from pg_attribute a left join pg_attrdef d on d.adrelid = a.attrelid and d.adnum = a.attnum
    where a.attrelid = noun::regclass and a.attnum > 0 and not a.attisdropped
  loop
    if logged ? col.name then
      value := logged -> col.name;
    elsif col.given is null then
      value := 'null';
    else
      execute 'select to_jsonb(' || col.given || ')' into value;
    end if;
    now_row := now_row || jsonb_build_object(col.name, value);
  end loop;
  return now_row;
end $$;
comment on function logged_as_now is 'A row of the change log with the columns its table has now.';

-- Called after every step. A step that rewrites what is in a column rewrites it in the change log as well, in the same words.
create function log_comes_along() returns void language plpgsql as $$
declare
  table_name text;
  columns text[];
begin
  for table_name in select noun from tally loop
    select array_agg(a.attname::text) into columns from pg_attribute a
      where a.attrelid = table_name::regclass and a.attnum > 0 and not a.attisdropped;
    update change set before = logged_as_now(noun, before), after = logged_as_now(noun, after)
      where noun = table_name
        and not (coalesce(before ?& columns, true) and coalesce(after ?& columns, true)
          and coalesce(before - columns = '{}', true) and coalesce(after - columns = '{}', true));
    -- The newest edit of a record left it as it stands: the same version is the same record.
    execute format(
      'update change c set after = to_jsonb(t) from %I t
       where c.noun = %L and t.id = c.record and (c.after ->> ''version'')::integer = t.version
         and c.after is distinct from to_jsonb(t)', table_name, table_name);
  end loop;
end $$;
comment on function log_comes_along is 'Brings the rows of the change log to the columns of today.';

-- What the fourth and the sixteenth step wrote into columns that were there already.
create function setup_as_now(setup jsonb, bench jsonb) returns jsonb language plpgsql immutable as $$
declare
  filled jsonb := '{"intakeFlowValve": null, "exhaustFlowValve": null, "springs": "unknown", "gasket": "unknown", "portKind": "",
    "entrySize": null, "entryShape": "", "guides": "unknown", "chamber": "unknown", "backCut": "unknown", "notch": "unknown",
    "notchToRing": "unknown", "plug": "", "plugReach": null, "barometer": null, "zero": "", "scales": null, "ranges": []}'::jsonb || setup;
begin
  -- Full scales a paper carries are those of its bench from the day they were set, where the bench has them.
  if not setup ? 'scales' and filled -> 'ranges' <> '[]' then
    filled := jsonb_set(filled, '{scales}', coalesce(
      (select e.value -> 'since' from jsonb_array_elements(bench) e where e.value -> 'ranges' = filled -> 'ranges' limit 1), 'null'));
  end if;
  return filled;
end $$;

create function rewritten(noun text, logged jsonb) returns jsonb language plpgsql stable as $$
declare bench jsonb;
begin
  if logged is null then
    return null;
  end if;
  if noun in ('sheet', 'session') then
    select coalesce(s.scales, '[]') into bench from source s where s.id = logged ->> 'source_id';
    bench := coalesce(bench, '[]');
  end if;
  case noun
    when 'sheet' then
      return jsonb_set(logged, '{setup}', setup_as_now(logged -> 'setup', bench));
    when 'session' then
      return jsonb_set(logged, '{setups}', (
        select coalesce(jsonb_agg(setup_as_now(e.setup, bench) order by e.at), '[]')
        from jsonb_array_elements(logged -> 'setups') with ordinality as e(setup, at)));
    when 'build' then
      if jsonb_typeof(logged -> 'cam') = 'object' then
        return jsonb_set(logged, '{cam}', '{"kind": "unknown"}'::jsonb || (logged -> 'cam'));
      end if;
    when 'source' then
      -- What an edit before that step says of the bench leaves the full scales it was given by it.
      if not logged ? 'scales' then
        return logged || jsonb_build_object('scales', coalesce((select s.scales from source s where s.id = logged ->> 'id'), '[]'));
      end if;
    else null;
  end case;
  return logged;
end $$;

update change set before = rewritten(noun, before), after = rewritten(noun, after)
  where noun in ('sheet', 'session', 'build', 'source');
drop function rewritten;
drop function setup_as_now;
select log_comes_along();

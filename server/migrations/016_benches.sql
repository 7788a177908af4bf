-- A bench owns its full scales by date; what is owed and excused; pairs of heads; sheets that belong together; walls and gaps.

alter table source add column meter text not null default '';
alter table source add column known_error quantity;
alter table source add column scales jsonb not null default '[]' constraint source_scales check (jsonb_typeof(scales) = 'array');
comment on column source.scales is 'Full scales of a bench, each set from a date on: [{since, ranges: [{name, intake, exhaust}]}].';

alter table port add column kind text not null default '';

alter table head add column pair_of identifier constraint head_pair_of references head on delete set null deferrable;
alter table head add column excused jsonb not null default '{}' constraint head_excused check (jsonb_typeof(excused) = 'object');
create index head_by_pair on head (pair_of) where pair_of is not null;

alter table build add column manifold_loss positive;
alter table build add column excused jsonb not null default '{}' constraint build_excused check (jsonb_typeof(excused) = 'object');

alter table sheet add column set_aside text not null default '';
alter table sheet add column baseline_id identifier constraint sheet_baseline references sheet on delete set null deferrable;
alter table sheet add column sibling_of identifier constraint sheet_sibling references sheet on delete set null deferrable;
alter table sheet add column page_id identifier constraint sheet_page references attachment on delete set null deferrable;
alter table sheet add column excused jsonb not null default '{}' constraint sheet_excused check (jsonb_typeof(excused) = 'object');
comment on column sheet.set_aside is 'Why another sheet of the same port is believed instead; empty where this one counts.';

alter table measure add column lift positive;
alter table measure add column place text not null default '';
alter table measure add column spot jsonb constraint measure_spot check (spot is null or jsonb_typeof(spot) = 'object');
alter table measure add column least positive;
alter table measure add column valve_fitted text not null default 'unknown' constraint measure_valve_fitted check (valve_fitted in ('in', 'out', 'unknown'));

alter table calibration add column points jsonb not null default '[]' constraint calibration_points check (jsonb_typeof(points) = 'array');

create table watchset (
  id identifier primary key,
  version integer not null,
  name title not null,
  lifts jsonb not null constraint watchset_lifts check (jsonb_typeof(lifts) = 'array')
);
comment on table watchset is 'Lifts the shop watches together, under a name of its own.';

create table springlimit (
  id identifier primary key,
  version integer not null,
  cam_kind text not null,
  seat positive,
  open positive
);
comment on table springlimit is 'What the shop lets a valve spring press with on a kind of cam.';

do $$
declare noun text;
begin
  foreach noun in array array['watchset', 'springlimit'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
    execute format('insert into tally select %L, count(*) from %I', noun, noun);
    execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
  end loop;
end $$;

-- The user changes nothing here: versions and the change log stay.
alter table sheet disable trigger user;
alter table session disable trigger user;
alter table source disable trigger user;
alter table build disable trigger user;

-- What nobody was asked is unknown.
create function further_setup() returns jsonb language sql immutable as $$
  select '{"entrySize": null, "entryShape": "", "guides": "unknown", "chamber": "unknown", "backCut": "unknown", "notch": "unknown",
    "notchToRing": "unknown", "plug": "", "plugReach": null, "barometer": null, "zero": "", "scales": null}'::jsonb
$$;
update sheet set setup = further_setup() || '{"ranges": []}'::jsonb || setup;
update session set setups = (
  select coalesce(jsonb_agg(further_setup() || e.setup order by e.at), '[]') from jsonb_array_elements(setups) with ordinality as e(setup, at)
);
drop function further_setup();
update build set cam = '{"kind": "unknown"}'::jsonb || cam where cam is not null;

-- What stands: every set of full scales a bench's sheets and sessions carry becomes the bench's own, from the day of the
-- first paper that has it (a day later where another set begins that day already); the papers point to that day.
do $$
declare
  bench record;
  paper record;
  since date;
  known jsonb;
  place integer;
begin
  for bench in select id from source loop
    known := '[]';
    for paper in
      select 'sheet' as noun, id, 0 as at, coalesce(date, '2000-01-01') as day, setup -> 'ranges' as ranges
      from sheet where source_id = bench.id and jsonb_array_length(coalesce(setup -> 'ranges', '[]')) > 0
      union all
      select 'session', s.id, (e.at - 1)::integer, coalesce(s.date, '2000-01-01'), e.setup -> 'ranges'
      from session s cross join lateral jsonb_array_elements(s.setups) with ordinality as e(setup, at)
      where s.source_id = bench.id and jsonb_array_length(coalesce(e.setup -> 'ranges', '[]')) > 0
      order by day, noun, id, at
    loop
      select (e.value ->> 'since')::date into since from jsonb_array_elements(known) e where e.value -> 'ranges' = paper.ranges;
      if since is null then
        since := paper.day;
        while exists (select from jsonb_array_elements(known) e where e.value ->> 'since' = since::text) loop
          since := since + 1;
        end loop;
        known := known || jsonb_build_array(jsonb_build_object('since', since::text, 'ranges', paper.ranges));
      end if;
      if paper.noun = 'sheet' then
        update sheet set setup = jsonb_set(setup, '{scales}', to_jsonb(since::text)) where id = paper.id;
      else
        update session set setups = jsonb_set(setups, array[paper.at::text, 'scales'], to_jsonb(since::text)) where id = paper.id;
      end if;
    end loop;
    if known <> '[]' then
      update source set scales = known where id = bench.id;
    end if;
  end loop;
end $$;
alter table sheet enable trigger user;
alter table session enable trigger user;
alter table source enable trigger user;
alter table build enable trigger user;

-- A paper that points to a bench's full scales reads those of the bench, whatever it came with; one whose bench has none
-- from that day keeps what it came with as its own.
create function bench_ranges(bench_id text, since text) returns jsonb language sql stable as $$
  select e.value -> 'ranges' from source s cross join lateral jsonb_array_elements(s.scales) e
  where s.id = bench_id and e.value ->> 'since' = $2
$$;
create function with_bench_ranges(setup jsonb, bench_id text) returns jsonb language plpgsql stable as $$
declare ranges jsonb;
begin
  if setup ->> 'scales' is null then
    return setup;
  end if;
  ranges := bench_ranges(bench_id, setup ->> 'scales');
  if ranges is null then
    return jsonb_set(setup, '{scales}', 'null');
  end if;
  return jsonb_set(setup, '{ranges}', ranges);
end $$;

create function sheet_ranges() returns trigger language plpgsql as $$
begin
  new.setup := with_bench_ranges(new.setup, new.source_id);
  return new;
end $$;
create trigger a_bench_ranges before insert or update on sheet for each row execute function sheet_ranges();

create function session_ranges() returns trigger language plpgsql as $$
begin
  select coalesce(jsonb_agg(with_bench_ranges(e.setup, new.source_id) order by e.at), '[]') into new.setups
  from jsonb_array_elements(new.setups) with ordinality as e(setup, at);
  return new;
end $$;
create trigger a_bench_ranges before insert or update on session for each row execute function session_ranges();

-- A full scale put right at the bench reaches every paper read by it, in the same change.
create function reach_papers() returns trigger language plpgsql as $$
begin
  if new.scales is distinct from old.scales then
    update sheet set setup = setup where source_id = new.id and setup ->> 'scales' is not null
      and setup is distinct from with_bench_ranges(setup, new.id);
    update session s set setups = setups where source_id = new.id and exists (
      select from jsonb_array_elements(s.setups) e where e.value is distinct from with_bench_ranges(e.value, new.id));
  end if;
  return null;
end $$;
create trigger reach_papers after update on source for each row execute function reach_papers();

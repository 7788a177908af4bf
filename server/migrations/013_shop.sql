-- The shop itself: its price list with the sets its lines belong to, and the head of its letters.

create table listprice (
  id identifier primary key,
  version integer not null,
  line jsonb not null constraint listprice_line check (jsonb_typeof(line) = 'object'),
  sets jsonb not null default '[]' constraint listprice_sets check (jsonb_typeof(sets) = 'array')
);
comment on table listprice is 'A line of the shop''s price list; the sets it belongs to are its templates.';

create table letterhead (
  id identifier primary key,
  version integer not null,
  name title not null,
  lines text not null default '',
  logo text constraint letterhead_logo check (length(logo) <= 280000),
  paper text not null default 'A4',
  foot text not null default ''
);
comment on table letterhead is 'What stands at the top of a report, and the paper it prints on.';

do $$
declare noun text;
begin
  foreach noun in array array['listprice', 'letterhead'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
    execute format('insert into tally select %L, count(*) from %I', noun, noun);
    execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
  end loop;
end $$;

-- After the dyno: what was on the engine, why it fell short, forecasts of power, the shop's own factors, calls anywhere, practice.

alter table pull add column cell text not null default '';
alter table pull add column position integer not null default 0 constraint pull_position check (position >= 0);
alter table pull add column setup jsonb not null default '{}' constraint pull_setup check (jsonb_typeof(setup) = 'object');
alter table pull add column cause text;
alter table pull add column cause_note text not null default '';
comment on column pull.setup is 'What was on the engine besides its head.';
comment on column pull.position is 'Which pull of its day it was.';
comment on column pull.cause is 'Why it fell short, once that was found.';

alter table call alter column session_id drop not null;
alter table call add column stage_id identifier constraint call_stage references stage on delete cascade deferrable;
alter table call add column side text constraint call_side check (side in ('intake', 'exhaust'));
alter table call add column lift quantity;
alter table call add column flow quantity;
alter table call add column "on" text not null default '';
alter table call add constraint call_of check (session_id is not null or (stage_id is not null and side is not null and lift is not null and flow is not null));
create index call_of_stage on call (stage_id);
comment on table call is 'What somebody expected before it was measured.';

create table powerforecast (
  id identifier primary key,
  version integer not null,
  build_id identifier not null constraint powerforecast_build references build on delete cascade deferrable,
  stage_id identifier constraint powerforecast_stage references stage on delete set null deferrable,
  made date not null,
  by text not null default '',
  content jsonb not null constraint powerforecast_content check (jsonb_typeof(content) = 'object'),
  pull_id identifier constraint powerforecast_pull references pull on delete set null deferrable,
  note text not null default ''
);
comment on table powerforecast is 'What an engine was forecast to make, before it was pulled. It stays as it was said.';
create index powerforecast_of_build on powerforecast (build_id);
create index powerforecast_of_stage on powerforecast (stage_id);
create index powerforecast_of_pull on powerforecast (pull_id);

create table columnmap (
  id identifier primary key,
  version integer not null,
  headings jsonb not null constraint columnmap_headings check (jsonb_typeof(headings) = 'array'),
  columns jsonb not null constraint columnmap_columns check (jsonb_typeof(columns) = 'array')
);
comment on table columnmap is 'Columns of a dyno''s files that were laid down by hand, known again by their headings.';

create table ownfactor (
  id identifier primary key,
  version integer not null,
  use text not null,
  fuel text not null,
  low quantity not null,
  likely quantity not null,
  high quantity not null,
  count integer not null,
  made date not null
);
comment on table ownfactor is 'The shop''s own power per flow for engines of one use and fuel.';

create table round (
  id identifier primary key,
  version integer not null,
  who text not null default '',
  kind text not null,
  question text not null,
  answer text not null default '',
  "right" boolean not null,
  date date not null
);
comment on table round is 'One round of practice: what was asked, and whether it was known.';

do $$
declare noun text;
begin
  foreach noun in array array['powerforecast', 'columnmap', 'ownfactor', 'round'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
    execute format('insert into tally select %L, count(*) from %I', noun, noun);
    execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
  end loop;
end $$;

-- The bench: sessions with their plan and set-ups, every raw reading, checks of the bench, calls, velocity maps, wet flow.

alter table sheet disable trigger user;
alter table sheet add column swirl jsonb not null default '[]' constraint sheet_swirl check (jsonb_typeof(swirl) = 'array');
comment on column sheet.swirl is 'Speed of the swirl meter over lift, with its sign.';
update sheet set setup = '{"intakeFlowValve": null, "exhaustFlowValve": null, "springs": "unknown", "gasket": "unknown", "portKind": ""}'::jsonb || setup;
alter table sheet enable trigger user;

create table session (
  id identifier primary key,
  version integer not null,
  head_id identifier not null constraint session_head references head on delete cascade deferrable,
  stage_id identifier not null constraint session_stage references stage on delete cascade deferrable,
  source_id identifier constraint session_source references source on delete set null deferrable,
  title title not null,
  date date,
  plan jsonb not null constraint session_plan check (jsonb_typeof(plan) = 'object'),
  setups jsonb not null constraint session_setups check (jsonb_typeof(setups) = 'array' and jsonb_array_length(setups) between 1 and 50),
  finished boolean not null,
  stopped text not null default '',
  excused jsonb not null constraint session_excused check (jsonb_typeof(excused) = 'object'),
  note text not null default ''
);
comment on table session is 'One visit to the bench with one head at one stage; the last of its set-ups is current.';
create index session_of_head on session (head_id);

create table call (
  id identifier primary key,
  version integer not null,
  session_id identifier not null constraint call_session references session on delete cascade deferrable,
  who text not null default '',
  intake_peak quantity,
  exhaust_peak quantity,
  worst text not null default '',
  date date
);
comment on table call is 'What somebody expected before the first reading.';
create index call_of_session on call (session_id);

create table reading (
  id identifier primary key,
  version integer not null,
  session_id identifier not null constraint reading_session references session on delete cascade deferrable,
  sheet_id identifier constraint reading_sheet references sheet on delete set null deferrable,
  setup integer not null constraint reading_setup check (setup between 0 and 49),
  number integer not null constraint reading_number check (number between 1 and 48),
  side text not null constraint reading_side check (side in ('intake', 'exhaust')),
  lift quantity not null,
  pull integer not null constraint reading_pull check (pull between 0 and 19),
  flow quantity,
  percent quantity,
  range text,
  swirl quantity,
  depression quantity,
  spread float8,
  seconds float8,
  samples jsonb not null default '[]' constraint reading_samples check (jsonb_typeof(samples) = 'array' and jsonb_array_length(samples) <= 400),
  noisy boolean not null,
  skipped text not null default '',
  state text not null constraint reading_state check (state in ('kept', 'retaken', 'taken back')),
  at text not null constraint reading_at check (at ~ '^\d{4}-\d\d-\d\dT'),
  constraint reading_says_something check (skipped <> '' or flow is not null or percent is not null or swirl is not null)
);
comment on table reading is 'What was read at one moment, as it came: never changed, only put aside.';
create index reading_of_session on reading (session_id);

create function what_was_read_stays() returns trigger language plpgsql as $$
begin
  raise exception 'a raw reading does not change' using errcode = '23514', constraint = 'reading_fixed';
end $$;
create trigger what_was_read_stays before update on reading for each row
  when ((to_jsonb(old) - array['version', 'state', 'noisy', 'sheet_id', 'at']) is distinct from (to_jsonb(new) - array['version', 'state', 'noisy', 'sheet_id', 'at']))
  execute function what_was_read_stays();

-- A set-up under which something was read is a fact; another one begins where it ends.
create function set_up_stays() returns trigger language plpgsql as $$
begin
  if exists (select from reading r where r.session_id = old.id and (new.setups -> r.setup) is distinct from (old.setups -> r.setup)) then
    raise exception 'a set-up in use does not change' using errcode = '23514', constraint = 'session_setup_used';
  end if;
  return new;
end $$;
create trigger set_up_stays before update on session for each row
  when (old.setups is distinct from new.setups) execute function set_up_stays();

alter table attachment add column session_id identifier constraint attachment_session references session on delete set null deferrable;

create table velocitymap (
  id identifier primary key,
  version integer not null,
  stage_id identifier not null constraint velocitymap_stage references stage on delete cascade deferrable,
  port_id identifier constraint velocitymap_port references port on delete set null deferrable,
  session_id identifier constraint velocitymap_session references session on delete set null deferrable,
  side text not null constraint velocitymap_side check (side in ('intake', 'exhaust')),
  place text not null,
  lift quantity not null,
  rows integer not null constraint velocitymap_rows check (rows between 1 and 20),
  columns integer not null constraint velocitymap_columns check (columns between 1 and 20),
  depression positive not null,
  wall text not null constraint velocitymap_wall check (wall in ('left', 'right', 'unknown')),
  cells jsonb not null constraint velocitymap_cells check (jsonb_typeof(cells) = 'array' and jsonb_array_length(cells) <= 400),
  date date,
  note text not null default ''
);
comment on table velocitymap is 'Pitot pressures on a grid across one place of a port, at one lift.';
create index velocitymap_of_stage on velocitymap (stage_id);

create table wetflow (
  id identifier primary key,
  version integer not null,
  stage_id identifier not null constraint wetflow_stage references stage on delete cascade deferrable,
  port_id identifier constraint wetflow_port references port on delete set null deferrable,
  session_id identifier constraint wetflow_session references session on delete set null deferrable,
  side text not null constraint wetflow_side check (side in ('intake', 'exhaust')),
  lift quantity,
  attachment_id identifier not null constraint wetflow_attachment references attachment on delete cascade deferrable,
  marks jsonb not null constraint wetflow_marks check (jsonb_typeof(marks) = 'array' and jsonb_array_length(marks) <= 100),
  date date,
  note text not null default ''
);
comment on table wetflow is 'How fluid runs: a photo with marks on it.';
create index wetflow_of_stage on wetflow (stage_id);

create table plan (
  id identifier primary key,
  version integer not null,
  name title not null,
  plan jsonb not null constraint plan_plan check (jsonb_typeof(plan) = 'object')
);
comment on table plan is 'The shop''s own test plan.';

create table calibration (
  id identifier primary key,
  version integer not null,
  source_id identifier not null constraint calibration_source references source on delete cascade deferrable,
  date date not null,
  against text not null constraint calibration_against check (against in ('plate', 'control head')),
  diameter positive,
  bore positive,
  depression positive,
  expected positive,
  measured positive not null,
  note text not null default ''
);
comment on table calibration is 'One check of a bench against a plate or a head whose flow is agreed.';
create index calibration_of_source on calibration (source_id);

do $$
declare noun text;
begin
  foreach noun in array array['session', 'call', 'reading', 'velocitymap', 'wetflow', 'plan', 'calibration'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
  end loop;
end $$;

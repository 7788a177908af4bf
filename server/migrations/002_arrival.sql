-- Arrival: the checklist of a head, what was found, whether its seats seal, and the photos that show it.

alter table head add column cylinders integer constraint head_cylinders check (cylinders between 1 and 24);
alter table port add column touched text not null default '';
comment on column port.touched is 'What somebody did to it before it came; such a port is no baseline.';
alter table measure add column valve integer constraint measure_valve check (valve between 1 and 3);

create table inspection (
  id identifier primary key,
  version integer not null,
  head_id identifier not null constraint inspection_head references head on delete cascade deferrable,
  position integer not null default 0,
  "group" text not null,
  title title not null,
  hint text not null default '',
  sizes jsonb not null default '[]' constraint inspection_sizes check (jsonb_typeof(sizes) = 'array'),
  state text not null constraint inspection_state check (state in ('open', 'fine', 'unsure', 'skipped')),
  note text not null default '',
  constraint inspection_skipped_with_reason check (state <> 'skipped' or length(trim(note)) > 0)
);
comment on table inspection is 'One line of a head''s arrival checklist.';
create index inspection_of_head on inspection (head_id);

create table finding (
  id identifier primary key,
  version integer not null,
  head_id identifier not null constraint finding_head references head on delete cascade deferrable,
  stage_id identifier not null constraint finding_stage references stage on delete cascade deferrable,
  inspection_id identifier constraint finding_inspection references inspection on delete set null deferrable,
  build_id identifier constraint finding_build references build on delete cascade deferrable,
  cylinder integer constraint finding_cylinder check (cylinder between 1 and 24),
  side text constraint finding_side check (side in ('intake', 'exhaust')),
  part text not null,
  severity text not null constraint finding_severity check (severity in ('note', 'fix before use', 'reject')),
  text text not null constraint finding_text check (length(text) between 1 and 2000),
  cost quantity,
  mended_stage_id identifier constraint finding_mended references stage on delete set null deferrable,
  date date
);
comment on table finding is 'Something that is not as it should be; it stands until a stage at which it was mended.';
create index finding_of_head on finding (head_id);
create index finding_of_inspection on finding (inspection_id);

create table seat (
  id identifier primary key,
  version integer not null,
  stage_id identifier not null constraint seat_stage references stage on delete cascade deferrable,
  side text not null constraint seat_side check (side in ('intake', 'exhaust')),
  cylinder integer not null constraint seat_cylinder check (cylinder between 1 and 24),
  valve integer not null constraint seat_valve check (valve between 1 and 3),
  result text not null constraint seat_result check (result in ('untested', 'seals', 'leaks')),
  drawn quantity,
  held quantity,
  seconds float8 constraint seat_seconds check (seconds between 0.5 and 600),
  ring_material text not null,
  ring_outside positive,
  ring_inside positive,
  date date,
  note text not null default ''
);
comment on table seat is 'One look at one valve seat: its ring, and whether it seals; the newest counts.';
create index seat_of_stage on seat (stage_id);

create table attachment (
  id identifier primary key,
  version integer not null,
  head_id identifier not null constraint attachment_head references head on delete cascade deferrable,
  finding_id identifier constraint attachment_finding references finding on delete cascade deferrable,
  inspection_id identifier constraint attachment_inspection references inspection on delete cascade deferrable,
  name text not null,
  type text not null constraint attachment_type check (type in ('image/jpeg', 'image/png', 'image/webp')),
  hash text not null constraint attachment_hash check (hash ~ '^[0-9a-f]{64}$'),
  width integer not null,
  height integer not null,
  bytes integer not null,
  note text not null default ''
);
comment on table attachment is 'A photo; its content lies in a file named by its hash, which outlives the record so that a deletion can be undone.';
create index attachment_of_head on attachment (head_id);

create table checklist (
  id identifier primary key,
  version integer not null,
  name title not null,
  lines jsonb not null constraint checklist_lines check (jsonb_typeof(lines) = 'array' and jsonb_array_length(lines) between 1 and 400)
);
comment on table checklist is 'The shop''s own checklist.';

create table tolerance (
  id identifier primary key,
  version integer not null,
  item text not null constraint tolerance_once unique deferrable,
  value quantity not null
);
comment on table tolerance is 'From which difference on stated and found are told apart, by item.';

create function content_is_fixed() returns trigger language plpgsql as $$
begin
  raise exception 'the content of a photo does not change' using errcode = '23514', constraint = 'attachment_content_fixed';
end $$;
create trigger content_is_fixed before update on attachment for each row
  when (old.hash <> new.hash or old.head_id <> new.head_id) execute function content_is_fixed();

do $$
declare noun text;
begin
  foreach noun in array array['inspection', 'finding', 'seat', 'attachment', 'checklist', 'tolerance'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
  end loop;
end $$;

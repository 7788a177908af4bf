-- The ground: nouns of the trade, and one change log that serves undo, history and the conflict of two tabs.
-- A quantity is stored as {"si": number, "typed": text}: SI beside the text as typed. Nothing computed is stored.

create domain quantity as jsonb
  constraint quantity_shape check (value is null or (jsonb_typeof(value -> 'si') = 'number' and jsonb_typeof(value -> 'typed') = 'string'));
create domain positive as jsonb
  constraint positive_shape check (value is null or (jsonb_typeof(value -> 'typed') = 'string' and (value ->> 'si')::float8 > 0));
create domain identifier as text
  constraint identifier_shape check (value ~ '^[A-Za-z0-9][A-Za-z0-9_.-]{0,63}$');
create domain title as text
  constraint title_length check (length(value) between 1 and 120);

create table build (
  id identifier primary key,
  version integer not null,
  name title not null,
  note text not null default '',
  bore positive not null,
  stroke positive not null,
  cylinders integer not null constraint build_cylinders check (cylinders between 1 and 24),
  rod positive,
  valves_per_cylinder integer not null constraint build_valves check (valves_per_cylinder between 2 and 5),
  compression positive,
  fuel text not null,
  use text not null,
  induction jsonb not null,
  cam jsonb,
  manifold_flow positive,
  power positive not null,
  speed positive not null,
  power_per_flow positive,
  torque_per_volume positive,
  velocity_limit positive,
  budget quantity,
  due date,
  fixed text not null default '',
  watch_lifts jsonb not null
);
comment on table build is 'An engine and what is wanted of it.';

create table source (
  id identifier primary key,
  version integer not null,
  name title not null,
  kind text not null,
  link text not null default '',
  note text not null default ''
);
comment on table source is 'Who says so: a bench, a catalogue, a flyer.';

create table head (
  id identifier primary key,
  version integer not null,
  name title not null,
  maker text not null default '',
  catalogue_number text not null default '',
  kind text not null,
  material text not null,
  intake_valves integer not null constraint head_intake_valves check (intake_valves between 1 and 3),
  exhaust_valves integer not null constraint head_exhaust_valves check (exhaust_valves between 1 and 2),
  price quantity,
  note text not null default ''
);
comment on table head is 'One article on the shelf, or one catalogue entry.';
create index head_name on head (lower(name), id);

create table stage (
  id identifier primary key,
  version integer not null,
  head_id identifier not null constraint stage_head references head on delete cascade deferrable,
  parent_id identifier constraint stage_parent references stage on delete set null deferrable,
  name title not null,
  position integer not null default 0,
  date date,
  note text not null default '',
  constraint stage_not_its_own_parent check (parent_id <> id)
);
comment on table stage is 'A state of work of a head.';
create index stage_of_head on stage (head_id);
create index stage_of_parent on stage (parent_id);

create table port (
  id identifier primary key,
  version integer not null,
  head_id identifier not null constraint port_head references head on delete cascade deferrable,
  side text not null constraint port_side check (side in ('intake', 'exhaust')),
  number integer not null constraint port_number check (number between 1 and 48),
  nickname text not null default '',
  constraint port_once unique (head_id, side, number) deferrable
);

create table sheet (
  id identifier primary key,
  version integer not null,
  stage_id identifier not null constraint sheet_stage references stage on delete cascade deferrable,
  source_id identifier constraint sheet_source references source on delete set null deferrable,
  title title not null,
  kind text not null constraint sheet_kind check (kind in ('measured', 'claim')),
  date date,
  intake_port_id identifier constraint sheet_intake_port references port on delete set null deferrable,
  exhaust_port_id identifier constraint sheet_exhaust_port references port on delete set null deferrable,
  setup jsonb not null,
  rows jsonb not null constraint sheet_rows check (jsonb_typeof(rows) = 'array' and jsonb_array_length(rows) <= 400),
  stopped text not null default '',
  note text not null default ''
);
comment on table sheet is 'A table of flow over lift with its set-up; rows are edited and versioned as one.';
create index sheet_of_stage on sheet (stage_id);
create index sheet_of_source on sheet (source_id);

create table measure (
  id identifier primary key,
  version integer not null,
  stage_id identifier not null constraint measure_stage references stage on delete cascade deferrable,
  port_id identifier constraint measure_port references port on delete set null deferrable,
  side text constraint measure_side check (side in ('intake', 'exhaust')),
  item text not null,
  value quantity not null,
  date date,
  instrument text not null default '',
  source_id identifier constraint measure_source references source on delete set null deferrable,
  note text not null default ''
);
comment on table measure is 'One size at one place of one stage; measured twice, both stay.';
create index measure_of_stage on measure (stage_id);

create table lineup (
  id identifier primary key,
  version integer not null,
  build_id identifier not null constraint lineup_build references build on delete cascade deferrable,
  stage_id identifier not null constraint lineup_stage references stage on delete cascade deferrable,
  sheet_id identifier constraint lineup_sheet references sheet on delete set null deferrable,
  position integer not null default 0
);
comment on table lineup is 'Heads under comparison for a build, in order; the first is the baseline.';
create index lineup_of_build on lineup (build_id);
create index lineup_of_stage on lineup (stage_id);

create table change (
  id bigint generated always as identity primary key,
  batch bigint not null default txid_current(),
  at timestamptz not null default now(),
  noun text not null,
  record text not null,
  before jsonb,
  after jsonb
);
comment on table change is 'Every change of every record, written in the transaction that made it. One batch is one transaction.';
create index change_of_batch on change (batch);
create index change_of_record on change (noun, record);

create function next_version() returns trigger language plpgsql as $$
begin
  new.version := old.version + 1;
  return new;
end $$;

create function log_change() returns trigger language plpgsql as $$
begin
  insert into change (noun, record, before, after)
  values (
    tg_table_name,
    coalesce(new.id, old.id),
    case when tg_op <> 'INSERT' then to_jsonb(old) end,
    case when tg_op <> 'DELETE' then to_jsonb(new) end
  );
  return null;
end $$;

do $$
declare noun text;
begin
  foreach noun in array array['build', 'source', 'head', 'stage', 'port', 'sheet', 'measure', 'lineup'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
  end loop;
end $$;

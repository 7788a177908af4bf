-- The decision: ways to go for a build, what they cost, whether they fit, and what was decided.

alter table build add column currency text not null default '';
alter table build add column tax quantity;
alter table build add column rates jsonb not null default '[]' constraint build_rates check (jsonb_typeof(rates) = 'array');
alter table build add column matters jsonb not null default '[]' constraint build_matters check (jsonb_typeof(matters) = 'array');
comment on column build.currency is 'In which the sums of its ways are written; empty when nobody said.';
comment on column build.tax is 'Rate where a line has its tax still to come.';
comment on column build.rates is 'Exchange rates, each with its day.';
comment on column build.matters is 'What matters to this build, in the owner''s words, with its weight.';

create table way (
  id identifier primary key,
  version integer not null,
  build_id identifier not null constraint way_build references build on delete cascade deferrable,
  position integer not null default 0,
  name title not null,
  kind text not null,
  stage_id identifier constraint way_stage references stage on delete set null deferrable,
  gain quantity,
  gain_band quantity,
  lines jsonb not null default '[]' constraint way_lines check (jsonb_typeof(lines) = 'array' and jsonb_array_length(lines) <= 300),
  fit jsonb not null default '[]' constraint way_fit check (jsonb_typeof(fit) = 'array'),
  days integer constraint way_days check (days >= 0),
  marks jsonb not null default '{}' constraint way_marks check (jsonb_typeof(marks) = 'object'),
  note text not null default ''
);
comment on table way is 'One way to go for a build: a head at a stage, with its price and its fit.';
create index way_of_build on way (build_id);
create index way_of_stage on way (stage_id);

create table decision (
  id identifier primary key,
  version integer not null,
  build_id identifier not null constraint decision_build references build on delete cascade deferrable,
  made date not null,
  by text not null default '',
  content jsonb not null constraint decision_content check (jsonb_typeof(content) = 'object'),
  reasons text not null default '',
  rejected text not null default '',
  risks text not null default ''
);
comment on table decision is 'What was decided of a build, with its figures as they stood. It stays as it was said.';
create index decision_of_build on decision (build_id);

do $$
declare noun text;
begin
  foreach noun in array array['way', 'decision'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
    execute format('insert into tally select %L, count(*) from %I', noun, noun);
    execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
  end loop;
end $$;

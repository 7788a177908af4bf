-- A port surveyed section by section.

create table survey (
  id identifier primary key,
  version integer not null,
  stage_id identifier not null constraint survey_stage references stage on delete cascade deferrable,
  port_id identifier constraint survey_port references port on delete set null deferrable,
  side text not null constraint survey_side check (side in ('intake', 'exhaust')),
  title title not null,
  date date,
  instrument text not null default '',
  way text not null,
  sections jsonb not null constraint survey_sections check (jsonb_typeof(sections) = 'array' and jsonb_array_length(sections) <= 400),
  floors jsonb not null,
  note text not null default ''
);
comment on table survey is 'One port measured section by section; its sections are edited and versioned as one.';
create index survey_of_stage on survey (stage_id);

create trigger next_version before update on survey for each row execute function next_version();
create trigger log_change after insert or update or delete on survey for each row execute function log_change();

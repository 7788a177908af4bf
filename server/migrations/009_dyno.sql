-- Pulls on the dyno: what was on the engine, the air of the day, and what was read.

create table pull (
  id identifier primary key,
  version integer not null,
  build_id identifier not null constraint pull_build references build on delete cascade deferrable,
  stage_id identifier constraint pull_stage references stage on delete set null deferrable,
  title text not null,
  date date,
  dyno text not null default 'engine dyno' constraint pull_dyno check (dyno in ('engine dyno', 'chassis dyno')),
  correction text constraint pull_correction
    check (correction in ('observed', 'SAE J1349', 'SAE J607', 'DIN 70020', 'ISO 1585')),
  pressure quantity,
  temperature quantity,
  humidity quantity,
  rows jsonb not null constraint pull_rows check (jsonb_typeof(rows) = 'array' and jsonb_array_length(rows) > 0),
  note text not null default ''
);
comment on table pull is 'A pull on the dyno.';
comment on column pull.stage_id is 'The head as it was on the engine, where it is one of ours.';
comment on column pull.correction is 'What its figures are; null where nobody said.';
create index pull_of_build on pull (build_id);
create index pull_of_stage on pull (stage_id);

do $$
declare noun text;
begin
  foreach noun in array array['pull'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
    execute format('insert into tally select %L, count(*) from %I', noun, noun);
    execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
  end loop;
end $$;

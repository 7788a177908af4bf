-- The verdict: an engine of which only the displacement is known, a target given as torque, ports that share a cylinder,
-- the shop's own figures for what is not known exactly, and verdicts kept as they were.

alter table build alter column bore drop not null;
alter table build alter column stroke drop not null;
alter table build alter column power drop not null;
alter table build add column displacement positive;
alter table build add column torque positive;
alter table build add constraint build_size check (displacement is not null or (bore is not null and stroke is not null));
alter table build add constraint build_wanted check (power is not null or torque is not null);
comment on column build.displacement is 'Of the whole engine, where bore and stroke are not known.';
comment on column build.torque is 'Torque wanted at the speed, where no power is stated.';

alter table head add column intake_ports integer constraint head_intake_ports check (intake_ports between 1 and 3);
comment on column head.intake_ports is 'Separate intake ports of one cylinder; null means one.';

create table assumption (
  id identifier primary key,
  version integer not null,
  name text not null constraint assumption_once unique deferrable,
  value quantity not null
);
comment on table assumption is 'The shop''s own figure in place of a usual uncertainty.';

create table verdict (
  id identifier primary key,
  version integer not null,
  build_id identifier not null constraint verdict_build references build on delete cascade deferrable,
  made date not null,
  note text not null default '',
  content jsonb not null constraint verdict_content check (jsonb_typeof(content) = 'object')
);
comment on table verdict is 'What was said of a lineup on a day, with the versions of the records it rested on. The one figure kept that was computed.';
create index verdict_of_build on verdict (build_id);

do $$
declare noun text;
begin
  foreach noun in array array['assumption', 'verdict'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
    execute format('insert into tally select %L, count(*) from %I', noun, noun);
    execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
  end loop;
end $$;

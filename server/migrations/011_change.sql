-- Change: what was done at a stage, the work list of a head, forecasts of a cut, valve-out pulls, specimens of one article.

alter table stage add column unflowed text not null default '';
comment on column stage.unflowed is 'Why it was not flowed; empty when it was, or nobody said.';
alter table head add column specimen_of identifier constraint head_specimen references head on delete set null deferrable;
comment on column head.specimen_of is 'The first specimen of the same article, where this is another one.';
create index head_of_article on head (specimen_of);
alter table sheet disable trigger user;
alter table sheet add column valve_out jsonb not null default '{"intake": null, "exhaust": null}'
  constraint sheet_valve_out check (jsonb_typeof(valve_out) = 'object');
alter table sheet enable trigger user;
comment on column sheet.valve_out is 'Flow with the valve out and a radiused plug in the seat, by side.';
alter table attachment add column stage_id identifier constraint attachment_stage references stage on delete set null deferrable;
comment on column attachment.stage_id is 'The stage it shows the head at.';

create table operation (
  id identifier primary key,
  version integer not null,
  stage_id identifier not null constraint operation_stage references stage on delete cascade deferrable,
  kind text not null,
  side text constraint operation_side check (side in ('intake', 'exhaust')),
  port_id identifier constraint operation_port references port on delete set null deferrable,
  place text not null default '',
  by text not null default '',
  time quantity,
  parts quantity,
  position integer not null default 0,
  note text not null default ''
);
comment on table operation is 'One thing done to a head at a stage.';
comment on column operation.parts is 'Parts and outside work; the shop''s own hours are counted by its rate.';
create index operation_of_stage on operation (stage_id);

create table task (
  id identifier primary key,
  version integer not null,
  head_id identifier not null constraint task_head references head on delete cascade deferrable,
  position integer not null default 0,
  kind text not null default 'cut' constraint task_kind check (kind in ('cut', 'keep out', 'check')),
  operation text,
  side text constraint task_side check (side in ('intake', 'exhaust')),
  port_id identifier constraint task_port references port on delete set null deferrable,
  place text not null,
  size text not null default 'diameter' constraint task_size check (size in ('wall', 'diameter', 'area')),
  wanted quantity,
  "limit" quantity,
  found quantity,
  pattern boolean not null default false,
  within quantity,
  tool text not null default '',
  time quantity,
  done date,
  note text not null default ''
);
comment on table task is 'A line of a head''s work list.';
comment on column task."limit" is 'Where to stop: least wall, largest opening.';
create index task_of_head on task (head_id);

create table forecast (
  id identifier primary key,
  version integer not null,
  head_id identifier not null constraint forecast_head references head on delete cascade deferrable,
  stage_id identifier not null constraint forecast_stage references stage on delete cascade deferrable,
  operation text not null,
  side text not null constraint forecast_side check (side in ('intake', 'exhaust')),
  made date not null,
  by text not null default '',
  content jsonb not null constraint forecast_content check (jsonb_typeof(content) = 'object'),
  outcome_id identifier constraint forecast_outcome references stage on delete set null deferrable,
  note text not null default ''
);
comment on table forecast is 'What a cut was forecast to buy before it was made. It stays as it was said.';
create index forecast_of_head on forecast (head_id);
create index forecast_of_stage on forecast (stage_id);

do $$
declare noun text;
begin
  foreach noun in array array['operation', 'task', 'forecast'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
    execute format('insert into tally select %L, count(*) from %I', noun, noun);
    execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
    execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
  end loop;
end $$;

-- Claims: what a source says of all its figures, how a sheet was read off a chart, reports of power, questions under test.

alter table source add column bench text not null default '';
alter table source add column stated jsonb not null
  default '{"depression": null, "bore": null, "entry": "unknown", "exhaustPipe": "unknown", "pipeDiameter": null, "pipeLength": null, "valve": "unknown", "port": ""}'
  constraint source_stated check (jsonb_typeof(stated) = 'object');
alter table source add column date date;
comment on column source.stated is 'What it says of all its figures; unknown stays unknown, and nothing of it is written onto a sheet by itself.';

alter table sheet add column chart jsonb constraint sheet_chart check (jsonb_typeof(chart) = 'object');
comment on column sheet.chart is 'The picture it was read off: two known points of each axis, and every place that was clicked, in pixels.';

alter table attachment alter column head_id drop not null;
alter table attachment add column source_id identifier constraint attachment_source references source on delete cascade deferrable;
alter table attachment add constraint attachment_belongs check (head_id is not null or source_id is not null);
create index attachment_of_source on attachment (source_id);
drop trigger content_is_fixed on attachment;
create trigger content_is_fixed before update on attachment for each row
  when (old.hash <> new.hash or old.head_id is distinct from new.head_id or old.source_id is distinct from new.source_id)
  execute function content_is_fixed();

create table report (
  id identifier primary key,
  version integer not null,
  stage_id identifier not null constraint report_stage references stage on delete cascade deferrable,
  source_id identifier constraint report_source references source on delete set null deferrable,
  build_id identifier constraint report_build references build on delete cascade deferrable,
  displacement positive,
  cylinders integer constraint report_cylinders check (cylinders between 1 and 24),
  power positive not null,
  speed positive not null,
  taken text not null constraint report_taken check (taken in ('engine dyno', 'chassis dyno', 'reckoned', 'unknown')),
  date date,
  note text not null default '',
  constraint report_engine check (build_id is not null or (displacement is not null and cylinders is not null))
);
comment on table report is 'A power somebody claims of an engine with this head.';
create index report_of_stage on report (stage_id);

create table question (
  id identifier primary key,
  version integer not null,
  text text not null constraint question_text check (length(text) between 1 and 300),
  source_id identifier constraint question_source references source on delete set null deferrable,
  head_id identifier constraint question_head references head on delete set null deferrable,
  opened date,
  state text not null constraint question_state check (state in ('open', 'true', 'false', 'unproven')),
  reasons text not null default '',
  closed date,
  evidence jsonb not null default '[]' constraint question_evidence check (jsonb_typeof(evidence) = 'array' and jsonb_array_length(evidence) <= 40),
  constraint question_closed_with_reasons check (state = 'open' or length(trim(reasons)) > 0),
  constraint question_settled_by_evidence check (state in ('open', 'unproven') or jsonb_array_length(evidence) > 0)
);
comment on table question is 'A claim or rumour in one line, put to the test, and what settled it.';
create index question_of_head on question (head_id);

do $$
declare noun text;
begin
  foreach noun in array array['report', 'question'] loop
    execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
    execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
  end loop;
end $$;

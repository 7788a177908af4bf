-- What the shop begins a new record from, and where on a photo a finding lies.

create table template (
  id identifier primary key,
  version integer not null,
  name title not null,
  "of" text not null constraint template_of check ("of" in ('head', 'bench', 'set-up')),
  content jsonb not null constraint template_content check (jsonb_typeof(content) = 'object')
);
comment on table template is 'What the shop begins a new head, bench or set-up from.';

alter table attachment add column region jsonb constraint attachment_region check (jsonb_typeof(region) = 'object');
comment on column attachment.region is 'The part of the picture that shows what was found: x, y, width and height as shares of it.';

-- What every noun's table has: versions, the change log and the counts. A migration that makes one calls this.
create function keep_noun(noun text) returns void language plpgsql as $$
begin
  execute format('create trigger next_version before update on %I for each row execute function next_version()', noun);
  execute format('create trigger log_change after insert or update or delete on %I for each row execute function log_change()', noun);
  execute format('insert into tally select %L, count(*) from %I', noun, noun);
  execute format('create trigger tally_added after insert on %I referencing new table as added for each statement execute function keep_tally()', noun);
  execute format('create trigger tally_gone after delete on %I referencing old table as gone for each statement execute function keep_tally()', noun);
  execute format('create trigger tally_emptied after truncate on %I for each statement execute function keep_tally()', noun);
end $$;

select keep_noun('template');

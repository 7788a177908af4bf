-- What the shop put away, and what it calls its heads together.

alter table build add column archived boolean not null default false;
comment on column build.archived is 'Put away: kept with all it has, and not offered where builds are chosen.';

alter table head add column archived boolean not null default false;
comment on column head.archived is 'Put away: kept with all it has, and not listed unless asked for.';
alter table head add column tags jsonb not null default '[]' constraint head_tags check (jsonb_typeof(tags) = 'array');
comment on column head.tags is 'Words of the shop, by which heads are found together.';

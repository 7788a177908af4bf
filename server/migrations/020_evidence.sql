-- When work was done, how a head was shifted on its fixture, and what kind of head it is.

alter table operation add column date date;
comment on column operation.date is 'The day it was done: tests before it are of the head as it was.';

alter table head add column class text not null default 'unknown'
  constraint head_class check (class in ('unknown', 'standard spacing', 'raised runner', 'canted', 'symmetrical', 'four-valve', 'other'));
comment on column head.class is 'Heads of one class are held against each other where nothing else is known.';

-- The user changes nothing here: versions and the change log stay.
alter table sheet disable trigger user;
alter table session disable trigger user;

-- What nobody was asked is unknown.
create function with_shift(setup jsonb) returns jsonb language sql immutable as $$
  select '{"shifted": null}'::jsonb || setup
$$;
create function setups_with_shift(setups jsonb) returns jsonb language sql immutable as $$
  select coalesce(jsonb_agg(with_shift(e.setup) order by e.at), '[]') from jsonb_array_elements(setups) with ordinality as e(setup, at)
$$;
create function logged_with_shift(noun text, logged jsonb) returns jsonb language sql immutable as $$
  select case
    when logged is null then null
    when noun = 'sheet' then jsonb_set(logged, '{setup}', with_shift(logged -> 'setup'))
    else jsonb_set(logged, '{setups}', setups_with_shift(logged -> 'setups'))
  end
$$;
update sheet set setup = with_shift(setup);
update session set setups = setups_with_shift(setups);
update change set before = logged_with_shift(noun, before), after = logged_with_shift(noun, after)
  where noun in ('sheet', 'session');
drop function logged_with_shift;
drop function setups_with_shift;
drop function with_shift;

alter table sheet enable trigger user;
alter table session enable trigger user;

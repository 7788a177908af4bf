-- Speeds an engine works at, where they are not those usual for its use; and what-ifs of the simulation, kept by what was typed.

alter table build add column working_from positive;
alter table build add column working_to positive;
alter table build add constraint build_working check ((working_from is null) = (working_to is null));
alter table build add column variants jsonb not null default '[]' constraint build_variants check (jsonb_typeof(variants) = 'array');

-- What the simulation takes of an engine's pipes; whatever is not known is assumed, and said.

alter table build add column runner_length positive;
alter table build add column runner_area positive;
alter table build add column plenum_volume positive;
alter table build add column inlet_area positive;
alter table build add column primary_length positive;
alter table build add column primary_area positive;
alter table build add column back_pressure positive;
comment on column build.runner_length is 'From the plenum to the head.';
comment on column build.inlet_area is 'Flowing area of the throttle or carburettor, of the whole engine.';
comment on column build.primary_length is 'Of the exhaust pipe of one cylinder.';
comment on column build.back_pressure is 'Above the air around, at the target speed.';

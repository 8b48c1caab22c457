-- of series that are held against their normal it is known what was in force before; of what was learned so far it is
-- not known since when it is
alter table baseline add column since timestamptz not null default 'epoch';
alter table baseline alter column since drop default;

create table baseline_before (
  series      int not null,
  -- 0 for Monday
  weekday     smallint not null,
  since       timestamptz not null,
  -- from then on another was
  until       timestamptz not null,
  body        bytea not null,
  primary key (series, weekday, until)
);
alter table baseline_before alter column body set storage external;

-- baselines that are kept by name, learned from a period that somebody chose
create table frozen (
  id          serial primary key,
  instance    int not null references instance,
  name        text not null,
  from_at     timestamptz not null,
  to_at       timestamptz not null,
  made_at     timestamptz not null,
  made_by     text not null,
  unique (instance, name)
);

create table frozen_baseline (
  frozen      int not null references frozen on delete cascade,
  series      int not null references series,
  body        bytea not null,
  primary key (frozen, series)
);
alter table frozen_baseline alter column body set storage external;

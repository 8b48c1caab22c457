-- what was read of an engine's own log, packed, until its hour is over
create table logged (
  instance    int not null references instance,
  at          timestamptz not null,
  body        bytea not null,
  primary key (instance, at)
);

create table logged_hour (
  instance    int not null references instance,
  from_at     timestamptz not null,
  n           int not null,
  body        bytea not null,
  primary key (instance, from_at)
);
-- packed already
alter table logged alter column body set storage external;
alter table logged_hour alter column body set storage external;

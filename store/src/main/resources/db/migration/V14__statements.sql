-- what an engine counted of its statements until a moment, packed, until its hour is over
create table statements (
  instance    int not null references instance,
  at          timestamptz not null,
  body        bytea not null,
  primary key (instance, at)
);

-- the minutes of an hour, packed together
create table statements_hour (
  instance    int not null references instance,
  from_at     timestamptz not null,
  n           int not null,
  body        bytea not null,
  primary key (instance, from_at)
);

-- the same added up: kept for longer than the minutes
create table statements_sum (
  instance    int not null references instance,
  from_at     timestamptz not null,
  body        bytea not null,
  primary key (instance, from_at)
);
-- packed already
alter table statements alter column body set storage external;
alter table statements_hour alter column body set storage external;
alter table statements_sum alter column body set storage external;

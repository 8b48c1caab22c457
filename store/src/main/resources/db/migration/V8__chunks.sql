-- up to when the readings of a source are sealed: before it they lie in chunks, from it on in rows
create table sealed (
  instance    int not null references instance,
  source      smallint not null,
  until_at    timestamptz not null,
  primary key (instance, source)
);

-- the readings of a source in a span of two hours, or of a day that is over: how many are laid out how, one after the
-- other, and when they were taken, packed
create table span (
  instance    int not null,
  source      smallint not null,
  day         boolean not null,
  from_at     timestamptz not null,
  to_at       timestamptz not null,
  revision    int not null,
  layouts     int[] not null,
  counts      int[] not null,
  times       bytea not null,
  primary key (instance, day, from_at, source)
) partition by list (day);
create table span_hours partition of span for values in (false);
create table span_days partition of span for values in (true) partition by range (from_at);

-- the values of a series in a span, packed: one for each reading whose layout holds it
create table chunk (
  series      int not null,
  source      smallint not null,
  day         boolean not null,
  from_at     timestamptz not null,
  n           int not null,
  least       float8 not null,
  greatest    float8 not null,
  total       float8 not null,
  first       float8 not null,
  last        float8 not null,
  body        bytea not null,
  primary key (series, day, from_at, source)
) partition by list (day);
-- packed already
alter table span alter column times set storage external;
alter table chunk alter column body set storage external;
create table chunk_hours partition of chunk for values in (false);
create table chunk_days partition of chunk for values in (true) partition by range (from_at);

-- a day of a series in steps of so many minutes, packed
create table step (
  series      int not null,
  source      smallint not null,
  minutes     smallint not null,
  from_at     timestamptz not null,
  body        bytea not null,
  primary key (series, minutes, from_at, source)
) partition by list (minutes);
alter table step alter column body set storage external;
create table step_1 partition of step for values in (1) partition by range (from_at);
create table step_15 partition of step for values in (15);

-- stretches of sealed readings that are not right any more: a reading of that time came late, or they were stamped by a
-- clock that was set back since
create table unsealed (
  id          bigint generated always as identity primary key,
  instance    int not null,
  source      smallint not null,
  from_at     timestamptz not null,
  to_at       timestamptz not null,
  overlapped  boolean not null
);
-- however much comes late for a span, it is packed again once
create unique index unsealed_late on unsealed (instance, source, from_at) where not overlapped;

-- nothing of what is there is sealed yet
insert into sealed (instance, source, until_at)
select instance, source, to_timestamp(floor(extract(epoch from first) / 7200) * 7200)
from (select distinct instance, source from layout) l,
  lateral (select min(at) as first from reading r where r.instance = l.instance and r.source = l.source) f
where first is not null;

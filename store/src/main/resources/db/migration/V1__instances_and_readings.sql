create table instance (
  id          int generated always as identity primary key,
  name        text not null,
  kind        text not null,
  group_name  text not null default '',
  site        text not null default '',
  machine     text not null default '',
  tags        text[] not null default '{}',
  host        text not null,
  port        int not null,
  database    text not null,
  tls         text not null,
  ca          text not null default '',
  user_name   text not null,
  secret      bytea not null,
  recipe      text not null,
  interval_s  int not null check (interval_s between 1 and 3600),
  zone        text not null,
  created_at  timestamptz not null,
  removed_at  timestamptz
);
create unique index instance_name on instance (name) where removed_at is null;

create table series (
  id          int generated always as identity primary key,
  instance    int not null references instance,
  counter     text not null,
  labels      jsonb not null,
  first_seen  timestamptz not null,
  unique (instance, counter, labels)
);

-- which series the places of a reading's array stand for, which of them are totals, and which counters were read whole:
-- immutable, found again by its hash
create table layout (
  id          int generated always as identity primary key,
  instance    int not null references instance,
  source      smallint not null,
  interval_s  int not null,
  series      int[] not null,
  totals      int[] not null,
  counters    text[] not null,
  hash        bytea not null unique
);
create index layout_instance on layout (instance);

create table reading (
  instance    int not null,
  at          timestamptz not null,
  source      smallint not null,
  layout      int not null,
  elapsed_ms  int not null,
  seq         bigint not null,
  arrived     timestamptz not null,
  vals        float8[] not null,
  primary key (instance, at, source)
) partition by range (at);

-- the raw totals of the last reading of each source, in the order of its layout, so that a restart loses no interval
create table last_totals (
  instance    int not null,
  source      smallint not null,
  at          timestamptz not null,
  seq         bigint not null,
  source_us   bigint not null,
  start_token bigint not null,
  layout      int not null,
  totals      bigint[] not null,
  epochs      bigint[] not null,
  nothing     int[] not null,
  primary key (instance, source)
) with (fillfactor = 50);

-- spans in which a series has no value, with the reason; to_at null while it lasts
create table nothing_span (
  series      int not null references series,
  from_at     timestamptz not null,
  to_at       timestamptz,
  why         text not null,
  primary key (series, from_at)
);
create unique index nothing_span_open on nothing_span (series) where to_at is null;

-- spans in which an instance did not answer, with what answered instead
create table silence (
  instance    int not null references instance,
  source      smallint not null,
  from_at     timestamptz not null,
  to_at       timestamptz,
  reason      text not null,
  words       text not null,
  primary key (instance, source, from_at)
);
create unique index silence_open on silence (instance, source) where to_at is null;

-- Who is told of what, as one whole: it is changed by one at a time.
create table telling_plan (
  one boolean primary key default true check (one),
  version int not null,
  body jsonb not null
);

-- By what is told. What must not be read by others stands in secret alone.
create table channel (
  name text primary key,
  kind text not null,
  body jsonb not null,
  secret bytea,
  changed_at timestamptz not null
);

-- Each message to one recipient by one channel, and what became of it.
create table message (
  key text primary key,
  at timestamptz not null,
  kind text not null,
  matter text not null,
  recipient text not null,
  channel text not null,
  address text not null,
  others text[] not null,
  rule text not null,
  severity text not null,
  alerts text[] not null,
  subject text not null,
  body text not null,
  thread text not null,
  picture bytea,
  state text not null,
  attempts int not null,
  answer text not null,
  last_at timestamptz
);
create index message_at on message (at);
create index message_alerts on message using gin (alerts);
create index message_waiting on message (at) where state = 'waiting';

-- Up to when all is decided that there was to be told.
create table telling_decided (
  one boolean primary key default true check (one),
  until timestamptz not null
);

-- what was sampled of the sessions of an engine, packed, each sample in a row of its own until its hour is over
create table sample (
  instance    int not null references instance,
  at          timestamptz not null,
  body        bytea not null,
  primary key (instance, at)
);

-- the samples of an hour, packed together
create table sample_hour (
  instance    int not null references instance,
  from_at     timestamptz not null,
  n           int not null,
  body        bytea not null,
  primary key (instance, from_at)
);
-- packed already
alter table sample alter column body set storage external;
alter table sample_hour alter column body set storage external;

-- texts of statements without the values in them, by fingerprint, and when one was seen first
create table statement_text (
  instance    int not null references instance,
  fingerprint bigint not null,
  body        text not null,
  first_at    timestamptz not null,
  last_at     timestamptz not null,
  primary key (instance, fingerprint)
);

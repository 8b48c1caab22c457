-- up to where the journal was brought into this database; the epoch says of which journal
create table journal (
  one         boolean primary key default true check (one),
  epoch       text not null,
  position    bigint not null
);

-- entries of the journal that could not be brought, with the reason
create table set_aside (
  id          bigint generated always as identity primary key,
  epoch       text not null,
  position    bigint not null,
  at          timestamptz not null,
  why         text not null,
  entry       bytea not null
);

-- numbers are given without asking the database: one that is gone for good may come back under another
alter table series drop constraint series_instance_counter_labels_key;
create unique index series_key on series (instance, counter, labels) where retired_at is null;
create index series_retired on series (instance, retired_at) where retired_at is not null;
alter table layout drop constraint layout_hash_key;

-- days in steps of six hours, for what is months long; and whole months of such steps and of those of 15 minutes, which
-- outlive all else
create table step_360 partition of step for values in (360);
create table step_month (
  series      int not null,
  source      smallint not null,
  minutes     smallint not null,
  from_at     timestamptz not null,
  body        bytea not null,
  primary key (series, minutes, from_at, source)
);
alter table step_month alter column body set storage external;

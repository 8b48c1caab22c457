-- one that a person has paused is not read, and nobody calls it silent
alter table instance add column paused boolean not null default false;

-- what an instance says of itself, kept as changes; to_at null while it holds
create table instance_fact (
  instance    int not null references instance,
  name        text not null,
  value       text not null,
  from_at     timestamptz not null,
  to_at       timestamptz,
  primary key (instance, name, from_at)
);
create unique index instance_fact_now on instance_fact (instance, name) where to_at is null;

-- a user with its password, under a name, for several instances
create table credential (
  name        text primary key,
  user_name   text not null,
  secret      bytea not null,
  changed_at  timestamptz not null
);
alter table instance add column credential text references credential on update cascade;

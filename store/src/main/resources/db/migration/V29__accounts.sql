-- who may sign in: what of, and how far; without a password only by a key for once or by single sign-on
create table account (
  id            int generated always as identity primary key,
  name          text not null,
  password      text,
  role          text not null,
  off           boolean not null default false,
  made_at       timestamptz not null,
  signed_in_at  timestamptz
);
create unique index account_name on account (lower(name));

-- what a program shows to be let in: its hash alone is kept
create table token (
  id            int generated always as identity primary key,
  name          text not null unique,
  hash          bytea not null unique,
  role          text not null,
  made_by       text not null,
  made_at       timestamptz not null,
  ends_at       timestamptz not null,
  used_at       timestamptz
);

-- lets in once; of nobody: for making the first administrator
create table entry_key (
  hash          bytea primary key,
  account       int references account on delete cascade,
  ends_at       timestamptz not null
);

-- sessions of browsers, as Spring Session keeps them
create table spring_session (
  primary_id            char(36) primary key,
  session_id            char(36) not null unique,
  creation_time         bigint not null,
  last_access_time      bigint not null,
  max_inactive_interval int not null,
  expiry_time           bigint not null,
  principal_name        varchar(100)
);
create index spring_session_expiry on spring_session (expiry_time);
create index spring_session_principal on spring_session (principal_name);
create table spring_session_attributes (
  session_primary_id    char(36) not null references spring_session on delete cascade,
  attribute_name        varchar(200) not null,
  attribute_bytes       bytea not null,
  primary key (session_primary_id, attribute_name)
);

-- from where a change was made; empty for what Jam Jar did by itself
alter table change add column address text not null default '';

-- only ever added to
create function change_stays() returns trigger language plpgsql as $$
begin
  raise exception 'changes are only ever added to';
end $$;
create trigger change_stays before update or delete or truncate on change
  for each statement execute function change_stays();

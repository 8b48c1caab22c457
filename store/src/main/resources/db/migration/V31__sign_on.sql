-- who comes in by single sign-on: by whom known, and as whom there
alter table account add column issuer text;
alter table account add column subject text;
create unique index account_subject on account (issuer, subject);

-- what the members of a group of those who come so may
create table sign_on_group (
  name   text primary key,
  role   text not null,
  scope  text[] not null default '{}'
);

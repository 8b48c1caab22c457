-- for how many days what was read is kept, as it was read and in steps of a minute (null: for ever), by class
create table keeping (
  keep          smallint primary key,
  name          text not null,
  readings_days int not null check (readings_days > 0),
  minutes_days  int check (minutes_days > 0),
  changed_at    timestamptz not null default '-infinity'
);
insert into keeping values (0, 'usual', 56, 180), (1, 'short', 14, 60), (2, 'long', 400, null);

-- the instances of another class than the usual one
create table kept_as (
  instance    int primary key references instance,
  keep        smallint not null references keeping
);

-- what is kept for unlike times lies in unlike tables: by class, then by month
alter table span add column keep smallint not null default 0;
alter table chunk add column keep smallint not null default 0;
alter table step add column keep smallint not null default 0;

create temp table months on commit drop as
select c.relname as name, p.relname as parent, pg_get_expr(c.relpartbound, c.oid) as bound, k.conname as key
from pg_inherits i join pg_class c on c.oid = i.inhrelid join pg_class p on p.oid = i.inhparent
  join pg_constraint k on k.conrelid = c.oid and k.contype = 'p'
where p.relname in ('span_days', 'chunk_days', 'step_1');

do $$
declare month record;
begin
  for month in select * from months loop
    execute format('alter table %I detach partition %I', month.parent, month.name);
    execute format('alter table %I drop constraint %I', month.name, month.key);
  end loop;
end $$;

alter table span detach partition span_days;
alter table chunk detach partition chunk_days;
alter table step detach partition step_1;
drop table span_days, chunk_days, step_1;
alter table span drop constraint span_pkey, add primary key (instance, day, from_at, source, keep);
alter table chunk drop constraint chunk_pkey, add primary key (series, day, from_at, source, keep);
alter table step drop constraint step_pkey, add primary key (series, minutes, from_at, source, keep);
create table span_days partition of span for values in (true) partition by list (keep);
create table chunk_days partition of chunk for values in (true) partition by list (keep);
create table step_1 partition of step for values in (1) partition by list (keep);

do $$
declare
  month record;
  name text;
begin
  for parent in 0..2 loop
    execute format('create table span_days_%s partition of span_days for values in (%s) partition by range (from_at)', parent, parent);
    execute format('create table chunk_days_%s partition of chunk_days for values in (%s) partition by range (from_at)', parent, parent);
    execute format('create table step_1_%s partition of step_1 for values in (%s) partition by range (from_at)', parent, parent);
  end loop;
  for month in select * from months loop
    name := month.parent || '_0' || right(month.name, 7);
    execute format('alter table %I rename to %I', month.name, name);
    execute format('alter table %I attach partition %I %s', month.parent || '_0', name, month.bound);
  end loop;
end $$;

-- spans in which nobody was watched, with the reason; to_at before from_at where the clock was set back
create table unwatched (
  id          int generated always as identity primary key,
  from_at     timestamptz not null,
  to_at       timestamptz not null,
  lasted_ms   bigint not null,
  why         text not null,
  words       text not null
);
create index unwatched_to on unwatched (to_at);

-- until when Jam Jar is known to have watched: one row
create table watching (
  one         boolean primary key default true check (one),
  until_at    timestamptz not null
);

-- stamped by a clock that was set back since: stays as it was read, but counts nowhere
alter table reading add column overlapped boolean not null default false;

-- a label that is gone for good; null while it is there
alter table series add column retired_at timestamptz;
update series s set retired_at = n.from_at
from nothing_span n
where n.series = s.id and n.to_at is null and n.why = 'RETIRED';
create index series_alive on series (instance) where retired_at is null;

-- every change of what is watched, how, and by which limits, in the order in which they took force
create table change (
  id          bigint generated always as identity primary key,
  at          timestamptz not null,
  who         text not null,
  what        text not null,
  of_what     text not null,
  before      jsonb,
  after       jsonb
);
create index change_at on change (at);
create index change_of on change (what, of_what);

-- an alert whose instance was removed while it was open is nobody's any more
with ended as (
  update alert a set state = 'removed', ended_at = greatest(a.since, i.removed_at)
  from instance i
  where i.id = a.instance and i.removed_at is not null and a.ended_at is null
  returning a.id, a.ended_at
)
insert into alert_transition (alert, at, arrived, from_state, to_state, value, normal_low, normal,
  normal_high, number, distance)
select e.id, e.ended_at, e.ended_at, a.state, 'removed', 'NaN', 'NaN', 'NaN', 'NaN', 'NaN', 'NaN'
from ended e join alert a on a.id = e.id;
delete from limit_state s using instance i where i.id = s.instance and i.removed_at is not null;

-- what was judged afterwards may be forgotten: what belonged to it is bundled anew
alter table alert drop constraint alert_bundle_fkey;
alter table alert add foreign key (bundle) references alert on delete set null;

-- judged afterwards once, however often it is asked for
create unique index alert_afterwards_once on alert (instance, series, condition, since)
  where afterwards;

-- the first time is as it was set, also in the hour that a clock repeats
create or replace view marker_time as
  select id, kind, title, note, from_at, to_at, reach, reach_of, made_at, made_by, repeats, zone,
    ends_at, from_at as first_at
  from marker
  union all
  select m.id, m.kind, m.title, m.note, t.from_at, t.to_at, m.reach, m.reach_of, m.made_at,
    m.made_by, m.repeats, m.zone, m.ends_at, m.from_at
  from marker m
    cross join lateral (
      select case m.repeats when 'day' then interval '1 day' else interval '7 days' end as step) s
    cross join lateral (
      select ((m.from_at at time zone m.zone) + n * s.step) at time zone m.zone as from_at,
        ((m.to_at at time zone m.zone) + n * s.step) at time zone m.zone as to_at
      from generate_series(1, least(4000, greatest(0, ceil(extract(epoch from
        coalesce(m.ends_at, now() + interval '60 days') - m.from_at)
        / extract(epoch from s.step))::int))) n) t
  where m.repeats <> '' and (m.ends_at is null or t.from_at <= m.ends_at);

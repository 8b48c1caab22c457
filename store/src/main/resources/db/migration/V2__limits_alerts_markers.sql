-- limits as persons set them; null is inherited from the next wider one of the same counter and condition
create table rule (
  id             int generated always as identity primary key,
  counter        text not null,
  labels         jsonb not null,
  reach          text not null,
  reach_of       text not null,
  condition      text not null,
  warning        float8,
  critical       float8,
  hold_m         int,
  hold_n         int,
  critical_m     int,
  critical_n     int,
  clear          float8,
  critical_clear float8,
  clear_s        int,
  is_on          boolean,
  off_reason     text not null default '',
  off_until      timestamptz,
  shipped        boolean not null,
  changed_at     timestamptz not null,
  unique (counter, labels, reach, reach_of, condition)
);

-- where each limit stands on each series, as long as it is not simply calm; series 0 stands for the whole instance
create table limit_state (
  instance        int not null references instance,
  series          int not null,
  condition       text not null,
  state           text not null,
  beneath         text not null,
  severity        text not null,
  warning_passes  bigint not null,
  critical_passes bigint not null,
  since           bigint not null,
  worst           float8 not null,
  worst_badness   float8 not null,
  cleared_ms      bigint not null,
  missing         int not null,
  entries         bigint[] not null,
  flapping        boolean not null,
  judged          bigint not null,
  first           float8[],
  primary key (instance, series, condition)
);

create table alert (
  id           bigint generated always as identity primary key,
  rule         int not null,
  instance     int not null references instance,
  series       int not null,
  counter      text not null,
  labels       jsonb not null,
  condition    text not null,
  state        text not null,
  severity     text not null,
  since        timestamptz not null,
  ended_at     timestamptz,
  value        float8 not null,
  normal_low   float8 not null,
  normal_high  float8 not null,
  number       float8 not null,
  worst        float8 not null,
  flapping     boolean not null,
  seen_at      timestamptz,
  seen_by      text not null default '',
  seen_note    text not null default ''
);
create unique index alert_open on alert (instance, series, condition) where ended_at is null;
create index alert_since on alert (since);

create table alert_transition (
  id          bigint generated always as identity primary key,
  alert       bigint not null references alert,
  at          timestamptz not null,
  arrived     timestamptz not null,
  from_state  text not null,
  to_state    text not null,
  value       float8 not null,
  normal_low  float8 not null,
  normal      float8 not null,
  normal_high float8 not null,
  number      float8 not null,
  distance    float8 not null
);
create index alert_transition_alert on alert_transition (alert);

create table alert_note (
  id    bigint generated always as identity primary key,
  alert bigint not null references alert,
  at    timestamptz not null,
  who   text not null,
  note  text not null
);
create index alert_note_alert on alert_note (alert);

create table marker (
  id       int generated always as identity primary key,
  kind     text not null,
  title    text not null,
  note     text not null,
  from_at  timestamptz not null,
  to_at    timestamptz,
  reach    text not null,
  reach_of text not null,
  made_at  timestamptz not null,
  made_by  text not null
);
create index marker_from on marker (from_at);

-- what a release or a change made better or worse, told by itself some time after it
create table marker_outcome (
  marker      int not null references marker on delete cascade,
  span        text not null,
  instance    int not null references instance,
  told_at     timestamptz not null,
  kept_since  timestamptz not null,
  better      int not null,
  worse       int not null,
  other       int not null,
  same        int not null,
  first       jsonb not null,
  primary key (marker, span, instance)
);

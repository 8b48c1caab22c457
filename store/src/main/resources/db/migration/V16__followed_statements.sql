-- which statements of an engine are series of their own, by fingerprint
create table followed_statements (
  instance      int primary key references instance,
  fingerprints  bigint[] not null,
  chosen_at     timestamptz not null,
  -- whether what was counted of them before they were followed is in their series
  filled        boolean not null
);

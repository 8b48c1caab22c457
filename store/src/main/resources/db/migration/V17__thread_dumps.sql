-- what the threads of a JVM did at a moment
create table thread_dump (
  instance    int not null references instance,
  at          timestamptz not null,
  why         text not null,
  threads     int not null,
  blocked     int not null,
  body        jsonb not null,
  primary key (instance, at)
);

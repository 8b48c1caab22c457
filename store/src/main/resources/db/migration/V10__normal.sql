-- when what is normal for the series of an instance was learned, in which zone its week lies, from how many minutes
create table learned (
  instance    int primary key references instance,
  at          timestamptz not null,
  zone        text not null,
  minutes     int not null
);

-- what is normal for a series through its week, packed
create table baseline (
  series      int primary key,
  body        bytea not null
);
alter table baseline alter column body set storage external;

-- how many instances of a group there should be at a site
create table instance_group (
  name        text not null,
  site        text not null,
  expected    int not null check (expected >= 0),
  primary key (name, site)
);

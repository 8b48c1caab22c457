-- the charts of Now as a person has arranged them, for one instance or for all of a kind
create table arrangement (
  reach       text not null check (reach in ('kind', 'instance')),
  of_what     text not null,
  charts      text[] not null,
  primary key (reach, of_what)
);

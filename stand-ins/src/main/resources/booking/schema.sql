-- Skerry Line's bookings: all names and figures are invented
create table sailing (
  id        int primary key,
  route     text not null,
  departs   timestamptz not null,
  berths    int not null
);
create table berth (
  sailing   int not null references sailing,
  number    int not null,
  held_by   bigint,
  primary key (sailing, number)
);
create table booking (
  id        bigint generated always as identity primary key,
  sailing   int not null,
  lead_name text not null,
  vehicles  int not null,
  fare      numeric(8, 2) not null,
  paid_at   timestamptz,
  made_at   timestamptz not null default now()
);
create table fare (
  route     text not null,
  season    text not null,
  price     numeric(8, 2) not null,
  primary key (route, season)
);
create table gate_scan (
  id        bigint generated always as identity primary key,
  booking   bigint not null,
  gate      int not null,
  at        timestamptz not null default now()
);
insert into sailing
  select n, (array['Northquay – Southmole', 'Southmole – Northquay', 'Northquay – Tern Isle',
      'Southmole – Gannet Head'])[1 + n % 4], date_trunc('hour', now()) + n * interval '30 min', 400
  from generate_series(1, 60) n;
-- those of the last month have no berths to hold any more, but bookings to report on
insert into sailing
  select n, 'Northquay – Southmole', date_trunc('hour', now()) - (n - 60) * interval '30 min', 400
  from generate_series(61, 1500) n;
insert into berth select s.id, b from sailing s, generate_series(1, 400) b where s.id <= 60;
insert into fare select r, s, 20 + 7 * length(r) % 90
  from (select distinct route r from sailing) a, unnest(array['low', 'mid', 'high']) s;
insert into booking (sailing, lead_name, vehicles, fare)
  select 1 + n % 1500, 'Traveller ' || n % 90000, n % 3, 30 + n % 200
  from generate_series(1, 300000) n;
create index booking_sailing on booking (sailing);
alter table booking add foreign key (sailing) references sailing;
create table loyalty_entry (
  id        bigint generated always as identity primary key,
  member    int not null,
  points    int not null
);
insert into loyalty_entry (member, points)
  select 1 + n * 7 % 4000, 5 + n % 90 from generate_series(1, 40000) n;

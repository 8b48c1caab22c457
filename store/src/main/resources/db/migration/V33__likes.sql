-- how somebody likes it, at whatever browser
create table account_likes (
  account     int primary key references account on delete cascade,
  theme       text not null,
  keys_act    boolean not null,
  first_view  text not null,
  zone        text not null
);

-- what a person is to do when a limit is passed, or something of an instance or a group: a text, or a link
create table what_to_do (
  reach    text not null,
  reach_of text not null,
  words    text not null,
  primary key (reach, reach_of)
);

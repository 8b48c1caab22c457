-- what told of a chunk without opening it: of whole days the steps tell it, and nobody asked
alter table chunk drop column n, drop column least, drop column greatest, drop column total, drop column first,
  drop column last;

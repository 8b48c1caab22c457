-- what a limit is held against beside its numbers: the minute of the day at which something is due, or the value that will be reached
alter table rule add column against float8;

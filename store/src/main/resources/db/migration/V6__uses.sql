-- the instances that one uses, by name: NAME, or THROUGH=NAME where it is a pool that leads there
alter table instance add column uses text[] not null default '{}';

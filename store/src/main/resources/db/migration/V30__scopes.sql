-- of which part of the estate somebody may see and change something: sites, groups, tags; none for all of it
alter table account add column scope text[] not null default '{}';
alter table token add column scope text[] not null default '{}';

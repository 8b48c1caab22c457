-- judged over what was kept, not when it came: told to nobody
alter table alert add column afterwards boolean not null default false;
create index alert_afterwards on alert (instance) where afterwards;

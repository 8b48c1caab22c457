-- what the JVMs of a group run, as a process tells it; empty where they are not looked for
alter table instance_group add column command text not null default '';

-- the first alert of those that belong together; null until it is known, its own number where it is alone
alter table alert add column bundle bigint references alert;
create index alert_bundle on alert (bundle, since);
create index alert_unbundled on alert (id) where bundle is null;

-- a person knows of it until then, or until it gets worse than it was
alter table alert add column seen_until timestamptz;
alter table alert add column seen_severity text not null default '';
update alert set seen_until = seen_at + interval '12 hours', seen_severity = severity
  where seen_at is not null;
update alert set bundle = id;

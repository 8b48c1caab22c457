-- to whom it was given; empty for nobody
alter table alert add column assigned text not null default '';

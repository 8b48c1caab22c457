-- What was judged afterwards twice, before V27 let it be there once: of each the first that somebody
-- has seen is kept, with all that was said. Otherwise V27 would fail on such a store.
do $$
begin
  if to_regclass('alert_afterwards_once') is null and exists (
      select from pg_attribute
      where attrelid = to_regclass('alert') and attname = 'afterwards') then
    create temporary table twice on commit drop as
      select id, kept from (
        select id, first_value(id) over (partition by instance, series, condition, since
          order by seen_at is null, id) as kept
        from alert where afterwards) a
      where id <> kept;
    update alert_note n set alert = t.kept from twice t where n.alert = t.id;
    -- what belonged to it is bundled anew
    update alert set bundle = null where bundle in (select id from twice);
    delete from alert_transition where alert in (select id from twice);
    delete from alert where id in (select id from twice);
  end if;
end $$;

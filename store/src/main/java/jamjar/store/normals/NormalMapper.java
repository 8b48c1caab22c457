package jamjar.store.normals;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** What was learned of instances, and the baselines of their series. */
interface NormalMapper {
  /** A packed baseline. */
  record Row(int series, byte[] body) {}

  /** A packed day of a baseline, and from when on it is in force. */
  record Day(int series, int weekday, Instant since, byte[] body) {}

  /** A packed day of a baseline that was in force until another was. */
  record Before(int series, int weekday, Instant since, Instant until, byte[] body) {}

  @Select("select * from learned where instance = #{instance}")
  Optional<Learned> learned(int instance);

  @Insert(
      """
      insert into learned (instance, at, zone, minutes)
      values (#{instance}, #{at}, #{zone}, #{minutes})
      on conflict (instance) do update set at = excluded.at, zone = excluded.zone,
        minutes = excluded.minutes
      """)
  void learn(
      @Param("instance") int instance,
      @Param("at") Instant at,
      @Param("zone") String zone,
      @Param("minutes") int minutes);

  @Insert(
      """
      insert into baseline (series, weekday, since, body)
      values (#{series}, #{weekday}, #{since}, #{body})
      on conflict (series, weekday) do update set since = excluded.since, body = excluded.body
      """)
  void keep(Day day);

  /** A day is about to be replaced: what was in force until then stays known. */
  @Insert(
      """
      insert into baseline_before (series, weekday, since, until, body)
      select series, weekday, since, #{until}, body from baseline
      where series = #{series} and weekday = #{weekday} and since < #{until}
      on conflict (series, weekday, until) do nothing
      """)
  void remember(
      @Param("series") int series, @Param("weekday") int weekday, @Param("until") Instant until);

  /** What was in force after a moment and is not now. */
  @Select(
      """
      select * from baseline_before
      where series = any(#{series}) and weekday = any(#{weekdays}) and until > #{from}
      order by series, until
      """)
  List<Before> before(
      @Param("series") int[] series,
      @Param("weekdays") int[] weekdays,
      @Param("from") Instant from);

  /**
   * Drops what was in force longest ago, and of what was before a week that which was not in force
   * as a Monday began.
   *
   * @return how many days
   */
  @Delete(
      """
      delete from baseline_before
      where until < #{longAgo}
        or until < #{weekAgo} and date_trunc('week', until at time zone 'UTC') at time zone 'UTC' < since
      """)
  int thin(@Param("longAgo") Instant longAgo, @Param("weekAgo") Instant weekAgo);

  /** Those of series and instances that were gone by then. */
  @Select(
      affectData = true,
      value =
          """
      with gone as (
        select s.id from series s join instance i on i.id = s.instance
        where s.retired_at < #{by} or i.removed_at < #{by}),
      before as (delete from baseline_before b using gone where gone.id = b.series),
      now as (delete from baseline b using gone where gone.id = b.series returning b.series)
      select count(distinct series) from now
      """)
  int forget(Instant by);

  /** By series and weekday. */
  @Select(
      """
      select * from baseline where series = any(#{series}) and weekday = any(#{weekdays})
      order by series, weekday
      """)
  List<Day> baselines(@Param("series") int[] series, @Param("weekdays") int[] weekdays);

  /** Of which nothing was learned yet. */
  @Select(
      """
      select id from unnest(#{series}) id
      where not exists (select 1 from baseline where series = id)
      """)
  List<Integer> without(@Param("series") int[] series);

  @Select(
      affectData = true,
      value =
          """
      insert into frozen (instance, name, from_at, to_at, made_at, made_by)
      values (#{instance}, #{name}, #{fromAt}, #{toAt}, #{madeAt}, #{madeBy})
      returning id
      """)
  int freeze(FrozenRow row);

  @Insert(
      "insert into frozen_baseline (frozen, series, body) values (#{frozen}, #{series}, #{body})")
  void keepFrozen(
      @Param("frozen") int frozen, @Param("series") int series, @Param("body") byte[] body);

  @Select("select * from frozen where instance = #{instance} order by made_at, id")
  List<FrozenRow> frozen(int instance);

  @Delete("delete from frozen where id = #{id} and instance = #{instance}")
  int thaw(@Param("instance") int instance, @Param("id") int id);

  @Select(
      "select series, body from frozen_baseline where frozen = #{frozen} and series = #{series}")
  List<Row> frozenOf(@Param("frozen") int frozen, @Param("series") int series);
}

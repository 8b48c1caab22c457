package jamjar.store.series;

import java.time.Instant;
import java.util.List;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The series of the instances and why some have no value. */
public interface SeriesMapper {
  @Select(
      "select id, instance, counter, labels from series where instance = #{instance} order by id")
  List<SeriesRow> ofInstance(int instance);

  /** Those that are not gone for good. */
  @Select(
      """
      select id, instance, counter, labels from series
      where instance = #{instance} and retired_at is null order by id
      """)
  List<SeriesRow> alive(int instance);

  /** Those of one counter, of all instances, that are not gone for good. */
  @Select(
      """
      select id, instance, counter, labels from series
      where counter = #{counter} and retired_at is null order by id
      """)
  List<SeriesRow> ofCounter(String counter);

  /**
   * Those that are there, and of the others the latest: what a person may want to look at still.
   */
  @Select(
      """
      (select id, instance, counter, labels from series
       where instance = #{instance} and retired_at is null)
      union all
      (select id, instance, counter, labels from series
       where instance = #{instance} and retired_at is not null
       order by retired_at desc limit #{most})
      order by id
      """)
  List<SeriesRow> shown(@Param("instance") int instance, @Param("most") int most);

  @Select("select id, instance, counter, labels from series where id = any(#{ids})")
  List<SeriesRow> byIds(@Param("ids") int[] ids);

  /**
   * Numbers of series that nobody else gets. An earlier copy of the database may count on from
   * where it was, while what the journal brought since has its numbers.
   */
  @Select(
      affectData = true,
      value =
          """
      select number from (
        select nextval(pg_get_serial_sequence('series', 'id')) as number
        from generate_series(1, #{n})) drawn
      where number > (select coalesce(max(id), 0) from series)
      """)
  int[] reserve(int n);

  /**
   * A new one.
   *
   * @param labels as JSON
   */
  @Insert(
      """
      insert into series (id, instance, counter, labels, first_seen) overriding system value
      values (#{row.id}, #{row.instance}, #{row.counter}, #{labels}::jsonb, #{at})
      """)
  void add(@Param("row") SeriesRow row, @Param("labels") String labels, @Param("at") Instant at);

  @Update("update series set retired_at = #{at} where id = any(#{ids}) and retired_at is null")
  void retire(@Param("ids") int[] ids, @Param("at") Instant at);

  @Update("update series set retired_at = null where id = any(#{ids}) and retired_at is not null")
  void comeBack(@Param("ids") int[] ids);

  @Insert(
      """
      insert into nothing_span (series, from_at, why) values (#{series}, #{from}, #{why})
      on conflict do nothing
      """)
  void beginNothing(NothingSpan span);

  @Update("update nothing_span set to_at = #{at} where series = #{series} and to_at is null")
  void endNothing(@Param("series") int series, @Param("at") Instant at);

  @Select(
      """
      select n.series, n.from_at as from, n.to_at as to, n.why
      from nothing_span n join series s on s.id = n.series
      where s.instance = #{instance} and n.to_at is null
      """)
  List<NothingSpan> lasting(int instance);

  @Select(
      """
      select series, from_at as from, to_at as to, why from nothing_span
      where series = any(#{ids}) and from_at <= #{to} and coalesce(to_at, 'infinity') >= #{from}
      order by series, from_at
      """)
  List<NothingSpan> touching(
      @Param("ids") int[] ids, @Param("from") Instant from, @Param("to") Instant to);
}

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

  @Select("select id, instance, counter, labels from series where id = any(#{ids})")
  List<SeriesRow> byIds(@Param("ids") int[] ids);

  @Insert(
      """
      insert into series (instance, counter, labels, first_seen)
      values (#{row.instance}, #{row.counter}, #{row.labels,typeHandler=jamjar.store.mapping.LabelsHandler}, #{at})
      on conflict do nothing
      """)
  void add(@Param("row") SeriesRow row, @Param("at") Instant at);

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

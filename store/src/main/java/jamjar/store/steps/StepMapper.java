package jamjar.store.steps;

import jamjar.store.chunks.SpanRow;
import java.time.Instant;
import java.util.List;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultMap;
import org.apache.ibatis.annotations.Results;
import org.apache.ibatis.annotations.Select;

/** Days of series in steps. */
public interface StepMapper {
  /** Steps of some series of a day, in one statement: there are many. */
  @Insert(
      """
      insert into step (series, source, minutes, from_at, body, keep)
      select one.series, #{day.source}, one.minutes, #{day.fromAt}, one.body, #{day.keep}
      from unnest(#{series}, #{minutes}, #{bodies}) one (series, minutes, body)
      """)
  void add(
      @Param("day") SpanRow day,
      @Param("series") int[] series,
      @Param("minutes") int[] minutes,
      @Param("bodies") byte[][] bodies);

  @Delete(
      """
      delete from step
      where series = any(#{series}) and minutes in (1, 15, 360) and from_at = #{from}
        and source = #{source}
      """)
  void remove(
      @Param("series") int[] series, @Param("source") int source, @Param("from") Instant from);

  /** Whether any of some series has steps of a day. */
  @Select(
      """
      select exists (select 1 from step
          where series = any(#{series}) and minutes = 15 and from_at = #{day}
            and source = #{source})
        or exists (select 1 from step_month
          where series = any(#{series}) and minutes = 15
            and from_at = date_trunc('month', #{day}::timestamptz, 'UTC') and source = #{source})
      """)
  boolean any(
      @Param("series") int[] series, @Param("source") int source, @Param("day") Instant day);

  /** Whole months; as for days. */
  @Select(
      """
      select * from step_month
      where series = any(#{series}) and minutes = #{minutes} and from_at between #{from} and #{to}
      order by series, from_at
      """)
  @ResultMap("steps")
  List<StepRow> months(
      @Param("series") int[] series,
      @Param("minutes") int minutes,
      @Param("from") Instant from,
      @Param("to") Instant to);

  /**
   * Months and days that touch a window, in one question: both ends inclusive, by series, months
   * before the days that count instead of them.
   *
   * @param month the begin of the first month
   * @param day of the first day
   */
  @Select(
      """
      select series, source, minutes, from_at, body from (
        select *, 0 as turn from step_month
        where series = any(#{series}) and minutes = #{minutes}
          and from_at between #{month} and #{to}
        union all
        select series, source, minutes, from_at, body, 1 from step
        where series = any(#{series}) and minutes = #{minutes} and from_at between #{day} and #{to}
      ) both_of_them
      order by series, turn, from_at
      """)
  @Results(id = "steps")
  @Arg(column = "series", javaType = int.class)
  @Arg(column = "source", javaType = int.class)
  @Arg(column = "minutes", javaType = int.class)
  @Arg(column = "from_at", javaType = Instant.class)
  @Arg(column = "body", javaType = byte[].class)
  List<StepRow> touching(
      @Param("series") int[] series,
      @Param("minutes") int minutes,
      @Param("month") Instant month,
      @Param("day") Instant day,
      @Param("to") Instant to);

  /**
   * A month of an instance of which there are days, and all of which is packed.
   *
   * @param fromAt its begin, UTC
   */
  record Month(int instance, int source, Instant fromAt) {}

  @Select(
      """
      select distinct s.instance, t.source, date_trunc('month', t.from_at, 'UTC') as from_at
      from step_15 t join series s on s.id = t.series
        join sealed d on d.instance = s.instance and d.source = t.source
      where date_trunc('month', t.from_at, 'UTC') + interval '1 month 2 days' <= d.until_at
      order by from_at
      """)
  List<Month> toMerge();

  /** The series of an instance of which there are days in steps in a month. */
  @Select(
      """
      select distinct t.series from step_15 t join series s on s.id = t.series
      where s.instance = #{month.instance} and t.source = #{month.source}
        and t.from_at >= #{month.fromAt} and t.from_at < #{to}
      """)
  int[] ofMonth(@Param("month") Month month, @Param("to") Instant to);

  @Insert(
      """
      insert into step_month (series, source, minutes, from_at, body)
      values (#{series}, #{source}, #{minutes}, #{fromAt}, #{body})
      on conflict (series, minutes, from_at, source) do update set body = excluded.body
      """)
  void addMonth(StepRow row);

  /** Takes the days of a month away; those of a minute are kept as days. */
  @Delete(
      """
      delete from step
      where series = any(#{series}) and minutes in (15, 360) and source = #{source}
        and from_at >= #{from} and from_at < #{to}
      """)
  void removeDays(
      @Param("series") int[] series,
      @Param("source") int source,
      @Param("from") Instant from,
      @Param("to") Instant to);

  /** Days that begin within a window, both ends inclusive; by series in order of time. */
  @Select(
      """
      select * from step
      where series = any(#{series}) and minutes = #{minutes} and from_at between #{from} and #{to}
      order by series, from_at
      """)
  @ResultMap("steps")
  List<StepRow> days(
      @Param("series") int[] series,
      @Param("minutes") int minutes,
      @Param("from") Instant from,
      @Param("to") Instant to);
}

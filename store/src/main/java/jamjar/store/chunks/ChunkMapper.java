package jamjar.store.chunks;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/**
 * Sealed spans, their chunks, and up to when all is sealed. Of what comes in thousands it is said
 * which column is which argument: to find that out for each row takes longer than to read it.
 */
public interface ChunkMapper {
  /** One that is sealed up to a moment. */
  record Until(int instance, int source, Instant untilAt) {}

  /**
   * A stretch that is not right any more, both ends inclusive.
   *
   * @param overlapped whether it was stamped by a clock that was set back since; else something
   *     came late
   */
  record Unsealed(
      long id, int instance, int source, Instant fromAt, Instant toAt, boolean overlapped) {}

  /**
   * Some of a source over a whole day.
   *
   * @param keep how long it is to be kept: the number of the class
   */
  record Day(int instance, int source, Instant fromAt, int keep) {}

  @Select("select * from sealed where instance = #{instance}")
  List<Until> sealed(int instance);

  @Select("select * from sealed order by until_at")
  List<Until> all();

  /** Up to when all sources are sealed; null where there is none. */
  @Select("select min(until_at) from sealed")
  Instant allSealed();

  /** As above, of one; it is not sealed further meanwhile. */
  @Select(
      """
      select until_at from sealed where instance = #{instance} and source = #{source} for update
      """)
  Optional<Instant> lock(@Param("instance") int instance, @Param("source") int source);

  @Insert(
      """
      insert into sealed (instance, source, until_at) values (#{instance}, #{source}, #{untilAt})
      on conflict (instance, source) do update set until_at = excluded.until_at
      """)
  void seal(Until until);

  @Insert(
      """
      insert into span (instance, source, day, from_at, to_at, revision, layouts, counts, times, keep)
      values (#{instance}, #{source}, #{day}, #{fromAt}, #{toAt}, #{revision}, #{layouts},
        #{counts}, #{times}, #{keep})
      """)
  void addSpan(SpanRow row);

  /** The chunks of some series of a span, in one statement: there are many. */
  @Insert(
      """
      insert into chunk (series, source, day, from_at, body, keep)
      select one.series, #{span.source}, #{span.day}, #{span.fromAt}, one.body, #{span.keep}
      from unnest(#{series}, #{bodies}) one (series, body)
      """)
  void addChunks(
      @Param("span") SpanRow span, @Param("series") int[] series, @Param("bodies") byte[][] bodies);

  /** Spans that touch a window, both ends inclusive. */
  @Select(
      """
      select * from span
      where instance = #{instance} and from_at <= #{to} and to_at > #{from}
      order by from_at, source
      """)
  List<SpanRow> touching(
      @Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);

  /** The chunks of series in spans that begin within a window, both ends inclusive. */
  @Select(
      """
      select series, source, day, from_at, body from chunk
      where series = any(#{series}) and from_at between #{from} and #{to}
      order by from_at
      """)
  @Arg(column = "series", javaType = int.class)
  @Arg(column = "source", javaType = int.class)
  @Arg(column = "day", javaType = boolean.class)
  @Arg(column = "from_at", javaType = Instant.class)
  @Arg(column = "body", javaType = byte[].class)
  List<ChunkRow> chunks(
      @Param("series") int[] series, @Param("from") Instant from, @Param("to") Instant to);

  /** Takes a span and its chunks away. */
  @Delete(
      """
      with gone as (
        delete from span
        where instance = #{span.instance} and source = #{span.source} and day = #{span.day}
          and from_at = #{span.fromAt}
      )
      delete from chunk
      where series = any(#{series}) and source = #{span.source} and day = #{span.day}
        and from_at = #{span.fromAt}
      """)
  void remove(@Param("span") SpanRow span, @Param("series") int[] series);

  /**
   * Days of which all is sealed, but in spans of two hours; and what came after them, so that it is
   * known how their last readings go on.
   */
  @Select(
      """
      select distinct instance, source, date_trunc('day', from_at, 'UTC') as from_at,
        coalesce(k.keep, 0) as keep
      from span join sealed using (instance, source) left join kept_as k using (instance)
      where not day and date_trunc('day', from_at, 'UTC') + interval '26 hours' <= until_at
      order by from_at
      """)
  List<Day> toMerge();

  /**
   * A reading came late. Who packs the span just then waits until it is committed, or it until that
   * is done.
   *
   * @param from the first moment of its span
   * @param to the last one
   */
  @Insert(
      """
      insert into unsealed (instance, source, from_at, to_at, overlapped)
      select #{instance}, #{source}, #{from}, #{to}, false
      on conflict (instance, source, from_at) where not overlapped
      do update set to_at = excluded.to_at
      """)
  void cameLate(
      @Param("instance") int instance,
      @Param("source") int source,
      @Param("from") Instant from,
      @Param("to") Instant to);

  @Select("select * from unsealed order by id")
  List<Unsealed> unsealed();

  /** It is being packed again: what comes late from now on is told anew. */
  @Delete("delete from unsealed where id = #{id}")
  void done(long id);

  @Select(
      """
      select exists (select 1 from unsealed where from_at < #{to} and to_at >= #{from})
      """)
  boolean anyUnsealed(@Param("from") Instant from, @Param("to") Instant to);

  /**
   * A month of whole days of a class, made apart and attached then: nobody waits for it.
   *
   * @param like the table that it is one of
   * @param parent the part of it that holds days of that class
   */
  @Update(
      """
      create table if not exists ${parent}_${name} (like ${like} including all);
      alter table ${parent} attach partition ${parent}_${name} for values from ('${from}') to ('${to}')
      """)
  void month(
      @Param("like") String like,
      @Param("parent") String parent,
      @Param("name") String name,
      @Param("from") String from,
      @Param("to") String to);

  /** Whether a part is there; as of now, where a look by its name may tell of a moment ago. */
  @Select("select exists (select 1 from pg_class where relname = #{name} and relispartition)")
  boolean exists(String name);
}

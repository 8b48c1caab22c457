package jamjar.store.packed;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Rows of one moment, and the hours into which they are packed; each kind in two tables. */
interface PackedMapper {
  /** Packed: what is of one moment, or of an hour from that moment on. */
  record Row(int instance, Instant at, byte[] body) {}

  @Insert(
      """
      insert into ${kind} (instance, at, body) values (#{instance}, #{at}, #{body})
      on conflict do nothing
      """)
  void add(
      @Param("kind") String kind,
      @Param("instance") int instance,
      @Param("at") Instant at,
      @Param("body") byte[] body);

  @Select(
      """
      select instance, at, body from ${kind}
      where instance = #{instance} and at >= #{from} and at < #{to} order by at
      """)
  List<Row> rows(
      @Param("kind") String kind,
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("to") Instant to);

  /** Those of hours that touch the time. */
  @Select(
      """
      select instance, from_at as at, body from ${kind}_hour
      where instance = #{instance} and from_at > #{from}::timestamptz - interval '1 hour' and from_at < #{to}
        and from_at >= #{after}::timestamptz
      order by from_at limit #{most}
      """)
  List<Row> hours(
      @Param("kind") String kind,
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("to") Instant to,
      @Param("after") Instant after,
      @Param("most") int most);

  /** How much is packed of hours that touch the time, in bytes. */
  @Select(
      """
      select coalesce(sum(octet_length(body)), 0) from ${kind}_hour
      where instance = #{instance} and from_at > #{from}::timestamptz - interval '1 hour' and from_at < #{to}
      """)
  long bytes(
      @Param("kind") String kind,
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("to") Instant to);

  /** The oldest hour that has rows and is over by then. */
  @Select(
      """
      select instance, date_trunc('hour', min(at), 'UTC') as at, null::bytea as body
      from ${kind} where at < date_trunc('hour', #{by}::timestamptz, 'UTC')
      group by instance order by 2 limit 1
      """)
  Optional<Row> oldest(@Param("kind") String kind, @Param("by") Instant by);

  @Select(
      """
      select body from ${kind}_hour where instance = #{instance} and from_at = #{from} for update
      """)
  Optional<byte[]> hour(
      @Param("kind") String kind, @Param("instance") int instance, @Param("from") Instant from);

  @Insert(
      """
      insert into ${kind}_hour (instance, from_at, n, body)
      values (#{instance}, #{from}, #{n}, #{body})
      on conflict (instance, from_at) do update set n = excluded.n, body = excluded.body
      """)
  void seal(
      @Param("kind") String kind,
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("n") int n,
      @Param("body") byte[] body);

  @Insert(
      """
      insert into ${kind}_hour (instance, from_at, n, body)
      values (#{instance}, #{from}, #{n}, #{body}) on conflict do nothing
      """)
  int put(
      @Param("kind") String kind,
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("n") int n,
      @Param("body") byte[] body);

  /** Takes them out: what is added meanwhile stays. */
  @Select(
      affectData = true,
      value =
          """
      delete from ${kind} where instance = #{instance} and at >= #{from} and at < #{to}
      returning instance, at, body
      """)
  @Options(flushCache = Options.FlushCachePolicy.TRUE)
  List<Row> take(
      @Param("kind") String kind,
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("to") Instant to);

  @Delete("delete from ${kind}_hour where from_at < #{before}")
  int age(@Param("kind") String kind, @Param("before") Instant before);
}

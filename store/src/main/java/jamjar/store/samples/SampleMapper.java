package jamjar.store.samples;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Samples of sessions, and the texts of what these ran. */
interface SampleMapper {
  /** Packed samples: one, or those of an hour. */
  record Row(int instance, Instant at, byte[] body) {}

  record Text(long fingerprint, String body) {}

  @Insert(
      """
      insert into sample (instance, at, body) values (#{instance}, #{at}, #{body})
      on conflict do nothing
      """)
  void add(@Param("instance") int instance, @Param("at") Instant at, @Param("body") byte[] body);

  @Insert(
      """
      insert into statement_text (instance, fingerprint, body, first_at, last_at)
      values (#{instance}, #{fingerprint}, #{body}, #{at}, #{at})
      on conflict (instance, fingerprint) do update set last_at = greatest(statement_text.last_at, excluded.last_at)
      """)
  void tell(
      @Param("instance") int instance,
      @Param("fingerprint") long fingerprint,
      @Param("body") String body,
      @Param("at") Instant at);

  @Select(
      """
      select instance, at, body from sample
      where instance = #{instance} and at >= #{from} and at < #{to} order by at
      """)
  List<Row> rows(
      @Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);

  /** Those of hours that touch the time. */
  @Select(
      """
      select instance, from_at as at, body from sample_hour
      where instance = #{instance} and from_at > #{from}::timestamptz - interval '1 hour' and from_at < #{to}
        and from_at >= #{after}::timestamptz
      order by from_at limit #{most}
      """)
  List<Row> hours(
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("to") Instant to,
      @Param("after") Instant after,
      @Param("most") int most);

  /** How much is packed of hours that touch the time, in bytes. */
  @Select(
      """
      select coalesce(sum(octet_length(body)), 0) from sample_hour
      where instance = #{instance} and from_at > #{from}::timestamptz - interval '1 hour' and from_at < #{to}
      """)
  long bytes(@Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);

  /** The oldest hour that has rows and is over by then. */
  @Select(
      """
      select instance, date_trunc('hour', min(at), 'UTC') as at, null::bytea as body
      from sample where at < date_trunc('hour', #{by}::timestamptz, 'UTC')
      group by instance order by 2 limit 1
      """)
  Optional<Row> oldest(Instant by);

  @Select(
      """
      select body from sample_hour where instance = #{instance} and from_at = #{from} for update
      """)
  Optional<byte[]> hour(@Param("instance") int instance, @Param("from") Instant from);

  @Insert(
      """
      insert into sample_hour (instance, from_at, n, body)
      values (#{instance}, #{from}, #{n}, #{body})
      on conflict (instance, from_at) do update set n = excluded.n, body = excluded.body
      """)
  void seal(
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("n") int n,
      @Param("body") byte[] body);

  @Insert(
      """
      insert into sample_hour (instance, from_at, n, body)
      values (#{instance}, #{from}, #{n}, #{body}) on conflict do nothing
      """)
  void put(
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("n") int n,
      @Param("body") byte[] body);

  /** Takes them out: what is added meanwhile stays. */
  @Select(
      affectData = true,
      value =
          """
      delete from sample where instance = #{instance} and at >= #{from} and at < #{to}
      returning instance, at, body
      """)
  @Options(flushCache = Options.FlushCachePolicy.TRUE)
  List<Row> take(
      @Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);

  @Delete("delete from sample_hour where from_at < #{before}")
  int age(Instant before);

  @Delete("delete from statement_text where last_at < #{before}")
  int ageTexts(Instant before);

  @Select(
      """
      select fingerprint, body from statement_text
      where instance = #{instance} and fingerprint = any(#{fingerprints})
      """)
  List<Text> texts(@Param("instance") int instance, @Param("fingerprints") long[] fingerprints);
}

package jamjar.store.watching;

import jamjar.core.watching.Gap;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** The gaps between the spans in which Jam Jar watched. */
public interface WatchingMapper {
  /** It watches at this moment, and what it reads is kept. */
  @Insert(
      """
      insert into watching (until_at) values (#{now})
      on conflict (one) do update set until_at = excluded.until_at
      """)
  void beat(Instant now);

  /** What was judged at this moment is stored: it was watched until then at least. */
  @Update("update watching set until_at = greatest(until_at, #{now})")
  void until(Instant now);

  @Select("select until_at from watching")
  Optional<Instant> lastKnown();

  @Insert(
      """
      insert into unwatched (from_at, to_at, lasted_ms, why, words)
      values (to_timestamp(#{from} / 1000.0), to_timestamp(#{to} / 1000.0), #{lasted}, #{why},
        #{words})
      """)
  void add(Gap gap);

  /** Those that touch a window, or whose times were stamped twice in it. In their order. */
  @Select(
      """
      select (extract(epoch from from_at) * 1000)::bigint as from,
        (extract(epoch from to_at) * 1000)::bigint as to, lasted_ms as lasted, why, words
      from unwatched
      where least(from_at, to_at) <= #{to} and greatest(from_at, to_at) >= #{from}
      order by id
      """)
  List<Gap> touching(@Param("from") Instant from, @Param("to") Instant to);

  /**
   * Whether anything ended since then over which the clock, or nobody having watched, leapt by more
   * than so many s.
   */
  @Select(
      """
      select exists (select 1 from unwatched
        where to_at > #{since} and abs(extract(epoch from to_at - from_at)) > #{seconds})
      """)
  boolean leapt(@Param("since") Instant since, @Param("seconds") long seconds);

  /**
   * The clock was set back: what lies between its new time and its old one was stamped by the old.
   */
  @Update(
      """
      update reading set overlapped = true
      where at > #{now} and at <= #{before} and not overlapped
      """)
  int overlapped(@Param("now") Instant now, @Param("before") Instant before);

  /** So is what is sealed of it already; what comes from now on does not come late. */
  @Insert(
      """
      with back as (
        update sealed set until_at = #{now} where until_at > #{now} returning instance, source
      )
      insert into unsealed (instance, source, from_at, to_at, overlapped)
      select instance, source, #{now}, #{before}, true from back
      """)
  void sealedOverlapped(@Param("now") Instant now, @Param("before") Instant before);
}

package jamjar.store.telling;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Who is told of what, by what, and what became of it. */
public interface TellingMapper {
  /** A plan as JSON; version counts its changes. */
  record PlanRow(int version, String body) {}

  String STATE =
      """
      select key, at, kind, matter, recipient, channel, address, others, rule, severity, alerts,
        subject, body, thread, state, attempts, answer, last_at
      from message
      """;

  @Select("select version, body::text as body from telling_plan")
  Optional<PlanRow> plan();

  /**
   * Changes it where it still is of the version before.
   *
   * @return 0 where it is not
   */
  @Insert(
      """
      insert into telling_plan (version, body) values (#{before} + 1, #{body}::jsonb)
      on conflict (one) do update set version = excluded.version, body = excluded.body
        where telling_plan.version = #{before}
      """)
  int putPlan(@Param("before") int before, @Param("body") String body);

  @Select("select name, kind, body::text as body, secret, changed_at from channel order by name")
  List<ChannelRow> channels();

  @Insert(
      """
      insert into channel (name, kind, body, secret, changed_at)
      values (#{name}, #{kind}, #{body}::jsonb, #{secret}, #{changedAt})
      on conflict (name) do update set kind = excluded.kind, body = excluded.body,
        secret = excluded.secret, changed_at = excluded.changed_at
      """)
  void putChannel(ChannelRow row);

  /** Locks a secret anew, where it still is what it was. */
  @Update("update channel set secret = #{now} where name = #{name} and secret = #{before}")
  int renewSecret(
      @Param("name") String name, @Param("before") byte[] before, @Param("now") byte[] now);

  @Delete("delete from channel where name = #{name}")
  int removeChannel(String name);

  /** One that is there already stays as it is. */
  @Insert(
      """
      insert into message (key, at, kind, matter, recipient, channel, address, others, rule,
        severity, alerts, subject, body, thread, picture, state, attempts, answer)
      values (#{key}, #{at}, #{kind}, #{matter}, #{recipient}, #{channel}, #{address}, #{others},
        #{rule}, #{severity}, #{alerts}, #{subject}, #{body}, #{thread}, #{picture}, 'waiting', 0,
        '')
      on conflict (key) do nothing
      """)
  void add(MessageRow row);

  /** What was sent stays so. */
  @Update(
      """
      update message set state = #{state}, attempts = #{attempts}, answer = #{answer},
        last_at = #{at}
      where key = #{key} and state <> 'sent'
      """)
  void became(SentRow row);

  @Insert(
      """
      insert into telling_decided (until) select #{until}
      on conflict (one) do update set until = excluded.until
        where telling_decided.until < excluded.until
      """)
  void decided(Instant until);

  @Select("select until from telling_decided")
  Optional<Instant> decidedUntil();

  /** The newest first. */
  @Select(STATE + "where at between #{from} and #{to} order by at desc, key limit #{most}")
  List<MessageStateRow> between(
      @Param("from") Instant from, @Param("to") Instant to, @Param("most") int most);

  /** Those that are not through, the oldest first. */
  @Select(STATE + "where state = 'waiting' order by at, key")
  List<MessageStateRow> waiting();

  /** What was told of some alerts, the oldest first. */
  @Select(STATE + "where alerts && #{alerts} order by at, key")
  List<MessageStateRow> of(String[] alerts);

  @Select("select picture from message where key = #{key} and picture is not null")
  Optional<byte[]> picture(String key);

  @Update("update message set picture = null where at < #{before} and picture is not null")
  int forgetPictures(Instant before);

  @Delete("delete from message where at < #{before}")
  int forget(Instant before);
}

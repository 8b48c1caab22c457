package jamjar.store.statements;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Texts of statements, and what was counted of them by the hour. */
interface StatementMapper {
  record TextRow(long fingerprint, String body, Instant firstAt) {}

  record SumRow(Instant fromAt, byte[] body) {}

  @Insert(
      """
      insert into statement_text (instance, fingerprint, body, first_at, last_at)
      values (#{instance}, #{fingerprint}, #{body}, #{at}, #{at})
      on conflict (instance, fingerprint) do update set
        first_at = least(statement_text.first_at, excluded.first_at),
        last_at = greatest(statement_text.last_at, excluded.last_at)
      """)
  void tell(
      @Param("instance") int instance,
      @Param("fingerprint") long fingerprint,
      @Param("body") String body,
      @Param("at") Instant at);

  @Select(
      """
      select fingerprint, body, first_at from statement_text
      where instance = #{instance} and fingerprint = any(#{fingerprints})
      """)
  List<TextRow> texts(@Param("instance") int instance, @Param("fingerprints") long[] fingerprints);

  @Delete("delete from statement_text where last_at < #{before}")
  int ageTexts(Instant before);

  @Insert(
      """
      insert into statements_sum (instance, from_at, body) values (#{instance}, #{from}, #{body})
      on conflict (instance, from_at) do update set body = excluded.body
      """)
  void sum(
      @Param("instance") int instance, @Param("from") Instant from, @Param("body") byte[] body);

  /** Those of hours of which all is packed. */
  @Select(
      """
      select from_at, body from statements_sum h
      where instance = #{instance} and from_at >= #{from} and from_at < #{to}
        and not exists (
          select from statements s
          where s.instance = h.instance and s.at >= h.from_at and s.at < h.from_at + interval '1 hour')
      order by from_at
      """)
  List<SumRow> sums(
      @Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);

  @Delete("delete from statements_sum where from_at < #{before}")
  int ageSums(Instant before);

  @Select("select * from followed_statements where instance = #{instance}")
  Optional<FollowedRow> followed(int instance);

  @Insert(
      """
      insert into followed_statements (instance, fingerprints, chosen_at, filled)
      values (#{instance}, #{fingerprints}, #{chosenAt}, #{filled})
      on conflict (instance) do update set fingerprints = excluded.fingerprints,
        chosen_at = excluded.chosen_at, filled = excluded.filled
      """)
  void follow(FollowedRow row);
}

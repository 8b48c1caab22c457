package jamjar.store.changes;

import java.time.Instant;
import java.util.List;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** What persons changed, in the order in which it took force; only ever added to. */
public interface ChangeMapper {
  String CHANGE =
      """
      select id, at, who, address, what, of_what, before::text as before, after::text as after
      from change
      """;

  @Insert(
      """
      insert into change (at, who, address, what, of_what, before, after)
      values (#{at}, #{who}, #{address}, #{what}, #{ofWhat}, #{before}::jsonb, #{after}::jsonb)
      """)
  void add(ChangeRow row);

  /**
   * Whether anything of a kind was changed since then that reached, or reaches, one of these.
   *
   * @param reaches a level, a space, and which of that level
   */
  @Select(
      """
      select exists (select 1 from change c, unnest(array[c.before, c.after]) told
        where c.what = #{what} and c.at >= #{since}
          and (told->'reach'->>'level') || ' ' || (told->'reach'->>'of') = any(#{reaches}))
      """)
  boolean reached(
      @Param("what") String what,
      @Param("since") Instant since,
      @Param("reaches") String[] reaches);

  /** Those of one thing, the latest first. */
  @Select(
      CHANGE
          + """
      where what = #{what} and of_what = #{of} order by id desc limit #{most}
      """)
  List<ChangeRow> of(@Param("what") String what, @Param("of") String of, @Param("most") int most);

  /**
   * The latest first.
   *
   * @param words of which each is in one of who, address, what and which, in small letters
   * @param before those of lower numbers
   */
  @Select(
      CHANGE
          + """
      where at between #{from} and #{to} and id < #{before} and not exists (
        select 1 from unnest(#{words}::text[]) word
        where strpos(lower(who || ' ' || address || ' ' || what || ' ' || of_what), word) = 0)
      order by id desc limit #{most}
      """)
  List<ChangeRow> audit(
      @Param("from") Instant from,
      @Param("to") Instant to,
      @Param("words") String[] words,
      @Param("before") long before,
      @Param("most") int most);

  /**
   * Those of some kinds, the latest first.
   *
   * @param whats the kinds, as stored
   */
  @Select(
      CHANGE
          + """
      where at between #{from} and #{to} and what = any(#{whats}) order by id desc limit #{most}
      """)
  List<ChangeRow> between(
      @Param("from") Instant from,
      @Param("to") Instant to,
      @Param("whats") String[] whats,
      @Param("most") int most);
}

package jamjar.store.threads;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Thread dumps. */
interface DumpMapper {
  @Insert(
      """
      insert into thread_dump (instance, at, why, threads, blocked, body)
      values (#{of.instance}, #{of.at}, #{of.why}, #{of.threads}, #{of.blocked}, #{body}::jsonb)
      on conflict (instance, at) do nothing
      """)
  void put(@Param("of") DumpRow of, @Param("body") String body);

  /** The newest first, both ends inclusive. */
  @Select(
      """
      select instance, at, why, threads, blocked from thread_dump
      where instance = #{instance} and at between #{from} and #{to}
      order by at desc limit #{most}
      """)
  List<DumpRow> between(
      @Param("instance") int instance,
      @Param("from") Instant from,
      @Param("to") Instant to,
      @Param("most") int most);

  @Select("select body::text from thread_dump where instance = #{instance} and at = #{at}")
  Optional<String> body(@Param("instance") int instance, @Param("at") Instant at);

  @Delete("delete from thread_dump where at < #{before}")
  int age(Instant before);
}

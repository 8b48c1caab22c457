package jamjar.store.silences;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Spans without an answer. At most one per source lasts. */
public interface SilenceMapper {
  @Insert(
      """
      insert into silence (instance, source, from_at, reason, words)
      select #{instance}, #{source}, #{from}, #{reason}, #{words}
      on conflict (instance, source) where to_at is null
        do update set reason = excluded.reason, words = excluded.words
      """)
  void begin(Silence silence);

  /** One that is over; one that is there is left as it is. */
  @Insert(
      """
      insert into silence (instance, source, from_at, to_at, reason, words)
      values (#{instance}, #{source}, #{from}, #{to}, #{reason}, #{words})
      on conflict do nothing
      """)
  void add(Silence silence);

  @Update(
      """
      update silence set to_at = #{at}
      where instance = #{instance} and source = #{source} and to_at is null
      """)
  int end(@Param("instance") int instance, @Param("source") int source, @Param("at") Instant at);

  @Select(
      """
      select instance, source, from_at as from, to_at as to, reason, words from silence
      where instance = #{instance} and source = #{source} and to_at is null
      """)
  Optional<Silence> lasting(@Param("instance") int instance, @Param("source") int source);

  /** Those of one source that last, of all instances. */
  @Select(
      """
      select instance, source, from_at as from, to_at as to, reason, words from silence
      where source = #{source} and to_at is null
      """)
  List<Silence> allLasting(int source);

  @Select(
      """
      select instance, source, from_at as from, to_at as to, reason, words from silence
      where instance = #{instance} and from_at <= #{to} and coalesce(to_at, 'infinity') >= #{from}
      order by from_at
      """)
  List<Silence> touching(
      @Param("instance") int instance, @Param("from") Instant from, @Param("to") Instant to);
}

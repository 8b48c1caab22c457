package jamjar.store.keeping;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** How long what was read is kept, and of whom. */
public interface KeepingMapper {
  @Select("select keep, name, readings_days, minutes_days from keeping order by keep")
  List<Keeping> all();

  @Select("select keep, name, readings_days, minutes_days from keeping where keep = #{keep}")
  Optional<Keeping> byNumber(int keep);

  /** Those that nobody has changed since a moment. */
  @Select("select keep, name, readings_days, minutes_days from keeping where changed_at < #{since}")
  List<Keeping> settled(Instant since);

  @Update(
      """
      update keeping set readings_days = #{keeping.readingsDays},
        minutes_days = #{keeping.minutesDays}, changed_at = #{at}
      where keep = #{keeping.keep}
      """)
  void change(@Param("keeping") Keeping keeping, @Param("at") Instant at);

  /** An instance of another class than the usual one. */
  record KeptAs(int instance, int keep) {}

  @Select("select * from kept_as")
  List<KeptAs> others();

  @Select(
      "select coalesce((select keep from kept_as where instance = #{instance}), "
          + Keeping.USUAL
          + ")")
  int of(int instance);

  @Insert(
      """
      insert into kept_as (instance, keep) values (#{instance}, #{keep})
      on conflict (instance) do update set keep = excluded.keep
      """)
  void keepAs(@Param("instance") int instance, @Param("keep") int keep);

  @Delete("delete from kept_as where instance = #{instance}")
  void keepAsUsual(int instance);
}

package jamjar.store.steps;

import java.time.Instant;
import java.util.List;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Days of series in steps. */
public interface StepMapper {
  @Insert(
      """
      insert into step (series, source, minutes, from_at, body)
      values (#{series}, #{source}, #{minutes}, #{fromAt}, #{body})
      """)
  void add(StepRow row);

  @Delete(
      """
      delete from step
      where series = any(#{series}) and minutes in (1, 15) and from_at = #{from}
        and source = #{source}
      """)
  void remove(
      @Param("series") int[] series, @Param("source") int source, @Param("from") Instant from);

  /** Whether any of some series has steps of a day. */
  @Select(
      """
      select exists (select 1 from step
        where series = any(#{series}) and minutes = 15 and from_at = #{day} and source = #{source})
      """)
  boolean any(
      @Param("series") int[] series, @Param("source") int source, @Param("day") Instant day);

  /** Days that begin within a window, both ends inclusive; by series in order of time. */
  @Select(
      """
      select * from step
      where series = any(#{series}) and minutes = #{minutes} and from_at between #{from} and #{to}
      order by series, from_at
      """)
  List<StepRow> days(
      @Param("series") int[] series,
      @Param("minutes") int minutes,
      @Param("from") Instant from,
      @Param("to") Instant to);
}

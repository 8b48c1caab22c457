package jamjar.store.normals;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** What was learned of instances, and the baselines of their series. */
interface NormalMapper {
  /** A packed baseline. */
  record Row(int series, byte[] body) {}

  @Select("select * from learned where instance = #{instance}")
  Optional<Learned> learned(int instance);

  @Insert(
      """
      insert into learned (instance, at, zone, minutes)
      values (#{instance}, #{at}, #{zone}, #{minutes})
      on conflict (instance) do update set at = excluded.at, zone = excluded.zone,
        minutes = excluded.minutes
      """)
  void learn(
      @Param("instance") int instance,
      @Param("at") Instant at,
      @Param("zone") String zone,
      @Param("minutes") int minutes);

  @Insert(
      """
      insert into baseline (series, body) values (#{series}, #{body})
      on conflict (series) do update set body = excluded.body
      """)
  void keep(@Param("series") int series, @Param("body") byte[] body);

  /** Those of series and instances that were gone by then. */
  @Delete(
      """
      delete from baseline b using series s join instance i on i.id = s.instance
      where s.id = b.series and (s.retired_at < #{by} or i.removed_at < #{by})
      """)
  int forget(Instant by);

  @Select("select * from baseline where series = any(#{series})")
  List<Row> baselines(@Param("series") int[] series);
}

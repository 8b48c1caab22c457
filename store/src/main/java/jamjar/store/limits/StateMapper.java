package jamjar.store.limits;

import java.util.List;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** The states of limits that are not simply calm. */
interface StateMapper {
  @Select("select * from limit_state where instance = #{instance}")
  List<StateRow> ofInstance(int instance);

  @Insert(
      """
      insert into limit_state (instance, series, condition, state, beneath, severity, warning_passes,
        critical_passes, since, worst, worst_badness, cleared_ms, missing, entries, flapping, judged,
        first)
      select #{instance}, #{series}, #{condition}, #{state}, #{beneath}, #{severity},
        #{warningPasses}, #{criticalPasses}, #{since}, #{worst}, #{worstBadness}, #{clearedMs},
        #{missing}, #{entries}, #{flapping}, #{judged}, #{first}
      on conflict (instance, series, condition) do update set state = excluded.state,
        beneath = excluded.beneath, severity = excluded.severity,
        warning_passes = excluded.warning_passes, critical_passes = excluded.critical_passes,
        since = excluded.since, worst = excluded.worst, worst_badness = excluded.worst_badness,
        cleared_ms = excluded.cleared_ms, missing = excluded.missing, entries = excluded.entries,
        flapping = excluded.flapping, judged = excluded.judged, first = excluded.first
      """)
  void keep(StateRow row);

  @Delete(
      """
      delete from limit_state
      where instance = #{instance} and series = #{series} and condition = #{condition}
      """)
  void forget(
      @Param("instance") int instance,
      @Param("series") int series,
      @Param("condition") String condition);
}
